package pantry.desktop.receive;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import javafx.event.ActionEvent;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Labeled;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.TreeView;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.desktop.InWindow;
import pantry.desktop.controls.Theme;
import pantry.desktop.session.Desk;
import pantry.desktop.view3d.View3d;
import pantry.exchange.ModelWriters;
import pantry.intake.Carried;
import pantry.intake.Pivot;
import pantry.intake.Slip;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.model.Facts;

/** The workplace as its users meet it: the tree with its ticks, the slip, and what is said where there is nothing. */
@InWindow
class ReceiveViewTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private ReceiveModel model;

    @Start
    void start(Stage stage) throws IOException {
        Theme.load();
        desk = new Desk(folder);
        model = new ReceiveModel(desk.session());
        desk.open();
        Scene scene = new Scene(new ReceiveView(model, desk.workbench().renderCache()), 1180, 700);
        Theme.dress(scene);
        stage.setScene(scene);
        stage.setX(0);
        stage.setY(0);
        stage.show();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private void arrive(FxRobot robot, String name, double height) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        Files.move(desk.file(file.getFileName().toString(), height), file);
        robot.interact(() -> model.add(List.of(file)));
        WaitForAsyncUtils.waitForFxEvents();
    }

    private Slip slip(int number) {
        return model.arrivals().get(number).slipProperty().get().orElseThrow();
    }

    private boolean ticked(int number) {
        return model.arrivals().get(number).tickedProperty().get();
    }

    @Test
    @SuppressWarnings("unchecked")
    void whatIsSaidForSeveralIsSaidForEachOfThem(FxRobot robot) throws IOException {
        arrive(robot, "one/a.glb", 1);
        arrive(robot, "one/b.glb", 2);
        arrive(robot, "two/c.glb", 3);
        robot.interact(() -> model.select(List.copyOf(model.arrivals())));
        ComboBox<AssetKind> kind = robot.lookup("#slip-kind").queryAs(ComboBox.class);
        robot.interact(() -> kind.setValue(AssetKind.PREFAB));
        TextField tags = robot.lookup("#slip-tags").queryAs(TextField.class);
        robot.interact(() -> {
            tags.requestFocus();
            tags.setText("tall, steel");
            tags.fireEvent(new ActionEvent());
        });
        for (int i = 0; i < 3; i++) {
            assertThat(slip(i).kind()).isEqualTo(AssetKind.PREFAB);
            assertThat(slip(i).tags()).containsExactly("tall", "steel");
        }
    }

    @Test
    void ticksAreSetForAFolderForWhatIsChosenAndForOne(FxRobot robot) throws IOException {
        arrive(robot, "one/a.glb", 1);
        arrive(robot, "one/b.glb", 2);
        arrive(robot, "two/c.glb", 3);
        robot.clickOn("#tick-one");
        assertThat(List.of(ticked(0), ticked(1), ticked(2))).containsExactly(false, false, true);
        robot.clickOn("a.glb").press(KeyCode.SHIFT).clickOn("b.glb").release(KeyCode.SHIFT);
        assertThat(model.selection()).hasSize(2);
        robot.type(KeyCode.SPACE);
        assertThat(ticked(0) && ticked(1)).isTrue();
        assertThat(((Labeled) robot.lookup("#shelve").query()).getText()).isEqualTo("Shelve 3 arrivals");
        robot.type(KeyCode.DELETE);
        assertThat(model.arrivals()).hasSize(1);
        assertThat(robot.lookup("#arrivals").queryAs(TreeView.class).getExpandedItemCount())
                .as("a folder and its file are left")
                .isEqualTo(2);
    }

    @Test
    @SuppressWarnings("unchecked")
    void whereThereAreTwoLibrariesOneIsChosenAndItsShelvesAreListed(FxRobot robot) throws IOException {
        arrive(robot, "one/a.glb", 1);
        Node into = robot.lookup("#receive-into").query();
        assertThat(into.getParent().isVisible()).as("there is no choice yet").isFalse();
        Library other = desk.workbench().createLibrary(folder.resolve("other"), "Other");
        Files.createDirectories(other.root().resolve("assets/Far shelf"));
        robot.interact(() -> desk.session().shelving().open(other.root()));
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(into.getParent().isVisible()).isTrue();
        ComboBox<Library> choice = (ComboBox<Library>) into;
        robot.interact(() -> choice.setValue(choice.getItems().getLast()));
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(model.target().map(Library::root)).contains(other.root());
        ComboBox<String> shelf = robot.lookup("#slip-shelf").queryAs(ComboBox.class);
        robot.interact(shelf::requestFocus);
        robot.type(KeyCode.DOWN);
        assertThat(shelf.isShowing()).as("Down opens what one may write in").isTrue();
        assertThat(shelf.getItems()).contains("Far shelf");
    }

    @Test
    void aSlipForSeveralChangesWhatIsChosenAndNothingElse(FxRobot robot) throws IOException {
        arrive(robot, "in/a.glb", 1);
        arrive(robot, "in/b.glb", 2);
        robot.interact(() -> {
            model.choices().change(model.arrivals().get(1), slip -> slip.withName("Bee")
                    .withTags(List.of("tall")));
            model.select(List.copyOf(model.arrivals()));
        });
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(robot.lookup("#slip-name").query().getParent().isVisible())
                .as("names are each one's own")
                .isFalse();
        assertThat(robot.lookup("#slip-tags").queryAs(TextField.class).getText())
                .as("what differs is empty")
                .isEmpty();
        robot.interact(() -> {
            ComboBox<?> shelf = robot.lookup("#slip-shelf").queryAs(ComboBox.class);
            shelf.getEditor().setText("Posts");
            shelf.getEditor().fireEvent(new javafx.event.ActionEvent());
        });
        robot.clickOn("#unit-centimetres");
        assertThat(slip(0).factor()).isEqualTo(0.01);
        assertThat(slip(1).factor()).isEqualTo(0.01);
        assertThat(slip(1).name()).isEqualTo("Bee");
        assertThat(slip(1).tags()).containsExactly("tall");
        robot.interact(() -> model.changeChosen(slip -> slip.withPivot(Pivot.BASE)));
        assertThat(List.of(slip(0).pivot(), slip(1).pivot())).containsOnly(Pivot.BASE);
    }

    @Test
    void trianglesThatAreLeftOutAreCountedAndWhatThatCostsIsMeasured(FxRobot robot) throws Exception {
        arrive(robot, "in/a.glb", 1);
        robot.interact(() -> {
            model.select(List.copyOf(model.arrivals()));
            model.changeChosen(slip -> slip.withMaking(slip.making().withShare(0.5)));
        });
        WaitForAsyncUtils.waitFor(60, TimeUnit.SECONDS, () -> robot.lookup((Node node) -> node instanceof Labeled label
                        && label.getText() != null
                        && label.getText().matches("[\\d\\s\u2009]+ → [\\d\\s\u2009]+"))
                .tryQuery()
                .isPresent());
        assertThat(robot.lookup("surface moved by at most").tryQuery()).isPresent();
        robot.interact(
                () -> model.changeChosen(slip -> slip.withMaking(slip.making().withShare(1))));
        WaitForAsyncUtils.waitFor(60, TimeUnit.SECONDS, () -> robot.lookup("surface moved by at most")
                .tryQuery()
                .isEmpty());
    }

    @Test
    void whatAFileCarriesIsShownAndCanBeKept(FxRobot robot) throws IOException {
        Path file = Files.writeString(folder.resolve("lamp.usda"), """
                #usda 1.0
                (defaultPrim = "A" metersPerUnit = 1 upAxis = "Y")
                def Xform "A" {
                    def Cube "Shade" {}
                    def SphereLight "Bulb" {}
                }
                """);
        robot.interact(() -> model.add(List.of(file)));
        WaitForAsyncUtils.waitForFxEvents();
        CheckBox keep = robot.lookup("#keep-lights").queryAs(CheckBox.class);
        assertThat(keep.getText()).isEqualTo("lights: Bulb");
        robot.interact(keep::fire);
        assertThat(slip(0).making().kept()).containsExactly(Carried.Kind.LIGHTS);
        robot.interact(() -> {
            TextField factor = robot.lookup("#slip-factor").queryAs(TextField.class);
            factor.setText("0.5");
            factor.fireEvent(new javafx.event.ActionEvent());
        });
        assertThat(slip(0).factor()).isEqualTo(0.5);
        robot.interact(() -> {
            TextField factor = robot.lookup("#slip-factor").queryAs(TextField.class);
            factor.setText("half");
            factor.fireEvent(new javafx.event.ActionEvent());
        });
        assertThat(slip(0).factor()).as("what is no number changes nothing").isEqualTo(0.5);
    }

    private static boolean isSeen(FxRobot robot, String title) {
        return robot.lookup(title).<Node>queryAll().stream().anyMatch(found -> {
            Node node = found;
            while (node != null && node.isVisible()) {
                node = node.getParent();
            }
            return node == null;
        });
    }

    /** The ball of a sky has no size, parts or pivot to choose; the board of an image has. */
    @Test
    void whatOnlyShowsASkyHasNothingToChooseAboutItsShape(FxRobot robot) throws IOException {
        Path file = folder.resolve("ridge-sky.png");
        ImageIO.write(new BufferedImage(8, 4, BufferedImage.TYPE_INT_RGB), "png", file.toFile());
        robot.interact(() -> model.add(List.of(file)));
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(List.of("Unit of its figures", "Upward axis", "Parts", "Pivot", "Collision shape", "Detail"))
                .allSatisfy(title -> assertThat(isSeen(robot, title)).as(title).isFalse());
        robot.clickOn("As an image");
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(slip(0).kind()).isEqualTo(AssetKind.IMAGE);
        assertThat(isSeen(robot, "Unit of its figures")).isTrue();
    }

    @Test
    void anEmptyListSaysWhatToDoAndAnInterruptedRoundThatItCanGoOn(FxRobot robot) throws IOException {
        assertThat(robot.lookup("Nothing has arrived").tryQuery()).isPresent();
        arrive(robot, "in/a.glb", 1);
        ReceiveModel next = new ReceiveModel(desk.session());
        robot.interact(() -> robot.window(0)
                .getScene()
                .setRoot(new ReceiveView(next, desk.workbench().renderCache())));
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(robot.lookup("1 arrival was not finished").tryQuery()).isPresent();
        robot.clickOn("Go on");
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(next.arrivals()).extracting(Arrival::name).containsExactly("a.glb");
        robot.interact(() -> next.watch().watch(Optional.of(folder)));
        assertThat(((Labeled) robot.lookup("#watch").query()).getText()).startsWith("Watching ");
    }

    @Test
    void theSlipIsFilledByKeysAlone(FxRobot robot) throws IOException {
        arrive(robot, "one/a.glb", 1);
        robot.clickOn("#slip-name");
        robot.push(KeyCode.CONTROL, KeyCode.A).write("Mast").push(KeyCode.TAB);
        WaitForAsyncUtils.waitForFxEvents();
        robot.write("Masts").push(KeyCode.TAB);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(robot.lookup("#slip-shelf").queryComboBox().getEditor().getText())
                .isEqualTo("Masts");
        assertThat(slip(0).name()).isEqualTo("Mast");
        assertThat(slip(0).shelf()).isEqualTo("Masts");
    }

    @Test
    void theKeysDoNotGoToTheNextButtonOnceNothingIsLeftToShelve(FxRobot robot) throws IOException {
        arrive(robot, "one/a.glb", 1);
        robot.clickOn("#shelve");
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(robot.lookup("#shelve").query().isDisabled()).isTrue();
        assertThat(robot.lookup("#shelve").query().getScene().getFocusOwner())
                .isSameAs(robot.lookup("#shelve").query().getParent());
    }

    @Test
    void whatMovesIsPlayedAndShelvedWithItsMotion(FxRobot robot) throws Exception {
        arrive(robot, "still.glb", 5);
        Node bar = robot.lookup(".motion-bar").query();
        assertThat(bar.isVisible()).as("a block has no motion").isFalse();
        Path file = folder.resolve("lift.glb");
        ModelWriters.write(Desk.lift(), file);
        robot.interact(() -> model.add(List.of(file)));
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, bar::isVisible);
        View3d view = robot.lookup(each -> each instanceof View3d).query();
        Slider time = robot.lookup("#play-motion-time").queryAs(Slider.class);
        assertThat(robot.lookup("#motion-choice").queryAs(ComboBox.class).getItems())
                .containsExactly("Rise", "Sink");

        robot.interact(() -> time.setValue(1));
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, () -> view.drawnProperty().get().boxes().stream()
                .anyMatch(box -> Math.abs(box.max().y() - 3) < 0.01));
        robot.interact(
                () -> robot.lookup("#motion-bones").queryAs(ToggleButton.class).fire());
        assertThat(robot.lookup(".joint").queryAll()).hasSize(1);
        robot.interact(() -> time.setValue(0));
        robot.interact(view::requestFocus);
        robot.type(KeyCode.SPACE);
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, () -> time.getValue() > 0.05);
        robot.type(KeyCode.SPACE);
        WaitForAsyncUtils.waitForFxEvents();
        double stopped = time.getValue();
        Thread.sleep(200);
        assertThat(time.getValue()).isEqualTo(stopped);

        robot.type(KeyCode.SPACE);
        robot.interact(() -> model.select(List.of(model.arrivals().getFirst())));
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, () -> !bar.isVisible());
        Thread.sleep(300);
        assertThat(view.drawnProperty().get().boxes())
                .as("nothing of what moved comes after what is shown now")
                .anyMatch(box -> Math.abs(box.max().y() - 5) < 0.01);
        robot.interact(() -> model.shelving().shelve());
        Facts facts = desk.library().find("Lift").facts("v001");
        assertThat(facts.bones()).isOne();
        assertThat(facts.motions()).extracting(Facts.MotionFact::name).containsExactly("Rise", "Sink");
        assertThat(facts.motions().getFirst().seconds()).isEqualTo(1);
        assertThat(facts.bounds().size().y()).as("measured at rest").isEqualTo(1);
    }
}
