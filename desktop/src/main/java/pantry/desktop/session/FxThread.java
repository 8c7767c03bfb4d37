package pantry.desktop.session;

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

    /** Ends the application, once what the interface's thread is doing is done. */
    public static void exit() {
        Platform.exit();
    }
}
