package pantry.desktop.session;

import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.application.Platform;
import javafx.beans.InvalidationListener;

/**
 * The one way onto the interface's thread. Background work hands results over by {@link Background#ui}, which is
 * {@link #later} in the application; what a node has to do after its layout uses it directly.
 */
public final class FxThread {
    private FxThread() {}

    /** Does something on the interface's thread after what it is doing now; callable from any thread. */
    public static void later(Runnable action) {
        Platform.runLater(action);
    }

    /**
     * What hears of changes and does something once after all those that come together, where each would do the same again.
     */
    public static InvalidationListener onceAfter(Runnable action) {
        AtomicBoolean asked = new AtomicBoolean();
        return change -> {
            if (asked.compareAndSet(false, true)) {
                later(() -> {
                    asked.set(false);
                    action.run();
                });
            }
        };
    }

    /** Hands over whatever an action throws from now on; to be called on the interface's thread. */
    public static void onFailure(Consumer<Throwable> told) {
        Thread.currentThread().setUncaughtExceptionHandler((thread, failure) -> told.accept(failure));
    }

    /**
     * Starts the toolkit, which an application that is launched later then finds started.
     *
     * @param first done on the interface's thread before anything else
     * @throws RuntimeException where there is no display
     */
    public static void startToolkit(Runnable first) {
        Platform.startup(first);
    }

    /** Ends the application, once what the interface's thread is doing is done. */
    public static void exit() {
        Platform.exit();
    }
}
