package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.AtomicFiles;
import pantry.base.Json;
import pantry.base.Progress;
import pantry.testing.WithWorkshop;

/** What people do to a library by hand, and how it is put right; nothing is ever lost by it. */
class RepairsTest extends WithWorkshop {
    private Asset mast;

    @BeforeEach
    void open() {
        mast = workshop.block("Mast", "Masts", 9);
    }

    private Problem onlyProblem() {
        Verification verification = library.verify(Progress.NONE);
        assertThat(verification.problems()).hasSize(1);
        return verification.problems().getFirst();
    }

    private void repair(Problem problem, String name) {
        new Repairs(library)
                .of(problem).stream()
                        .filter(each -> each.name().equals(name))
                        .findFirst()
                        .orElseThrow()
                        .action()
                        .run();
        assertThat(library.verify(Progress.NONE).problems()).as("after " + name).isEmpty();
        assertThat(library.journal().entries())
                .filteredOn(entry -> entry.what().equals("repaired"))
                .isNotEmpty();
    }

    private Path geometry() {
        return mast.data("v001").resolve("mast.geom.usdc");
    }

    @Test
    void aChangedFileComesBackFromAnotherCopyOfIt() throws Exception {
        library.goBack(mast, "v001", "", Progress.NONE);
        byte[] sealed = Files.readAllBytes(geometry());
        Files.writeString(geometry(), "tidied");
        repair(onlyProblem(), "restore");
        assertThat(Files.readAllBytes(geometry())).isEqualTo(sealed);
        assertThat(library.trash().items()).singleElement().satisfies(item -> assertThat(
                        item.folder().resolve("mast.geom.usdc"))
                .hasContent("tidied"));
    }

    @Test
    void aChangedFileOfWhichThereIsNoOtherBecomesAVersionOfItsOwn() throws Exception {
        Files.writeString(mast.data("v001").resolve("facts.json"), Json.write(mast.facts("v001")) + "\n\n");
        Problem problem = onlyProblem();
        assertThat(problem.kind()).isEqualTo(Problem.Kind.CHANGED);
        assertThat(new Repairs(library).of(problem))
                .extracting(Repair::name)
                .containsExactly("keep-as-new", "set-aside");
        new Repairs(library).of(problem).getFirst().action().run();
        Asset now = library.find("Mast");
        assertThat(now.versions()).containsExactly("v001", "v002");
        assertThat(now.status("v001")).isEqualTo(VersionStatus.RETIRED);
        assertThat(now.status("v002")).isEqualTo(VersionStatus.DRAFT);
        assertThat(library.verify(Progress.NONE).problems())
                .as("the damage itself stays, and is said")
                .hasSize(1);
        repair(onlyProblem(), "set-aside");
    }

    @Test
    void anAddedFileAndAnUnsealedVersionAreSetAside() throws Exception {
        Files.writeString(mast.data("v001").resolve("notes.txt"), "mine");
        repair(onlyProblem(), "set-aside");
        assertThat(library.trash().items().getFirst().folder().resolve("notes.txt"))
                .hasContent("mine");
        Files.createDirectories(mast.folder().resolve("v002/data"));
        Files.copy(mast.entryLayer("v001"), mast.folder().resolve("v002/data/mast.usda"));
        assertThat(onlyProblem().kind()).isEqualTo(Problem.Kind.UNSEALED);
        repair(onlyProblem(), "set-aside");
        assertThat(library.find("Mast").versions()).containsExactly("v001");
    }

    @Test
    void aLostOrBrokenCardIsWrittenAnewFromSealsAndJournal() throws Exception {
        library.edit(List.of(mast), card -> card.tagged("tall").withNotes("nine metres"), Progress.NONE);
        Card before = library.find("Mast").card();
        Files.writeString(mast.folder().resolve("card.json"), "{ half a");
        repair(onlyProblem(), "new-card");
        assertThat(library.find("Mast").card().tags()).containsExactly("tall");
        assertThat(library.find("Mast").card().id()).isEqualTo(before.id());
        Files.delete(mast.folder().resolve("card.json"));
        assertThat(onlyProblem().kind()).isEqualTo(Problem.Kind.CARDLESS);
        repair(onlyProblem(), "new-card");
        assertThat(library.find("Mast").card().notes()).isEqualTo("nine metres");
        assertThat(library.find("Mast").ready()).contains("v001");
    }

    @Test
    void whatWasMovedByHandIsTakenOverOrPutBack() throws Exception {
        Path elsewhere = library.root().resolve("assets/Elsewhere");
        Files.createDirectories(elsewhere);
        Files.move(mast.folder(), elsewhere.resolve("mast"));
        assertThat(onlyProblem().message()).contains("moved by hand").contains("Masts");
        repair(onlyProblem(), "put-back");
        assertThat(library.find("Mast").folder()).isEqualTo(mast.folder());
        Files.move(mast.folder(), elsewhere.resolve("mast"));
        repair(onlyProblem(), "take-over");
        assertThat(library.find("Mast").shelf()).isEqualTo("Elsewhere");
        assertThat(mast.folder().resolve("ready.usda")).as("a signpost").exists();
    }

    @Test
    void aFolderCopiedByHandGetsAnIdOfItsOwn() throws Exception {
        Path copy = library.root().resolve("assets/Masts/copy of mast");
        try (var files = Files.walk(mast.folder())) {
            for (Path file : files.toList()) {
                Files.copy(file, copy.resolve(mast.folder().relativize(file).toString()));
            }
        }
        assertThat(onlyProblem().kind()).isEqualTo(Problem.Kind.SAME_ID);
        repair(onlyProblem(), "new-id");
        assertThat(library.assets()).extracting(a -> a.card().id()).doesNotHaveDuplicates();
    }

    @Test
    void layersThatLeadNowhereAreLedBack() throws Exception {
        Asset panel = workshop.prefab("Panel", "Power", mast);
        Files.writeString(mast.readyLayer(), "#usda 1.0\n(defaultPrim = \"X\")\ndef \"X\" {}\n");
        assertThat(onlyProblem().kind()).isEqualTo(Problem.Kind.READY);
        repair(onlyProblem(), "rewrite");
        Path elsewhere = Files.createDirectories(library.root().resolve("assets/Elsewhere"));
        Files.move(mast.folder(), elsewhere.resolve("mast"));
        List<Problem> problems = library.verify(Progress.NONE).problems();
        assertThat(problems).extracting(Problem::kind).containsExactlyInAnyOrder(Problem.Kind.USE, Problem.Kind.MOVED);
        assertThat(new Repairs(library).repairAll(problems, Progress.NONE)).isEmpty();
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        assertThat(Uses.of(panel.folder())).allMatch(Uses.Use::found);
    }

    @Test
    void trashIsRestoredWhereItWasUntilItIsDeletedForGood() throws Exception {
        library.trash().discard(mast);
        Asset second = workshop.block("Mast", "Masts", 3);
        TrashItem item = library.trash().items().getFirst();
        Path restored = library.trash().restore(item);
        assertThat(restored).as("its place was taken").isEqualTo(second.folder().resolveSibling("mast-2"));
        assertThat(library.assets()).hasSize(2);
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        library.trash().discard(library.asset(restored));
        library.trash().delete(library.trash().items());
        assertThat(library.trash().items()).isEmpty();
        assertThat(library.root().resolve("trash")).isEmptyDirectory();
        assertThatThrownBy(() -> library.trash().restore(item)).hasMessageContaining("cannot be restored");
    }

    @Test
    void aLibraryOfTheFirstFormatIsReadUpgradedWhenAskedAndBroughtBack() throws Exception {
        Path marker = library.root().resolve("pantry-library.json");
        Files.writeString(marker, Files.readString(marker).replace("\"format\" : 2", "\"format\" : 1"));
        Path card = mast.folder().resolve("card.json");
        Files.writeString(card, Files.readString(card).replaceAll(",\\s*\"shelf\" : \"[^\"]*\"", ""));
        Library old = Library.open(library.root(), "tester", Clock.systemUTC());
        assertThat(old.isOlder()).isTrue();
        old.edit(List.of(mast), each -> each.tagged("still works"), Progress.NONE);
        assertThat(Files.readString(card)).as("written as it was made").doesNotContain("\"shelf\"");
        assertThat(old.verify(Progress.NONE).ok()).isTrue();
        Library now = old.upgrade(Progress.NONE);
        assertThat(now.isOlder()).isFalse();
        assertThat(Files.readString(card)).contains("\"shelf\" : \"Masts\"");
        Library back = now.downgrade(Progress.NONE);
        assertThat(back.info().format()).isEqualTo(1);
        assertThat(back.find("Mast").card().tags()).containsExactly("still works");
        assertThat(Files.readString(card)).doesNotContain("\"shelf\"");
        assertThatThrownBy(() -> back.downgrade(Progress.NONE)).hasMessageContaining("was not upgraded");
        Files.writeString(marker, Files.readString(marker).replace("\"format\" : 1", "\"format\" : 99"));
        assertThatThrownBy(() -> Library.open(library.root(), "tester", Clock.systemUTC()))
                .hasMessageContaining("newer Pantry");
        AtomicFiles.deleteTree(library.root());
    }
}
