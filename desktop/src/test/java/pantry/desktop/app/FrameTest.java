package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.doubleClick;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.ApplicationExtension;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.base.PantryException;
import pantry.desktop.controls.Theme;
import pantry.desktop.scenes.ScenesModel;
import pantry.desktop.session.Desk;
import pantry.desktop.shelves.ShelvesModel;

/** The frame by keyboard: search, commands, keys, ledger, night, text size, empty places. */
@ExtendWith(ApplicationExtension.class)
class FrameTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Parts parts;
    private ShelvesModel shelves;
    private ScenesModel scenes;

    @Start
    void start(Stage stage) throws Exception {
        desk = new Desk(folder);
        desk.shelve("Lattice mast", "Masts", 9, "tall");
        desk.shelve("Fuel drum", "Power", 0.9);
        parts = Parts.of(desk.session());
        shelves = parts.shelves().model();
        scenes = parts.scenes().model();
        Windows.show(stage, parts.frame());
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private static <T> T ask(Callable<T> question) {
        return WaitForAsyncUtils.waitForAsyncFx(20_000, question);
    }

    /** Opens library and project, and waits for both shelves to stand side by side. */
    private void openDesk(FxRobot robot) {
        robot.interact(desk::open);
        boolean shelvesShown = ask(() -> parts.shelves().node().getScene() != null);
        if (shelvesShown) {
            try {
                WaitForAsyncUtils.waitFor(
                        20,
                        TimeUnit.SECONDS,
                        () -> ask(() -> robot.lookup("#shelf-grid")
                                        .queryListView()
                                        .getItems()
                                        .size()
                                == 1));
            } catch (TimeoutException e) {
                throw new AssertionError("the shelves were not laid out", e);
            }
            WaitForAsyncUtils.waitForFxEvents();
        }
    }

    private static boolean shows(FxRobot robot, String text) {
        return ask(() -> robot.lookup((Node node) -> node instanceof Labeled labeled
                        && labeled.getText() != null
                        && labeled.getText().contains(text)
                        && labeled.isVisible()
                        && labeled.getScene() != null)
                .tryQuery()
                .isPresent());
    }

    @Test
    void emptyPlacesSayWhatToDoFirst(FxRobot robot) {
        assertThat(shows(robot, "No library is open")).isTrue();
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT1);
        assertThat(shows(robot, "Nothing has arrived")).isTrue();
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT3);
        assertThat(shows(robot, "Nothing is being inspected")).isTrue();
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT4);
        assertThat(shows(robot, "No project is open")).isTrue();
        openDesk(robot);
        assertThat(shows(robot, "No scene is open")).isTrue();
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT5);
        assertThat(shows(robot, "Reach is not built yet")).isTrue();
        click(robot, "Go to Scenes");
        assertThat(shows(robot, "No scene is open")).isTrue();
    }

    @Test
    void theSearchFindsAssetsFromAnywhereAndActionsByName(FxRobot robot) {
        openDesk(robot);
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT4).push(KeyCode.SLASH).write("lat");
        ListView<?> hits = robot.lookup("#hits").queryListView();
        assertThat(ask(() -> hits.isVisible() && hits.getItems().size() == 1)).isTrue();
        robot.push(KeyCode.ENTER);
        assertThat(ask(() -> shelves.selectedProperty().get().orElseThrow().name()))
                .isEqualTo("Lattice mast");
        assertThat(shows(robot, "wide") || shows(robot, "9.00")).isTrue();
        robot.push(KeyCode.SLASH).push(KeyCode.CONTROL, KeyCode.A).write("night");
        robot.push(KeyCode.ENTER);
        assertThat(ask(() -> Theme.isNight(parts.frame().getScene()))).isTrue();
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.N);
        assertThat(ask(() -> Theme.isNight(parts.frame().getScene()))).isFalse();
    }

    @Test
    void arrowKeysWalkAlongTheShelves(FxRobot robot) {
        openDesk(robot);
        click(robot, "#asset-lattice-mast").push(KeyCode.RIGHT);
        assertThat(ask(() -> shelves.selectedProperty().get().orElseThrow().name()))
                .isEqualTo("Fuel drum");
        robot.push(KeyCode.LEFT).push(KeyCode.LEFT);
        assertThat(ask(() -> shelves.selectedProperty().get().orElseThrow().name()))
                .isEqualTo("Lattice mast");
        click(robot, "tall");
        assertThat(ask(() -> shelves.search().wordsProperty().get())).isEqualTo("tag:tall");
    }

    @Test
    void keysAndLedgerOpenAndCloseOverTheWorkplace(FxRobot robot) {
        openDesk(robot);
        robot.interact(() -> {
            desk.session().wrong(new PantryException(Path.of("/a/b/mast.obj"), "is empty (0 bytes)"));
        });
        assertThat(shows(robot, "mast.obj: is empty (0 bytes)"))
                .as("the last line stands below")
                .isTrue();
        click(robot, "#asset-lattice-mast").push(KeyCode.SHIFT, KeyCode.SLASH);
        assertThat(shows(robot, "Keys in Shelves")).isTrue();
        assertThat(shows(robot, "Go to Receive")).isTrue();
        robot.push(KeyCode.ESCAPE);
        assertThat(ask(() -> robot.lookup("Keys in Shelves")
                        .tryQuery()
                        .filter(Node::isVisible)
                        .map(n -> n.getParent().getParent().isVisible())
                        .orElse(false)))
                .isFalse();
        robot.push(KeyCode.CONTROL, KeyCode.L);
        assertThat(shows(robot, "Ledger")).isTrue();
    }

    @Test
    void textIsEnlargedAndMadeSmaller(FxRobot robot) {
        openDesk(robot);
        double before = ask(
                () -> ((Labeled) robot.lookup("#libraries").query()).getFont().getSize());
        robot.push(KeyCode.CONTROL, KeyCode.EQUALS).push(KeyCode.CONTROL, KeyCode.EQUALS);
        double larger = ask(
                () -> ((Labeled) robot.lookup("#libraries").query()).getFont().getSize());
        robot.push(KeyCode.CONTROL, KeyCode.MINUS);
        double smaller = ask(
                () -> ((Labeled) robot.lookup("#libraries").query()).getFont().getSize());
        assertThat(larger).isGreaterThan(before);
        assertThat(smaller).isLessThan(larger);
    }

    @Test
    void placingWithoutASceneLeadsToScenesAndSaysWhy(FxRobot robot) {
        openDesk(robot);
        doubleClick(robot, "#asset-fuel-drum");
        assertThat(shows(robot, "no scene is open to place Fuel drum in")).isTrue();
        click(robot, "#new-scene-name").write("Yard").push(KeyCode.ENTER);
        assertThat(ask(() -> scenes.sceneProperty().get().isPresent())).isTrue();
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT2);
        doubleClick(robot, "#asset-fuel-drum");
        assertThat(ask(() -> scenes.placements().size())).isEqualTo(1);
        click(robot, "#ledger-undo");
        assertThat(ask(() -> scenes.placements().size())).isZero();
        assertThat(ask(() -> ((Labeled) robot.lookup("#scale").query()).getText()))
                .contains("0 placements");
    }
}
