package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;
import pantry.workbench.FileAccess;
import pantry.workbench.Settings;
import pantry.workbench.Workbench;

class SessionTest {
    private final Workbench workbench = workbench();
    private final Session session = new Session(workbench, new Background(Runnable::run, Runnable::run, Runnable::run));

    private static Workbench workbench() {
        Workbench made = mock(Workbench.class);
        when(made.access()).thenReturn(mock(FileAccess.class));
        when(made.clock()).thenReturn(Clock.fixed(Instant.parse("2031-02-03T04:05:06Z"), ZoneOffset.UTC));
        when(made.settings()).thenReturn(Settings.USUAL.withAllowed("/far/away/props"));
        return made;
    }

    @Test
    void foldersThatWereAllowedBeforeStillAre() {
        verify(workbench.access()).allow(Path.of("/far/away/props"));
    }

    @Test
    void aRefusalStandsInTheLedgerWithTheFilesNameAndIsNoJobAnyLonger() {
        when(workbench.openLibrary(any())).thenThrow(new PantryException(Path.of("/far/away/lib"), "is not a library"));
        session.openLibrary(Path.of("/far/away/lib"));
        assertThat(session.libraries()).isEmpty();
        assertThat(session.jobs()).isEmpty();
        assertThat(session.ledger()).singleElement().satisfies(line -> {
            assertThat(line.kind()).isEqualTo(LedgerLine.Kind.WRONG);
            assertThat(line.text()).isEqualTo("lib: is not a library");
        });
    }

    @Test
    void whatWasBegunIsLetGoOfWhereWorkIsCancelledAndNotOtherwise() {
        List<String> told = new ArrayList<>();
        session.run(
                "settling",
                session.whenCancelled(
                        progress -> {
                            throw new CancellationException("settling was cancelled");
                        },
                        () -> told.add("let go")),
                result -> told.add("done"),
                problem -> told.add("failed"));
        assertThat(told).containsExactly("let go");
        assertThat(session.ledger().getFirst().text()).isEqualTo("settling was cancelled");
        session.run(
                "settling",
                session.whenCancelled(progress -> "settled", () -> told.add("let go")),
                result -> told.add(result),
                problem -> told.add("failed"));
        assertThat(told).containsExactly("let go", "settled");
    }

    @Test
    void whatAnActionEndsWithIsToldAsARefusalOrAsAFault() {
        session.failed(new PantryException(Path.of("/far/away/lib"), "is no longer open"));
        assertThat(session.ledger().getFirst().text()).isEqualTo("lib: is no longer open");
        session.failed(new IllegalStateException("no such shelf"));
        assertThat(session.ledger().getFirst().text())
                .contains("what was asked for failed by a fault of Pantry's own")
                .contains("no such shelf");
    }

    @Test
    void afaultOfPantrysOwnIsSaidAndDoesNotEndTheSession() {
        session.run(
                "counting",
                progress -> {
                    throw new IllegalStateException("no such shelf");
                },
                result -> {});
        assertThat(session.ledger().getFirst().text())
                .contains("fault of Pantry's own")
                .contains("no such shelf");
    }

    @Test
    void cancelledWorkIsWrittenDownAndGivesNothing() {
        boolean[] given = {false};
        session.run(
                "reading",
                progress -> {
                    throw new CancellationException("cancelled: mast.obj");
                },
                result -> given[0] = true);
        assertThat(given[0]).isFalse();
        assertThat(session.ledger().getFirst().text()).isEqualTo("cancelled: mast.obj");
    }

    @Test
    void workIsTakenBackAndDoneAgainWithWhatCameOfItTheLastTime() {
        List<String> shelf = new ArrayList<>();
        int[] shown = {0};
        UndoableWork<String> work = new UndoableWork<>(
                "shelving",
                session::run,
                progress -> {
                    String made = "mast " + shown[0];
                    shelf.add(made);
                    return made;
                },
                (made, progress) -> shelf.remove(made));
        work.after(made -> shown[0]++).start(session, made -> "shelved " + made);
        session.history().undo();
        assertThat(shelf).isEmpty();
        assertThat(session.ledger().getFirst().text()).isEqualTo("took back: shelved mast 0");
        session.history().redo();
        assertThat(shelf).containsExactly("mast 2");
        session.history().undo();
        assertThat(shelf).isEmpty();
        assertThat(shown[0]).as("each time that was shown").isEqualTo(4);
    }

    @Test
    void whatCannotBeTakenBackIsNotShownAsTakenBack() {
        new UndoableWork<>("shelving", session::run, progress -> "mast", (made, progress) -> {
                    throw new PantryException("mast is reserved by ben");
                })
                .start(session, made -> "shelved " + made);
        session.history().undo();
        assertThat(session.ledger().getFirst().text()).isEqualTo("mast is reserved by ben");
        assertThat(session.history().undoable()).isEmpty();
        assertThat(session.history().redoable()).isEmpty();
    }

    @Test
    void figuresCarryTheUnitThatSuitsThem() {
        assertThat(Units.length(1.8249)).isEqualTo("1.82\u202fm");
        assertThat(Units.length(0.034)).isEqualTo("3.4\u202fcm");
        assertThat(Units.length(0.0012)).isEqualTo("1.20\u202fmm");
        assertThat(Units.length(2400)).isEqualTo("2.40\u202fkm");
        assertThat(Units.size(1.2, 0.9, 0.8)).isEqualTo("1.20 × 0.90 × 0.80\u202fm");
        assertThat(Units.count(398_200)).isEqualTo("398\u202f200");
        assertThat(Units.bytes(34_100_000)).isEqualTo("34\u202fMB");
        assertThat(Units.bytes(999)).isEqualTo("999\u202fB");
    }
}
