package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.AtomicFiles;
import pantry.base.HeldFolder;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.scene.Scene;
import pantry.testing.WithWorkshop;
import pantry.usd.schema.TransformComponents;

/** Whatever somebody does to a library's files is seen, and what puts it right ends. */
class DamagedLibraryTest extends WithWorkshop {
    private Library library;
    private Asset mast;

    @BeforeEach
    void shelve() {
        library = workshop.library();
        workshop.block("Mast", "Masts", 9);
        library.goBack(library.find("Mast"), "v001", "", Progress.NONE);
        mast = library.find("Mast");
    }

    private List<Problem.Kind> kinds() {
        return library.verify(Progress.NONE).problems().stream()
                .map(Problem::kind)
                .toList();
    }

    /** Repairs all, and asserts that this ends in a library without problems, or says so and changes nothing more. */
    private void repairAll() {
        Repairs repairs = new Repairs(library);
        repairs.repairAll(library.verify(Progress.NONE).problems(), Progress.NONE);
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
    }

    private Map<String, String> contents() throws Exception {
        Map<String, String> contents = new TreeMap<>();
        try (Stream<Path> files = Files.walk(library.root())) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                contents.put(library.root().relativize(file).toString(), Sha256.of(file));
            }
        }
        return contents;
    }

    @Test
    void aVersionThatIsGoneIsSeenAndItsNumberIsNotGivenOutAgain() throws Exception {
        AtomicFiles.deleteTree(mast.folder().resolve("v002"));
        assertThat(kinds()).contains(Problem.Kind.GONE_VERSION, Problem.Kind.READY);
        Published published = library.goBack(library.find("Mast"), "v001", "", Progress.NONE);
        assertThat(published.version()).isEqualTo("v003");
        repairAll();
        assertThat(library.find("Mast").status("v002")).isEqualTo(VersionStatus.RETIRED);
    }

    @Test
    void theJournalRemembersNumbersThatTheCardForgot() throws Exception {
        AtomicFiles.deleteTree(mast.folder().resolve("v002"));
        Path card = mast.folder().resolve(LibraryLayout.CARD);
        Files.writeString(
                card,
                Files.readString(card)
                        .replaceAll(",?\\s*\"v002\"\\s*:\\s*\"ready\"", "")
                        .replace("\"ready\" : \"v002\"", "\"ready\" : \"v001\""));
        Library anew = Library.open(library.root(), "ada", Clock.systemUTC());
        assertThat(anew.find("Mast").card().versions()).containsOnlyKeys("v001");
        assertThat(anew.goBack(anew.find("Mast"), "v001", "", Progress.NONE).version())
                .isEqualTo("v003");
    }

    @Test
    void anAssetThatIsGoneIsSeenButNotOneThatWasDeletedOnPurpose() throws Exception {
        Asset crate = workshop.block("Crate", "Boxes", 1);
        library.trash().discard(crate);
        library.trash().delete(library.trash().items());
        assertThat(kinds()).isEmpty();
        AtomicFiles.deleteTree(mast.folder());
        assertThat(library.verify(Progress.NONE).problems()).singleElement().satisfies(problem -> {
            assertThat(problem.kind()).isEqualTo(Problem.Kind.GONE_ASSET);
            assertThat(problem.message()).contains("Mast");
        });
        repairAll();
    }

    @Test
    void versionsThatChangedPlacesAreSeenAndChangeBack() throws Exception {
        Map<String, String> before = contents();
        Path aside = mast.folder().resolve("aside");
        Files.move(mast.folder().resolve("v001"), aside);
        Files.move(mast.folder().resolve("v002"), mast.folder().resolve("v001"));
        Files.move(aside, mast.folder().resolve("v002"));
        assertThat(kinds()).containsExactly(Problem.Kind.MISNUMBERED, Problem.Kind.MISNUMBERED);
        new Repairs(library)
                .of(library.verify(Progress.NONE).problems().getFirst())
                .getFirst()
                .action()
                .run();
        assertThat(kinds()).isEmpty();
        assertThat(contents()).containsAllEntriesOf(before);
    }

    @Test
    void aVersionThatCannotBeReadIsNotTheReadyLayersFault() throws Exception {
        Files.writeString(mast.entryLayer("v002"), "no layer any more");
        assertThat(kinds()).containsExactly(Problem.Kind.CHANGED);
    }

    /** As after a kill: one or both of two versions are on their way, and the other may stand in the wrong place. */
    @ParameterizedTest
    @ValueSource(strings = {"v001>.moving-v002", "v001>.moving-v002 v002>.moving-v001", "v002>.moving-v002"})
    void aRenumberingThatWasStoppedIsEnded(String moves) throws Exception {
        Map<String, String> before = contents();
        boolean swapped = moves.startsWith("v001");
        if (swapped) {
            Path aside = mast.folder().resolve("aside");
            Files.move(mast.folder().resolve("v001"), aside);
            Files.move(mast.folder().resolve("v002"), mast.folder().resolve("v001"));
            Files.move(aside, mast.folder().resolve("v002"));
        }
        for (String move : moves.split(" ")) {
            String[] ends = move.split(">");
            Files.move(mast.folder().resolve(ends[0]), mast.folder().resolve(ends[1]));
        }
        assertThat(kinds()).contains(Problem.Kind.GONE_VERSION);
        Problem gone = library.verify(Progress.NONE).problems().stream()
                .filter(problem -> problem.kind() == Problem.Kind.GONE_VERSION)
                .findFirst()
                .orElseThrow();
        new Repairs(library).of(gone).getFirst().action().run();
        assertThat(kinds()).isEmpty();
        assertThat(contents()).containsAllEntriesOf(before);
        assertThat(library.find("Mast").card()).isEqualTo(mast.card());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "#usda 1.0\n(\n    subLayers = [@./other.usda@]\n)\n",
                "#usda 1.0\n# v002/data/mast.usda\n",
                "not a layer"
            })
    void aReadyLayerThatSaysSomethingElseIsSeen(String text) throws Exception {
        Files.writeString(mast.readyLayer(), text);
        assertThat(kinds()).containsExactly(Problem.Kind.READY);
        repairAll();
    }

    @Test
    void aReadyLayerWithMoreThanItsReferenceIsSeen() throws Exception {
        Files.writeString(mast.readyLayer(), Files.readString(mast.readyLayer()) + "\nover \"Other\" {\n}\n");
        assertThat(kinds()).containsExactly(Problem.Kind.READY);
    }

    @Test
    void linksAreSeenAndNotFollowed() throws Exception {
        Map<String, String> before = contents();
        Files.createSymbolicLink(library.root().resolve("assets/Masts/loop"), Path.of("../.."));
        Files.createSymbolicLink(mast.folder().resolve("v003"), mast.folder().resolve("v001"));
        Path sealed = mast.data("v001").resolve("facts.json");
        Path elsewhere = Files.move(sealed, library.root().resolveSibling("facts.json"));
        Files.createSymbolicLink(sealed, elsewhere);
        assertThat(library.assets()).hasSize(1);
        assertThat(kinds()).containsOnly(Problem.Kind.LINK).hasSize(3);
        new Repairs(library).repairAll(library.verify(Progress.NONE).problems(), Progress.NONE);
        assertThat(elsewhere).exists();
        assertThat(kinds()).containsExactly(Problem.Kind.MISSING);
        repairAll();
        assertThat(library.find("Mast").card().id()).isEqualTo(mast.card().id());
        assertThat(contents()).containsAllEntriesOf(before);
    }

    @Test
    void anotherLibrarysAssetsAreNotTouchedThroughALink() throws Exception {
        Library other = Library.create(folder.resolve("other"), "Other", "ben", Clock.systemUTC());
        Files.createSymbolicLink(
                other.root().resolve("assets/theirs"), library.root().resolve("assets"));
        assertThatThrownBy(() -> other.places().make("theirs/New")).hasMessageContaining("is a link");
        Map<String, String> before = contents();
        new Repairs(other).repairAll(other.verify(Progress.NONE).problems(), Progress.NONE);
        assertThat(contents()).isEqualTo(before);
    }

    @ParameterizedTest
    @ValueSource(strings = {"manifest-sha256.txt", "bagit.txt", "data/facts.json"})
    void aRepairThatCannotEndIsRefusedTheSecondTime(String file) throws Exception {
        Path damaged = mast.folder().resolve("v001").resolve(file);
        if (file.equals("bagit.txt")) {
            Files.delete(damaged);
        } else {
            Files.writeString(damaged, Files.readString(damaged).replaceFirst("[0-9a-f]", "x"));
        }
        Repairs repairs = new Repairs(library);
        for (int run = 0; run < 4; run++) {
            for (Problem problem : library.verify(Progress.NONE).problems()) {
                repairs.of(problem).stream()
                        .filter(repair -> repair.name().equals("keep-as-new"))
                        .forEach(repair -> {
                            try {
                                repair.action().run();
                            } catch (LibraryException e) {
                                assertThat(e).hasMessageContaining("is kept as");
                            }
                        });
            }
        }
        assertThat(library.find("Mast").versions())
                .as("what stands in another version is not kept once more")
                .hasSize(file.startsWith("data") ? 3 : 2);
    }

    @ParameterizedTest
    @ValueSource(strings = {"v001", "data", "uses", "Masts/v012", "DATA/Masts", "Trash"})
    void aShelfCannotBeCalledWhatALibraryKeepsForItself(String shelf) {
        assertThatThrownBy(() -> library.places().make(shelf)).isInstanceOf(PantryException.class);
        assertThatThrownBy(() -> library.places().move(mast, shelf)).isInstanceOf(PantryException.class);
        assertThat(library.find("Mast").shelf()).isEqualTo("Masts");
    }

    @Test
    void aShelfThatGotSuchANameByHandIsSeenAndItsAssetsAreKept() throws Exception {
        Files.move(library.root().resolve("assets/Masts"), library.root().resolve("assets/v001"));
        assertThat(kinds()).contains(Problem.Kind.RESERVED_NAME);
        for (int i = 0; i < 3; i++) {
            new Repairs(library).repairAll(library.verify(Progress.NONE).problems(), Progress.NONE);
        }
        assertThat(kinds()).isEmpty();
        assertThat(library.find("Mast").card().id()).isEqualTo(mast.card().id());
    }

    @Test
    void anAssetIsNotCalledWhatALibraryKeepsForItself() {
        assertThat(Names.slug("V001")).isEqualTo("v001-1");
        assertThat(workshop.block("V001", "Masts", 1).slug()).isEqualTo("v001-1");
        assertThat(workshop.block("Data", "Masts", 1).slug()).isEqualTo("data-1");
        assertThat(kinds()).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "   ", "two\nlines", "left\u202eright", "tab\there", "zero\u200bwidth"})
    void aNameHasWhatCanBeSeen(String name) {
        assertThatThrownBy(() -> library.edit(List.of(mast), card -> card.withName(name), Progress.NONE))
                .isInstanceOfAny(PantryException.class, IllegalArgumentException.class);
        assertThat(library.find("Mast").card().name()).isEqualTo("Mast");
    }

    @Test
    void aNameIsTrimmedComposedAndOfAtMostTwoHundredCharacters() {
        assertThat(Names.given("  Me\u0301t mast ")).isEqualTo("M\u00e9t mast");
        assertThat(Names.given("m".repeat(200))).hasSize(200);
        assertThatThrownBy(() -> Names.given("m".repeat(201))).hasMessageContaining("too long");
    }

    @Test
    void noTwoAssetsOfAShelfHaveOneName() {
        Asset crate = workshop.block("Crate", "Masts", 1);
        assertThatThrownBy(() -> library.edit(List.of(crate), card -> card.withName("MAST"), Progress.NONE))
                .hasMessageContaining("another asset on its shelf");
        assertThat(library.edit(List.of(mast), card -> card.withName("MAST"), Progress.NONE))
                .as("its own name in other letters")
                .hasSize(1);
    }

    @Test
    void whatWasBeingWrittenWhenAProcessEndedIsRemovedNotWhatIsBeingWritten() throws Exception {
        Path old = Files.writeString(mast.folder().resolve(".pantry-old"), "half a card");
        Files.setLastModifiedTime(old, FileTime.from(Instant.now().minusSeconds(7200)));
        Path fresh = Files.writeString(mast.folder().resolve(".pantry-fresh"), "half a card");
        Path journal = Files.writeString(library.root().resolve("journal/.pantry-old"), "half an entry");
        Files.setLastModifiedTime(journal, FileTime.from(Instant.now().minusSeconds(7200)));
        assertThat(kinds()).containsExactly(Problem.Kind.LEFT_OVER);
        repairAll();
        assertThat(old).doesNotExist();
        assertThat(fresh).exists();
        Library.open(library.root(), "ada", Clock.systemUTC());
        assertThat(journal).doesNotExist();
    }

    @Test
    void aFolderThatAnotherProcessHoldsIsNotClearedWhateverNamesAndClocksSay() throws Exception {
        Path incoming = library.root().resolve("incoming");
        try (HeldFolder held = HeldFolder.create(() -> incoming.resolve(Incoming.host() + "~999999999~build"))) {
            Files.writeString(held.path().resolve("half.usda"), "half");
            Files.setLastModifiedTime(held.path(), FileTime.from(Instant.now().minusSeconds(500_000)));
            Clock ahead = Clock.offset(Clock.systemUTC(), Duration.ofDays(2));
            Library.open(library.root(), "ben", ahead);
            assertThat(held.path().resolve("half.usda")).exists();
        }
        assertThat(incoming).isEmptyDirectory();
    }

    @Test
    void whatWasMovedAndRenamedByHandOpensAgainWhereItStood() throws Exception {
        Scene scene = workshop.newScene(folder.resolve("yard.usda"));
        scene.placements().place(mast, Optional.empty(), "Mast", TransformComponents.ORIGIN, Optional.empty());
        scene.placements().place(mast, Optional.of("v001"), "Pinned", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        Path shelf = Files.createDirectories(library.root().resolve("assets/Elsewhere"));
        Files.move(mast.folder(), shelf.resolve("renamed"));
        assertThat(workshop.openScene(scene.file()).model().trianglesDrawn()).isZero();
        assertThat(kinds()).containsExactly(Problem.Kind.MOVED);
        repairAll();
        assertThat(workshop.openScene(scene.file()).model().trianglesDrawn()).isEqualTo(24);
        assertThat(mast.folder().resolve("moved.json")).exists();
    }
}
