package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import gov.loc.repository.bagit.domain.Bag;
import gov.loc.repository.bagit.reader.BagReader;
import gov.loc.repository.bagit.verify.BagVerifier;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.scene.Scene;
import pantry.testing.WithWorkshop;
import pantry.usd.schema.TransformComponents;

/** What is archived stays what it is, and scenes that use it go on opening. */
class ArchiveTest extends WithWorkshop {
    private Library other;
    private Archive archive;
    private Asset mast;
    private Asset frame;
    private Path scene;
    private long triangles;

    @BeforeEach
    void fill() {
        other = Library.create(folder.resolve("archive"), "Archive", "tester", Clock.systemUTC());
        archive = new Archive(library, other);
        mast = workshop.block("Mast", "Masts/Tall", 9);
        frame = workshop.prefab("Frame", "Frames", mast);
        library.goBack(mast, "v001", "once more", Progress.NONE);
        scene = folder.resolve("scene.usda");
        Scene made = workshop.newScene(scene);
        for (Asset asset : new Asset[] {mast, frame}) {
            for (String version : new String[] {"", "v001"}) {
                made.placements()
                        .place(
                                asset,
                                Optional.of(version).filter(each -> !each.isEmpty()),
                                asset.card().name(),
                                TransformComponents.ORIGIN,
                                Optional.empty());
            }
        }
        made.save();
        triangles = triangles();
    }

    private long triangles() {
        return workshop.openScene(scene).model().trianglesDrawn();
    }

    @Test
    void theAssetStandsThereAsItWasAndScenesFindIt() throws Exception {
        String seal = Sha256.of(mast.folder().resolve("v001/manifest-sha256.txt"));
        Asset there = archive.put(mast, Progress.NONE);
        assertThat(there.folder()).startsWith(other.root());
        assertThat(there.card().id()).isEqualTo(mast.card().id());
        assertThat(there.shelf()).isEqualTo("Masts/Tall");
        assertThat(there.versions()).containsExactly("v001", "v002");
        assertThat(there.ready()).isEqualTo(library.current(frame).ready().map(version -> "v002"));
        assertThat(Sha256.of(there.folder().resolve("v001/manifest-sha256.txt")))
                .isEqualTo(seal);
        Bag bag = new BagReader().read(there.folder().resolve("v001"));
        try (BagVerifier verifier = new BagVerifier()) {
            verifier.isValid(bag, false);
        }
        assertThat(library.byId(mast.card().id())).isEmpty();
        assertThat(library.trash().items()).as("it does not weigh twice").isEmpty();
        assertThat(triangles())
                .as("the scene shows it, and the frame that is made of it")
                .isEqualTo(triangles);
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        assertThat(other.verify(Progress.NONE).problems()).isEmpty();
    }

    @Test
    void whatIsCalledBackStandsWhereItStood() throws IOException {
        String card = Files.readString(mast.folder().resolve("card.json"));
        Asset there = archive.put(library.current(mast), Progress.NONE);
        Asset back = archive.callBack(there, Progress.NONE);
        assertThat(back.folder()).isEqualTo(mast.folder());
        assertThat(Files.readString(back.folder().resolve("card.json"))).isEqualTo(card);
        assertThat(triangles()).isEqualTo(triangles);
        assertThat(other.assets()).isEmpty();
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        archive.put(back, Progress.NONE);
        assertThat(triangles()).as("once more").isEqualTo(triangles);
    }

    @Test
    void whatIsMadeOfOthersUsesThemFromThere() {
        Asset there = archive.put(frame, Progress.NONE);
        assertThat(Uses.of(there.folder())).singleElement().satisfies(use -> {
            assertThat(use.id()).isEqualTo(mast.card().id());
            assertThat(use.target()).startsWith(library.root());
        });
        assertThat(triangles()).isEqualTo(triangles);
        archive.put(library.current(mast), Progress.NONE);
        assertThat(triangles()).as("and through a signpost").isEqualTo(triangles);
        archive.callBack(there, Progress.NONE);
        assertThat(triangles()).isEqualTo(triangles);
    }

    @Test
    void whatIsBrokenTakenOrHeldStaysWhereItIs() throws IOException {
        Library somebody = Library.open(library.root(), "somebody else", Clock.systemUTC());
        somebody.reservations().reserve(mast);
        assertThatThrownBy(() -> archive.put(mast, Progress.NONE)).hasMessageContaining("somebody else");
        somebody.reservations().release(mast);
        Path data = mast.data("v001").resolve("mast.geom.usdc");
        byte[] before = Files.readAllBytes(data);
        byte[] bytes = before.clone();
        bytes[bytes.length / 2] ^= 1;
        Files.write(data, bytes);
        assertThatThrownBy(() -> archive.put(mast, Progress.NONE))
                .hasMessageContaining("changed after the version was sealed");
        assertThat(library.byId(mast.card().id())).isPresent();
        Files.write(data, before);
        Files.write(other.byId(mast.card().id()).orElseThrow().data("v001").resolve("mast.geom.usdc"), before);
        assertThat(archive.put(mast, Progress.NONE).folder())
                .as("what was stopped half way is taken up")
                .startsWith(other.root());
        assertThatThrownBy(() -> new Archive(library, library)).hasMessageContaining("the library itself");
    }

    @Test
    void oneVersionIsTakenAwayAndScenesThatPinItFindIt() throws Exception {
        String seal = Sha256.of(mast.folder().resolve("v001/manifest-sha256.txt"));
        Asset there = archive.putVersion(mast, "v001", Progress.NONE);
        Asset left = library.current(mast);
        assertThat(left.versions()).containsExactly("v002");
        assertThat(left.card().versions()).containsOnlyKeys("v002");
        assertThat(there.versions()).containsExactly("v001");
        assertThat(there.card().id()).isEqualTo(mast.card().id());
        assertThat(there.ready()).as("nobody follows it there").isEmpty();
        assertThat(Sha256.of(there.folder().resolve("v001/manifest-sha256.txt")))
                .isEqualTo(seal);
        assertThat(triangles()).isEqualTo(triangles);
        assertThat(library.owner(mast.folder().resolve("v001/data/mast.usda")).orElseThrow())
                .satisfies(owner -> {
                    assertThat(owner.asset()).isEqualTo(left);
                    assertThat(owner.version()).contains("v001");
                });
        isSound();
        library.places().move(left, "Elsewhere/Deeper/Still");
        assertThat(triangles()).as("the asset was moved").isEqualTo(triangles);
        isSound();

        Asset back = archive.callBackVersion(library.current(left), "v001", Progress.NONE);
        assertThat(back.versions()).containsExactly("v001", "v002");
        assertThat(back.status("v001")).isEqualTo(mast.status("v001"));
        assertThat(back.ready()).contains("v002");
        assertThat(Sha256.of(back.folder().resolve("v001/manifest-sha256.txt"))).isEqualTo(seal);
        assertThat(other.assets()).isEmpty();
        assertThat(triangles()).isEqualTo(triangles);
        isSound();
    }

    private void isSound() {
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        assertThat(other.verify(Progress.NONE).problems()).isEmpty();
        assertThat(library.trash().items()).isEmpty();
    }

    @Test
    void versionsGoOneByOneAndThenTheAssetAsAWhole() {
        library.goBack(library.current(mast), "v001", "a third", Progress.NONE);
        archive.putVersion(mast, "v001", Progress.NONE);
        Asset two = archive.putVersion(mast, "v002", Progress.NONE);
        assertThat(two.versions()).containsExactly("v001", "v002");
        isSound();
        Asset all = archive.put(library.current(mast), Progress.NONE);
        assertThat(all.versions()).containsExactly("v001", "v002", "v003");
        assertThat(all.ready()).contains("v003");
        assertThat(all.card().versions()).containsOnlyKeys("v001", "v002", "v003");
        assertThat(triangles()).isEqualTo(triangles);
        isSound();
        Asset back = archive.callBack(all, Progress.NONE);
        assertThat(back.versions()).containsExactly("v001", "v002", "v003");
        assertThat(triangles()).isEqualTo(triangles);
        isSound();
        archive.putVersion(back, "v001", Progress.NONE);
        archive.putVersion(back, "v002", Progress.NONE);
        Asset one = archive.callBackVersion(back, "v001", Progress.NONE);
        assertThat(one.versions()).containsExactly("v001", "v003");
        assertThat(other.byId(mast.card().id()).orElseThrow().versions()).containsExactly("v002");
        assertThat(triangles()).isEqualTo(triangles);
        isSound();
    }

    @Test
    void aVersionThatIsInAnotherArchiveIsFoundWhereverItsAssetGoes() {
        Library third = Library.create(folder.resolve("far/away/third"), "Third", "tester", Clock.systemUTC());
        new Archive(library, third).putVersion(mast, "v001", Progress.NONE);
        Asset there = archive.put(library.current(mast), Progress.NONE);
        assertThat(there.versions()).containsExactly("v002");
        assertThat(triangles()).isEqualTo(triangles);
        isSound();
        archive.callBack(there, Progress.NONE);
        assertThat(triangles()).isEqualTo(triangles);
        isSound();
        assertThat(new Archive(library, third)
                        .callBackVersion(library.current(mast), "v001", Progress.NONE)
                        .versions())
                .containsExactly("v001", "v002");
        assertThat(triangles()).isEqualTo(triangles);
        isSound();
    }

    @Test
    void whatIsReadyOrNewestStaysAndSoDoesWhatIsNotThere() {
        assertThatThrownBy(() -> archive.putVersion(mast, "v002", Progress.NONE))
                .hasMessageContaining("stays");
        assertThatThrownBy(() -> archive.putVersion(mast, "v007", Progress.NONE))
                .hasMessageContaining("has no version v007");
        assertThatThrownBy(() -> archive.callBackVersion(mast, "v001", Progress.NONE))
                .hasMessageContaining("has no versions of Mast");
        isSound();
    }
}
