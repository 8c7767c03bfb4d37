package pantry.desktop.session;

import java.util.Optional;
import java.util.function.Consumer;
import pantry.base.PantryException;

/**
 * Background work of one kind of which only the newest counts: the results and failures of what was begun before are dropped, and
 * what has not begun is not done. Used on the interface's thread.
 */
public final class LatestWork {
    private final BackgroundWork background;
    private volatile int begun;
    private int finished;

    public LatestWork(BackgroundWork background) {
        this.background = background;
    }

    /** Does work as {@link BackgroundWork#answer} does, unless newer work is begun meanwhile. */
    public <T> void answer(String what, Work<T> work, Consumer<T> then) {
        int number = begin();
        background.answer(
                what,
                unlessOutdated(number, work),
                result -> finish(number, result, then),
                problem -> fail(number, problem, background::wrong));
    }

    /** Does work as {@link BackgroundWork#quietly} does, unless newer work is begun meanwhile. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then) {
        quietly(what, work, then, background::wrong);
    }

    /** As above, with failures handled otherwise. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        int number = begin();
        background.quietly(
                what,
                unlessOutdated(number, work),
                result -> finish(number, result, then),
                problem -> fail(number, problem, failed));
    }

    /** What is being done is no longer wanted. */
    public void drop() {
        finished = begin();
    }

    /** Whether the newest work has no result yet. */
    public boolean isPending() {
        return finished != begun;
    }

    private int begin() {
        int number = begun + 1;
        begun = number;
        return number;
    }

    private <T> Work<Optional<T>> unlessOutdated(int number, Work<T> work) {
        return progress -> number == begun ? Optional.of(work.run(progress)) : Optional.empty();
    }

    /** What failed is over as well: whoever waits for it must not wait for ever. */
    private void fail(int number, PantryException problem, Consumer<PantryException> failed) {
        if (number == begun) {
            finished = number;
            failed.accept(problem);
        }
    }

    private <T> void finish(int number, Optional<T> result, Consumer<T> then) {
        if (number == begun) {
            finished = number;
            result.ifPresent(then);
        }
    }
}
