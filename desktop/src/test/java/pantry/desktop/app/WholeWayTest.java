package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.desktop.app.Waiting.ask;
import static pantry.desktop.app.Waiting.becomes;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.grasp;
import static pantry.desktop.app.Waiting.shown;
import static pantry.desktop.app.Waiting.until;
import static pantry.desktop.app.Waiting.untilDrawn;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import pantry.base.math.Vec3;
import pantry.desktop.InWindow;
import pantry.desktop.receive.Arrival;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.workplace.Workplace;
import pantry.exchange.ModelWriters;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.scene.Placement;
import pantry.usd.schema.TransformComponents;

/**
 * The steps of the main job in the real window, by mouse and keyboard: a file is received and shelved; an asset is found;
 * it is dragged into a new scene; placements are moved by figures and by hand, undone and redone; a scene is saved, closed
 * and opened again. The files are read back. Each step begins with what the steps before it leave.
 */
@InWindow
class WholeWayTest {
    @TempDir
    private Path folder;

    private WholeApplication application;
    private Parts parts;

    @Start
    void start(Stage stage) throws Exception {
        application = WholeApplication.in(folder, "tester");
        parts = application.show(stage);
    }

    @AfterEach
    void close() {
        application.close();
    }

    /** The crate on its shelf, shown. */
    private Asset shelvedCrate() {
        Asset asset = application.shelve(
                WholeApplication.model("Tall crate", Shapes.block(1, 2, 1), 0xB23A2E), "Stores/Crates");
        onInterface(() -> parts.session().refreshCatalogue(application.library()));
        until("it is on the shelf", () -> parts.search().items().size() == 1);
        return asset;
    }

    /** A new scene with three crates, the last one selected. */
    private void sceneOfCrates() {
        Asset crate = shelvedCrate();
        onInterface(() -> {
            parts.navigator().go(parts.scenes());
            parts.scenes().model().create("Yard");
        });
        until(
                "the scene is open",
                () -> parts.scenes().model().sceneProperty().get().isPresent());
        for (int i = 0; i < 3; i++) {
            Vec3 at = new Vec3(3 * i, 0, 0);
            onInterface(() -> parts.scenes().model().place(crate, at));
        }
        untilDrawn(parts);
    }

    /** Does on the interface's thread what an earlier step does by hand. */
    private static void onInterface(Runnable action) {
        ask(() -> {
            action.run();
            return true;
        });
    }

    @Test
    void aFileIsReceivedAndShelvedAndAnEmptyOneRefused(FxRobot robot) throws IOException {
        // Two metres tall, written in centimetres, which OBJ cannot say.
        Model crate = WholeApplication.model("Crate", Shapes.block(100, 200, 100), 0xB23A2E);
        ModelWriters.write(crate, folder.resolve("tall_crate.obj"));
        Files.createFile(folder.resolve("nothing.glb"));
        until("the library is open", () -> parts.session().libraries().size() == 1);
        click(robot, "#rail-Receive");
        // What a drop or the file chooser, which belong to the system, hand over.
        robot.interact(() ->
                parts.receive().model().add(List.of(folder.resolve("tall_crate.obj"), folder.resolve("nothing.glb"))));
        until("both files are listed", () -> parts.receive().model().arrivals().size() == 2);
        until("both files are read", () -> parts.receive().model().arrivals().stream()
                .allMatch(a -> a.stateProperty().get() == Arrival.State.READY
                        || a.stateProperty().get() == Arrival.State.REFUSED));
        assertThat(parts.session().ledger()).anySatisfy(line -> {
            assertThat(line.kind()).isEqualTo(LedgerLine.Kind.WRONG);
            assertThat(line.text()).startsWith("nothing.glb").contains("0 bytes");
        });
        click(robot, "#unit-centimetres");
        click(robot, "#slip-name")
                .push(KeyCode.CONTROL, KeyCode.A)
                .write("Tall crate")
                .push(KeyCode.ENTER);
        click(robot, "#slip-shelf")
                .push(KeyCode.CONTROL, KeyCode.A)
                .write("Stores/Crates")
                .push(KeyCode.ENTER);
        until("the view is drawn", () -> parts.receive().node().view().settled());
        assertThat(robot.lookup("#shelve").queryAs(Labeled.class).getText()).isEqualTo("Shelve 1 arrival");
        click(robot, "#shelve");
        until("it is shelved", () -> parts.search().items().size() == 1);
        Library library = application.workbench().openLibrary(folder.resolve("library"));
        Asset asset = library.find("Stores/Crates/Tall crate");
        assertThat(asset.facts("v001").bounds().size()).isEqualTo(new Vec3(1, 2, 1));
        assertThat(asset.preview("v001")).isNotEmptyFile();
    }

    @Test
    void anAssetIsFoundByTyping(FxRobot robot) {
        shelvedCrate();
        click(robot, "#rail-Shelves");
        robot.push(KeyCode.SLASH).write("tal");
        until(
                "it is found",
                () -> parts.search().items().size() == 1
                        && parts.search().wordsProperty().get().equals("tal"));
        robot.push(KeyCode.ENTER);
        until(
                "its card is shown",
                () -> parts.shelves().model().card().detailsProperty().get().isPresent());
        assertThat(robot.lookup("#asset-tall-crate").tryQuery()).isPresent();
        robot.push(KeyCode.SLASH).write("zzz");
        until("nothing is found", () -> parts.search().items().isEmpty());
        robot.push(KeyCode.ESCAPE);
        until("all are shown again", () -> parts.search().items().size() == 1);
    }

    @Test
    void anAssetIsDraggedIntoANewScene(FxRobot robot) {
        shelvedCrate();
        click(robot, "#rail-Scenes").clickOn("#new-scene-name").write("Yard").clickOn("#new-scene");
        untilDrawn(parts);
        Node view = robot.lookup("#scene-view").query();
        Point2D middle = ask(() -> view.localToScreen(
                view.getLayoutBounds().getCenterX(), view.getLayoutBounds().getCenterY()));
        for (double aside : new double[] {-120, 0, 120}) {
            grasp(robot, "#tray-tall-crate").moveTo(middle.add(aside / 2, 20)).dropTo(middle.add(aside, 40));
            untilDrawn(parts);
        }
        assertThat(parts.scenes().model().placements()).hasSize(3);
        robot.push(KeyCode.DELETE);
        assertThat(parts.scenes().model().placements()).hasSize(2);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(parts.scenes().model().placements()).hasSize(3);
    }

    @Test
    void aPlacementIsMovedByFiguresAndByHandAndBack(FxRobot robot) {
        sceneOfCrates();

        // By figures.
        click(robot, "#move-x").push(KeyCode.CONTROL, KeyCode.A).write("2.5").push(KeyCode.ENTER);
        click(robot, "#move-z").push(KeyCode.CONTROL, KeyCode.A).write("-1").push(KeyCode.ENTER);
        click(robot, "#turn-y").push(KeyCode.CONTROL, KeyCode.A).write("30").push(KeyCode.ENTER);
        click(robot, "#turn-y").push(KeyCode.CONTROL, KeyCode.A).write("+15").push(KeyCode.ENTER);
        click(robot, "#scale-even")
                .clickOn("#scale-y")
                .push(KeyCode.CONTROL, KeyCode.A)
                .write("1.5")
                .push(KeyCode.ENTER);
        TransformComponents typed =
                new TransformComponents(new Vec3(2.5, 0, -1), new Vec3(0, 45, 0), new Vec3(1, 1.5, 1));
        assertThat(single().placing()).isEqualTo(typed);

        // By hand: slid, raised, turned and scaled, each seen in the figures.
        robot.interact(() -> parts.scenes().node().view().frameAll());
        untilDrawn(parts);
        drag(robot, "#grip-slide", 60, 10);
        TransformComponents slid = single().placing();
        assertThat(slid.move().x()).isNotEqualTo(2.5);
        assertThat(slid.move().y()).isZero();
        assertThat(slid.turn()).isEqualTo(typed.turn());
        drag(robot, "#grip-raise", 0, -40);
        assertThat(single().placing().move().y()).isPositive();
        drag(robot, "#grip-turn", -30, 30);
        assertThat(single().placing().turn().y()).isNotEqualTo(45);
        drag(robot, "#grip-scale", -25, -8);
        TransformComponents dragged = single().placing();
        assertThat(dragged.scale().y() / dragged.scale().x()).isCloseTo(1.5, within(1e-6));
        assertThat(dragged.scale().x()).isNotEqualTo(1);

        // Back to what was typed, and forth again.
        for (int i = 0; i < 4; i++) {
            click(robot, "#undo");
        }
        assertThat(single().placing()).isEqualTo(typed);
        for (int i = 0; i < 4; i++) {
            robot.push(KeyCode.CONTROL, KeyCode.Y);
        }
        assertThat(single().placing()).isEqualTo(dragged);
    }

    private Placement single() {
        return ask(() -> parts.scenes().model().selection().single().orElseThrow());
    }

    private void drag(FxRobot robot, String grip, double x, double y) {
        robot.moveTo(grip)
                .press(MouseButton.PRIMARY)
                .moveBy(x / 2, y / 2)
                .moveBy(x / 2, y / 2)
                .release(MouseButton.PRIMARY);
        untilDrawn(parts);
    }

    @Test
    void aSceneIsSavedClosedAndOpenedAgain(FxRobot robot) {
        sceneOfCrates();
        List<Placement> before = ask(() -> List.copyOf(parts.scenes().model().placements()));
        click(robot, "#close-scene");
        assertThat(parts.scenes().model().sceneProperty().get())
                .as("it is not closed unsaved without asking")
                .isPresent();
        click(robot, "Stay").clickOn("#save-scene").clickOn("#close-scene");
        until("it is closed", () -> parts.scenes().model().sceneProperty().get().isEmpty());
        Path file = folder.resolve("project/yard.usda");
        assertThat(application.workbench().openScene(file).placements().all()).isEqualTo(before);
        assertThat(file).content().contains("@../library/assets/Stores/Crates/tall-crate/ready.usda@");
        robot.interact(() -> parts.scenes().model().open(file));
        until(
                "it is open again",
                () -> parts.scenes().model().sceneProperty().get().isPresent());
        becomes(before, () -> List.copyOf(parts.scenes().model().placements()));
    }

    @Test
    void everyWorkplaceIsReachedByItsKey(FxRobot robot) {
        int number = 1;
        for (Workplace place : parts.navigator().workplaces()) {
            robot.push(KeyCode.CONTROL, KeyCode.valueOf("DIGIT" + number++));
            assertThat(ask(() -> place.node().getScene())).isNotNull();
        }
        shown(robot, "Nothing waits");
    }
}
