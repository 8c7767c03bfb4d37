package pantry.desktop.session;

import java.util.Optional;
import pantry.base.PantryException;

/** How something that was done is taken back, and done again. Used on the interface's thread. */
public interface Reversal {
    /** What is taken back and done again at once; where either throws, it could not be. */
    static Reversal atOnce(Runnable undo, Runnable redo) {
        return new Reversal() {
            @Override
            public void undo(Outcome outcome) {
                run(undo, outcome);
            }

            @Override
            public void redo(Outcome outcome) {
                run(redo, outcome);
            }

            private static void run(Runnable step, Outcome outcome) {
                try {
                    step.run();
                } catch (PantryException problem) {
                    outcome.failed(problem);
                    return;
                }
                outcome.done();
            }
        };
    }

    /** Why it cannot be taken back now, in words after what was done; empty where it can. */
    default Optional<String> undoRefused() {
        return Optional.empty();
    }

    /** Why it cannot be done again now; empty where it can. */
    default Optional<String> redoRefused() {
        return Optional.empty();
    }

    /** Why it has to wait before it is taken back or done again; what was done before waits with it. */
    default Optional<String> busy() {
        return Optional.empty();
    }

    /** Takes it back, and tells how that ended, now or later. */
    void undo(Outcome outcome);

    /** Does again what was taken back, and tells how that ended, now or later. */
    void redo(Outcome outcome);

    /** What is told of its being taken back. */
    default String undone(String done) {
        return "took back: " + done;
    }

    /** Is told once how taking back, or doing again, ended. */
    interface Outcome {
        void done();

        void failed(PantryException problem);

        /** Somebody stopped it: all is as it was before. */
        void stopped();
    }
}
