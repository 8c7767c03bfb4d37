package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.testing.WithWorkshop;

class LibraryWatchTest extends WithWorkshop {
    private static final Duration LONG = Duration.ofHours(1);

    private Asset mast;

    @BeforeEach
    void open() {
        mast = workshop.block("Mast", "Masts", 9);
    }

    @Test
    void whatOthersDoIsToldOnceWhateverTheirClockSays() {
        List<LibraryWatch.Seen> seen = new ArrayList<>();
        LibraryWatch watch = new LibraryWatch(library, LONG, LONG.multipliedBy(100), seen::add);
        watch.look();
        assertThat(seen).as("nothing is new").isEmpty();
        Clock hoursBehind = Clock.fixed(Instant.now().minus(Duration.ofHours(7)), ZoneOffset.UTC);
        Library other = Library.open(library.root(), "ben", hoursBehind);
        other.edit(List.of(mast), card -> card.tagged("tall"), Progress.NONE);
        watch.look();
        watch.look();
        assertThat(seen).singleElement().satisfies(change -> {
            assertThat(change.away()).isFalse();
            assertThat(change.entries()).singleElement().satisfies(entry -> {
                assertThat(entry.who()).isEqualTo("ben");
                assertThat(entry.changes()).containsKey("tags");
            });
        });
    }

    @Test
    void aLibraryThatGoesAwayIsToldOnceAndSoIsItsReturn() throws Exception {
        List<LibraryWatch.Seen> seen = new ArrayList<>();
        LibraryWatch watch = new LibraryWatch(library, LONG, LONG.multipliedBy(100), seen::add);
        Path unplugged = folder.resolve("unplugged");
        Files.move(library.root(), unplugged);
        watch.look();
        watch.look();
        assertThat(seen).singleElement().matches(LibraryWatch.Seen::away);
        Files.move(unplugged, library.root());
        watch.look();
        assertThat(seen).hasSize(2).last().satisfies(change -> {
            assertThat(change.away()).isFalse();
            assertThat(change.sweep())
                    .as("anything may have happened meanwhile")
                    .isTrue();
        });
    }

    @Test
    void theSystemsNoticeIsEnoughWithoutWaitingForTheNextLook() throws Exception {
        BlockingQueue<LibraryWatch.Seen> seen = new LinkedBlockingQueue<>();
        try (LibraryWatch watch = new LibraryWatch(library, LONG, LONG, seen::add).start()) {
            LibraryWatch.Seen told = null;
            // The notices begin a moment after the start.
            for (int i = 0; i < 100 && told == null; i++) {
                library.edit(
                        List.of(mast), card -> card.tagged("tag " + card.tags().size()), Progress.NONE);
                told = seen.poll(100, TimeUnit.MILLISECONDS);
            }
            assertThat(told).isNotNull();
            assertThat(told.entries()).isNotEmpty();
        }
    }
}
