package pantry.desktop.view3d;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import javafx.geometry.Bounds;
import javafx.geometry.Point2D;
import javafx.geometry.VerticalDirection;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.layout.StackPane;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.InWindow;
import pantry.desktop.controls.Theme;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.render.Camera;
import pantry.render.RenderCache;
import pantry.render.RenderScene;

/** The live view by mouse and keyboard. */
@InWindow
class View3dTest {
    private View3d view;
    private final List<Optional<String>> picked = new ArrayList<>();

    @Start
    void start(Stage stage) {
        Theme.load();
        view = new View3d();
        view.setOnPick((owner, event) -> picked.add(owner));
        Scene scene = new Scene(new StackPane(view), 600, 400);
        Theme.dress(scene);
        stage.setScene(scene);
        stage.show();
        view.drawnProperty()
                .set(RenderScene.of(
                        new Model("Two", List.of(block("Left", -3), block("Right", 3)), Model.Extras.NONE),
                        new RenderCache()));
        view.frameAll();
    }

    private static Model.Node block(String name, double x) {
        return Model.Node.of(
                name,
                Matrix4.translation(new Vec3(x, 0, 0)),
                List.of(new Model.Part(Shapes.block(2, 2, 2), Material.PLAIN)),
                List.of());
    }

    private static <T> T ask(Callable<T> question) {
        return WaitForAsyncUtils.waitForAsyncFx(20_000, question);
    }

    private Camera camera() {
        return ask(() -> view.cameraProperty().get());
    }

    private void settle() {
        try {
            WaitForAsyncUtils.waitFor(30, TimeUnit.SECONDS, () -> ask(() -> view.settled()));
        } catch (TimeoutException e) {
            throw new AssertionError("the picture was not finished", e);
        }
    }

    @Test
    void draggingTurnsTheOtherButtonMovesTheWheelComesNearer(FxRobot robot) {
        settle();
        Camera start = camera();
        robot.moveTo(view)
                .press(MouseButton.PRIMARY)
                .moveBy(50, 0)
                .moveBy(50, 0)
                .release(MouseButton.PRIMARY);
        Camera turned = camera();
        assertThat(turned.yaw()).isLessThan(start.yaw());
        assertThat(turned.target()).isEqualTo(start.target());
        robot.moveTo(view)
                .press(MouseButton.SECONDARY)
                .moveBy(0, 40)
                .moveBy(0, 40)
                .release(MouseButton.SECONDARY);
        Camera moved = camera();
        assertThat(moved.target().y())
                .as("what is dragged down shows what is above")
                .isGreaterThan(turned.target().y());
        assertThat(moved.yaw()).isEqualTo(turned.yaw());
        robot.moveTo(view).scroll(5, VerticalDirection.UP);
        double nearer = camera().distance();
        robot.scroll(10, VerticalDirection.DOWN);
        assertThat(camera().distance()).isNotEqualTo(nearer).isPositive();
        assertThat(picked).as("dragging picks nothing").isEmpty();
    }

    @Test
    void allOfItIsDoneByKeysToo(FxRobot robot) {
        settle();
        robot.interact(view::requestFocus);
        Camera start = camera();
        robot.push(KeyCode.LEFT);
        assertThat(camera().yaw()).isCloseTo(start.yaw() - 7.5, within(1e-9));
        robot.push(KeyCode.UP);
        assertThat(camera().pitch()).isGreaterThan(start.pitch());
        robot.push(KeyCode.SHIFT, KeyCode.RIGHT);
        assertThat(camera().target()).isNotEqualTo(start.target());
        robot.push(KeyCode.MINUS);
        assertThat(camera().distance()).isGreaterThan(start.distance());
        robot.push(KeyCode.EQUALS).push(KeyCode.HOME);
        for (int i = 0; i < 8; i++) {
            Vec3 corner = new Box3(new Vec3(-4, 0, -1), new Vec3(4, 2, 1)).corner(i);
            Vec3 seen = ask(() -> view.project(corner));
            assertThat(seen.x()).isBetween(0.0, 600.0);
            assertThat(seen.y()).isBetween(0.0, 400.0);
        }
    }

    @Test
    void aBandTellsWhatIsSeenInItAndWhatIsWhollyInIt(FxRobot robot) {
        settle();
        List<Bounds> bands = new ArrayList<>();
        robot.interact(() -> view.setOnBand((area, event) -> bands.add(area)));
        Camera before = camera();
        Vec3 left = ask(() -> view.project(new Vec3(-3, 1, 1)));
        Point2D from = ask(() -> view.localToScreen(2, 2));
        Point2D to = ask(() -> view.localToScreen(left.x() + 8, 398));
        robot.press(KeyCode.CONTROL)
                .moveTo(from)
                .press(MouseButton.PRIMARY)
                .moveTo(from.midpoint(to))
                .moveTo(to)
                .release(MouseButton.PRIMARY)
                .release(KeyCode.CONTROL);
        assertThat(bands).hasSize(1);
        Bounds band = bands.getFirst();
        assertThat(band.getMinX()).isCloseTo(2, within(3.0));
        assertThat(band.getMaxX()).isCloseTo(left.x() + 8, within(3.0));
        assertThat(ask(() -> view.ownersIn(band))).containsExactly("Left");
        Box3 whole = new Box3(new Vec3(-4, 0, -1), new Vec3(-2, 2, 1));
        assertThat(ask(() -> view.isWithin(whole, band)))
                .as("half of it is beside")
                .isFalse();
        assertThat(ask(() -> view.isWithin(whole, view.getLayoutBounds()))).isTrue();
        assertThat(ask(() -> view.isWithin(Box3.EMPTY, view.getLayoutBounds()))).isFalse();
        assertThat(camera()).as("it turns nothing").isEqualTo(before);
        assertThat(picked).as("and picks nothing").isEmpty();
    }

    @Test
    void theOtherButtonAsksForAMenuWhereItIsNotDragged(FxRobot robot) {
        settle();
        List<Double> asked = new ArrayList<>();
        robot.interact(() -> view.setOnMenu(event -> asked.add(event.getX())));
        robot.clickOn(ask(() -> view.localToScreen(100, 100)), MouseButton.SECONDARY);
        assertThat(asked).hasSize(1);
        robot.moveTo(view)
                .press(MouseButton.SECONDARY)
                .moveBy(30, 0)
                .moveBy(30, 0)
                .release(MouseButton.SECONDARY);
        assertThat(asked).as("that moves the picture").hasSize(1);
    }

    @Test
    void aChainIsMeasuredWithItsAnglesAndItsHeightAboveTheFloor(FxRobot robot) {
        settle();
        Measuring chain = new Measuring(view, Measuring.Way.CHAIN);
        Measuring pair = new Measuring(view, Measuring.Way.PAIR);
        robot.interact(() -> {
            ((StackPane) view.getParent()).getChildren().addAll(chain, pair);
            chain.onProperty().set(true);
            pair.onProperty().set(true);
            view.setOnPick((owner, event) -> {
                chain.click(event);
                pair.click(event);
            });
        });
        // Three corners of the left block's front, of which the middle one is a right angle.
        for (Vec3 corner : List.of(new Vec3(-3.9, 0.1, 1), new Vec3(-3.9, 1.9, 1), new Vec3(-2.1, 1.9, 1))) {
            Vec3 at = ask(() -> view.project(corner));
            robot.clickOn(ask(() -> view.localToScreen(at.x(), at.y())));
        }
        assertThat(ask(chain::length)).isCloseTo(3.6, within(0.15));
        assertThat(ask(() -> chain.angle(1))).isCloseTo(90, within(4.0));
        assertThat(ask(() -> chain.distance().orElseThrow())).isCloseTo(1.8, within(0.1));
        assertThat(ask(() -> pair.distance())).as("the third click begins anew").isEmpty();
        Vec3 last = ask(() -> view.project(new Vec3(-2.1, 1.9, 1)));
        robot.clickOn(ask(() -> view.localToScreen(last.x(), last.y())));
        Vec3 floor = ask(() -> view.project(new Vec3(0, 0, 3)));
        robot.clickOn(ask(() -> view.localToScreen(floor.x(), floor.y())));
        assertThat(ask(chain::length))
                .as("a second click on the last point ended it")
                .isZero();
        assertThat(ask(() -> chain.lookupAll("#measure").stream()
                        .map(node -> ((Label) node).getText())
                        .toList()))
                .singleElement()
                .asString()
                .contains("above the floor");
        robot.interact(() -> chain.onProperty().set(false));
        assertThat(ask(() -> chain.getChildren().size())).isZero();
    }

    @Test
    void whatIsClickedIsTold(FxRobot robot) {
        settle();
        Vec3 left = ask(() -> view.project(new Vec3(-3, 1, 1)));
        Vec3 right = ask(() -> view.project(new Vec3(3, 1, 1)));
        for (Vec3 at : List.of(left, right, new Vec3(3, 3, 0))) {
            robot.clickOn(ask(() -> view.localToScreen(at.x(), at.y())));
        }
        assertThat(picked).containsExactly(Optional.of("Left"), Optional.of("Right"), Optional.empty());
        assertThat(ask(() -> view.ownerAt(-5, 5))).isEmpty();
    }

    @Test
    void theFloorUnderThePointerIsFoundAgainInThePicture() {
        Vec3 ground = ask(() -> view.groundAt(300, 300, 0));
        assertThat(ground.y()).isCloseTo(0, within(1e-9));
        Vec3 seen = ask(() -> view.project(ground));
        assertThat(seen.x()).isCloseTo(300, within(0.01));
        assertThat(seen.y()).isCloseTo(300, within(0.01));
        robotless(() -> view.frame(Box3.EMPTY));
        assertThat(camera().distance()).as("nothing to frame changes nothing").isPositive();
    }

    private static void robotless(Runnable action) {
        ask(() -> {
            action.run();
            return true;
        });
    }

    @Test
    void nightChangesTheGround() {
        int day = ask(() -> view.optionsProperty().get().background());
        robotless(() -> Theme.setNight(view.getScene(), true));
        assertThat(ask(() -> view.optionsProperty().get().background())).isNotEqualTo(day);
        robotless(() -> Theme.setNight(view.getScene(), false));
        assertThat(ask(() -> view.optionsProperty().get().background())).isEqualTo(Theme.viewGround(false));
    }
}
