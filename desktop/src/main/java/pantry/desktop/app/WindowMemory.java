package pantry.desktop.app;

import java.util.Optional;
import java.util.function.UnaryOperator;
import javafx.geometry.Rectangle2D;
import javafx.stage.Screen;
import javafx.stage.Stage;
import pantry.desktop.controls.Theme;
import pantry.desktop.frame.FrameView;
import pantry.workbench.Settings;

/** Shows the window as it was when it was closed last; the first time, as large as is of use on the screen. */
final class WindowMemory {
    /** Of the screen, how much a window takes that was never sized. */
    private static final double SHARE = 0.85;

    /** Beyond that, a window that was never sized gains nothing, pixels. */
    private static final double MOST_WIDTH = 1920;

    private final Stage stage;
    private final FrameView frame;

    /** What is not maximized has this size, pixels. */
    private double width;

    private double height;

    WindowMemory(Stage stage, FrameView frame) {
        this.stage = stage;
        this.frame = frame;
    }

    /** Gives the window, before it is shown, what it had; what the screen has no room for is as large as the screen. */
    void restore(Optional<Settings.WindowState> before) {
        Rectangle2D screen = Screen.getPrimary().getVisualBounds();
        width = fitting(
                before.map(Settings.WindowState::width)
                        .orElse(Math.clamp(screen.getWidth() * SHARE, PantryApp.WIDTH, MOST_WIDTH)),
                stage.getMinWidth(),
                screen.getWidth());
        height = fitting(
                before.map(Settings.WindowState::height).orElse(Math.max(screen.getHeight() * SHARE, PantryApp.HEIGHT)),
                stage.getMinHeight(),
                screen.getHeight());
        stage.setWidth(width);
        stage.setHeight(height);
        before.ifPresent(state -> {
            stage.setMaximized(state.maximized());
            Theme.setNight(stage.getScene(), state.night());
            frame.setTextSize(state.textSize());
        });
        stage.widthProperty()
                .addListener((property, old, now) -> width = stage.isMaximized() ? width : now.doubleValue());
        stage.heightProperty()
                .addListener((property, old, now) -> height = stage.isMaximized() ? height : now.doubleValue());
    }

    /** A size of a window: where it is none, the least. */
    static double fitting(double wanted, double least, double most) {
        return Math.min(Double.isFinite(wanted) ? Math.max(wanted, least) : least, most);
    }

    /** What takes down how the window is shown now. */
    UnaryOperator<Settings> state() {
        Settings.WindowState now = new Settings.WindowState(
                width, height, stage.isMaximized(), Theme.isNight(stage.getScene()), frame.textSize());
        return settings -> settings.withWindow(now);
    }
}
