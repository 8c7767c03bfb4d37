package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static pantry.desktop.app.Waiting.ask;
import static pantry.desktop.app.Waiting.until;
import static pantry.desktop.app.Waiting.untilDrawn;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.geometry.Bounds;
import javafx.geometry.Rectangle2D;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.SnapshotParameters;
import javafx.scene.image.PixelReader;
import javafx.scene.image.WritableImage;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.InWindow;
import pantry.desktop.prep.PrepModel;
import pantry.desktop.receive.Arrival;
import pantry.desktop.workplace.Workplace;

/**
 * Every control of every workplace, with something in each: at three sizes of the window and two of the text none is cut,
 * out of reach or under another; each has a name for a screen reader; and each stop of Tab is seen.
 */
@InWindow
class EveryControlTest {
    /** Pixels. */
    private static final double USUAL_TEXT = 13;

    private static final int MOST_LOOKS = 20;

    /** More stops than that are too many to go through. */
    private static final int MOST_STOPS = 60;

    @TempDir
    private static Path folder;

    private static WholeApplication application;

    private Parts parts;
    private Stage window;

    @BeforeAll
    static void makeDemo() {
        application = WholeApplication.ofDemo(folder);
    }

    @Start
    void start(Stage stage) {
        window = stage;
        parts = application.show(stage);
    }

    @AfterAll
    static void close() {
        application.close();
    }

    /** Something is chosen in each workplace, so that its panels are full. */
    private void fill() {
        until("the library is open", () -> parts.search().items().size() > 5);
        ask(() -> {
            parts.receive().model().add(List.of(application.arrivals()));
            parts.scenes().model().open(application.project().resolve("mast-field.usda"));
            IndexedAsset mast = parts.search().items().stream()
                    .filter(item -> item.name().equals("Lattice mast 9 m"))
                    .findFirst()
                    .orElseThrow();
            parts.shelves().model().choose(List.of(mast), Optional.of(mast));
            return true;
        });
        untilDrawn(parts);
        ask(() -> {
            Arrival ready = parts.receive().model().arrivals().stream()
                    .filter(arrival -> arrival.state() == Arrival.State.READY)
                    .findFirst()
                    .orElseThrow();
            parts.receive().model().select(List.of(ready));
            PrepModel prep = parts.prep().model();
            prep.add(List.of(ready.file()));
            parts.scenes().model().selection().selectAll();
            return true;
        });
        until(
                "all is at rest",
                () -> parts.session().background().isIdle()
                        && !parts.prep().model().busyProperty().get());
    }

    @Test
    void nothingIsCutOrOutOfReachAtAnySize(FxRobot robot) {
        fill();
        List<String> faults = new ArrayList<>();
        for (double text : new double[] {0.8 * USUAL_TEXT, USUAL_TEXT, 2 * USUAL_TEXT}) {
            for (int[] size : new int[][] {{960, 600}, {1280, 800}, {1920, 1080}}) {
                ask(() -> {
                    window.setWidth(size[0]);
                    window.setHeight(size[1]);
                    parts.frame().setTextSize(text);
                    return true;
                });
                for (Workplace workplace : parts.navigator().workplaces()) {
                    ask(() -> {
                        parts.navigator().go(workplace);
                        return true;
                    });
                    WaitForAsyncUtils.waitForFxEvents(3);
                    String where = workplace.name() + " at " + size[0] + " x " + size[1] + ", text " + text + ": ";
                    settledFaults(text).forEach(fault -> faults.add(where + fault));
                }
            }
        }
        assertThat(faults).isEmpty();
    }

    /** What is wrong once the panes have found their places, which takes them some frames. */
    private List<String> settledFaults(double text) {
        List<String> found = ask(() -> faults(text));
        for (int look = 0; look < MOST_LOOKS && !found.isEmpty(); look++) {
            WaitForAsyncUtils.waitForFxEvents(5);
            found = ask(() -> faults(text));
        }
        return found;
    }

    /** Twice the text is too much for a small window to show at once: there, things may be scrolled to. */
    private List<String> faults(double text) {
        List<String> found = new ArrayList<>(ControlFaults.of(window.getScene()));
        List<String> wide = ControlFaults.scrolled(window.getScene());
        if (text <= USUAL_TEXT) {
            found.addAll(wide);
        } else if (!wide.isEmpty()) {
            found.removeIf(fault -> fault.startsWith(ControlFaults.OUTSIDE));
        }
        return found;
    }

    @Test
    void theListOfKeysIsWholeAtAnySize(FxRobot robot) {
        List<String> faults = new ArrayList<>();
        for (double text : new double[] {USUAL_TEXT, 2 * USUAL_TEXT}) {
            ask(() -> {
                window.setWidth(960);
                window.setHeight(600);
                parts.frame().setTextSize(text);
                return true;
            });
            for (Workplace workplace : parts.navigator().workplaces()) {
                ask(() -> {
                    parts.navigator().go(workplace);
                    workplace.node().requestFocus();
                    return true;
                });
                robot.write("?");
                Parent drawer = (Parent) window.getScene().lookup("#drawer");
                until("the keys are shown", drawer::isVisible);
                assertThat(drawer.lookupAll(".figure")).isNotEmpty();
                ask(() -> ControlFaults.cut(window.getScene(), drawer))
                        .forEach(fault -> faults.add(workplace.name() + ", text " + text + ": " + fault));
                robot.type(KeyCode.ESCAPE);
            }
        }
        assertThat(faults).isEmpty();
    }

    @Test
    void everyStopOfTabIsSeenAndThereAreFew(FxRobot robot) {
        fill();
        Map<String, List<String>> unseen = new LinkedHashMap<>();
        for (Workplace workplace : parts.navigator().workplaces()) {
            ask(() -> {
                parts.navigator().go(workplace);
                workplace.node().requestFocus();
                return true;
            });
            WaitForAsyncUtils.waitForFxEvents(3);
            List<Node> stops = new ArrayList<>();
            List<String> dark = new ArrayList<>();
            WritableImage before = picture();
            while (stops.size() <= MOST_STOPS) {
                robot.push(KeyCode.TAB);
                WaitForAsyncUtils.waitForFxEvents(2);
                Node now = ask(() -> window.getScene().getFocusOwner());
                WritableImage after = picture();
                if (now == null || stops.contains(now)) {
                    break;
                }
                stops.add(now);
                if (same(ask(() -> around(now)), before, after)) {
                    dark.add(ControlFaults.name(now));
                }
                before = after;
            }
            if (stops.size() > MOST_STOPS) {
                dark.add("more than " + MOST_STOPS + " stops");
            }
            if (!dark.isEmpty()) {
                unseen.put(workplace.name(), dark);
            }
        }
        assertThat(unseen).isEmpty();
    }

    private WritableImage picture() {
        return ask(() -> window.getScene().getRoot().snapshot(new SnapshotParameters(), null));
    }

    /** Where a control stands, with what is drawn around it. */
    private static Rectangle2D around(Node node) {
        Bounds at = node.localToScene(node.getLayoutBounds());
        return new Rectangle2D(at.getMinX() - 3, at.getMinY() - 3, at.getWidth() + 6, at.getHeight() + 6);
    }

    private static boolean same(Rectangle2D at, WritableImage before, WritableImage after) {
        PixelReader one = before.getPixelReader();
        PixelReader other = after.getPixelReader();
        int maxX = (int) Math.min(at.getMaxX(), Math.min(before.getWidth(), after.getWidth()) - 1);
        int maxY = (int) Math.min(at.getMaxY(), Math.min(before.getHeight(), after.getHeight()) - 1);
        for (int y = (int) Math.max(at.getMinY(), 0); y <= maxY; y++) {
            for (int x = (int) Math.max(at.getMinX(), 0); x <= maxX; x++) {
                if (one.getArgb(x, y) != other.getArgb(x, y)) {
                    return false;
                }
            }
        }
        return true;
    }
}
