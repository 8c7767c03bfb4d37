package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.testing.WithWorkshop;

class OwnerTest extends WithWorkshop {
    @Test
    void everyFileOfAnAssetTellsWhoseItIsAndOfWhichVersion() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        assertThat(library.owner(mast.readyLayer())).contains(new Owner(mast, Optional.empty()));
        assertThat(library.owner(mast.entryLayer("v001"))).contains(new Owner(mast, Optional.of("v001")));
        assertThat(library.owner(mast.data("v001").resolve("textures/x.png")))
                .contains(new Owner(mast, Optional.of("v001")));
        assertThat(library.owner(library.root().resolve("assets/Masts"))).isEmpty();
        assertThat(library.owner(folder.resolve("elsewhere.usda"))).isEmpty();
    }

    @Test
    void theOldPathsOfWhatWasMovedLeadToItToo() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        Path pinned = mast.entryLayer("v001");
        library.places().move(mast, "Elsewhere");
        Asset twice = library.places().move(library.find("Mast"), "Elsewhere/Again");
        assertThat(library.owner(pinned)).contains(new Owner(twice, Optional.of("v001")));
        assertThat(library.owner(mast.readyLayer())).contains(new Owner(twice, Optional.empty()));
        assertThat(library.current(mast.folder(), mast.card().id())).isEqualTo(twice);
    }

    @Test
    void whatIsGoneIsSaid() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        library.trash().discard(mast);
        assertThatThrownBy(() -> library.current(mast)).hasMessageContaining("no longer on a shelf");
        assertThatThrownBy(() -> library.setStatus(mast, "v001", VersionStatus.RETIRED))
                .hasMessageContaining("no longer on a shelf");
        assertThatThrownBy(() -> library.goBack(mast, "v001", "", Progress.NONE))
                .hasMessageContaining("no longer on a shelf");
        assertThatThrownBy(() -> library.places().move(mast, "X")).hasMessageContaining("no longer on a shelf");
    }

    @Test
    void aSignpostInCirclesIsNoHang() throws Exception {
        Asset mast = workshop.block("Mast", "Masts", 9);
        library.trash().discard(mast);
        for (String[] pair : new String[][] {{"a", "b"}, {"b", "a"}}) {
            Path at = Files.createDirectories(library.root().resolve("assets/Masts/" + pair[0]));
            Files.writeString(at.resolve("moved.json"), "{ \"id\" : \"x\", \"to\" : \"../" + pair[1] + "\" }");
        }
        assertThatThrownBy(() -> library.current(
                        library.root().resolve("assets/Masts/a"), mast.card().id()))
                .hasMessageContaining("no longer on a shelf");
        assertThat(library.owner(library.root().resolve("assets/Masts/a/ready.usda")))
                .isEmpty();
    }

    @Test
    void historyTellsTimeAndNoteOfEachVersion() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        Library ada = Library.open(
                library.root(),
                "ada",
                Clock.fixed(java.time.Instant.parse("2026-03-01T08:00:00Z"), java.time.ZoneOffset.UTC));
        ada.goBack(mast, "v001", "as it was", Progress.NONE);
        assertThat(library.history(library.find("Mast"))).last().satisfies(version -> {
            assertThat(version.when()).isEqualTo("2026-03-01T08:00:00Z");
            assertThat(version.day()).isEqualTo("2026-03-01");
            assertThat(version.who()).isEqualTo("ada");
            assertThat(version.note()).isEqualTo("as it was");
            assertThat(version.ready()).isTrue();
        });
        assertThat(library.seal(library.find("Mast"), "v002"))
                .containsEntry("Bagging-Date", "2026-03-01")
                .containsEntry("Internal-Sender-Description", "as it was");
    }
}
