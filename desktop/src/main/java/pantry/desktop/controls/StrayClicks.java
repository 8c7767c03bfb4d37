package pantry.desktop.controls;

import javafx.event.EventTarget;
import javafx.scene.Node;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.Cell;
import javafx.scene.input.MouseEvent;
import org.jspecify.annotations.Nullable;

/**
 * The second click of a double click whose first one took away what was clicked: it was meant for that, not for whatever
 * came to lie below the pointer, and is ignored.
 */
public final class StrayClicks {
    private final Node root;

    /** What was clicked first. */
    private @Nullable Node first;

    private boolean stray;

    private StrayClicks(Node root) {
        this.root = root;
    }

    /** Ignores them in a node and all below it. */
    public static void ignoreBelow(Node root) {
        root.addEventFilter(MouseEvent.ANY, new StrayClicks(root)::handle);
    }

    private void handle(MouseEvent event) {
        if (event.getEventType() == MouseEvent.MOUSE_PRESSED) {
            if (event.getClickCount() % 2 == 1) {
                first = control(event.getTarget());
                stray = false;
            } else {
                stray = first != null && !isShown(first);
            }
        }
        boolean ofButton = event.getEventType() == MouseEvent.MOUSE_PRESSED
                || event.getEventType() == MouseEvent.MOUSE_RELEASED
                || event.getEventType() == MouseEvent.MOUSE_CLICKED
                || event.getEventType() == MouseEvent.MOUSE_DRAGGED;
        if (stray && ofButton) {
            event.consume();
        }
    }

    /** What stays while its texts, signs and tiles are made anew: the row that a target is in, or its button. */
    private static @Nullable Node control(EventTarget target) {
        Node button = null;
        for (Node at = target instanceof Node node ? node : null; at != null; at = at.getParent()) {
            if (at instanceof Cell) {
                return at;
            }
            if (button == null && at instanceof ButtonBase) {
                button = at;
            }
        }
        return button;
    }

    private boolean isShown(Node node) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (!at.isVisible()) {
                return false;
            }
            if (at == root) {
                return true;
            }
        }
        return false;
    }
}
