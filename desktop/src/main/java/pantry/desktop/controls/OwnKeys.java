package pantry.desktop.controls;

import java.util.Set;
import javafx.scene.Node;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;

/** Keys that mean something of their own within a part of the window, and not what they do everywhere else in it. */
public final class OwnKeys {
    private static final Object PROPERTY = OwnKeys.class;

    private OwnKeys() {}

    /** Lets a part of the window have some keys to itself. */
    public static void claim(Node part, KeyCode... keys) {
        part.getProperties().put(PROPERTY, Set.of(keys));
    }

    /** Whether Enter is pressed by itself. */
    public static boolean isPlainEnter(KeyEvent event) {
        return event.getCode() == KeyCode.ENTER
                && !event.isShortcutDown()
                && !event.isAltDown()
                && !event.isShiftDown();
    }

    /** Lets Enter do something in a list, once a line has the keys. */
    public static void onEnter(ListView<?> list, Runnable action) {
        list.setOnKeyPressed(event -> {
            if (isPlainEnter(event) && !list.getSelectionModel().isEmpty()) {
                action.run();
                event.consume();
            }
        });
    }

    /**
     * Whether the part that an event goes to has its key to itself. A list that is open has all without a modifier; Enter
     * means the button or the line that has the keys.
     */
    public static boolean claimed(KeyEvent event) {
        if (isPlainEnter(event)
                && (event.getTarget() instanceof ButtonBase || event.getTarget() instanceof ListView<?>)) {
            return true;
        }
        for (Node at = event.getTarget() instanceof Node node ? node : null; at != null; at = at.getParent()) {
            if (at instanceof ComboBoxBase<?> box && box.isShowing() && !event.isShortcutDown() && !event.isAltDown()) {
                return true;
            }
            if (at.hasProperties()
                    && at.getProperties().get(PROPERTY) instanceof Set<?> keys
                    && keys.contains(event.getCode())) {
                return true;
            }
        }
        return false;
    }
}
