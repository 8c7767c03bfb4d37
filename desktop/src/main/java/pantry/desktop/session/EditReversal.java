package pantry.desktop.session;

import java.util.Optional;
import java.util.function.Supplier;

/**
 * A change in an editor that has a history of its own, as a part of the one history: it can be taken back as long as no
 * later change of that editor stands on it.
 */
public final class EditReversal implements Reversal {
    private final Editor editor;
    private final Object change;

    /**
     * An editor, as its changes see it.
     *
     * @param lastChange tells its last change from all others
     * @param lastUndone tells what it would do again from all others
     * @param closed says that it is no longer at hand, where that is so
     * @param busy says that it is being used, where that is so
     */
    public record Editor(
            Supplier<Optional<Object>> lastChange,
            Supplier<Optional<Object>> lastUndone,
            Supplier<Optional<String>> closed,
            Supplier<Optional<String>> busy,
            Step step) {}

    /** Takes back or does again what comes next. */
    public interface Step {
        void run(boolean back, Outcome outcome);
    }

    /** @param change as the editor tells it after it was done */
    public EditReversal(Editor editor, Object change) {
        this.editor = editor;
        this.change = change;
    }

    boolean isOf(Object other) {
        return change == other;
    }

    @Override
    public Optional<String> undoRefused() {
        return refused(editor.lastChange(), "later changes stand on it");
    }

    @Override
    public Optional<String> redoRefused() {
        return refused(editor.lastUndone(), "something else was done since");
    }

    private Optional<String> refused(Supplier<Optional<Object>> next, String otherwise) {
        return editor.closed()
                .get()
                .or(() -> next.get().filter(this::isOf).isPresent() ? Optional.empty() : Optional.of(otherwise));
    }

    @Override
    public Optional<String> busy() {
        return editor.busy().get();
    }

    @Override
    public void undo(Outcome outcome) {
        editor.step().run(true, outcome);
    }

    @Override
    public void redo(Outcome outcome) {
        editor.step().run(false, outcome);
    }
}
