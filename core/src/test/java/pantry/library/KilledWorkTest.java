package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.testing.JavaProcess;
import pantry.testing.Workshop;

/** Processes that publish are killed at random moments; the library holds whole versions only. */
class KilledWorkTest {
    /** In each of two libraries, which are worked on at once. */
    private static final int KILLS = 30;

    private static final int MOST = 200;

    @TempDir
    private Path folder;

    /** Publishes, tags, moves, retires, throws away and restores until it is killed; says when it starts. */
    static final class Worker {
        private Worker() {}

        public static void main(String[] arguments) {
            Library library = Library.open(Path.of(arguments[0]), "victim", Clock.systemUTC());
            System.out.println("working");
            byte[] bulk = new byte[200_000];
            for (int round = Integer.parseInt(arguments[1]); ; round++) {
                Asset asset = library.find("Mast");
                String shelf = "Shelf " + round % 3;
                switch (round % 5) {
                    case 0 -> publish(library, asset, bulk);
                    case 1 -> library.places().move(asset, "Masts/" + shelf);
                    case 2 ->
                        library.edit(
                                List.of(asset),
                                card -> card.tagged("tag " + card.tags().size()),
                                Progress.NONE);
                    case 3 -> {
                        library.setStatus(asset, "v001", VersionStatus.RETIRED);
                        library.setStatus(asset, "v001", VersionStatus.READY);
                    }
                    default -> {
                        // Whoever was killed here may have been between the two.
                        if (library.shelves().contains("Groups")) {
                            library.places().move("Groups", "Other groups", Progress.NONE);
                        }
                        library.places().move("Other groups", "Groups", Progress.NONE);
                    }
                }
            }
        }

        private static void publish(Library library, Asset asset, byte[] bulk) {
            library.publish(
                    asset,
                    VersionStatus.READY,
                    (data, slug, version) -> {
                        new Reissue(asset, "v001", asset.card().id()).write(data, slug, version);
                        for (int i = 0; i < 5; i++) {
                            Files.write(data.resolve("bulk-" + i), bulk);
                        }
                    },
                    java.util.Map.of(),
                    Progress.NONE);
        }
    }

    @Test
    void everyKillLeavesAWholeLibrary() {
        Parallel.map(List.of(4711, 1147), 2, this::killed);
    }

    /** Within so many milliseconds it is killed: more where the machine is so slow that nothing was finished by then. */
    private static int soon(int kill) {
        int doubled = Math.max(0, kill - KILLS + 10) / 10;
        return 400 << Math.min(doubled, 5);
    }

    private boolean killed(int seed) {
        try (Workshop workshop = new Workshop(Files.createDirectories(folder.resolve("seed" + seed)))) {
            Asset mast = workshop.block("Mast", "Masts", 9);
            workshop.prefab("Pair", "Groups", mast);
            Path root = workshop.library().root();
            Random random = new Random(seed);
            int before = 1;
            int tags = 0;
            // Some of each have to be finished; when, is chance, and the machine's.
            for (int kill = 0; kill < KILLS || kill < MOST && (before == 1 || tags == 0); kill++) {
                Process process = JavaProcess.start(Worker.class, root.toString(), String.valueOf(kill));
                assertThat(process.inputReader().readLine()).isEqualTo("working");
                // The moment is what the test is about: anywhere within the first few deeds.
                boolean ended = process.waitFor(random.nextInt(soon(kill)), TimeUnit.MILLISECONDS);
                assertThat(ended).as("it works until it is killed").isFalse();
                process.destroyForcibly().waitFor();
                Library library = Library.open(root, "survivor", Clock.systemUTC());
                if (library.shelves().contains("Other groups")) {
                    library.places().move("Other groups", "Groups", Progress.NONE);
                }
                assertThat(library.verify(Progress.NONE).problems())
                        .as("after kill " + kill)
                        .isEmpty();
                Asset asset = library.find("Mast");
                assertThat(asset.versions().size()).isGreaterThanOrEqualTo(before);
                assertThat(asset.card().tags().size()).isGreaterThanOrEqualTo(tags);
                // Between being retired and being made ready again, the only version there is may be no ready one.
                assertThat(asset.entryLayer(asset.shown().orElseThrow())).exists();
                assertThat(Uses.of(library.find("Pair").folder()))
                        .singleElement()
                        .satisfies(use -> assertThat(use.target()).isEqualTo(asset.readyLayer()));
                before = asset.versions().size();
                tags = asset.card().tags().size();
            }
            assertThat(before).as("some publications were finished").isGreaterThan(1);
            assertThat(tags).as("and some cards were changed").isPositive();
            assertThat(root.resolve("incoming"))
                    .as("rubbish is cleared at the next start")
                    .isEmptyDirectory();
            return true;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            throw new AssertionError("interrupted", e);
        }
    }
}
