package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static pantry.desktop.app.Waiting.ask;
import static pantry.desktop.app.Waiting.becomes;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.doubleClick;
import static pantry.desktop.app.Waiting.shown;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import pantry.base.Progress;
import pantry.desktop.InWindow;
import pantry.desktop.reach.Goal;
import pantry.library.Asset;
import pantry.mesh.Shapes;
import pantry.scene.Scene;
import pantry.usd.schema.TransformComponents;

/** Reach in the real window: what is behind is seen, updated but for one place, undone; a lost file is found. */
@InWindow
class ReachWorkplaceTest {
    private final WholeApplication application;
    private final Path yard;
    private Parts parts;

    ReachWorkplaceTest(@TempDir Path folder) throws IOException {
        application = WholeApplication.in(folder, "tester");
        Asset mast =
                application.shelve(WholeApplication.model("Lattice mast", Shapes.block(1, 9, 1), 0xB23A2E), "Masts");
        Asset drum = application.shelve(WholeApplication.model("Fuel drum", Shapes.block(1, 1, 1), 0x2F6B57), "Power");
        yard = application.project().resolve("yard.usda");
        Scene scene = application.workbench().createScene(yard);
        for (int i = 0; i < 3; i++) {
            scene.placements().place(mast, Optional.of("v001"), "Mast", TransformComponents.ORIGIN, Optional.empty());
        }
        scene.placements().place(drum, Optional.empty(), "Drum", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        application.library().goBack(mast, "v001", "once more", Progress.NONE);
    }

    @Start
    void start(Stage stage) {
        parts = application.show(stage);
    }

    @AfterEach
    void close() {
        application.close();
    }

    private static ListView<?> list(FxRobot robot, String id) {
        return robot.lookup(id).queryListView();
    }

    @Test
    void whatIsBehindIsUpdatedButForOnePlaceAndTakenBack(FxRobot robot) throws IOException {
        String before = Files.readString(yard);
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT5);
        shown(robot, "3 behind");
        shown(robot, "1 file, 3 things to look at");
        becomes(4, () -> list(robot, "#reach-plan").getItems().size());
        click(robot, "yard.usda");
        becomes("yard.usda", () -> robot.lookup(".title").queryAll().stream()
                .map(node -> ((Labeled) node).getText())
                .filter("yard.usda"::equals)
                .findFirst()
                .orElse(""));
        becomes(2, () -> list(robot, "#reach-column-versions").getItems().size());
        click(robot, "#reach-plan .reach-change .check-box");
        becomes(
                "Change 2 places in 1 file",
                () -> robot.lookup("#reach-carry-out").queryButton().getText());
        robot.push(KeyCode.CONTROL, KeyCode.ENTER);
        becomes(2L, () -> parts.reach().waiting().getValue());
        assertThat(Files.readString(yard)).contains("v001/data").contains("v002/data");
        click(robot, "#ledger-undo");
        becomes(3L, () -> parts.reach().waiting().getValue());
        assertThat(Files.readString(yard)).isEqualTo(before);
    }

    @Test
    void theWayGoesFromAnAssetToItsFilesAndOnToTheScene(FxRobot robot) {
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT5);
        shown(robot, "3 behind");
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.A).write("mast");
        becomes(1, () -> list(robot, "#reach-assets").getItems().size());
        robot.push(KeyCode.ENTER);
        shown(robot, "Used 3 × in 1 file");
        becomes(2, () -> list(robot, "#reach-column-versions").getItems().size());
        robot.interact(() -> {
            list(robot, "#reach-column-versions").requestFocus();
            list(robot, "#reach-column-versions").getSelectionModel().select(1);
        });
        robot.push(KeyCode.RIGHT);
        becomes(true, () -> list(robot, "#reach-column-files").isFocused());
        robot.push(KeyCode.ENTER);
        shown(robot, "3 behind");
        click(robot, "#reach-open");
        becomes(true, () -> parts.scenes().model().sceneProperty().get().isPresent());
        assertThat(ask(() -> parts.scenes().node().getScene())).isNotNull();
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT5);
        doubleClick(robot, "#reach-column-versions .list-cell");
        click(robot, "#reach-card");
        becomes(true, () -> parts.shelves().node().getScene() != null);
    }

    @Test
    void whatARetiredVersionDoesIsSeenInPicturesAndWhatScenesWeighInBoxes(FxRobot robot) {
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT5);
        shown(robot, "3 behind");
        robot.push(KeyCode.CONTROL, KeyCode.M);
        becomes(
                true,
                () -> !robot.lookup("#reach-weight .weight-tile").queryAll().isEmpty());
        shown(robot, "Fuel drum");
        robot.interact(() -> robot.lookup("#reach-weight").query().requestFocus());
        robot.push(KeyCode.RIGHT).push(KeyCode.ENTER);
        becomes(true, () -> parts.reach().model().asset().isPresent());
        becomes(
                true,
                () -> !robot.lookup("#reach-weight .weight-tile:lit").queryAll().isEmpty());
        click(robot, "#reach-view-uses");
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.A).write("drum");
        becomes(1, () -> list(robot, "#reach-assets").getItems().size());
        robot.push(KeyCode.ENTER);
        shown(robot, "Used 1 × in 1 file");
        robot.interact(() -> parts.reach().model().goalProperty().set(Goal.RETIRED));
        shown(robot, "If Fuel drum v001 were retired");
        // Rows are made anew with each plan: none is clicked while one is being made.
        becomes(false, () -> parts.reach().model().isPending());
        click(robot, "#reach-plan .reach-touched");
        shown(robot, "What differs");
        robot.push(KeyCode.ESCAPE);
        becomes(true, () -> robot.lookup("#reach-pictures").tryQuery().isEmpty());
    }
}
