package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.AtomicFiles;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.library.Library;

/** Open libraries, without a window and with work that is done at once. */
class LibrariesTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Libraries libraries;

    @BeforeEach
    void open() throws IOException {
        desk = new Desk(folder);
        desk.shelve("Mast", "Masts", 9);
        libraries = desk.session().shelving();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    @Test
    void whatWasOpenIsOpenedAgainAndWhatIsGoneIsPassedOver() throws IOException {
        Library other = desk.workbench().createLibrary(folder.resolve("other"), "Other");
        desk.open();
        libraries.open(other.root());
        Session next = new Session(desk.workbench(), new Background(Runnable::run, Runnable::run, Runnable::run));
        Files.delete(other.root().resolve("pantry-library.json"));
        next.shelving().openLast();
        assertThat(next.libraries())
                .extracting(library -> library.info().name())
                .containsExactly("Shelves");
        assertThat(next.ledger()).isEmpty();
        libraries.close(libraries.open().getFirst());
        assertThat(desk.workbench().settings().libraries())
                .containsExactly(other.root().toString());
    }

    @Test
    void librariesStandInTheOrderInWhichTheyWereAskedForWhicheverIsReadFirst() throws IOException {
        Path other =
                desk.workbench().createLibrary(folder.resolve("other"), "Other").root();
        Path third =
                desk.workbench().createLibrary(folder.resolve("third"), "Third").root();
        Deque<Runnable> waiting = new ArrayDeque<>();
        Session next = new Session(desk.workbench(), new Background(waiting::push, Runnable::run, Runnable::run));
        next.openLibrary(other);
        next.openLibrary(desk.library().root());
        next.openLibrary(third);
        for (Runnable last = waiting.poll(); last != null; last = waiting.poll()) {
            last.run();
        }
        assertThat(next.libraries())
                .extracting(library -> library.info().name())
                .containsExactly("Other", "Shelves", "Third");
        next.shelving().close(next.libraries().getFirst());
        next.history().undo();
        while (!waiting.isEmpty()) {
            waiting.poll().run();
        }
        assertThat(next.libraries().getFirst().info().name()).isEqualTo("Other");
    }

    @Test
    void theFoldersAreLookedThroughOnceTheFirstViewStandsThere() {
        desk.workbench().catalogue().refresh(desk.library(), Progress.NONE);
        desk.shelve("Winch", "Masts", 1);
        StartGate gate = new StartGate(Runnable::run);
        Session next = new Session(desk.workbench(), new Background(Runnable::run, Runnable::run, Runnable::run, gate));
        next.openLibrary(desk.library().root());
        assertThat(next.shelving().finder().items())
                .as("what the index knows")
                .extracting(IndexedAsset::name)
                .containsExactly("Mast");
        assertThat(next.background().isIdle()).isFalse();
        gate.open();
        assertThat(next.shelving().finder().items())
                .extracting(IndexedAsset::name)
                .containsExactlyInAnyOrder("Mast", "Winch");
        assertThat(next.background().isIdle()).isTrue();
    }

    @Test
    void contentsTellWhenVersionsChangeAndOnlyThen() {
        desk.open();
        long before = libraries.contentsProperty().get().versions();
        libraries.change(
                "tagging",
                Libraries.Touched.shelf(desk.library(), "Masts"),
                progress -> desk.library()
                        .edit(List.of(desk.library().find("Mast")), card -> card.tagged("tall"), progress),
                done -> {},
                desk.session()::wrong);
        assertThat(libraries.finder().items().getFirst().tags()).containsExactly("tall");
        assertThat(libraries.contentsProperty().get().versions()).isEqualTo(before);
        libraries.change(
                "going back",
                Libraries.Touched.shelf(desk.library(), "Masts"),
                progress -> desk.library().goBack(desk.library().find("Mast"), "v001", "", progress),
                done -> {},
                desk.session()::wrong);
        assertThat(libraries.contentsProperty().get().versions()).isNotEqualTo(before);
    }

    @Test
    void whatAChangeDidBeforeItWasStoppedIsShown() {
        desk.open();
        libraries.change(
                "doing half",
                Libraries.Touched.all(desk.library()),
                progress -> {
                    desk.shelve("Crate", "New shelf", 1);
                    throw new CancellationException("stopped");
                },
                done -> {},
                desk.session()::wrong);
        assertThat(libraries.finder().items())
                .extracting(IndexedAsset::name)
                .containsExactlyInAnyOrder("Mast", "Crate");
        assertThat(libraries.shelvesLike("new")).containsExactly("New shelf");
    }

    /** Also a version that took the name of one that was taken back is another. */
    @Test
    void contentsTellOneVersionFromAnotherOfItsName() throws IOException {
        desk.shelve("Crate", "Boxes", 1);
        desk.open();
        long before = libraries.contentsProperty().get().versions();
        AtomicFiles.deleteTree(desk.library().find("Crate").folder());
        desk.shelve("Crate", "Boxes", 2);
        libraries.refresh(desk.library());
        assertThat(libraries.finder().items()).hasSize(2).allMatch(item -> item.version()
                .equals("v001"));
        assertThat(libraries.contentsProperty().get().versions()).isNotEqualTo(before);
    }

    @Test
    void aChangeThatFailsIsSaidAndWhatItDidIsShown() {
        desk.open();
        libraries.change(
                "doing half",
                Libraries.Touched.all(desk.library()),
                progress -> {
                    desk.library().places().make("Half done");
                    throw new PantryException("and then it failed");
                },
                done -> {},
                desk.session()::wrong);
        assertThat(desk.session().ledger().getFirst().text()).isEqualTo("and then it failed");
        assertThat(libraries
                        .contentsProperty()
                        .get()
                        .shelves()
                        .get(desk.library().root()))
                .contains("Half done", "Masts");
    }

    @Test
    void aFolderThatIsNoLibraryIsRefusedAndTheRestStays() {
        desk.open();
        libraries.open(folder);
        assertThat(desk.session().ledger().getFirst().text()).contains("is not a library");
        assertThat(libraries.present()).hasSize(1);
        libraries.create(folder.resolve("new"), "New shelves");
        assertThat(libraries.present()).hasSize(2);
        libraries.switchOn(libraries.open().getFirst(), false);
        assertThat(libraries.present()).hasSize(1);
        assertThat(libraries.finder().items()).isEmpty();
    }
}
