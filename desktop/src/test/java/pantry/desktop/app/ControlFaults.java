package pantry.desktop.app;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javafx.geometry.BoundingBox;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListView;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Slider;
import javafx.scene.control.SplitPane;
import javafx.scene.control.TableView;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.TreeView;
import javafx.scene.control.skin.VirtualFlow;
import javafx.scene.text.Text;

/** What is wrong with the controls of a window, as they are laid out now. On the interface's thread. */
final class ControlFaults {
    /** Borders may lie over each other by so much, pixels. */
    private static final double SLACK = 2;

    private static final String CUT = "cut: ";

    /** Whoever cuts so few letters saves no room. */
    private static final int SHORT = 9;

    static final String OUTSIDE = "outside of the window: ";

    private final Scene scene;
    private final List<String> faults = new ArrayList<>();
    private final List<Control> seen = new ArrayList<>();
    private final Set<Node> labelled = new HashSet<>();

    private ControlFaults(Scene scene) {
        this.scene = scene;
    }

    /** A line for each fault: the control, and what is wrong. */
    static List<String> of(Scene scene) {
        scene.getRoot().applyCss();
        scene.getRoot().layout();
        ControlFaults faults = new ControlFaults(scene);
        faults.collectLabels(scene.getRoot());
        faults.walk(scene.getRoot(), false);
        faults.findOverlaps();
        return faults.faults;
    }

    /** The words below a node that are not shown whole. */
    static List<String> cut(Scene scene, Parent below) {
        scene.getRoot().applyCss();
        scene.getRoot().layout();
        ControlFaults faults = new ControlFaults(scene);
        faults.walk(below, true);
        faults.faults.removeIf(fault -> !fault.startsWith(CUT));
        return faults.faults;
    }

    /** A control as a reader of the list finds it. */
    static String name(Node node) {
        String words =
                node instanceof Labeled labeled && labeled.getText() != null ? " “" + labeled.getText() + "”" : "";
        String id = node.getId() == null ? "" : "#" + node.getId();
        String within = "";
        for (Node at = node.getParent(); at != null && within.isEmpty() && id.isEmpty(); at = at.getParent()) {
            within = at.getId() == null ? "" : " in #" + at.getId();
        }
        return node.getClass().getSimpleName() + id + words + within + " " + node.getStyleClass();
    }

    private void collectLabels(Node node) {
        if (node instanceof Label label && label.getLabelFor() != null) {
            labelled.add(label.getLabelFor());
        }
        if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(this::collectLabels);
        }
    }

    /** Where the usual text has no room at the window's smallest, that is a fault; larger text may be scrolled to. */
    static List<String> scrolled(Scene scene) {
        List<String> faults = new ArrayList<>();
        if (scene.lookup("#workplace") instanceof ScrollPane pane) {
            Bounds room = pane.getViewportBounds();
            Bounds content = pane.getContent().getLayoutBounds();
            if (content.getWidth() > room.getWidth() + SLACK || content.getHeight() > room.getHeight() + SLACK) {
                faults.add("needs " + content.getWidth() + " x " + content.getHeight() + " and has " + room.getWidth()
                        + " x " + room.getHeight());
            }
        }
        return faults;
    }

    private void walk(Node node, boolean scrolled) {
        if (!node.isVisible()) {
            return;
        }
        boolean isControl = isControl(node);
        if (isControl) {
            look((Control) node, scrolled);
        } else if (node instanceof Label label && isShortened(label) && isToBeWhole(label)) {
            faults.add(CUT + name(label));
        }
        if (node instanceof Parent parent
                && !(isControl && (node instanceof ComboBoxBase<?> || node instanceof TextInputControl))) {
            boolean within = scrolled
                    || node instanceof ScrollPane && !"workplace".equals(node.getId())
                    || node instanceof VirtualFlow<?>;
            parent.getChildrenUnmodifiable().forEach(child -> walk(child, within));
        }
    }

    private static boolean isControl(Node node) {
        return node instanceof ButtonBase
                || node instanceof TextInputControl
                || node instanceof ComboBoxBase<?>
                || node instanceof Slider
                || node instanceof ListView<?>
                || node instanceof TreeView<?>
                || node instanceof TableView<?>;
    }

    private void look(Control control, boolean scrolled) {
        if (control instanceof Labeled labeled && isShortened(labeled)) {
            faults.add(CUT + name(control));
        }
        if (!hasName(control)) {
            faults.add("nameless: " + name(control));
        }
        Bounds at = control.localToScene(control.getLayoutBounds());
        if (!scrolled) {
            seen.add(control);
            if (at.getMinX() < -SLACK
                    || at.getMinY() < -SLACK
                    || at.getMaxX() > scene.getWidth() + SLACK
                    || at.getMaxY() > scene.getHeight() + SLACK) {
                faults.add(OUTSIDE + name(control) + " at " + at);
            } else if (isBeyondItsPane(control, at)) {
                faults.add("cut by its pane: " + name(control));
            } else if (at.getWidth() < 4 || at.getHeight() < 4) {
                faults.add("of no size: " + name(control));
            }
        }
    }

    /** Whether a control reaches over the side of the part of a split pane that it is in. */
    private static boolean isBeyondItsPane(Control control, Bounds at) {
        for (Node above = control.getParent(); above != null; above = above.getParent()) {
            if (above instanceof SplitPane split) {
                return split.getItems().stream()
                        .filter(item -> isWithin(control, item))
                        .map(item -> item.localToScene(item.getLayoutBounds()))
                        .anyMatch(
                                room -> at.getMinX() < room.getMinX() - SLACK || at.getMaxX() > room.getMaxX() + SLACK);
            }
        }
        return false;
    }

    private static boolean isShortened(Labeled labeled) {
        String text = labeled.getText();
        return text != null
                && !text.isBlank()
                && labeled.lookup(".text") instanceof Text shown
                && shown.getText().endsWith(labeled.getEllipsisString())
                && !shown.getText().equals(text)
                // Names of people's things may be long; then the hint has them whole.
                && !(labeled.getAccessibleHelp() != null
                        && labeled.getAccessibleHelp().contains(text));
    }

    /** Names of things and sentences may be cut, for the mouse shows them whole; figures, prompts and headings may not. */
    private static boolean isToBeWhole(Label label) {
        List<String> styles = label.getStyleClass();
        boolean isPath = label.getTextOverrun() == OverrunStyle.CENTER_ELLIPSIS;
        return label.getLabelFor() != null
                || styles.size() > 1 && label.getText().length() <= SHORT
                || !isPath && (styles.contains("figure") || styles.contains("title") || styles.contains("section"));
    }

    private boolean hasName(Control control) {
        return isSaid(control.getAccessibleText())
                || control instanceof Labeled labeled && isSaid(labeled.getText())
                || control instanceof TextInputControl field && isSaid(field.getPromptText())
                || control instanceof ComboBoxBase<?> box && isSaid(box.getPromptText())
                || isSaid(control.getAccessibleHelp())
                || labelled.contains(control);
    }

    private static boolean isSaid(String text) {
        return text != null && !text.isBlank();
    }

    /** Controls that do not scroll, and lie over each other though neither holds the other. */
    private void findOverlaps() {
        for (int i = 0; i < seen.size(); i++) {
            Bounds one = shown(seen.get(i));
            for (int j = i + 1; j < seen.size(); j++) {
                Bounds other = shown(seen.get(j));
                double wide = Math.min(one.getMaxX(), other.getMaxX()) - Math.max(one.getMinX(), other.getMinX());
                double high = Math.min(one.getMaxY(), other.getMaxY()) - Math.max(one.getMinY(), other.getMinY());
                if (wide > SLACK
                        && high > SLACK
                        && !isWithin(seen.get(i), seen.get(j))
                        && !isWithin(seen.get(j), seen.get(i))) {
                    faults.add("lies over another: " + name(seen.get(i)) + " and " + name(seen.get(j)));
                }
            }
        }
    }

    /** Where a control is seen, in the scene: what the workplace is scrolled past is not. */
    private Bounds shown(Node node) {
        Bounds at = node.localToScene(node.getLayoutBounds());
        if (!(scene.lookup("#workplace") instanceof ScrollPane pane) || !isWithin(node, pane)) {
            return at;
        }
        Bounds view = pane.localToScene(pane.getLayoutBounds());
        double x = Math.max(at.getMinX(), view.getMinX());
        double y = Math.max(at.getMinY(), view.getMinY());
        return new BoundingBox(
                x,
                y,
                Math.max(0, Math.min(at.getMaxX(), view.getMaxX()) - x),
                Math.max(0, Math.min(at.getMaxY(), view.getMaxY()) - y));
    }

    private static boolean isWithin(Node inner, Node outer) {
        for (Node at = inner; at != null; at = at.getParent()) {
            if (at == outer) {
                return true;
            }
        }
        return false;
    }
}
