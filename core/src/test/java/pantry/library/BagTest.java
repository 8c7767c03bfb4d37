package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.Sha256;

/** Sealed folders against the rules of RFC 8493. */
class BagTest {
    @TempDir
    private Path folder;

    private Path sealed() throws IOException {
        Path bag = folder.resolve("v001");
        Path data = Files.createDirectories(bag.resolve("data/deep er"));
        Files.writeString(data.resolve("ä ü.txt"), "one");
        Files.writeString(data.resolve("100%.txt"), "two");
        Files.writeString(bag.resolve("data/line\nbreak.txt"), "three");
        Bag.seal(bag, Map.of("Contact-Name", "A\nB"), Progress.NONE);
        return bag;
    }

    /** RFC 8493, 2.1.1 and 2.1.3: the declaration, and file names with CR, LF and % encoded. */
    @Test
    void theDeclarationAndTheManifestAreAsTheStandardSays() throws IOException {
        Path bag = sealed();
        assertThat(bag.resolve("bagit.txt")).hasContent("BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n");
        List<String> manifest = Files.readAllLines(bag.resolve("manifest-sha256.txt"));
        assertThat(manifest)
                .contains(Sha256.of("two".getBytes()) + "  data/deep er/100%25.txt")
                .contains(Sha256.of("three".getBytes()) + "  data/line%0Abreak.txt")
                .hasSize(3);
        assertThat(bag.resolve("tagmanifest-sha256.txt")).content().contains("bag-info.txt", "manifest-sha256.txt");
    }

    /** RFC 8493, 2.2.2: Payload-Oxum is octets and streams; values do not break lines. */
    @Test
    void theInfoTellsThePayloadsSize() throws IOException {
        Path bag = sealed();
        assertThat(Bag.info(bag)).containsEntry("Payload-Oxum", "11.3").containsEntry("Contact-Name", "A B");
        assertThat(Bag.check(bag)).isEmpty();
    }

    @Test
    void everyKindOfChangeIsFoundAtItsFile() throws IOException {
        Path bag = sealed();
        Files.writeString(bag.resolve("data/deep er/100%.txt"), "twO");
        Files.delete(bag.resolve("data/line\nbreak.txt"));
        Files.writeString(bag.resolve("data/new.txt"), "new");
        Files.writeString(bag.resolve("bag-info.txt"), "Contact-Name: somebody else\n");
        assertThat(Bag.check(bag))
                .extracting(problem -> problem.kind() + " " + bag.relativize(problem.path()))
                .containsExactlyInAnyOrder(
                        "CHANGED data/deep er/100%.txt",
                        "MISSING data/line\nbreak.txt", "EXTRA data/new.txt", "CHANGED bag-info.txt");
    }

    /** RFC 8493, 5.1.1: a manifest must not lead outside the bag. */
    @Test
    void aManifestThatLeadsOutsideIsRefused() throws IOException {
        Path bag = sealed();
        Files.writeString(folder.resolve("secret"), "secret");
        Files.writeString(
                bag.resolve("manifest-sha256.txt"), Sha256.of("secret".getBytes()) + "  ../secret\nnonsense\n");
        assertThat(Bag.check(bag))
                .filteredOn(problem -> problem.kind() == Problem.Kind.UNREADABLE)
                .hasSize(2)
                .allSatisfy(problem -> assertThat(problem.message()).contains("names no file of the version"));
    }

    @Test
    void cardsKeepTheirStatusesAndWhoIsFollowed() {
        Card card = Card.fresh("id", "Mast", AssetKind.LIGHT_RIG)
                .with("v001", VersionStatus.READY)
                .with("v002", VersionStatus.DRAFT)
                .with("v003", VersionStatus.READY);
        assertThat(card.ready()).isEqualTo("v003");
        assertThat(card.with("v003", VersionStatus.RETIRED).ready())
                .as("the newest that is still ready is followed then")
                .isEqualTo("v001");
        assertThat(card.with("v003", VersionStatus.RETIRED)
                        .with("v001", VersionStatus.RETIRED)
                        .ready())
                .as("nobody is followed then")
                .isNull();
        assertThat(card.with("v001", VersionStatus.RETIRED).ready()).isEqualTo("v003");
        String json = Json.write(card);
        assertThat(json).contains("\"light rig\"").contains("\"v002\" : \"draft\"");
        assertThat(Json.read(json, "card", Card.class)).isEqualTo(card);
        assertThat(Json.read("{\"id\":\"x\",\"name\":\"N\",\"kind\":\"model\",\"later\":1}", "card", Card.class)
                        .tags())
                .as("older and newer cards are read too")
                .isEmpty();
        assertThatThrownBy(() -> Card.fresh("", "N", AssetKind.MODEL)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> Json.read("{\"id\":\"x\"}", "card.json", Card.class))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("not the JSON");
    }

    @Test
    void jsonErrorsTellLineAndColumn() {
        assertThatThrownBy(() -> Json.read("{\n  \"id\": oops }", "card.json", Card.class))
                .isInstanceOfSatisfying(PantryException.class, e -> {
                    assertThat(e.file()).contains("card.json");
                    assertThat(e.place().orElse("")).startsWith("line 2");
                });
        assertThatThrownBy(() -> Json.read(folder.resolve("none.json"), Card.class))
                .hasMessageContaining("no such file");
    }
}
