package pantry.desktop.frame;

import javafx.event.Event;
import javafx.geometry.Bounds;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.control.IndexedCell;
import javafx.scene.input.ContextMenuEvent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import org.jspecify.annotations.Nullable;

/**
 * Asks for the context menu of what has the keys, where the toolkit does not do that itself: on Windows it does, on other systems
 * only the mouse asks (as seen with JavaFX 25 on X11).
 */
final class MenuKey {
    static final boolean BY_TOOLKIT = System.getProperty("os.name", "").startsWith("Windows");

    private MenuKey() {}

    static boolean isPressed(KeyEvent event) {
        return !BY_TOOLKIT && event.getCode() == KeyCode.CONTEXT_MENU;
    }

    /** Asks what has the keys; of a list, the entry that is chosen, which leaves it to the list where it has no menu. */
    static void ask(@Nullable Node focused) {
        if (focused == null) {
            return;
        }
        Node asked = focused.lookupAll(".cell").stream()
                .filter(node -> node instanceof IndexedCell<?> cell && cell.isSelected() && cell.isVisible())
                .findFirst()
                .orElse(focused);
        Bounds place = asked.getLayoutBounds();
        Point2D inScene = asked.localToScene(place.getCenterX(), place.getCenterY());
        Point2D onScreen = asked.localToScreen(place.getCenterX(), place.getCenterY());
        if (onScreen != null) {
            Event.fireEvent(
                    asked,
                    new ContextMenuEvent(
                            asked,
                            asked,
                            ContextMenuEvent.CONTEXT_MENU_REQUESTED,
                            inScene.getX(),
                            inScene.getY(),
                            onScreen.getX(),
                            onScreen.getY(),
                            true,
                            null));
        }
    }
}
