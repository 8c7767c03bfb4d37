package pantry.desktop.app;

import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.testfx.util.WaitForAsyncUtils;

/** Waits until something has come about in the window; what takes longer than a minute does not. */
final class Waiting {
    private Waiting() {}

    static void until(String what, Callable<Boolean> condition) {
        try {
            WaitForAsyncUtils.waitFor(60, TimeUnit.SECONDS, () -> WaitForAsyncUtils.asyncFx(condition)
                    .get());
        } catch (TimeoutException e) {
            throw new AssertionError("did not come about: " + what, e);
        }
        WaitForAsyncUtils.waitForFxEvents();
    }
}
