package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.desktop.app.Waiting.ask;
import static pantry.desktop.app.Waiting.becomes;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.shown;
import static pantry.desktop.app.Waiting.until;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.base.math.Vec3;
import pantry.desktop.InWindow;
import pantry.desktop.scenes.ScenesModel;
import pantry.desktop.session.Desk;
import pantry.desktop.view3d.View3d;
import pantry.library.Asset;
import pantry.render.RenderOptions;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** The parts of Scenes one by one, with work that is done at once: slip, list, search, steps, bringing in, what is asked. */
@InWindow
class ScenesPanelsTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Parts parts;
    private ScenesModel model;
    private Asset mast;
    private Asset crate;

    @Start
    void start(Stage stage) throws Exception {
        desk = new Desk(folder);
        mast = desk.shelve("Mast", "Masts", 9);
        crate = desk.shelve("Crate", "Stores", 1);
        parts = Parts.of(desk.session());
        model = parts.scenes().model();
        Windows.show(stage, parts.frame());
        desk.open();
        parts.navigator().go(parts.scenes());
        model.create("Yard");
    }

    @AfterEach
    void close() {
        Answers.give();
        desk.close();
    }

    private SdfPath put(FxRobot robot, Asset asset, double x) {
        robot.interact(() -> model.place(asset, new Vec3(x, 0, 0)));
        return ask(() -> model.selection().single().orElseThrow().path());
    }

    private void select(FxRobot robot, SdfPath... paths) {
        robot.interact(() -> model.selectionProperty().set(new LinkedHashSet<>(List.of(paths))));
        WaitForAsyncUtils.waitForFxEvents();
    }

    private Set<SdfPath> selected() {
        return ask(() -> Set.copyOf(model.selectionProperty().get()));
    }

    private Scene scene() {
        return ask(() -> model.sceneProperty().get().orElseThrow());
    }

    private Placement placement(SdfPath path) {
        return ask(() -> scene().placements().at(path).orElseThrow());
    }

    private void enter(FxRobot robot, String field, String text) {
        click(robot, field).push(KeyCode.CONTROL, KeyCode.A).write(text).push(KeyCode.ENTER);
        WaitForAsyncUtils.waitForFxEvents();
    }

    private String ledger() {
        return ask(() -> desk.session().ledger().getFirst().text());
    }

    @Test
    void scaleIsEvenUnlessItIsToldOtherwise(FxRobot robot) {
        SdfPath path = put(robot, crate, 0);
        enter(robot, "#scale-x", "2");
        assertThat(placement(path).placing().scale()).isEqualTo(new Vec3(2, 2, 2));
        click(robot, "#scale-even");
        enter(robot, "#scale-z", "*3");
        assertThat(placement(path).placing().scale()).isEqualTo(new Vec3(2, 2, 6));
        enter(robot, "#scale-y", "0");
        assertThat(placement(path).placing().scale()).as("nothing has no size").isEqualTo(new Vec3(2, 2, 6));
    }

    @Test
    void theSlipOfSeveralShowsWhatTheyShareAndPinsAllOfThem(FxRobot robot) {
        SdfPath one = put(robot, crate, 0);
        SdfPath two = put(robot, crate, 4);
        select(robot, one, two);
        TextField x = robot.lookup("#each-0").query();
        assertThat(x.getText()).isEmpty();
        assertThat(x.getPromptText()).isEqualTo("differs");
        assertThat(robot.lookup("#each-1").queryAs(TextField.class).getText()).isEqualTo("0");
        shown(robot, "2 × Stores/crate");
        enter(robot, "#each-0", "rubbish");
        assertThat(placement(one).placing().move().x()).isZero();
        assertThat(robot.lookup("#each-0").query().getPseudoClassStates())
                .anyMatch(state -> state.getPseudoClassName().equals("wrong"));
        enter(robot, "#each-0", "30cm");
        assertThat(placement(one).placing().move().x()).isEqualTo(0.3);
        assertThat(placement(two).placing().move().x()).isEqualTo(0.3);

        robot.interact(
                () -> robot.lookup("#each-version").<ComboBox<String>>query().setValue("pinned to v001"));
        assertThat(placement(one).held()).isEqualTo(Placement.Held.PINNED);
        assertThat(placement(two).held()).isEqualTo(Placement.Held.PINNED);
        select(robot, one);
        robot.interact(() -> model.exports().replace(crate, java.util.Optional.empty()));
        select(robot, one, two);
        assertThat(robot.lookup("#each-version").<ComboBox<String>>query().getValue())
                .as("one follows, one is pinned")
                .isNull();
        SdfPath pole = put(robot, mast, 8);
        select(robot, one, pole);
        assertThat(robot.lookup("#each-version").tryQuery())
                .as("they are of two assets")
                .isEmpty();
        click(robot, "#each-proxy");
        assertThat(ask(() -> model.display().isByProxy(one) && model.display().isByProxy(pole)))
                .isTrue();
    }

    @Test
    void anAssetThatIsFoundIsPlacedByKeysAlone(FxRobot robot) {
        robot.push(KeyCode.SLASH).write("mast");
        until("it is found", () -> parts.search().items().size() == 1);
        robot.push(KeyCode.ENTER);
        becomes(parts.scenes(), () -> parts.navigator().currentProperty().get());
        robot.push(KeyCode.ENTER);
        becomes(1, () -> scene().placements().all().size());
        robot.push(KeyCode.ENTER);
        becomes(2, () -> scene().placements().all().size());
        assertThat(scene().placements().all())
                .allSatisfy(each -> assertThat(each.layer().toString()).contains("mast"));
    }

    @Test
    void whatIsSwappedIsFoundByNameAndSaysWhatWouldBeLost(FxRobot robot) {
        SdfPath one = put(robot, crate, 0);
        select(robot, one);
        assertThat(robot.lookup("#swap-go").query().isVisible()).isFalse();
        click(robot, "#swap-find").write("nothing so called");
        shown(robot, "No asset is called so.");
        click(robot, "#swap-find").push(KeyCode.CONTROL, KeyCode.A).write("masts");
        robot.push(KeyCode.DOWN);
        shown(robot, "nothing that is said of them is lost");
        assertThat(robot.lookup("#swap-go").queryAs(Button.class).getText()).isEqualTo("Swap this placement");
        // Enter means the line that has the keys, not what is selected in the view.
        robot.push(KeyCode.ENTER);
        assertThat(model.selection().insideProperty().get()).isEmpty();
        until("the mast stands there", () -> placement(one).layer().toString().contains("mast"));
        assertThat(ledger()).contains("replaced", "Mast");
        assertThat(robot.lookup("#swap-find").queryAs(TextField.class).getText())
                .isEmpty();
    }

    @Test
    void enterPressesTheButtonThatHasTheKeysAndGoesIntoWhatWasFound(FxRobot robot) {
        SdfPath one = put(robot, crate, 0);
        select(robot, one);
        robot.interact(() -> robot.lookup("#swap-find").query().requestFocus());
        robot.write("mast").push(KeyCode.ENTER).push(KeyCode.ENTER);
        until("the mast stands there", () -> placement(one).layer().toString().contains("mast"));
        assertThat(model.selection().insideProperty().get()).isEmpty();
        click(robot, "#object-search").write("crate").push(KeyCode.DOWN).push(KeyCode.ENTER);
        until("it is gone into", () -> model.selection().insideProperty().get().equals(Optional.of(one)));
    }

    @Test
    void partsHaveASlipOfTheirOwnAndTheListShowsThem(FxRobot robot) {
        SdfPath one = put(robot, crate, 0);
        put(robot, crate, 3);
        robot.interact(() -> model.selection().enter(one));
        assertThat(robot.lookup("#scene-way").query().isVisible()).isTrue();
        select(robot, one.child("Body"));
        shown(robot, "no longer shares its insides with 1 other");
        assertThat(robot.lookup("#slip-arrange").tryQuery())
                .as("pages are for objects")
                .isEmpty();
        click(robot, "#part-hide");
        shown(robot, "Body is hidden");
        assertThat(robot.lookup("#part-hide").queryAs(Button.class).getText()).isEqualTo("Show");
        assertThat(robot.lookup("#part-material").<ComboBox<Object>>query().isDisabled())
                .as("no material is on a shelf")
                .isTrue();
        click(robot, "#part-copy");
        assertThat(ask(() -> scene().placements().all().stream()
                        .allMatch(each -> scene().overrides().told(each.path()).size() == 1)))
                .isTrue();
        click(robot, "#part-drop");
        assertThat(ask(() -> scene().overrides().told(one))).isEmpty();
        assertThat(robot.lookup("#part-drop").query().isDisabled()).isTrue();
        click(robot, "#scene-out");
        assertThat(robot.lookup("#scene-way").query().isVisible()).isFalse();
        assertThat(selected()).containsExactly(one);
        assertThat(robot.lookup("#slip-arrange").tryQuery()).isPresent();
    }

    /** The plane that is cut along, as the view has it. */
    private Optional<RenderOptions.Cut> cut(FxRobot robot) {
        return ask(() -> ((View3d) robot.lookup("#scene-view").query())
                .optionsProperty()
                .get()
                .cut());
    }

    @Test
    void theCutIsDraggedInTheViewTypedInMetresAndMovesNothingElse(FxRobot robot) {
        put(robot, crate, 0);
        put(robot, crate, 8);
        double height =
                ask(() -> robot.lookup("#scene-view").query().getBoundsInLocal().getHeight());
        click(robot, "#look-cut");
        TextField place = robot.lookup("#cut-place").queryAs(TextField.class);
        until("it begins in the middle", () -> place.getText().equals("4"));
        assertThat(ask(() ->
                        robot.lookup("#scene-view").query().getBoundsInLocal().getHeight()))
                .as("the view is as large as before")
                .isEqualTo(height);
        robot.interact(() -> ((View3d) robot.lookup("#scene-view").query()).frameAll());
        robot.drag("#cut-knob").moveBy(60, 0).drop();
        double dragged = Double.parseDouble(place.getText());
        assertThat(dragged).isNotEqualTo(4);
        assertThat(cut(robot).orElseThrow().point().x()).isEqualTo(dragged);
        click(robot, "#cut-place")
                .push(KeyCode.CONTROL, KeyCode.A)
                .write("+0.5")
                .push(KeyCode.ENTER);
        assertThat(cut(robot).orElseThrow().point().x()).isCloseTo(dragged + 0.5, within(1e-9));
        click(robot, "#cut-place").push(KeyCode.CONTROL, KeyCode.A).write("far").push(KeyCode.ENTER);
        assertThat(Double.parseDouble(place.getText())).isCloseTo(dragged + 0.5, within(1e-3));
        click(robot, "#look-cut");
        assertThat(cut(robot)).isEmpty();
    }

    @Test
    void aSectionIsOpenedWhereItStandsFromTheSlipAndLeftWithEscape(FxRobot robot) {
        put(robot, crate, 0);
        put(robot, mast, 3);
        robot.interact(() -> model.selection().selectAll());
        robot.interact(() -> model.selectionProperty()
                .set(Set.of(scene().placements().all().getFirst().path())));
        robot.interact(() -> model.exports().cutSection("North"));
        SdfPath section = selected().iterator().next();
        click(robot, "#section-open");
        shown(robot, "changes that are not saved");
        robot.clickOn("Save and go on");
        until("the section is open", () -> scene().file().toString().contains("-north"));
        assertThat(robot.lookup("#scene-way").query().isVisible()).isTrue();
        shown(robot, "held by nobody");
        click(robot, "#section-hold-open");
        shown(robot, "held by you");
        click(robot, "#scene-view");
        robot.push(KeyCode.ESCAPE);
        robot.push(KeyCode.ESCAPE);
        until("the scene is open again", () -> !scene().file().toString().contains("-north"));
        until("the section is selected", () -> selected().contains(section));
        assertThat(robot.lookup("#scene-way").query().isVisible()).isFalse();
    }

    @Test
    void overridesAreSentencesInTheSlipAndAreDroppedOneByOne(FxRobot robot) {
        SdfPath one = put(robot, crate, 0);
        robot.interact(() -> model.selection().enter(one));
        select(robot, one.child("Body"));
        robot.interact(() -> model.edits().nudge(new Vec3(0, 0.8, 0)));
        robot.interact(() -> model.selection().leave());
        shown(robot, "Body moved up by 0.8 m");
        click(robot, "#overrides-drop");
        assertThat(ask(() -> scene().overrides().told(one))).isEmpty();
        assertThat(ask(() -> scene().stage().prim(one).orElseThrow().isInstance()))
                .as("it shares its insides again")
                .isTrue();
    }

    @Test
    void objectsAreFoundInTheFieldAboveTheList(FxRobot robot) {
        SdfPath one = put(robot, crate, 0);
        SdfPath two = put(robot, crate, 4);
        put(robot, mast, 8);
        click(robot, "#object-search").write("crate");
        until(
                "both are listed",
                () -> robot.lookup("#found-objects")
                                .<ListView<SdfPath>>query()
                                .getItems()
                                .size()
                        == 2);
        robot.push(KeyCode.DOWN);
        assertThat(selected()).containsExactly(one);
        robot.push(KeyCode.SHIFT, KeyCode.DOWN);
        assertThat(selected()).containsExactlyInAnyOrder(one, two);
        click(robot, "#object-search").push(KeyCode.CONTROL, KeyCode.A).write("nothing");
        shown(robot, "Nothing in the scene is called so.");
        robot.push(KeyCode.ESCAPE);
        until("all are listed", () -> robot.lookup("#scene-tree").query().isVisible());
        assertThat(selected()).as("Esc in the field selects nothing else").containsExactlyInAnyOrder(one, two);
    }

    @Test
    void stepsAreSetBelowTheView(FxRobot robot) {
        click(robot, "#snap");
        click(robot, "#snap-steps");
        enter(robot, "#snap-size", "25cm");
        assertThat(ask(() -> model.edits().inStepsProperty().get())).isTrue();
        assertThat(ask(() -> model.edits().stepSizeProperty().get())).isEqualTo(0.25);
        enter(robot, "#snap-size", "-3");
        assertThat(ask(() -> model.edits().stepSizeProperty().get())).isEqualTo(0.25);
        assertThat(ask(() -> model.edits().droppedOntoThingsProperty().get())).isTrue();
        click(robot, "#snap-dropped");
        assertThat(ask(() -> model.edits().droppedOntoThingsProperty().get())).isFalse();
        robot.push(KeyCode.ESCAPE);
        assertThat(robot.lookup("#snap").queryAs(Labeled.class).getText()).isEqualTo("Steps 0.25 m");
    }

    @Test
    void copiesAreMadeByAStepAndANumberThatIsNoneIsSaid(FxRobot robot) {
        put(robot, crate, 0);
        click(robot, "#slip-arrange");
        enter(robot, "#step-x", "0");
        select(robot, ask(() -> scene().placements().all().getFirst().path()));
        robot.interact(() -> {
            robot.lookup("#step-x").queryAs(TextField.class).setText("1.5");
            robot.lookup("#step-copies").queryAs(TextField.class).setText("3");
            robot.lookup("#step-copies-make").queryAs(Button.class).fire();
        });
        assertThat(ask(() -> scene().placements().all()))
                .extracting(each -> each.placing().move().x())
                .containsExactlyInAnyOrder(0.0, 1.5, 3.0, 4.5);
        robot.interact(() -> {
            robot.lookup("#step-copies").queryAs(TextField.class).setText("2.5");
            robot.lookup("#step-copies-make").queryAs(Button.class).fire();
        });
        assertThat(ledger()).contains("2.5", "no number of copies");
        robot.interact(() -> {
            robot.lookup("#step-copies").queryAs(TextField.class).setText("0");
            robot.lookup("#step-copies-make").queryAs(Button.class).fire();
        });
        assertThat(ledger()).contains("1 to 10000 copies");
    }

    @Test
    void whatIsPutNextToTheLastTouchesIt(FxRobot robot) {
        SdfPath one = put(robot, crate, 0);
        SdfPath two = put(robot, crate, 5);
        select(robot, one, two);
        click(robot, "#slip-arrange");
        robot.interact(
                () -> robot.lookup("#scene-next-before").queryAs(Button.class).fire());
        assertThat(placement(one).placing().move().x()).isEqualTo(4.0);
        robot.interact(
                () -> robot.lookup("#scene-next-behind").queryAs(Button.class).fire());
        assertThat(placement(one).placing().move().x()).isEqualTo(6.0);
        assertThat(placement(two).placing().move().x()).isEqualTo(5.0);
    }

    @Test
    void usesOfOneAssetAreOnePictureWhereTheyAreBroughtIn(FxRobot robot) throws Exception {
        for (int i = 0; i < 4; i++) {
            put(robot, crate, 2 * i);
        }
        put(robot, mast, 10);
        robot.interact(() -> model.keeping().save());
        Path yard = scene().file();
        robot.interact(() -> {
            model.close();
            model.create("Hall");
            parts.scenes().node().bringIn(yard);
        });
        until("it is shown", () -> parts.scenes().node().isBringing());
        assertThat(tiles(robot)).hasSize(2);
        assertThat(robot.lookup("#bring-do").queryAs(Button.class).getText()).isEqualTo("Bring in 5");
        click(robot, "#bring-none");
        assertThat(robot.lookup("#bring-do").query().isDisabled()).isTrue();
        click(robot, "#bring-uses-crate");
        assertThat(tiles(robot)).hasSize(5);
        robot.interact(() -> tiles(robot).getFirst().fire());
        assertThat(robot.lookup("#bring-do").queryAs(Button.class).getText()).isEqualTo("Bring in 1");
        click(robot, "#bring-uses-crate");
        assertThat(tiles(robot).getFirst().isIndeterminate())
                .as("some of its uses")
                .isTrue();
        click(robot, "#bring-search").write("mast");
        assertThat(tiles(robot)).hasSize(1);
        click(robot, "#bring-all");
        assertThat(robot.lookup("#bring-do").queryAs(Button.class).getText()).isEqualTo("Bring in 2");
        click(robot, "#bring-search").push(KeyCode.CONTROL, KeyCode.A).write("tower");
        shown(robot, "Nothing in the file is called so.");
        click(robot, "#bring-do");
        assertThat(ask(() -> scene().placements().all())).hasSize(2);
        assertThat(Files.exists(yard)).isTrue();
    }

    private static List<CheckBox> tiles(FxRobot robot) {
        List<CheckBox> tiles = new ArrayList<>();
        robot.lookup(".bring-tile").<CheckBox>queryAll().forEach(tiles::add);
        return tiles;
    }

    @Test
    void aSceneIsPackedFromItsMenuAndTheSlipsPagesAreFoundByTheirCommands(FxRobot robot) {
        put(robot, crate, 0);
        Path to = folder.resolve("packed.usdz");
        Answers.give(to);
        click(robot, "#scene-hand-over");
        click(robot, "Pack with all that it names…");
        until("it is written", () -> Files.exists(to));
        robot.interact(() -> parts.scenes().commands().stream()
                .filter(command -> command.name().startsWith("Lay out"))
                .findFirst()
                .orElseThrow()
                .action()
                .run());
        assertThat(robot.lookup("#slip-lay-out").queryAs(ToggleButton.class).isSelected())
                .isTrue();
        assertThat(robot.lookup("#layout-way").tryQuery().map(Node::isVisible)).contains(true);
    }

    @Test
    void leavingASceneThatIsNotSavedAsksAndSavesBeforeItGoesOn(FxRobot robot) {
        put(robot, crate, 0);
        Path yard = scene().file();
        click(robot, "#close-scene");
        shown(robot, "has changes that are not saved");
        click(robot, "Save and go on");
        until("it is closed", () -> model.sceneProperty().get().isEmpty());
        assertThat(desk.workbench().openScene(yard).placements().all()).hasSize(1);
    }
}
