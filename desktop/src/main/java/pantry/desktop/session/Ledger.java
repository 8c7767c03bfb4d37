package pantry.desktop.session;

import java.time.Clock;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.PantryException;

/**
 * What was done and what went wrong, the newest first; the one history of the whole application. What is taken back, and
 * done again, is found here, whichever workplace did it. Changes on the interface's thread only.
 */
public final class Ledger {
    private final Clock clock;
    private final ObservableList<LedgerLine> lines = FXCollections.observableArrayList();

    /** Of what was taken back and can be done again, the last first. */
    private final Deque<Long> redoable = new ArrayDeque<>();

    /** What was asked for while something was being taken back or done again. */
    private final Deque<Runnable> asked = new ArrayDeque<>();

    private boolean underWay;
    private long nextId;

    Ledger(Clock clock) {
        this.clock = clock;
    }

    public ObservableList<LedgerLine> lines() {
        return lines;
    }

    /** What was done last of what can be taken back now; messages, errors and saves since do not stand in the way. */
    public Optional<LedgerLine> undoable() {
        return lines.stream().filter(this::canUndo).findFirst();
    }

    /** Whether a line can be taken back now. */
    public boolean canUndo(LedgerLine line) {
        return line.state() == LedgerLine.State.STANDS
                && line.reversal()
                        .filter(reversal -> reversal.undoRefused().isEmpty())
                        .isPresent();
    }

    /** Why a line cannot be taken back, or done again; empty where it can, and for those that did nothing. */
    public Optional<String> refusal(LedgerLine line) {
        return switch (line.state()) {
            case STANDS ->
                line.reversal().isPresent()
                        ? line.reversal().flatMap(Reversal::undoRefused)
                        : Optional.of(line.why()).filter(why -> !why.isEmpty());
            case UNDER_WAY -> Optional.of("is under way");
            case TAKEN_BACK ->
                redoable.contains(line.id())
                        ? line.reversal().flatMap(Reversal::redoRefused)
                        : Optional.of("something else was done since");
            case LOST -> Optional.of(line.why());
        };
    }

    /** What was taken back last, if it can be done again now. */
    public Optional<LedgerLine> redoable() {
        return redoable.stream()
                .flatMap(id -> byId(id).stream())
                .filter(this::canRedo)
                .findFirst();
    }

    /** Whether a line that was taken back can be done again now. */
    public boolean canRedo(LedgerLine line) {
        return line.state() == LedgerLine.State.TAKEN_BACK
                && redoable.contains(line.id())
                && line.reversal()
                        .filter(reversal -> reversal.redoRefused().isEmpty())
                        .isPresent();
    }

    /** Takes back what was done last of what can be taken back. */
    public void undo() {
        oneByOne(() -> undoable().ifPresent(this::takeBack));
    }

    /** Takes back what a line tells, where it can be. */
    public void undo(LedgerLine line) {
        oneByOne(() -> byId(line.id()).filter(this::canUndo).ifPresent(this::takeBack));
    }

    /** Does again what was taken back last. */
    public void redo() {
        oneByOne(() -> redoable().ifPresent(this::doAgain));
    }

    /** Does again what a line tells, where it can be. */
    public void redo(LedgerLine line) {
        oneByOne(() -> byId(line.id()).filter(this::canRedo).ifPresent(this::doAgain));
    }

    /** Of two keys pressed one after the other, the second waits for what the first one began. */
    private void oneByOne(Runnable action) {
        asked.add(action);
        while (!underWay && !asked.isEmpty()) {
            asked.poll().run();
        }
    }

    private void takeBack(LedgerLine line) {
        Reversal reversal = line.reversal().orElseThrow();
        if (waits(reversal)) {
            return;
        }
        step(line, LedgerLine.State.TAKEN_BACK, reversal::undo, () -> {
            redoable.push(line.id());
            add(LedgerLine.Kind.DONE, reversal.undone(line.text()), List.of(), Optional.empty(), "");
        });
    }

    private void doAgain(LedgerLine line) {
        Reversal reversal = line.reversal().orElseThrow();
        if (waits(reversal)) {
            return;
        }
        step(line, LedgerLine.State.STANDS, reversal::redo, () -> {
            redoable.remove(line.id());
            add(LedgerLine.Kind.DONE, "did again: " + line.text(), List.of(), Optional.empty(), "");
        });
    }

    private boolean waits(Reversal reversal) {
        reversal.busy()
                .ifPresent(why ->
                        wrong(new PantryException(why + "; wait until that is done, or stop it, and then do this")));
        return reversal.busy().isPresent();
    }

    private void step(LedgerLine line, LedgerLine.State then, Consumer<Reversal.Outcome> step, Runnable done) {
        underWay = true;
        put(line.now(LedgerLine.State.UNDER_WAY, ""));
        Reversal.Outcome outcome = new Reversal.Outcome() {
            private boolean told;

            @Override
            public void done() {
                end(() -> {
                    put(line.now(then, ""));
                    done.run();
                });
            }

            @Override
            public void failed(PantryException problem) {
                end(() -> {
                    redoable.remove(line.id());
                    put(line.now(LedgerLine.State.LOST, problem.reason()));
                    wrong(problem);
                });
            }

            @Override
            public void stopped() {
                end(() -> put(line));
            }

            private void end(Runnable how) {
                if (!told) {
                    told = true;
                    how.run();
                    over();
                }
            }
        };
        try {
            step.accept(outcome);
        } catch (RuntimeException | Error fault) {
            // What has a fault keeps nothing else from being taken back.
            outcome.failed(new PantryException("a fault of Pantry's own: " + fault));
            throw fault;
        }
    }

    private void over() {
        underWay = false;
        oneByOne(() -> {});
    }

    /** The line of a change that an {@link EditReversal} takes back; empty where it was not written down. */
    public Optional<LedgerLine> lineOf(Object change) {
        return lines.stream()
                .filter(line -> line.reversal()
                        .filter(reversal -> reversal instanceof EditReversal edit && edit.isOf(change))
                        .isPresent())
                .findFirst();
    }

    private Optional<LedgerLine> byId(long id) {
        return lines.stream().filter(line -> line.id() == id).findFirst();
    }

    private void put(LedgerLine now) {
        for (int i = 0; i < lines.size(); i++) {
            if (lines.get(i).id() == now.id()) {
                lines.set(i, now);
                return;
            }
        }
    }

    private void add(LedgerLine.Kind kind, String text, List<String> details, Optional<Reversal> reversal, String why) {
        LocalTime now = LocalTime.now(clock.withZone(ZoneId.systemDefault()));
        lines.addFirst(new LedgerLine(nextId++, now, kind, text, details, reversal, LedgerLine.State.STANDS, why));
    }

    /** Writes down something that there is nothing to be taken back of, such as that a file was written. */
    public void told(String text) {
        add(LedgerLine.Kind.DONE, text, List.of(), Optional.empty(), "");
    }

    /** Writes down what was done; what was taken back before cannot be done again any more. */
    public void done(String text, Reversal reversal) {
        done(text, List.of(), reversal);
    }

    /** Writes down what was done together; {@code details} are the single things. */
    public void done(String text, List<String> details, Reversal reversal) {
        redoable.clear();
        add(LedgerLine.Kind.DONE, text, details, Optional.of(reversal), "");
    }

    /** Writes down what was done and cannot be taken back, and why. */
    public void doneForGood(String text, String why) {
        add(LedgerLine.Kind.DONE, text, List.of(), Optional.empty(), why);
    }

    /** Writes down what went wrong, with the name of its file and its place there. */
    public void wrong(PantryException problem) {
        String file = problem.file()
                .map(name -> name.substring(name.replace('\\', '/').lastIndexOf('/') + 1) + ": ")
                .orElse("");
        add(LedgerLine.Kind.WRONG, file + problem.reason(), List.of(), Optional.empty(), "");
    }
}
