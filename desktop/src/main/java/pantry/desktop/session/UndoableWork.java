package pantry.desktop.session;

import java.util.Objects;
import java.util.function.Consumer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;
import pantry.base.Progress;

/**
 * Work in the background that is taken back by other work, and done again as it was done first: each time with what came
 * of it the last time.
 *
 * @param <T> what comes of it
 */
public final class UndoableWork<T> {
    private final String doing;
    private final Work<T> work;
    private final Undo<T> undo;
    private final WorkRunner where;
    private Function<T, String> undone = result -> "";
    private Consumer<T> after = result -> {};
    private Consumer<T> afterUndo = result -> {};
    private Consumer<PantryException> failed = problem -> {};

    /** Takes back what came of the work. */
    public interface Undo<T> {
        void undo(T result, Progress progress);
    }

    /** @param doing what is being done, for a person */
    public UndoableWork(String doing, WorkRunner where, Work<T> work, Undo<T> undo) {
        this.doing = doing;
        this.where = where;
        this.work = work;
        this.undo = undo;
    }

    /** Says of its being taken back what it says otherwise than usually. */
    public UndoableWork<T> undone(Function<T, String> words) {
        undone = words;
        return this;
    }

    /** Does something on the interface's thread each time that it was done, and taken back. */
    public UndoableWork<T> after(Consumer<T> action) {
        after = action;
        afterUndo = action;
        return this;
    }

    /** Does something else on the interface's thread each time that it was taken back. */
    public UndoableWork<T> afterUndo(Consumer<T> action) {
        afterUndo = action;
        return this;
    }

    /** Does something on the interface's thread where it could not be done, after that was told. */
    public UndoableWork<T> failed(Consumer<PantryException> action) {
        failed = action;
        return this;
    }

    /** Does it, and writes it down in the ledger; nothing is written of what tells nothing. */
    public void start(Session session, Function<T, String> told) {
        run(session, result -> {
            String text = told.apply(result);
            if (!text.isEmpty()) {
                session.done(text, new Done(session, result));
            }
        });
    }

    /** Does it, and writes down that it cannot be taken back, and why. */
    public void startForGood(Session session, Function<T, String> told, String why) {
        run(session, result -> session.doneForGood(told.apply(result), why));
    }

    private void run(Session session, Consumer<T> tell) {
        where.run(
                doing,
                work,
                result -> {
                    tell.accept(result);
                    after.accept(result);
                },
                problem -> {
                    session.wrong(problem);
                    failed.accept(problem);
                });
    }

    /** As it is written down where it was done by other means. */
    public Reversal done(Session session, T result) {
        return new Done(session, result);
    }

    private final class Done implements Reversal {
        private final Session session;
        private @Nullable T result;

        Done(Session session, T result) {
            this.session = session;
            this.result = result;
        }

        private T result() {
            return Objects.requireNonNull(result);
        }

        @Override
        public void undo(Outcome outcome) {
            T before = result();
            run(
                    "taking back: " + doing,
                    progress -> {
                        undo.undo(before, progress);
                        return before;
                    },
                    outcome,
                    afterUndo);
        }

        @Override
        public void redo(Outcome outcome) {
            run(doing, work, outcome, after);
        }

        private void run(String what, Work<T> step, Outcome outcome, Consumer<T> then) {
            where.run(
                    what,
                    session.whenCancelled(step, outcome::stopped),
                    now -> {
                        result = now;
                        outcome.done();
                        then.accept(now);
                    },
                    problem -> {
                        outcome.failed(problem);
                        failed.accept(problem);
                    });
        }

        @Override
        public String undone(String done) {
            String words = undone.apply(result());
            return words.isEmpty() ? Reversal.super.undone(done) : "took back: " + words;
        }
    }
}
