package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.desktop.app.Waiting.ask;
import static pantry.desktop.app.Waiting.becomes;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.doubleClick;
import static pantry.desktop.app.Waiting.grasp;
import static pantry.desktop.app.Waiting.until;
import static pantry.desktop.app.Waiting.untilDrawn;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.geometry.Point2D;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Labeled;
import javafx.scene.control.TreeView;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.desktop.InWindow;
import pantry.desktop.view3d.View3d;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.mesh.Shapes;
import pantry.scene.Placement;
import pantry.scene.Safekeeping;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.schema.TransformComponents;
import pantry.workbench.Workbench;

/**
 * Scenes in the real window: a solar field is built of a panel, in rows and a field, with two layouts and two lightings;
 * things are brought in from another scene; overrides are written back; things settle; it is saved, and all there again.
 */
@InWindow
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class ScenesWorkplaceTest {
    @TempDir
    private static Path folder;

    private static WholeApplication application;
    private static Workbench workbench;
    private static Library library;

    private Parts parts;

    @BeforeAll
    static void makeFiles() throws Exception {
        application = WholeApplication.in(folder, "Tove");
        workbench = application.workbench();
        library = application.library();
        application.shelve(WholeApplication.model("Solar panel", Shapes.block(1.6, 0.1, 1), 0x2E4A7A), "Stores");
        application.shelve(WholeApplication.model("Crate", Shapes.block(0.8, 0.8, 0.8), 0xB07A3C), "Stores");
        Scene other = workbench.createScene(folder.resolve("project/depot.usda"));
        Asset crate = library.find("Stores/Crate");
        for (int i = 0; i < 3; i++) {
            other.placements()
                    .place(
                            crate,
                            Optional.empty(),
                            "Crate",
                            TransformComponents.ORIGIN.withMove(new Vec3(2 * i, 0, 0)),
                            Optional.empty());
        }
        other.structure()
                .group(
                        other.placements().all().stream()
                                .map(each -> each.path())
                                .toList(),
                        "Stack");
        other.save();
    }

    @AfterAll
    static void close() {
        application.close();
    }

    @Start
    void start(Stage stage) {
        parts = application.show(stage);
    }

    private void ready(FxRobot robot) {
        until("the library is open", () -> parts.session().libraries().size() == 1);
        click(robot, "#rail-Scenes");
    }

    private void open(FxRobot robot, String name) {
        ready(robot);
        robot.interact(() -> parts.scenes().model().open(folder.resolve("project/" + name + ".usda")));
        untilDrawn(parts);
    }

    private Scene scene() {
        return ask(() -> parts.scenes().model().sceneProperty().get().orElseThrow());
    }

    private List<SdfPath> selection() {
        return ask(() -> List.copyOf(parts.scenes().model().selectionProperty().get()));
    }

    private void select(FxRobot robot, SdfPath... paths) {
        robot.interact(() -> parts.scenes().model().selectionProperty().set(new LinkedHashSet<>(List.of(paths))));
    }

    private static void type(FxRobot robot, String field, String text) {
        robot.clickOn(field).push(KeyCode.CONTROL, KeyCode.A).write(text);
    }

    private static void choose(FxRobot robot, String box, String value) {
        ComboBox<Object> combo = robot.lookup(box).queryComboBox();
        Object item = combo.getItems().stream()
                .filter(each -> each.toString().equals(value))
                .findFirst()
                .orElseThrow();
        robot.interact(() -> {
            combo.setValue(item);
            combo.fireEvent(new javafx.event.ActionEvent());
        });
    }

    private static Optional<Labeled> labelled(FxRobot robot, String id) {
        return robot.lookup(id).tryQueryAs(Labeled.class);
    }

    @Test
    @Order(1)
    void aSolarFieldIsBuiltOfOnePanelAndIsAllThereAgain(FxRobot robot) {
        ready(robot);
        click(robot, "#new-scene-name").write("Solar field").clickOn("#new-scene");
        untilDrawn(parts);
        doubleClick(robot, "#tray-solar-panel");
        SdfPath panel = selection().getFirst();

        // A row of panels, a field of rows; the row is stored once.
        click(robot, "#slip-lay-out");
        type(robot, "#layout-name", "Row");
        type(robot, "#layout-1", "6");
        type(robot, "#layout-4", "1.7");
        click(robot, "#scene-lay-out");
        assertThat(selection()).singleElement().satisfies(path -> assertThat(path.name())
                .isEqualTo("Row"));
        type(robot, "#layout-name", "Field");
        type(robot, "#layout-1", "1");
        type(robot, "#layout-3", "4");
        type(robot, "#layout-6", "2.5");
        click(robot, "#scene-lay-out");
        SdfPath field = selection().getFirst();
        assertThat(scene().model().trianglesDrawn()).isEqualTo(12 * 6 * 4);
        assertThat(scene().model().trianglesStored()).isEqualTo(12);
        assertThat(scene().placements().all()).hasSize(6);
        assertThat(panel.name()).isEqualTo("Solar_panel");

        // It is laid out otherwise, from its kept figures.
        type(robot, "#layout-3", "5");
        click(robot, "#scene-lay-again");
        assertThat(scene().model().trianglesDrawn()).isEqualTo(12 * 6 * 5);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(scene().model().trianglesDrawn()).isEqualTo(12 * 6 * 4);

        // Two layouts and two lightings.
        select(robot);
        doubleClick(robot, "#tray-crate");
        SdfPath crate = selection().getFirst();
        click(robot, "#alternates-edit");
        alternate(robot, "layout", "summer");
        select(robot, crate);
        click(robot, "#alternate-keep");
        alternate(robot, "layout", "winter");
        alternate(robot, "lighting", "day");
        alternate(robot, "lighting", "night");
        assertThat(scene().alternates().combinations()).hasSize(4);
        assertThat(scene().stage().prim(crate)).isEmpty();
        click(robot, "#alternate-layout-summer");
        assertThat(scene().stage().prim(crate)).isPresent();

        // A focus, and back to the full one by its number.
        type(robot, "#focus-name", "From above");
        robot.push(KeyCode.ENTER);
        assertThat(scene().focuses().all()).hasSize(1);
        robot.push(KeyCode.DIGIT2);
        becomes(true, () -> parts.scenes().model().display().proxiesProperty().get());
        robot.push(KeyCode.DIGIT1);
        becomes(false, () -> parts.scenes().model().display().proxiesProperty().get());

        robot.push(KeyCode.CONTROL, KeyCode.S);
        until("it is saved", () -> !parts.scenes().model().changedProperty().get());
        click(robot, "#close-scene");
        open(robot, "solar-field");
        Scene again = scene();
        assertThat(again.model().trianglesDrawn()).isEqualTo(12 * 6 * 4 + 12);
        assertThat(again.alternates().all())
                .extracting(set -> set.name() + " " + set.alternates())
                .containsExactlyInAnyOrder("layout [summer, winter]", "lighting [day, night]");
        assertThat(again.focuses().all().getFirst().name()).isEqualTo("From above");
        assertThat(again.layouts().kept(field)).isPresent();
        assertThat(again.instancing().uses(again.placements().all().getFirst().path()))
                .isIn(1L, 4L);
    }

    private void alternate(FxRobot robot, String set, String name) {
        type(robot, "#alternate-set", set);
        type(robot, "#alternate-name", name);
        click(robot, "#alternate-make");
    }

    @Test
    @Order(2)
    void anotherScenesThingsAreShownAsPicturesAndBroughtInByOneClickOnTheirSet(FxRobot robot) {
        open(robot, "solar-field");
        long before = scene().model().trianglesDrawn();
        robot.interact(() -> parts.scenes().node().bringIn(folder.resolve("project/depot.usda")));
        until("it is read", () -> robot.lookup("#bring-do").tryQuery().isPresent());
        assertThat(labelled(robot, "#bring-do").orElseThrow().getText()).isEqualTo("Bring in 3");
        click(robot, "#bring-group");
        click(robot, "#bring-set-stack");
        becomes(true, () -> robot.lookup("#bring-do").queryButton().isDisabled());
        click(robot, "#bring-set-stack");
        assertThat(ask(() -> parts.session().weightAfterProperty().get())).isPresent();
        type(robot, "#bring-name", "Depot");
        type(robot, "#bring-drawer", "Stores");
        choose(robot, "#bring-target", "with its middle at the origin");
        click(robot, "#bring-do");
        untilDrawn(parts);
        SdfPath depot = selection().getFirst();
        assertThat(depot.name()).isEqualTo("Depot");
        assertThat(scene().model().trianglesDrawn()).isEqualTo(before + 3 * 12);
        assertThat(scene().arranging().box(depot).centre().x()).isCloseTo(0, within(1e-6));
        assertThat(scene().drawers().all()).singleElement().satisfies(drawer -> assertThat(drawer.members())
                .containsExactly(depot));

        // Once more under the same name: the table asks.
        robot.interact(() -> parts.scenes().node().bringIn(folder.resolve("project/depot.usda")));
        until("it is read", () -> robot.lookup("#bring-name").tryQuery().isPresent());
        type(robot, "#bring-name", "Depot");
        choose(robot, "#clash-depot", "into the scene's");
        click(robot, "#bring-do");
        untilDrawn(parts);
        assertThat(selection()).containsExactly(depot);
        assertThat(scene().layer().prim(depot).orElseThrow().childNames()).hasSize(6);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(scene().layer().prim(depot).orElseThrow().childNames()).hasSize(3);

        // Its drawer is hidden and locked.
        robot.interact(() ->
                parts.scenes().model().drawers().set("Stores", new pantry.scene.Drawers.State(true, true, false)));
        untilDrawn(parts);
        assertThat(ask(() ->
                        parts.scenes().model().shownProperty().get().drawn().boundsBelow(depot.toString())))
                .satisfies(box -> assertThat(box.isEmpty()).isTrue());
        robot.push(KeyCode.DELETE);
        assertThat(ask(() -> parts.session().ledger().getFirst().text())).contains("locked");
        click(robot, "#save-scene");
    }

    @Test
    @Order(3)
    void overridesAreSeenAndWrittenBackAsTheNextVersion(FxRobot robot) {
        ready(robot);
        click(robot, "#new-scene-name").write("Yard").clickOn("#new-scene");
        untilDrawn(parts);
        doubleClick(robot, "#tray-crate");
        SdfPath crate = selection().getFirst();
        robot.interact(() -> {
            scene().overrides()
                    .set(crate.child("Body").property("userProperties:stencil"), "string", new Value.Text("Depot 4"));
            parts.scenes().model().selectionProperty().set(Set.of());
            parts.scenes().model().selectionProperty().set(Set.of(crate));
        });
        until("it is listed", () -> robot.lookup("#write-back").tryQuery().isPresent());
        type(robot, "#write-back-note", "Stencilled");
        click(robot, "#write-back");
        until(
                "the version is there",
                () -> library.find("Stores/Crate").versions().size() == 2);
        until("the scene follows", () -> scene().overrides().of(crate).isEmpty());
        Asset asset = library.find("Stores/Crate");
        assertThat(asset.ready()).contains("v002");
        assertThat(scene().stage()
                        .prim(crate)
                        .flatMap(prim -> prim.prototype().orElse(prim).child("Body"))
                        .flatMap(body -> body.value("userProperties:stencil")))
                .contains(new Value.Text("Depot 4"));

        // Pinned to the first version again.
        choose(robot, "#placement-version", "pinned to v001");
        assertThat(scene().placements().at(crate).orElseThrow().version()).isEqualTo("v001");
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(scene().placements().at(crate).orElseThrow().version()).isEmpty();
    }

    @Test
    @Order(4)
    void thingsFallUntilTheyRestAndStepsAreDoneAgain(FxRobot robot) {
        ready(robot);
        click(robot, "#new-scene-name").write("Heap").clickOn("#new-scene");
        untilDrawn(parts);
        doubleClick(robot, "#tray-crate");
        SdfPath low = selection().getFirst();
        doubleClick(robot, "#tray-crate");
        SdfPath high = selection().getFirst();
        assertThat(high).isNotEqualTo(low);
        robot.interact(() -> parts.scenes()
                .model()
                .edits()
                .move(high, scene().placements().at(low).orElseThrow().placing()));
        click(robot, "#slip-arrange");
        type(robot, "#step-y", "3");
        click(robot, "#step-do").clickOn("#step-again");
        assertThat(scene().placements().at(high).orElseThrow().placing().move().y())
                .isCloseTo(6, within(1e-9));
        click(robot, "#scene-settle");
        until(
                "it rests",
                () -> scene().placements()
                                .at(high)
                                .orElseThrow()
                                .placing()
                                .move()
                                .y()
                        < 1);
        assertThat(scene().arranging().box(high).min().y()).isCloseTo(0.8, within(0.005));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(scene().placements().at(high).orElseThrow().placing().move().y())
                .isCloseTo(6, within(1e-6));

        // An anchor with a mark; both are hung on it in the tree's manner, and it is cut out as a section.
        select(robot);
        robot.interact(() -> parts.scenes().model().edits().anchor("Pole", pantry.scene.Anchors.Mark.USUAL, Vec3.ZERO));
        SdfPath pole = selection().getFirst();
        robot.interact(() -> parts.scenes().model().edits().hang(List.of(low, high), pole));
        TreeView<SdfPath> tree = robot.lookup("#scene-tree").query();
        becomes(2, () -> tree.getRoot().getChildren().getFirst().getChildren().size());
        select(robot, pole);
        click(robot, "#slip-hand-on");
        type(robot, "#section-name", "North");
        click(robot, "#section-cut");
        assertThat(folder.resolve("project/heap-north.usda")).isRegularFile();
        assertThat(scene().placements().all()).hasSize(1);
        click(robot, "#section-join");
        assertThat(scene().placements().all()).hasSize(2);
    }

    @Test
    @Order(5)
    void whatAnotherChangedAndWhatACrashLeftIsAskedAbout(FxRobot robot) throws Exception {
        open(robot, "solar-field");
        robot.interact(() -> parts.scenes().model().place(library.find("Stores/Crate"), new Vec3(9, 0, 9)));
        Scene mine = scene();
        Scene theirs = workbench.openScene(mine.file());
        theirs.placements()
                .place(
                        library.find("Stores/Crate"),
                        Optional.empty(),
                        "Theirs",
                        TransformComponents.ORIGIN,
                        Optional.empty());
        theirs.saveOver();
        Files.setLastModifiedTime(
                mine.file(), java.nio.file.attribute.FileTime.from(java.time.Instant.parse("2031-01-01T00:00:00Z")));
        robot.push(KeyCode.CONTROL, KeyCode.S);
        until("it is noticed", () -> robot.lookup("#trouble-over").tryQuery().isPresent());
        click(robot, "#trouble-differs");
        assertThat(labelled(robot, "#trouble-words").orElseThrow().getText()).contains("Theirs (only in the file)");
        click(robot, "#trouble-over");
        becomes(false, () -> parts.scenes().model().changedProperty().get());
        assertThat(Safekeeping.before(mine.file())).isNotEmpty();

        robot.interact(() -> parts.scenes().model().place(library.find("Stores/Crate"), new Vec3(-9, 0, 9)));
        int count = ask(() -> parts.scenes().model().placements().size());
        mine.autosave();
        robot.interact(() -> {
            // As if Pantry had ended here: the model is made anew.
            parts.scenes().model().open(mine.file());
        });
        until("it is offered", () -> robot.lookup("#trouble-take").tryQuery().isPresent());
        click(robot, "#trouble-take");
        becomes(count, () -> parts.scenes().model().placements().size());
    }

    @Test
    @Order(6)
    void aFileIsReferredToWhereOneClicksAndThingsAreDraggedOntoIt(FxRobot robot) {
        ready(robot);
        click(robot, "#new-scene-name").write("Terrace").clickOn("#new-scene");
        untilDrawn(parts);
        Answers.give(folder.resolve("project/depot.usda"));
        click(robot, "#bring-in");
        until("it is read", () -> robot.lookup("#bring-do").tryQuery().isPresent());
        choose(robot, "#bring-target", "standing on a point to be clicked");
        click(robot, "#bring-refer");
        until("a point is asked for", () -> robot.lookup("#asked-point").query().isVisible());
        robot.push(KeyCode.ESCAPE);
        click(robot, "#bring-refer");
        click(robot, "#scene-view");
        untilDrawn(parts);
        SdfPath depot = selection().getFirst();
        assertThat(scene().placements().at(depot).orElseThrow().held()).isEqualTo(Placement.Held.FILE);
        assertThat(scene().placements().all()).hasSize(1);
        Box3 crates = scene().arranging().box(depot);
        assertThat(crates.min().y()).isCloseTo(0, within(1e-6));

        // What changes in the file changes here.
        Scene other = workbench.openScene(folder.resolve("project/depot.usda"));
        other.placements()
                .place(
                        library.find("Stores/Crate"),
                        Optional.empty(),
                        "More",
                        TransformComponents.ORIGIN.withMove(new Vec3(0, 0, 3)),
                        Optional.empty());
        other.save();
        robot.interact(() -> scene().reload());
        assertThat(scene().arranging().box(depot).size().z())
                .isCloseTo(crates.size().z() + 3, within(1e-6));

        // A crate is slid over the others: it comes to stand on the one that is under the mouse.
        doubleClick(robot, "#tray-crate");
        SdfPath crate = selection().getFirst();
        robot.interact(() -> {
            parts.scenes().model().edits().ontoThingsProperty().set(true);
            parts.scenes().node().view().frameAll();
        });
        untilDrawn(parts);
        View3d view = parts.scenes().node().view();
        Vec3 top = new Vec3(
                crates.min().x() + 0.4, crates.max().y(), crates.centre().z());
        Point2D target = ask(() -> {
            Vec3 seen = view.project(top);
            return view.localToScreen(seen.x(), seen.y());
        });
        grasp(robot, "#grip-slide").moveTo(target.add(5, 5)).dropTo(target);
        TransformComponents stands =
                scene().placements().at(crate).orElseThrow().placing();
        assertThat(stands.move().y()).isCloseTo(crates.max().y(), within(1e-3));
        assertThat(stands.move().minus(top).length()).isLessThan(0.1);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(scene().placements().at(crate).orElseThrow().placing().move().y())
                .isZero();
        robot.interact(() -> parts.scenes().model().edits().ontoThingsProperty().set(false));
    }
}
