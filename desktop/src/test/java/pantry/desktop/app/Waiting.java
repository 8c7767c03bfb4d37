package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Objects;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Supplier;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.input.MouseButton;
import org.jspecify.annotations.Nullable;
import org.testfx.api.FxRobot;
import org.testfx.api.FxRobotInterface;
import org.testfx.util.WaitForAsyncUtils;
import pantry.desktop.DoubleClick;

/** Waits until something has come about in the window; what takes longer than some minutes does not. */
final class Waiting {
    /** Seconds: where others work on the machine as well, what takes five has taken more than sixty. */
    private static final int LONGEST = 180;

    private Waiting() {}

    /** Asks on the interface's thread. */
    static <T> T ask(Callable<T> question) {
        return WaitForAsyncUtils.waitForAsyncFx(30_000, question);
    }

    /**
     * Waits until a question has an answer: a key that was pressed has not always been heard when the robot comes back.
     * A question that cannot be asked yet is asked again.
     */
    static <T> void becomes(T expected, Callable<T> question) {
        AtomicReference<@Nullable Object> last = new AtomicReference<>();
        try {
            WaitForAsyncUtils.waitFor(60, TimeUnit.SECONDS, () -> {
                try {
                    last.set(ask(question));
                } catch (RuntimeException notYet) {
                    last.set(notYet);
                }
                return Objects.equals(expected, last.get());
            });
        } catch (TimeoutException e) {
            assertThat(last.get()).isEqualTo(expected);
        }
        WaitForAsyncUtils.waitForFxEvents();
    }

    /** Waits until a text stands somewhere in the window. */
    static void shown(FxRobot robot, String text) {
        until("“" + text + "” is shown", () -> robot.lookup((Node node) -> node instanceof Labeled labeled
                        && labeled.getText() != null
                        && labeled.getText().contains(text)
                        && labeled.isVisible()
                        && labeled.getScene() != null)
                .tryQuery()
                .isPresent());
    }

    static void until(String what, Callable<Boolean> condition) {
        try {
            WaitForAsyncUtils.waitFor(LONGEST, TimeUnit.SECONDS, () -> WaitForAsyncUtils.asyncFx(condition)
                    .get());
        } catch (TimeoutException e) {
            throw new AssertionError("did not come about: " + what, e);
        }
        WaitForAsyncUtils.waitForFxEvents();
    }

    /**
     * Waits until a scene is open, nothing runs beside the window and the scene is drawn. A picture alone is not
     * enough to wait for: that of before the change is settled too.
     */
    static void untilDrawn(Parts parts) {
        until(
                "the scene is drawn",
                () -> parts.session().background().isIdle()
                        && parts.scenes().model().sceneProperty().get().isPresent()
                        && parts.scenes().node().view().settled());
    }

    /** Waits until something is there and stands where it stood a few frames before, so that a click meets it. */
    static void untilStill(FxRobot robot, String query) {
        Bounds[] last = new Bounds[1];
        int[] same = {0};
        until(query + " stands still", () -> {
            Bounds now = robot.lookup(query)
                    .tryQuery()
                    .map(node -> node.localToScreen(node.getBoundsInLocal()))
                    .orElse(null);
            same[0] = now != null && now.equals(last[0]) ? same[0] + 1 : 0;
            last[0] = now;
            return same[0] > 5;
        });
    }

    /** Clicks on something once it is there and stands still; what is made anew meanwhile is looked for again. */
    static FxRobotInterface click(FxRobot robot, String query) {
        return meet(robot, query, () -> robot.clickOn(query));
    }

    /**
     * Clicks twice on something, as {@link #click} does once; without a wait between, which on a busy machine can be
     * longer than a double click may take.
     */
    static FxRobotInterface doubleClick(FxRobot robot, String query) {
        return meet(robot, query, () -> {
            robot.moveTo(query);
            return DoubleClick.here(robot);
        });
    }

    /** Presses the mouse on something, as {@link #click} does, and holds it. */
    static FxRobotInterface grasp(FxRobot robot, String query) {
        return meet(robot, query, () -> robot.drag(query, MouseButton.PRIMARY));
    }

    private static FxRobotInterface meet(FxRobot robot, String query, Supplier<FxRobotInterface> deed) {
        for (int attempt = 0; ; attempt++) {
            untilStill(robot, query);
            try {
                return deed.get();
            } catch (RuntimeException gone) {
                // It left the window between the look and the press, so nothing was pressed.
                if (attempt == 5) {
                    throw gone;
                }
            }
        }
    }
}
