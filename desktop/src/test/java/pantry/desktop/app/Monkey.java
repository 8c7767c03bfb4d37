package pantry.desktop.app;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import javafx.geometry.Bounds;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.IndexedCell;
import javafx.scene.control.Slider;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.robot.Robot;
import javafx.stage.Window;
import pantry.desktop.view3d.View3d;

/**
 * Does at random what a hand could do: clicks, double clicks, drags, keys and letters, on whatever is visible and
 * enabled. All methods are called on the interface's thread.
 */
final class Monkey {
    private static final KeyCode[] PLAIN = {
        KeyCode.ESCAPE,
        KeyCode.ENTER,
        KeyCode.SPACE,
        KeyCode.TAB,
        KeyCode.UP,
        KeyCode.DOWN,
        KeyCode.LEFT,
        KeyCode.RIGHT,
        KeyCode.HOME,
        KeyCode.DELETE,
        KeyCode.F,
        KeyCode.B,
        KeyCode.A,
        KeyCode.I,
        KeyCode.L,
        KeyCode.M,
        KeyCode.P,
        KeyCode.DIGIT1,
        KeyCode.DIGIT2,
        KeyCode.DIGIT3,
        KeyCode.F2
    };

    private static final KeyCode[] WITH_CONTROL = {
        KeyCode.Z,
        KeyCode.Z,
        KeyCode.Y,
        KeyCode.G,
        KeyCode.D,
        KeyCode.C,
        KeyCode.X,
        KeyCode.V,
        KeyCode.S,
        KeyCode.A,
        KeyCode.K,
        KeyCode.L,
        KeyCode.DIGIT1,
        KeyCode.DIGIT2,
        KeyCode.DIGIT3,
        KeyCode.DIGIT4,
        KeyCode.DIGIT5,
        KeyCode.ENTER,
        KeyCode.I,
        KeyCode.R,
        KeyCode.M,
        KeyCode.B
    };

    private static final KeyCode[] LETTERS = {KeyCode.M, KeyCode.A, KeyCode.S, KeyCode.T, KeyCode.SPACE, KeyCode.DIGIT7
    };

    private final Random random;
    private final Robot robot = new Robot();
    private final List<String> deeds = new ArrayList<>();

    Monkey(long seed) {
        this.random = new Random(seed);
    }

    /** What was done last, the newest behind. */
    List<String> lastDeeds() {
        return deeds.subList(Math.max(0, deeds.size() - 12), deeds.size());
    }

    /** Does one thing. */
    void act() {
        int choice = random.nextInt(100);
        if (choice < 60) {
            List<Node> nodes = reachable();
            if (!nodes.isEmpty()) {
                touch(nodes.get(random.nextInt(nodes.size())));
            }
        } else if (choice < 78) {
            key(PLAIN[random.nextInt(PLAIN.length)]);
        } else if (choice < 92) {
            KeyCode code = WITH_CONTROL[random.nextInt(WITH_CONTROL.length)];
            deeds.add("Ctrl+" + code);
            robot.keyPress(KeyCode.CONTROL);
            robot.keyType(code);
            robot.keyRelease(KeyCode.CONTROL);
        } else {
            for (int i = 0; i < 3; i++) {
                key(LETTERS[random.nextInt(LETTERS.length)]);
            }
        }
    }

    private void key(KeyCode code) {
        deeds.add(code.toString());
        robot.keyType(code);
    }

    private void touch(Node node) {
        Bounds bounds = node.localToScreen(node.getBoundsInLocal());
        Point2D at = within(bounds);
        deeds.add(node.getClass().getSimpleName() + " " + node.getId() + " at " + (int) at.getX() + ","
                + (int) at.getY());
        robot.mouseMove(at);
        boolean draggable = node instanceof View3d || node instanceof Slider || node instanceof IndexedCell<?>;
        if (draggable && random.nextInt(3) == 0) {
            robot.mousePress(MouseButton.PRIMARY);
            Point2D to = random.nextBoolean() ? within(bounds) : anywhere(node);
            for (int step = 1; step <= 4; step++) {
                robot.mouseMove(at.interpolate(to, step / 4.0));
            }
            robot.mouseRelease(MouseButton.PRIMARY);
            return;
        }
        boolean control = random.nextInt(6) == 0;
        if (control) {
            robot.keyPress(KeyCode.CONTROL);
        }
        MouseButton button = random.nextInt(8) == 0 ? MouseButton.SECONDARY : MouseButton.PRIMARY;
        for (int click = random.nextInt(5) == 0 ? 2 : 1; click > 0; click--) {
            robot.mousePress(button);
            robot.mouseRelease(button);
        }
        if (control) {
            robot.keyRelease(KeyCode.CONTROL);
        }
    }

    private Point2D within(Bounds bounds) {
        return new Point2D(
                bounds.getMinX() + bounds.getWidth() * (0.1 + 0.8 * random.nextDouble()),
                bounds.getMinY() + bounds.getHeight() * (0.1 + 0.8 * random.nextDouble()));
    }

    private Point2D anywhere(Node near) {
        Window window = near.getScene().getWindow();
        return new Point2D(
                window.getX() + window.getWidth() * random.nextDouble(),
                window.getY() + window.getHeight() * random.nextDouble());
    }

    private static List<Node> reachable() {
        List<Node> found = new ArrayList<>();
        for (Window window : List.copyOf(Window.getWindows())) {
            if (window.isShowing() && window.getScene() != null) {
                collect(window.getScene().getRoot(), window, found);
            }
        }
        return found;
    }

    private static void collect(Node node, Window window, List<Node> found) {
        if (!node.isVisible() || node.isDisabled()) {
            return;
        }
        if (isOfUse(node)) {
            Bounds bounds = node.localToScreen(node.getBoundsInLocal());
            boolean seen = bounds != null
                    && bounds.getWidth() > 2
                    && bounds.getHeight() > 2
                    && bounds.getMinX() >= window.getX()
                    && bounds.getMinY() >= window.getY()
                    && bounds.getMaxX() <= window.getX() + window.getWidth()
                    && bounds.getMaxY() <= window.getY() + window.getHeight();
            if (seen) {
                found.add(node);
            }
        }
        if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(child -> collect(child, window, found));
        }
    }

    private static boolean isOfUse(Node node) {
        return node instanceof ButtonBase
                || node instanceof ComboBoxBase<?>
                || node instanceof TextInputControl
                || node instanceof Slider
                || node instanceof View3d
                || node instanceof IndexedCell<?> cell && !cell.isEmpty()
                || node.getOnMouseClicked() != null;
    }
}
