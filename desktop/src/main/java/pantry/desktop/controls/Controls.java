package pantry.desktop.controls;

import javafx.geometry.Bounds;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Spinner;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.text.TextAlignment;
import javafx.util.StringConverter;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.session.FxThread;

/** Small building blocks that every workplace uses. */
public final class Controls {
    /** The keys of nodes' properties that hold a hint's text, and its window once there is one. */
    private static final Object HINT = "pantry.hint";

    private static final Object HINT_WINDOW = "pantry.hint.window";

    /** The key of a label's property that holds the hint it got because it is cut. */
    private static final Object WHOLE = "pantry.whole";

    /** What stays free beside what is scrolled to, pixels. */
    private static final double ROOM = 12;

    private Controls() {}

    /** A text of one style; where it is cut for want of room, the mouse shows it whole. */
    public static Label label(String text, String... styles) {
        Label label = new Label(text);
        label.getStyleClass().addAll(styles);
        label.addEventHandler(MouseEvent.MOUSE_ENTERED, event -> hintWhole(label));
        return label;
    }

    /** A label that has a hint of its own keeps that. */
    private static void hintWhole(Label label) {
        Object hinted = label.getProperties().get(HINT);
        if (hinted == null || hinted.equals(label.getProperties().get(WHOLE))) {
            String whole = label.isTextTruncated() ? label.getText() : "";
            label.getProperties().put(WHOLE, whole);
            hint(label, whole);
        }
    }

    /** The name of a file, or a path: where it is cut, its end is seen, which tells it from its neighbours. */
    public static Label path(String text, String... styles) {
        Label label = label(text, styles);
        label.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
        return label;
    }

    /** A text of one line that is never cut: what a panel is called, a figure, a key. */
    public static Label whole(String text, String... styles) {
        Label label = label(text, styles);
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    /** A small switch that is never cut. */
    public static ToggleButton toggle(String text, String id, String hint) {
        ToggleButton toggle = new ToggleButton(text);
        toggle.setId(id);
        toggle.getStyleClass().add("small");
        toggle.setMinWidth(Region.USE_PREF_SIZE);
        hint(toggle, hint);
        return toggle;
    }

    /** A text that takes as many lines as it needs. */
    public static Label wrapped(String text, String... styles) {
        Label label = label(text, styles);
        label.setWrapText(true);
        label.setMinHeight(Region.USE_PREF_SIZE);
        return label;
    }

    /** Shows a node, or lets it take no room. */
    public static void showOnly(Node node, boolean wanted) {
        node.setVisible(wanted);
        node.setManaged(wanted);
    }

    /** Scrolls what holds a node just so far that it is seen, or its start where there is no room for all of it. */
    public static void reveal(Node node) {
        Node above = node.getParent();
        while (above != null && !(above instanceof ScrollPane)) {
            above = above.getParent();
        }
        if (above instanceof ScrollPane pane && pane.getScene() != null) {
            pane.getScene().getRoot().applyCss();
            pane.getScene().getRoot().layout();
            Bounds place = pane.getContent().sceneToLocal(node.localToScene(node.getBoundsInLocal()));
            double seen = pane.getViewportBounds().getHeight();
            double hidden = pane.getContent().getBoundsInLocal().getHeight() - seen;
            // Of what is higher than there is room for, the start.
            double least = Math.min(place.getMaxY() + ROOM - seen, place.getMinY() - ROOM);
            double top = Math.clamp(pane.getVvalue() * hidden, least, Math.max(least, place.getMinY() - ROOM));
            pane.setVvalue(hidden <= 0 ? 0 : Math.clamp(top / hidden, 0, 1));
        }
    }

    /** Whether a node is another one, or stands anywhere below it. */
    public static boolean isWithin(Node node, Node above) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (at == above) {
                return true;
            }
        }
        return false;
    }

    /** A button with a word, a drawn sign and a hint. */
    public static Button button(String text, String icon, String hint, Runnable action) {
        Button button = new Button(text, icon.isEmpty() ? null : new FontIcon(icon));
        button.setMinWidth(Region.USE_PREF_SIZE);
        button.setOnAction(event -> action.run());
        button.disabledProperty().addListener((property, before, now) -> keepKeys(button, now));
        hint(button, hint);
        return button;
    }

    /** What a button did may leave nothing for it to do: the keys then do not go to whatever stands beside it. */
    private static void keepKeys(Button button, boolean disabled) {
        if (disabled && button.isFocused() && button.getParent() != null) {
            button.getParent().requestFocus();
        }
    }

    /**
     * Lets a hint appear where the mouse rests on a node. A hint is a window of its own, which costs a millisecond: it is
     * made when the mouse comes for the first time. Instead of one that the node has already.
     *
     * @param text none where it is empty
     */
    public static void hint(Node node, String text) {
        if (node.getProperties().put(HINT, text) == null) {
            node.addEventHandler(MouseEvent.MOUSE_ENTERED, event -> showHint(node));
        } else if (node.getProperties().get(HINT_WINDOW) instanceof Tooltip made) {
            made.setText(text);
            Tooltip.uninstall(node, made);
            if (!text.isEmpty()) {
                Tooltip.install(node, made);
            }
        }
        node.setAccessibleHelp(text);
    }

    private static void showHint(Node node) {
        String text = String.valueOf(node.getProperties().get(HINT));
        boolean made = node.getProperties().get(HINT_WINDOW) instanceof Tooltip;
        if (!made && !text.isEmpty()) {
            Tooltip window = new Tooltip(text);
            node.getProperties().put(HINT_WINDOW, window);
            Tooltip.install(node, window);
        }
    }

    /**
     * What keys that come to it by Tab find chosen whole, as in a plain field, so that what is typed replaces it. The toolkit
     * leaves the editors of choices and of spinners out.
     *
     * @param control the choice or spinner
     * @param editor the field within it
     */
    public static void chosenWhole(Node control, TextField editor) {
        control.focusVisibleProperty().addListener((property, before, now) -> {
            if (now) {
                FxThread.later(editor::selectAll);
            }
        });
    }

    /** A spinner for whole numbers; what is typed and is none leaves it as it was. */
    public static Spinner<Integer> counter(int least, int most, int first) {
        Spinner<Integer> spinner = new Spinner<>(least, most, first);
        spinner.setEditable(true);
        chosenWhole(spinner, spinner.getEditor());
        spinner.getValueFactory().setConverter(new StringConverter<>() {
            @Override
            public String toString(Integer value) {
                return String.valueOf(value);
            }

            @Override
            public Integer fromString(String text) {
                try {
                    return Math.clamp(Integer.parseInt(text.strip()), least, most);
                } catch (NumberFormatException e) {
                    // The text becomes the number again.
                    spinner.getEditor().setText(toString(spinner.getValue()));
                    return spinner.getValue();
                }
            }
        });
        return spinner;
    }

    /** Takes up the room between what stands left and what stands right. */
    public static Region spring() {
        Region spring = new Region();
        HBox.setHgrow(spring, Priority.ALWAYS);
        return spring;
    }

    /** A name on the left, figures on the right. */
    public static HBox fact(String name, String figure) {
        Label value = whole(figure, Styles.FIGURE);
        HBox line = new HBox(8, label(name, Styles.FAINT), spring(), value);
        line.setAlignment(Pos.BASELINE_LEFT);
        return line;
    }

    /** A titled group of a slip or card. */
    public static VBox section(String title, Node... content) {
        VBox box = new VBox(6, label(title, Styles.SECTION));
        box.getChildren().addAll(content);
        return box;
    }

    /** Scrolls upwards and downwards only. */
    public static ScrollPane scrolling(Node content) {
        ScrollPane pane = new ScrollPane(content);
        pane.setFitToWidth(true);
        pane.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        return pane;
    }

    /**
     * Gives a part of the window a width that grows with the text.
     *
     * @param least in the height of the text
     * @param usual in the height of the text
     */
    public static void width(Region region, double least, double usual) {
        region.setStyle("-fx-min-width: " + least + "em; -fx-pref-width: " + usual + "em;");
    }

    /** What an empty place says: what to do first, with the button that does it. */
    public static VBox empty(String icon, String title, String text, Node... actions) {
        FontIcon sign = new FontIcon(icon);
        sign.getStyleClass().add("empty-sign");
        Label words = wrapped(text, Styles.FAINT);
        words.setMaxWidth(420);
        words.setAlignment(Pos.CENTER);
        words.setTextAlignment(TextAlignment.CENTER);
        Label head = wrapped(title, Styles.TITLE);
        head.setTextAlignment(TextAlignment.CENTER);
        VBox box = new VBox(12, sign, head, words);
        if (actions.length > 0) {
            HBox row = new HBox(8, actions);
            row.setAlignment(Pos.CENTER);
            box.getChildren().add(row);
        }
        box.setAlignment(Pos.CENTER);
        box.getStyleClass().add(Styles.EMPTY);
        return box;
    }
}
