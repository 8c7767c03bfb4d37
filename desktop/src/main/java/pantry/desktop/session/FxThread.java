package pantry.desktop.session;

import java.util.function.Consumer;
import javafx.application.Platform;

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

    /** Hands over whatever an action throws from now on; to be called on the interface's thread. */
    public static void onFailure(Consumer<Throwable> told) {
        Thread.currentThread().setUncaughtExceptionHandler((thread, failure) -> told.accept(failure));
    }

    /** Ends the application, once what the interface's thread is doing is done. */
    public static void exit() {
        Platform.exit();
    }
}
