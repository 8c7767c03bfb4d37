package pantry.desktop.frame;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.WeakHashMap;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.TraversalDirection;
import javafx.scene.control.ListView;
import javafx.scene.control.SplitPane;
import javafx.scene.control.TableView;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.TreeView;
import org.jspecify.annotations.Nullable;
import pantry.desktop.controls.Controls;

/** Takes the keys from panel to panel of a workplace: to what had them there last, or to what most is done with. */
final class PanelWalk {
    private final Map<Node, Node> last = new WeakHashMap<>();

    /**
     * Goes to the next panel that has something to be reached by keys, or to the one before.
     *
     * @param content the workplace's node
     * @param owner what has the keys now
     * @param step 1 or -1
     */
    void go(Node content, @Nullable Node owner, int step) {
        List<Node> panels = new ArrayList<>();
        collect(content, panels);
        if (panels.isEmpty()) {
            content.requestFocus();
            return;
        }
        int here = step > 0 ? -1 : 0;
        for (int i = 0; i < panels.size() && owner != null; i++) {
            if (Controls.isWithin(owner, panels.get(i))) {
                here = i;
                last.put(panels.get(i), owner);
            }
        }
        for (int i = 1; i <= panels.size(); i++) {
            Node panel = panels.get(Math.floorMod(here + i * step, panels.size()));
            Optional<Node> target = target(panel);
            if (target.isPresent()) {
                take(target.get());
                return;
            }
        }
    }

    /** Gives the keys as Tab does, so that it is seen who has them: the toolkit shows that of nothing else. */
    private static void take(Node target) {
        target.requestFocus();
        if (target.requestFocusTraversal(TraversalDirection.NEXT)) {
            target.getScene().getFocusOwner().requestFocusTraversal(TraversalDirection.PREVIOUS);
        }
        if (!target.isFocused()) {
            target.requestFocus();
        }
    }

    /** The parts that can be made wider or higher by a divider; the whole where there is none. */
    private static void collect(Node node, List<Node> panels) {
        if (!node.isVisible()) {
            return;
        }
        if (node instanceof SplitPane split) {
            for (Node item : split.getItems()) {
                int before = panels.size();
                collect(item, panels);
                if (panels.size() == before && item.isVisible()) {
                    panels.add(item);
                }
            }
        } else if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(child -> collect(child, panels));
        }
    }

    private Optional<Node> target(Node panel) {
        Node known = last.get(panel);
        if (known != null && Controls.isWithin(known, panel) && isReachable(known)) {
            return Optional.of(known);
        }
        List<Node> reachable = new ArrayList<>();
        reachable(panel, reachable);
        return reachable.stream().filter(PanelWalk::isMain).findFirst().or(() -> reachable.stream()
                .findFirst());
    }

    private static boolean isMain(Node node) {
        return node instanceof TextInputControl
                || node instanceof ListView
                || node instanceof TreeView
                || node instanceof TableView;
    }

    private static boolean isReachable(Node node) {
        for (Node each = node; each != null; each = each.getParent()) {
            if (!each.isVisible() || each.isDisabled()) {
                return false;
            }
        }
        return node.isFocusTraversable();
    }

    private static void reachable(Node node, List<Node> found) {
        if (!node.isVisible() || node.isDisabled()) {
            return;
        }
        if (node.isFocusTraversable()) {
            found.add(node);
        }
        if (!isMain(node) && node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(child -> reachable(child, found));
        }
    }
}
