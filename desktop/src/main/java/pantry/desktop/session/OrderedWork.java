package pantry.desktop.session;

import java.util.ArrayDeque;
import java.util.Queue;
import java.util.function.Consumer;
import pantry.base.PantryException;

/**
 * Background work of one kind that is done one after another, in the order in which it was asked for, such as lines
 * that are appended to a file. What fails does not hold up what follows. Used on the interface's thread.
 */
public final class OrderedWork {
    private final BackgroundWork background;
    private final Consumer<PantryException> failed;
    private final Queue<Runnable> waiting = new ArrayDeque<>();
    private boolean working;

    /** @param failed is told each failure */
    public OrderedWork(BackgroundWork background, Consumer<PantryException> failed) {
        this.background = background;
        this.failed = failed;
    }

    /** Does work as {@link BackgroundWork#quietly} does, once all that was asked for before is done. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then) {
        waiting.add(() -> background.quietly(
                what,
                work,
                result -> {
                    working = false;
                    then.accept(result);
                    next();
                },
                problem -> {
                    working = false;
                    failed.accept(problem);
                    next();
                }));
        next();
    }

    private void next() {
        if (!working && !waiting.isEmpty()) {
            working = true;
            waiting.remove().run();
        }
    }
}
