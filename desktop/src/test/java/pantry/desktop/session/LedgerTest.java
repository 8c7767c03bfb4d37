package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;

/** What can be taken back, whatever was told since. */
class LedgerTest {
    private final Ledger ledger = new Ledger(Clock.systemUTC());
    private final List<String> undone = new ArrayList<>();

    private void done(String what) {
        ledger.done(what, Optional.of(() -> undone.add(what)));
    }

    @Test
    void messagesErrorsAndSavesDoNotStandInTheWayOfUndo() {
        done("placed Mast");
        done("moved Mast");
        ledger.done("saved yard.usda", Optional.empty());
        ledger.wrong(new PantryException(Path.of("folder/drum.glb"), "is cut off"));
        assertThat(ledger.undoable().map(LedgerLine::text)).contains("moved Mast");
        ledger.undo();
        assertThat(undone).containsExactly("moved Mast");
        assertThat(ledger.undoable().map(LedgerLine::text)).contains("placed Mast");
        ledger.undo();
        ledger.undo();
        assertThat(undone).as("each is taken back once").containsExactly("moved Mast", "placed Mast");
        assertThat(ledger.undoable()).isEmpty();
    }

    @Test
    void theSameDoneTwiceIsTakenBackTwice() {
        Runnable undo = () -> undone.add("once");
        ledger.done("turned Dish", Optional.of(undo));
        ledger.done("turned Dish", Optional.of(undo));
        ledger.undo();
        assertThat(ledger.undoable()).isPresent();
        ledger.undo();
        assertThat(undone).hasSize(2);
        assertThat(ledger.undoable()).isEmpty();
    }

    @Test
    void whatTakingBackTellsIsTheNewestLine() {
        ledger.done("moved Mast", Optional.of(() -> ledger.done("took back: moved Mast", Optional.empty())));
        ledger.undo();
        assertThat(ledger.lines().getFirst().text()).isEqualTo("took back: moved Mast");
        assertThat(ledger.undoable()).isEmpty();
        done("moved it again");
        assertThat(ledger.undoable().map(LedgerLine::text)).contains("moved it again");
    }

    @Test
    void whatWentWrongNamesItsFileAndPlace() {
        ledger.wrong(new PantryException("folder/drum.glb", "byte 20", "is cut off", null));
        LedgerLine line = ledger.lines().getFirst();
        assertThat(line.kind()).isEqualTo(LedgerLine.Kind.WRONG);
        assertThat(line.text()).isEqualTo("drum.glb: byte 20: is cut off");
        assertThat(line.undo()).isEmpty();
    }
}
