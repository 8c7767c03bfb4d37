package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import gov.loc.repository.bagit.domain.Bag;
import gov.loc.repository.bagit.exceptions.CorruptChecksumException;
import gov.loc.repository.bagit.reader.BagReader;
import gov.loc.repository.bagit.verify.BagVerifier;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.testing.WithWorkshop;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

class LibraryTest extends WithWorkshop {
    private static VersionContents copyOf(Asset asset) {
        return (data, slug, version) -> {
            try (Stream<Path> files = Files.list(asset.data("v001"))) {
                for (Path file : files.toList()) {
                    Files.copy(file, data.resolve(file.getFileName()));
                }
            }
        };
    }

    @Test
    void anAssetStandsOnItsShelfAsPlainFolders() {
        Asset asset = workshop.block("Fuel drum", "Power/Supply", 0.9);
        assertThat(asset.folder()).isEqualTo(library.root().resolve("assets/Power/Supply/fuel-drum"));
        assertThat(asset.shelf()).isEqualTo("Power/Supply");
        assertThat(asset.ready()).contains("v001");
        for (String file : List.of(
                "card.json",
                "ready.usda",
                "v001/bagit.txt",
                "v001/bag-info.txt",
                "v001/manifest-sha256.txt",
                "v001/tagmanifest-sha256.txt",
                "v001/data/fuel-drum.usda",
                "v001/data/fuel-drum.geom.usdc",
                "v001/data/preview.png")) {
            assertThat(asset.folder().resolve(file)).exists();
        }
        assertThat(library.find("power/supply/FUEL DRUM").card().id())
                .isEqualTo(asset.card().id());
        assertThat(library.root().resolve("incoming")).isEmptyDirectory();
        assertThat(library.root().resolve("journal")).isNotEmptyDirectory();
    }

    @Test
    void anotherBagItImplementationVerifiesTheVersionsAndBothFindAChangedByte() throws Exception {
        Asset asset = workshop.block("Post", "Square", 3);
        Bag bag = new BagReader().read(asset.folder().resolve("v001"));
        try (BagVerifier verifier = new BagVerifier()) {
            verifier.isValid(bag, false);
            assertThat(library.verify(Progress.NONE)).isEqualTo(new Verification(1, true, List.of()));
            Path geometry = asset.data("v001").resolve("post.geom.usdc");
            byte[] bytes = Files.readAllBytes(geometry);
            bytes[bytes.length / 2] ^= 1;
            Files.write(geometry, bytes);
            assertThatThrownBy(() -> verifier.isValid(bag, false)).isInstanceOf(CorruptChecksumException.class);
            Verification ours = library.verify(Progress.NONE);
            assertThat(ours.ok()).isFalse();
            assertThat(ours.problems()).singleElement().satisfies(problem -> {
                assertThat(problem.kind()).isEqualTo(Problem.Kind.CHANGED);
                assertThat(problem.path()).isEqualTo(geometry);
            });
        }
    }

    @Test
    void missingAddedAndUnsealedThingsAreFound() throws IOException {
        Asset first = workshop.block("First", "Square", 1);
        Asset second = workshop.block("Second", "Square", 1);
        Asset third = workshop.block("Third", "Square", 1);
        Files.delete(first.preview("v001"));
        Files.writeString(second.data("v001").resolve("notes.txt"), "tidied by hand");
        Files.delete(third.folder().resolve("v001/bagit.txt"));
        Files.writeString(third.folder().resolve("card.json"), "{ not json");
        assertThat(library.verify(Progress.NONE).problems())
                .extracting(Problem::kind)
                .contains(Problem.Kind.MISSING, Problem.Kind.EXTRA, Problem.Kind.UNSEALED, Problem.Kind.CARD);
        assertThat(library.assets()).as("one bad card does not close the shelf").hasSize(2);
    }

    @Test
    void whatIsDiscardedLiesInTheTrashWithAllItsVersions() {
        Asset asset = workshop.block("Mast", "Masts", 9);
        TrashItem item = library.trash().discard(asset);
        assertThat(library.assets()).isEmpty();
        assertThat(item.folder()).startsWith(library.root().resolve("trash"));
        assertThat(item.folder().resolve("mast/v001/bagit.txt")).exists();
        assertThat(library.verify(Progress.NONE).ok()).isTrue();
        assertThatThrownBy(() -> library.trash().discard(asset)).hasMessageContaining("no longer on a shelf");
        assertThat(workshop.block("Mast", "Masts", 9).slug())
                .as("its name is free")
                .isEqualTo("mast");
    }

    @Test
    void equalNamesGetFoldersOfTheirOwn() {
        assertThat(workshop.block("Mast", "Masts", 9).slug()).isEqualTo("mast");
        Asset second = workshop.block("mast", "Masts", 6);
        assertThat(second.slug()).isEqualTo("mast-2");
        assertThat(second.card().name()).as("names are unique on their shelf").isEqualTo("mast 2");
        assertThat(workshop.block("Mast", "Spares", 6).card().name()).isEqualTo("Mast");
        assertThatThrownBy(() -> library.find("Mast")).hasMessageContaining("2 assets");
        NameClaim first = library.claimName("Masts", "Boom");
        NameClaim other = library.claimName("Masts", "boom");
        assertThat(other.name()).as("one that is just being shelved counts").isEqualTo("boom 2");
        library.release(first);
        assertThat(library.claimName("Masts", "Boom").name()).isEqualTo("Boom");
    }

    @Test
    void manyWhoPublishAtOnceGetVersionsOfTheirOwn() {
        Asset asset = workshop.block("Mast", "Masts", 9);
        List<String> versions = IntStream.range(0, 12)
                .parallel()
                .mapToObj(i -> library.publish(asset, VersionStatus.DRAFT, copyOf(asset), Map.of(), Progress.NONE)
                        .version())
                .sorted()
                .toList();
        assertThat(versions)
                .doesNotHaveDuplicates()
                .hasSize(12)
                .startsWith("v002")
                .endsWith("v013");
        Asset now = library.asset(asset.folder());
        assertThat(now.versions()).hasSize(13);
        assertThat(now.card().versions()).as("no status is lost").hasSize(13);
        assertThat(library.verify(Progress.NONE).ok()).isTrue();
    }

    @Test
    void followersGetTheReadyVersion() {
        Asset asset = workshop.block("Mast", "Masts", 9);
        LayerCache layers = new LayerCache();
        library.publish(asset, VersionStatus.DRAFT, copyOf(asset), Map.of(), Progress.NONE);
        assertThat(asset.readyLayer()).content().contains("./v001/data/mast.usda");
        Asset second = library.publish(asset, VersionStatus.READY, copyOf(asset), Map.of(), Progress.NONE)
                .asset();
        assertThat(second.readyLayer()).content().contains("./v003/data/mast.usda");
        Stage stage = Stage.open(layers.open(second.readyLayer()), layers);
        assertThat(stage.defaultPrim().orElseThrow().child("Body")).isPresent();
        assertThat(stage.problems()).isEmpty();
    }

    @Test
    void whatIsNoLibraryIsSaid() throws IOException {
        assertThatThrownBy(() -> Library.open(folder.resolve("nowhere"), "t", Clock.systemUTC()))
                .hasMessageContaining("no such folder");
        Path plain = Files.createDirectories(folder.resolve("plain"));
        assertThatThrownBy(() -> Library.open(plain, "t", Clock.systemUTC())).hasMessageContaining("not a library");
        Files.writeString(plain.resolve("pantry-library.json"), "{\"id\": \"x\", \"name\": \"N\", \"format\": 99}");
        assertThatThrownBy(() -> Library.open(plain, "t", Clock.systemUTC())).hasMessageContaining("newer Pantry");
        assertThatThrownBy(() -> Library.create(plain, "N", "t", Clock.systemUTC()))
                .hasMessageContaining("not empty");
        assertThatThrownBy(() -> Shelf.path("../outside")).isInstanceOf(PantryException.class);
        assertThatThrownBy(() -> Shelf.path("a/b:c")).isInstanceOf(PantryException.class);
        assertThat(Shelf.path(" /Masts//Tall/ ")).isEqualTo("Masts/Tall");
    }

    /** Stands for a folder that cannot be written, which an administrator's permissions would not stop. */
    @Test
    void aLibraryThatCannotBeWrittenSaysSoAndStaysWhole() throws IOException {
        Asset asset = workshop.block("Mast", "Masts", 9);
        Files.delete(library.root().resolve("incoming"));
        Files.writeString(library.root().resolve("incoming"), "in the way", StandardOpenOption.CREATE);
        assertThatThrownBy(() -> workshop.block("Post", "Masts", 1))
                .isInstanceOf(LibraryException.class)
                .hasMessageContaining("could not be shelved");
        assertThat(library.assets()).containsExactly(asset);
    }

    @Test
    void aFailureWhilePublishingLeavesNothing() {
        Asset asset = workshop.block("Mast", "Masts", 9);
        VersionContents failing = (data, slug, version) -> {
            Files.writeString(data.resolve("half.usda"), "half");
            throw new IOException("No space left on device");
        };
        assertThatThrownBy(() -> library.publish(asset, VersionStatus.READY, failing, Map.of(), Progress.NONE))
                .hasMessageContaining("the disk is full");
        assertThat(library.asset(asset.folder()).versions()).containsExactly("v001");
        assertThat(library.root().resolve("incoming")).isEmptyDirectory();
    }
}
