package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;

/** The one history: what can be taken back and done again, whatever was told since. */
class LedgerTest {
    private final Ledger ledger = new Ledger(Clock.systemUTC());
    private final List<String> log = new ArrayList<>();

    /** Says what it is asked for, and lets the test end it. */
    private final class Noted implements Reversal {
        private final String what;
        private Optional<String> refused = Optional.empty();
        private Optional<String> busy = Optional.empty();
        private boolean later;
        private Optional<Outcome> pending = Optional.empty();

        Noted(String what) {
            this.what = what;
        }

        @Override
        public Optional<String> undoRefused() {
            return refused;
        }

        @Override
        public Optional<String> busy() {
            return busy;
        }

        @Override
        public void undo(Outcome outcome) {
            step("-" + what, outcome);
        }

        @Override
        public void redo(Outcome outcome) {
            step("+" + what, outcome);
        }

        private void step(String said, Outcome outcome) {
            log.add(said);
            if (later) {
                pending = Optional.of(outcome);
            } else {
                outcome.done();
            }
        }
    }

    private Noted done(String what) {
        Noted reversal = new Noted(what);
        ledger.done(what, reversal);
        return reversal;
    }

    private LedgerLine line(String text) {
        return ledger.lines().stream()
                .filter(line -> line.text().equals(text))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void messagesErrorsAndSavesDoNotStandInTheWayOfUndo() {
        done("placed Mast");
        done("moved Mast");
        ledger.told("saved yard.usda");
        ledger.wrong(new PantryException(Path.of("folder/drum.glb"), "is cut off"));
        ledger.doneForGood("emptied the trash", "it does not come back");
        assertThat(ledger.undoable().map(LedgerLine::text)).contains("moved Mast");
        ledger.undo();
        assertThat(ledger.lines().getFirst().text()).isEqualTo("took back: moved Mast");
        ledger.undo();
        ledger.undo();
        assertThat(log).as("each is taken back once").containsExactly("-moved Mast", "-placed Mast");
        assertThat(ledger.undoable()).isEmpty();
    }

    @Test
    void whatWasTakenBackIsDoneAgainTheLastFirst() {
        done("one");
        done("two");
        ledger.undo();
        ledger.undo();
        ledger.redo();
        ledger.told("saved yard.usda");
        ledger.redo();
        ledger.redo();
        assertThat(log).containsExactly("-two", "-one", "+one", "+two");
        ledger.undo();
        assertThat(log.getLast()).isEqualTo("-two");
        done("three");
        ledger.redo();
        assertThat(log.getLast()).as("something else was done since").isEqualTo("-two");
        assertThat(ledger.refusal(line("two"))).contains("something else was done since");
    }

    @Test
    void aSecondKeyWaitsForWhatTheFirstOneBegan() {
        Noted one = done("one");
        Noted two = done("two");
        two.later = true;
        one.later = true;
        ledger.undo();
        ledger.undo();
        ledger.redo();
        assertThat(log).containsExactly("-two");
        assertThat(ledger.refusal(line("two"))).contains("is under way");
        two.pending.orElseThrow().done();
        assertThat(log).containsExactly("-two", "-one");
        one.pending.orElseThrow().done();
        assertThat(log).containsExactly("-two", "-one", "+one");
    }

    @Test
    void whatCannotBeTakenBackAnyMoreIsPassedOverAndSaysWhy() {
        done("one");
        Noted two = done("two");
        two.refused = Optional.of("camp.usda was closed since");
        assertThat(ledger.refusal(line("two"))).contains("camp.usda was closed since");
        ledger.undo();
        assertThat(log).containsExactly("-one");
    }

    @Test
    void whatIsBusyIsNotPassedOver() {
        done("one");
        Noted two = done("two");
        two.busy = Optional.of("camp.usda is being changed");
        ledger.undo();
        assertThat(log).isEmpty();
        assertThat(ledger.lines().getFirst().text()).startsWith("camp.usda is being changed");
        two.busy = Optional.empty();
        ledger.undo();
        assertThat(log).containsExactly("-two");
    }

    @Test
    void whatFailsIsLostAndWhatWasStoppedIsNot() {
        done("one");
        Noted two = done("two");
        two.later = true;
        ledger.undo();
        two.pending.orElseThrow().stopped();
        assertThat(ledger.undoable().map(LedgerLine::text)).contains("two");
        ledger.undo();
        two.pending.orElseThrow().failed(new PantryException("is reserved by ben"));
        assertThat(ledger.refusal(line("two"))).contains("is reserved by ben");
        assertThat(ledger.undoable().map(LedgerLine::text)).contains("one");
        assertThat(ledger.lines().getFirst().kind()).isEqualTo(LedgerLine.Kind.WRONG);
    }

    @Test
    void aFaultKeepsNothingElseFromBeingTakenBack() {
        done("one");
        ledger.done(
                "two",
                Reversal.atOnce(
                        () -> {
                            throw new IllegalStateException("broken");
                        },
                        () -> {}));
        assertThatThrownBy(ledger::undo).hasMessage("broken");
        assertThat(ledger.refusal(line("two")).orElseThrow()).contains("broken");
        ledger.undo();
        assertThat(log).containsExactly("-one");
    }

    @Test
    void aLineByItselfIsTakenBackAndDoneAgain() {
        done("one");
        done("two");
        ledger.undo(line("one"));
        assertThat(log).containsExactly("-one");
        assertThat(ledger.undoable().map(LedgerLine::text)).contains("two");
        ledger.redo(line("one"));
        assertThat(log).containsExactly("-one", "+one");
    }

    @Test
    void whatWentWrongNamesItsFileAndPlace() {
        ledger.wrong(new PantryException("folder/drum.glb", "byte 20", "is cut off", null));
        LedgerLine line = ledger.lines().getFirst();
        assertThat(line.kind()).isEqualTo(LedgerLine.Kind.WRONG);
        assertThat(line.text()).isEqualTo("drum.glb: byte 20: is cut off");
        assertThat(line.reversal()).isEmpty();
    }
}
