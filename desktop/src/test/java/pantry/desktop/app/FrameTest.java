package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static pantry.desktop.app.Waiting.ask;
import static pantry.desktop.app.Waiting.becomes;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.doubleClick;
import static pantry.desktop.app.Waiting.shown;

import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Pane;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.base.PantryException;
import pantry.desktop.InWindow;
import pantry.desktop.controls.Theme;
import pantry.desktop.scenes.ScenesModel;
import pantry.desktop.session.Desk;
import pantry.desktop.shelves.ShelvesModel;
import pantry.workbench.Settings;

/** The frame by keyboard: search, commands, keys, ledger, night, text size, empty places. */
@InWindow
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

    @Test
    void emptyPlacesSayWhatToDoFirst(FxRobot robot) {
        shown(robot, "No library is open");
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT1);
        shown(robot, "Nothing has arrived");
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT3);
        shown(robot, "Nothing is being inspected");
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT4);
        shown(robot, "No project is open");
        openDesk(robot);
        shown(robot, "No scene stands in the open projects yet");
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT5);
        shown(robot, "Nothing waits");
    }

    @Test
    void theSearchFindsAssetsFromAnywhereAndActionsByName(FxRobot robot) {
        openDesk(robot);
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT4).push(KeyCode.SLASH).write("lattice");
        ListView<?> hits = robot.lookup("#hits").queryListView();
        becomes(true, () -> hits.isVisible() && hits.getItems().size() == 1);
        robot.push(KeyCode.ENTER);
        becomes(
                "Lattice mast",
                () -> shelves.selectedProperty().get().orElseThrow().name());
        shown(robot, "9.00");
        robot.push(KeyCode.SLASH).push(KeyCode.CONTROL, KeyCode.A).write("night");
        robot.push(KeyCode.ENTER);
        becomes(true, () -> Theme.isNight(parts.frame().getScene()));
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.N);
        becomes(false, () -> Theme.isNight(parts.frame().getScene()));
    }

    @Test
    void anActionThatIsFoundByItsNameIsDoneToWhatWasChosen(FxRobot robot) {
        openDesk(robot);
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT2);
        click(robot, "#asset-fuel-drum");
        robot.push(KeyCode.SLASH).write("prep insp");
        ListView<?> hits = robot.lookup("#hits").queryListView();
        becomes(true, () -> hits.isVisible() && !hits.getItems().isEmpty());
        becomes(true, () -> shelves.chosenProperty().get().isEmpty());
        robot.push(KeyCode.ENTER);
        becomes(true, () -> parts.prep().node().getScene() != null);
        becomes(true, () -> parts.prep().model().openedProperty().get().isPresent());
        assertThat(ask(() -> shelves.search().wordsProperty().get())).isEmpty();
        becomes(false, () -> robot.lookup("#find").query().isFocused());
    }

    @Test
    void whatStandsOnAShelfHasItsMenuByMouseAndByKey(FxRobot robot) {
        openDesk(robot);
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT2);
        robot.rightClickOn("#asset-fuel-drum");
        shown(robot, "Inspect in Prep (Ctrl+I)");
        becomes(
                "Fuel drum",
                () -> shelves.selectedProperty().get().orElseThrow().name());
        click(robot, "Make it a favourite (F)");
        becomes(true, () -> shelves.isFavourite(shelves.selectedProperty().get().orElseThrow()));
        click(robot, "#asset-lattice-mast");
        robot.push(KeyCode.SHIFT, KeyCode.F10);
        shown(robot, "Put into the trash (Delete)");
    }

    @Test
    void arrowKeysWalkAlongTheShelves(FxRobot robot) {
        openDesk(robot);
        click(robot, "#asset-lattice-mast").push(KeyCode.RIGHT);
        becomes(
                "Fuel drum",
                () -> shelves.selectedProperty().get().orElseThrow().name());
        robot.push(KeyCode.LEFT).push(KeyCode.LEFT);
        becomes(
                "Lattice mast",
                () -> shelves.selectedProperty().get().orElseThrow().name());
        click(robot, "tall");
        becomes("tag:tall", () -> shelves.search().wordsProperty().get());
    }

    @Test
    void theKeysGoFromPanelToPanelAndStayInTheWorkplace(FxRobot robot) {
        openDesk(robot);
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT2);
        assertThat(focused().getId()).isEqualTo("shelf-grid");
        robot.push(KeyCode.SHIFT, KeyCode.F6);
        assertThat(focused().getId()).isEqualTo("places");
        assertThat(focused().isFocusVisible()).isTrue();
        robot.push(KeyCode.F6).push(KeyCode.F6).push(KeyCode.F6);
        assertThat(focused().getId()).isEqualTo("places");
        robot.push(KeyCode.SLASH).write("lattice").push(KeyCode.ESCAPE);
        assertThat(focused().getId()).isEqualTo("shelf-grid");
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT1);
        assertThat(focused().getId()).isEqualTo("arrivals");
        robot.push(KeyCode.DOWN).push(KeyCode.DOWN).push(KeyCode.LEFT).push(KeyCode.RIGHT);
        assertThat(focused().getId()).isEqualTo("arrivals");
    }

    @Test
    void theKeysStayNearWhatCanNoLongerBeUsed(FxRobot robot) {
        openDesk(robot);
        Node table = robot.lookup("#as-table").query();
        robot.interact(() -> {
            table.requestFocus();
            table.setDisable(true);
        });
        becomes(true, () -> isWithin(focused(), parts.shelves().node()));
        robot.interact(() -> table.setDisable(false));
        robot.interact(() -> {
            table.requestFocus();
            ((Pane) table.getParent()).getChildren().remove(table);
        });
        becomes(true, () -> isWithin(focused(), parts.shelves().node()));
    }

    private Node focused() {
        return parts.frame().getScene().getFocusOwner();
    }

    private static boolean isWithin(Node node, Node above) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (at == above) {
                return true;
            }
        }
        return false;
    }

    @Test
    void keysAndLedgerOpenAndCloseOverTheWorkplace(FxRobot robot) {
        openDesk(robot);
        robot.interact(() -> {
            desk.session().wrong(new PantryException(Path.of("/a/b/mast.obj"), "is empty (0 bytes)"));
        });
        shown(robot, "mast.obj: is empty (0 bytes)");
        click(robot, "#asset-lattice-mast").push(KeyCode.SHIFT, KeyCode.SLASH);
        shown(robot, "Keys in Shelves");
        shown(robot, "Go to Receive");
        robot.push(KeyCode.ESCAPE);
        becomes(false, () -> robot.lookup("Keys in Shelves")
                .tryQuery()
                .filter(Node::isVisible)
                .map(n -> n.getParent().getParent().isVisible())
                .orElse(false));
        robot.push(KeyCode.CONTROL, KeyCode.L);
        shown(robot, "Ledger");
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
    void placingWithoutASceneGoesOnOnceOneIsChosen(FxRobot robot) {
        openDesk(robot);
        doubleClick(robot, "#asset-fuel-drum");
        shown(robot, "Place Fuel drum in…");
        click(robot, "#gallery-give-up");
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT2);
        doubleClick(robot, "#asset-fuel-drum");
        shown(robot, "Place Fuel drum in…");
        click(robot, "#new-scene-name").write("Yard").push(KeyCode.ENTER);
        becomes(1, () -> scenes.placements().size());
        click(robot, "#ledger-undo");
        becomes(0, () -> scenes.placements().size());
        assertThat(ask(() -> ((Labeled) robot.lookup("#scale").query()).getText()))
                .contains("0 placements");
    }

    @Test
    void theWindowIsShownAsItWasClosed(FxRobot robot) {
        Stage stage = (Stage) ask(() -> parts.frame().getScene().getWindow());
        WindowMemory memory = ask(() -> new WindowMemory(stage, parts.frame()));
        robot.interact(() -> {
            stage.setMinWidth(960);
            memory.restore(Optional.of(new Settings.WindowState(1111, 777, false, true, 500)));
        });
        becomes(1111.0, stage::getWidth);
        assertThat(ask(() -> Theme.isNight(stage.getScene()))).isTrue();
        assertThat(ask(() -> parts.frame().textSize()))
                .as("the largest there is")
                .isEqualTo(26);
        robot.interact(() -> {
            stage.setHeight(700);
            Theme.setNight(stage.getScene(), false);
            parts.frame().setTextSize(14);
        });
        assertThat(ask(() -> memory.state().apply(Settings.USUAL).window()))
                .contains(new Settings.WindowState(1111, 700, false, false, 14));
    }

    @ParameterizedTest(name = "{0} becomes {1}")
    @CsvSource({"1200,1200", "1,960", "99999,1600", "NaN,960", "-Infinity,960"})
    void aWindowNeverHasASizeThatTheScreenHasNot(double wanted, double given) {
        assertThat(WindowMemory.fitting(wanted, 960, 1600)).isEqualTo(given);
    }
}
