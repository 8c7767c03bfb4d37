package pantry.desktop.session;

import java.time.Clock;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.Optional;
import java.util.Set;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.PantryException;

/** What was done and what went wrong, the newest first. Changes on the interface's thread only. */
public final class Ledger {
    private final Clock clock;
    private final ObservableList<LedgerLine> lines = FXCollections.observableArrayList();

    /** Those whose undo has been used. */
    private final Set<LedgerLine> takenBack = Collections.newSetFromMap(new IdentityHashMap<>());

    Ledger(Clock clock) {
        this.clock = clock;
    }

    public ObservableList<LedgerLine> lines() {
        return lines;
    }

    /** What was done last of what can still be taken back; messages, errors and saves since do not stand in the way. */
    public Optional<LedgerLine> undoable() {
        return lines.stream()
                .filter(line -> line.undo().isPresent() && !takenBack.contains(line))
                .findFirst();
    }

    /** Takes back what was done last of what can still be taken back. */
    public void undo() {
        undoable().ifPresent(line -> {
            takenBack.add(line);
            line.undo().ifPresent(Runnable::run);
        });
    }

    private void add(LedgerLine.Kind kind, String text, Optional<Runnable> undo) {
        LocalTime now = LocalTime.now(clock.withZone(ZoneId.systemDefault()));
        lines.addFirst(new LedgerLine(now, kind, text, undo));
    }

    /**
     * Writes down what was done.
     *
     * @param undo takes it back; absent where it cannot be
     */
    public void done(String text, Optional<Runnable> undo) {
        add(LedgerLine.Kind.DONE, text, undo);
    }

    /** Writes down what went wrong, with the name of its file and its place there. */
    public void wrong(PantryException problem) {
        String file = problem.file()
                .map(name -> name.substring(name.replace('\\', '/').lastIndexOf('/') + 1) + ": ")
                .orElse("");
        String place = problem.place().map(where -> where + ": ").orElse("");
        add(LedgerLine.Kind.WRONG, file + place + problem.getMessage(), Optional.empty());
    }
}
