package pantry.desktop.controls;

import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.PauseTransition;
import javafx.animation.Timeline;
import javafx.beans.value.ObservableValue;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.stage.Window;
import javafx.util.Duration;

/**
 * What goes on only while a node stands in a window that is shown: what runs on after that does its work for nobody, and
 * keeps the node, and all that it knows, in memory.
 */
public final class WhileShown {
    private WhileShown() {}

    /** Whether a node stands in a window that is shown. */
    public static ObservableValue<Boolean> of(Node node) {
        return node.sceneProperty()
                .flatMap(Scene::windowProperty)
                .flatMap(Window::showingProperty)
                .orElse(false);
    }

    /** Does something again and again, first after one pause. */
    public static void every(Node node, Duration pause, Runnable action) {
        Timeline often = new Timeline(new KeyFrame(pause, event -> action.run()));
        often.setCycleCount(Animation.INDEFINITE);
        switched(node, often::play, often::stop);
    }

    /**
     * What asks for something that is done once it has not been asked for during a pause; nothing is done where the node
     * is shown no longer by then.
     */
    public static Runnable afterRest(Node node, Duration pause, Runnable action) {
        PauseTransition rest = new PauseTransition(pause);
        rest.setOnFinished(event -> action.run());
        switched(node, () -> {}, rest::stop);
        return rest::playFromStart;
    }

    /** Begins something when a node comes to be shown, and ends it when it no longer is. */
    public static void switched(Node node, Runnable begin, Runnable end) {
        of(node).subscribe(shown -> {
            if (shown) {
                begin.run();
            } else {
                end.run();
            }
        });
    }
}
