package pantry.desktop;

import javafx.scene.input.MouseButton;
import org.testfx.api.FxRobot;
import org.testfx.robot.MouseRobot;
import org.testfx.util.WaitForAsyncUtils;

/**
 * Two clicks without a wait between, which on a busy machine can be longer than a double click may take; the robot's own
 * waits.
 */
public final class DoubleClick {
    private DoubleClick() {}

    /** Clicks twice where the mouse is. */
    public static FxRobot here(FxRobot robot) {
        MouseRobot mouse = robot.robotContext().getMouseRobot();
        for (int click = 0; click < 2; click++) {
            mouse.pressNoWait(MouseButton.PRIMARY);
            mouse.releaseNoWait(MouseButton.PRIMARY);
        }
        WaitForAsyncUtils.waitForFxEvents();
        return robot;
    }
}
