package pantry.desktop.controls;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import javafx.geometry.Bounds;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.Stage;
import javafx.util.Duration;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.desktop.InWindow;

@InWindow
@DisplayName("What goes on while a window is shown, and what is scrolled to")
class WhileShownTest {
    private final AtomicInteger done = new AtomicInteger();
    private Stage stage;
    private Pane node;
    private StackPane above;

    @Start
    void start(Stage shown) {
        stage = shown;
        node = new Pane();
        WhileShown.every(node, Duration.millis(10), done::incrementAndGet);
        above = new StackPane(node);
        stage.setScene(new Scene(above, 200, 160));
        stage.setX(0);
        stage.setY(0);
        stage.show();
    }

    private void goesOn() throws Exception {
        int before = done.get();
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, () -> done.get() > before);
    }

    /** Nothing is done in what would be some ten pauses, once what was due is over. */
    private void rests(FxRobot robot) {
        robot.interact(() -> {});
        int before = done.get();
        WaitForAsyncUtils.sleep(100, TimeUnit.MILLISECONDS);
        robot.interact(() -> {});
        assertThat(done.get()).isEqualTo(before);
    }

    @Test
    @DisplayName("it rests while the node is in no window, and goes on when it is back")
    void outAndIn(FxRobot robot) throws Exception {
        goesOn();
        robot.interact(() -> above.getChildren().clear());
        rests(robot);
        robot.interact(() -> above.getChildren().setAll(node));
        goesOn();
    }

    @Test
    @DisplayName("it rests while the window is closed")
    void closed(FxRobot robot) throws Exception {
        goesOn();
        robot.interact(stage::hide);
        assertThat(WhileShown.of(node).getValue()).isFalse();
        rests(robot);
        robot.interact(stage::show);
        assertThat(WhileShown.of(node).getValue()).isTrue();
        goesOn();
    }

    @Test
    @DisplayName("what is asked for again and again is done once, after the last; not at all once the window is closed")
    void afterRest(FxRobot robot) throws Exception {
        AtomicInteger kept = new AtomicInteger();
        Runnable asked = WhileShown.afterRest(node, Duration.millis(50), kept::incrementAndGet);
        robot.interact(() -> {
            asked.run();
            asked.run();
        });
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, () -> kept.get() == 1);
        robot.interact(() -> {
            asked.run();
            stage.hide();
        });
        WaitForAsyncUtils.sleep(200, TimeUnit.MILLISECONDS);
        robot.interact(() -> {});
        assertThat(kept).hasValue(1);
    }

    @Test
    @DisplayName("a control below the edge is scrolled to, just so far; one that is seen moves nothing")
    void revealed(FxRobot robot) throws Exception {
        Button low = new Button("Low");
        Button high = new Button("High");
        Label tall = new Label("Tall");
        tall.setMinHeight(600);
        ScrollPane scroll = new ScrollPane(new VBox(high, tall, low));
        robot.interact(() -> above.getChildren().setAll(scroll));
        assertThat(isSeen(scroll, low)).isFalse();
        robot.interact(() -> Controls.reveal(low));
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, () -> isSeen(scroll, low));
        assertThat(isSeen(scroll, high)).isFalse();
        double at = scroll.getVvalue();
        robot.interact(() -> Controls.reveal(low));
        robot.interact(() -> {});
        assertThat(scroll.getVvalue()).isEqualTo(at);
        robot.interact(() -> Controls.reveal(high));
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, () -> isSeen(scroll, high));
        robot.interact(() -> Controls.reveal(scroll));
    }

    /** Whether the middle of a button is within what is shown. */
    private static boolean isSeen(ScrollPane scroll, Button button) {
        Bounds shown = scroll.localToScene(scroll.getBoundsInLocal());
        Bounds place = button.localToScene(button.getBoundsInLocal());
        return shown.contains(place.getCenterX(), place.getCenterY());
    }
}
