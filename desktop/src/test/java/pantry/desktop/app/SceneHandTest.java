package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.desktop.app.Waiting.ask;
import static pantry.desktop.app.Waiting.becomes;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.until;
import static pantry.desktop.app.Waiting.untilDrawn;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.DoubleClick;
import pantry.desktop.InWindow;
import pantry.desktop.scenes.ScenesModel;
import pantry.desktop.view3d.View3d;
import pantry.library.Asset;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.render.Camera;
import pantry.scene.OverrideSentence;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/**
 * What a scene builder's hand does in the view, the list and the slip: doors of huts are moved in place, copied and written
 * back; posts are chosen by a band, by their asset and by a search, and swapped; a path is drawn and bent.
 */
@InWindow
class SceneHandTest {
    @TempDir
    private Path folder;

    private WholeApplication application;
    private Parts parts;
    private Asset hut;
    private Asset post;
    private Asset flag;

    @Start
    void start(Stage stage) throws Exception {
        application = WholeApplication.in(folder, "Tove");
        hut = application.shelve(hut(), "Living");
        post = application.shelve(WholeApplication.model("Post", Shapes.block(0.4, 2, 0.4), 0xB07A3C), "Ways");
        flag = application.shelve(WholeApplication.model("Flag", Shapes.block(0.3, 3, 0.3), 0xB23A2E), "Ways");
        parts = application.show(stage);
    }

    @AfterEach
    void close() {
        application.close();
    }

    /** A hut of 4 × 3 × 3 m with a door before its front. */
    private static Model hut() {
        Material wall = Material.plain("Wall", Colour.ofDisplay(0xB23A2E), 0, 0.5);
        Material wood = Material.plain("Wood", Colour.ofDisplay(0x8A5A2B), 0, 0.8);
        Model.Node door = Model.Node.of(
                "Door",
                Matrix4.translation(new Vec3(0, 0, 1.7)),
                List.of(new Model.Part(Shapes.block(1, 2, 0.2), wood)),
                List.of());
        Model.Node walls = Model.Node.of(
                "Walls", Matrix4.IDENTITY, List.of(new Model.Part(Shapes.block(4, 3, 3), wall)), List.of());
        return new Model(
                "Hut",
                List.of(Model.Node.of("Hut", Matrix4.IDENTITY, List.of(), List.of(walls, door))),
                Model.Extras.NONE);
    }

    private ScenesModel model() {
        return parts.scenes().model();
    }

    private Scene scene() {
        return ask(() -> model().sceneProperty().get().orElseThrow());
    }

    private View3d view() {
        return parts.scenes().node().view();
    }

    /** A new scene with an asset at some places along x, seen from the front. */
    private List<SdfPath> stand(FxRobot robot, Asset asset, double... places) {
        until("the library is open", () -> parts.session().libraries().size() == 1);
        click(robot, "#rail-Scenes");
        robot.interact(() -> model().create("Yard"));
        until("it is open", () -> model().sceneProperty().get().isPresent());
        List<SdfPath> paths = new ArrayList<>();
        for (double x : places) {
            paths.add(ask(() -> {
                model().place(asset, new Vec3(x, 0, 0));
                return model().selection().single().orElseThrow().path();
            }));
        }
        untilDrawn(parts);
        robot.interact(() -> {
            model().selectionProperty().set(Set.of());
            view().cameraProperty().set(Camera.START.from(0, 20));
            view().frameAll();
        });
        untilDrawn(parts);
        return paths;
    }

    private void select(FxRobot robot, SdfPath... paths) {
        robot.interact(() -> model().selectionProperty().set(new LinkedHashSet<>(List.of(paths))));
    }

    private Set<SdfPath> selected() {
        return ask(() -> Set.copyOf(model().selectionProperty().get()));
    }

    private Point2D onScreen(Vec3 world) {
        return ask(() -> {
            Vec3 at = view().project(world);
            return view().localToScreen(at.x(), at.y());
        });
    }

    private void doubleClick(FxRobot robot, Vec3 at) {
        robot.moveTo(onScreen(at));
        DoubleClick.here(robot);
        untilDrawn(parts);
    }

    private List<String> sentences(SdfPath placement) {
        return ask(() -> scene().overrides().told(placement).stream()
                .map(OverrideSentence::sentence)
                .toList());
    }

    @Test
    void aDoorIsMovedInPlaceCopiedToTheOthersWrittenBackAndAllIsUndone(FxRobot robot) {
        List<SdfPath> huts = stand(robot, hut, 0, 8, 16);
        doubleClick(robot, new Vec3(8, 2.6, 1.5));
        becomes(huts.get(1), () -> model().selection().way().getFirst());
        assertThat(robot.lookup("#scene-way").query().isVisible()).isTrue();
        robot.clickOn(onScreen(new Vec3(8, 1, 1.8)));
        becomes("Door", () -> model().selection().onePart().orElseThrow().name());
        assertThat(robot.lookup("#part-cost").queryAs(Labeled.class).getText()).contains("2 others");

        click(robot, "#move-y").push(KeyCode.CONTROL, KeyCode.A).write("+0.5").push(KeyCode.ENTER);
        becomes(List.of("Door moved up by 0.5 m"), () -> sentences(huts.get(1)));
        assertThat(sentences(huts.get(0))).isEmpty();
        click(robot, "#part-copy");
        becomes(List.of("Door moved up by 0.5 m"), () -> sentences(huts.get(2)));
        assertThat(sentences(huts.get(0))).containsExactly("Door moved up by 0.5 m");

        // In the one that is gone into, it is hidden as well, and dropped again.
        robot.push(KeyCode.ESCAPE);
        becomes(List.of(), () -> model().selection().way());
        becomes(Set.of(huts.get(1)), this::selected);
        click(robot, "#write-back-note").write("a step before the door");
        click(robot, "#write-back");
        until(
                "it is published",
                () -> application.library().find("Living/Hut").versions().size() == 2);
        becomes(List.of(), () -> sentences(huts.get(1)));
        assertThat(sentences(huts.get(0))).as("the others still say it").hasSize(1);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        becomes(List.of("Door moved up by 0.5 m"), () -> sentences(huts.get(1)));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        becomes(List.of(), () -> sentences(huts.get(2)));
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        becomes(List.of(), () -> sentences(huts.get(1)));
    }

    @Test
    void postsAreChosenByABandByTheirAssetAndASearchAndSwapped(FxRobot robot) {
        List<SdfPath> posts = stand(robot, post, 0, 3, 6, 9);
        SdfPath pole = ask(() -> {
            model().place(flag, new Vec3(4.5, 0, -3));
            return model().selection().single().orElseThrow().path();
        });
        select(robot);
        untilDrawn(parts);
        Point2D from = onScreen(new Vec3(2, 2.8, 0));
        Point2D to = onScreen(new Vec3(7, -0.6, 0));
        robot.press(KeyCode.CONTROL)
                .moveTo(from)
                .press(MouseButton.PRIMARY)
                .moveTo(from.midpoint(to))
                .moveTo(to)
                .release(MouseButton.PRIMARY)
                .release(KeyCode.CONTROL);
        until("the band has chosen", () -> selected().containsAll(List.of(posts.get(1), posts.get(2))));
        assertThat(selected()).doesNotContain(posts.get(0), posts.get(3));

        select(robot, posts.getFirst());
        robot.interact(() -> view().requestFocus());
        robot.push(KeyCode.SHIFT, KeyCode.S);
        becomes(Set.copyOf(posts), this::selected);
        robot.push(KeyCode.CONTROL, KeyCode.I);
        becomes(Set.of(pole), this::selected);
        robot.push(KeyCode.CONTROL, KeyCode.A);
        becomes(5, () -> selected().size());

        click(robot, "#object-search").write("post").push(KeyCode.ENTER);
        becomes(Set.copyOf(posts), this::selected);
        until("the slip is of four", () -> robot.lookup("#each-0").tryQuery().isPresent());
        assertThat(robot.lookup("#each-0").queryAs(TextField.class).getPromptText())
                .isEqualTo("differs");
        click(robot, "#each-2").push(KeyCode.CONTROL, KeyCode.A).write("+2").push(KeyCode.ENTER);
        becomes(List.of(2.0, 2.0, 2.0, 2.0), () -> posts.stream()
                .map(path -> scene().placements()
                        .at(path)
                        .orElseThrow()
                        .placing()
                        .move()
                        .z())
                .toList());

        click(robot, "#swap-find").write("flag");
        robot.push(KeyCode.DOWN);
        until(
                "it says what would be lost",
                () -> robot.lookup("#swap-go").query().isVisible()
                        && !robot.lookup("#swap-go").query().isDisabled());
        click(robot, "#swap-go");
        until("all are flags", () -> scene().placements().all().stream()
                .allMatch(each -> each.layer().startsWith(flag.folder())));
        assertThat(scene().placements().all()).hasSize(5);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        until(
                "they are posts again",
                () -> scene().placements().all().stream()
                                .filter(each -> each.layer().startsWith(post.folder()))
                                .count()
                        == 4);
        click(robot, "#object-search").push(KeyCode.ESCAPE);
        until("all are listed again", () -> robot.lookup("#scene-tree").query().isVisible());
    }

    @Test
    void aPathIsDrawnFromAPostOnBentAndLaidOut(FxRobot robot) {
        SdfPath first = stand(robot, post, 0).getFirst();
        robot.interact(() -> {
            view().cameraProperty().set(Camera.START.from(0, 60));
            view().frame(new pantry.base.math.Box3(new Vec3(-4, 0, -4), new Vec3(12, 1, 8)));
        });
        select(robot, first);
        click(robot, "#slip-lay-out");
        robot.interact(() -> robot.lookup("#layout-way")
                .<javafx.scene.control.ComboBox<String>>query()
                .setValue("along a drawn path"));
        click(robot, "#layout-draw");
        robot.clickOn(onScreen(new Vec3(4, 0, 0)));
        robot.clickOn(onScreen(new Vec3(8, 0, 0)));
        click(robot, "#layout-draw");
        until(
                "its points are seen",
                () -> robot.lookup("#path-point-3").tryQuery().isPresent());
        Point2D middle = onScreen(new Vec3(4, 0, 0));
        Point2D aside = onScreen(new Vec3(4, 0, 4));
        robot.moveTo("#path-point-2")
                .press(MouseButton.PRIMARY)
                .moveTo(middle.midpoint(aside))
                .moveTo(aside)
                .release(MouseButton.PRIMARY);
        click(robot, "#layout-1").push(KeyCode.CONTROL, KeyCode.A).write("3");
        click(robot, "#scene-lay-out");
        becomes(3, () -> scene().placements().all().size());
        List<Vec3> stands = ask(() -> scene().placements().all().stream()
                .map(each -> scene().world(each.path()).orElseThrow().translationPart())
                .toList());
        assertThat(stands.get(0).length()).as("the first stays").isLessThan(0.3);
        assertThat(stands.get(1).minus(new Vec3(4, 0, 4)).length())
                .as("where the path was bent to")
                .isLessThan(0.3);
        assertThat(stands.get(2).minus(new Vec3(8, 0, 0)).length()).isLessThan(0.3);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        becomes(1, () -> scene().placements().all().size());
    }

    @Test
    void whatIsDroppedStandsOnWhatIsUnderTheMouseAndItsBoxIsSeenBefore(FxRobot robot) {
        stand(robot, hut, 0);
        robot.interact(
                () -> view().cameraProperty().set(view().cameraProperty().get().from(0, 60)));
        untilDrawn(parts);
        Point2D roof = onScreen(new Vec3(0.5, 3, 0.5));
        robot.drag("#tray-post", MouseButton.PRIMARY).moveTo(roof.add(3, 3)).moveTo(roof);
        until("its box is seen", () -> isBoxSeen(robot));
        robot.release(MouseButton.PRIMARY);
        until("it is placed", () -> scene().placements().all().size() == 2);
        Placement placed = scene().placements().all().getLast();
        assertThat(placed.placing().move().y()).as("on the roof").isCloseTo(3, within(1e-3));
        assertThat(isBoxSeen(robot)).isFalse();
    }

    private static boolean isBoxSeen(FxRobot robot) {
        return robot.lookup(".drop-mark").<Node>queryAll().stream()
                .anyMatch(line -> line.getParent().isVisible());
    }

    @Test
    void theMenuOnTheOtherButtonActsOnWhatIsUnderTheMouse(FxRobot robot) {
        List<SdfPath> posts = stand(robot, post, 0, 5);
        robot.clickOn(onScreen(new Vec3(5, 1, 0.2)), MouseButton.SECONDARY);
        becomes(Set.of(posts.get(1)), this::selected);
        click(robot, "Once more");
        becomes(3, () -> scene().placements().all().size());
        robot.clickOn(onScreen(new Vec3(0, 1, 0.2)), MouseButton.SECONDARY);
        becomes(Set.of(posts.getFirst()), this::selected);
        click(robot, "Copy as its own");
        becomes(4, () -> scene().placements().all().size());
    }
}
