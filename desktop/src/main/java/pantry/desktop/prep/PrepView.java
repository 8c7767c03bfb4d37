package pantry.desktop.prep;

import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import javafx.geometry.Orientation;
import javafx.scene.Node;
import javafx.scene.control.SplitPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.StackPane;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WrappingRow;
import pantry.desktop.view3d.View3d;

/** The workplace: what can be inspected and its objects, the preview, and the findings and tools. */
public final class PrepView extends SplitPane {
    private final PrepModel model;
    private final PreviewPane preview;
    private final InspectionItemsPane items;
    private final ObjectsPane objects;
    private final ProxyPane proxy;
    private final Map<Tool, ToggleButton> buttons = new EnumMap<>(Tool.class);
    private final Map<Tool, Node> panes = new EnumMap<>(Tool.class);
    private final StackPane shown = new StackPane();

    /** What the panel at the right is for. */
    public enum Tool {
        FINDINGS("Findings", "What was found, and its fixes"),
        TWINS("Twins", "Objects of one shape"),
        PROXY("Proxy", "A light stand-in, levels of detail, collision"),
        PLAN("Plan", "The symbol for a plan"),
        PIVOT("Pivot", "Where things are held, how they stand, rings"),
        NAMES("Names", "New names by a pattern");

        private final String word;
        private final String hint;

        Tool(String word, String hint) {
            this.word = word;
            this.hint = hint;
        }
    }

    /** @param takeIn puts a file among the arrivals */
    public PrepView(PrepModel model, Consumer<Path> takeIn) {
        this.model = model;
        Node nothing = Controls.empty(
                "remixmz-tools-line",
                "Nothing is being inspected",
                "Choose an arrival, a scene or an asset at the left, or a file. It is inspected in a working copy: nothing"
                        + " that is sealed or yours is touched.",
                Controls.button("Choose a file…", "", "", this::chooseFiles));
        preview = new PreviewPane(model, nothing, takeIn);
        objects = new ObjectsPane(model);
        items = new InspectionItemsPane(model, this::chooseFiles);
        SplitPane left = new SplitPane(items, objects);
        left.setOrientation(Orientation.VERTICAL);
        left.setDividerPositions(0.56);
        Controls.width(left, 17, 19);
        panes.put(Tool.FINDINGS, new FindingsPane(model));
        panes.put(Tool.TWINS, new TwinsPane(model));
        proxy = new ProxyPane(model, preview);
        panes.put(Tool.PROXY, Controls.scrolling(proxy));
        panes.put(Tool.PLAN, Controls.scrolling(new PlanPane(model)));
        panes.put(Tool.PIVOT, Controls.scrolling(new PivotPane(model, preview)));
        panes.put(Tool.NAMES, new NamesPane(model));
        BorderPane right = new BorderPane(shown);
        right.setTop(tools());
        Controls.width(right, 25, 29.2);
        right.getStyleClass().addAll(Styles.PANEL, "right");
        shown.getStyleClass().add("prep-tool");
        getItems().setAll(left, preview, right);
        SplitPane.setResizableWithParent(left, false);
        SplitPane.setResizableWithParent(right, false);
        setDividerPositions(0.195, 0.68);
        show(Tool.FINDINGS);
    }

    private Node tools() {
        ToggleGroup group = new ToggleGroup();
        WrappingRow row = new WrappingRow(2);
        for (Tool tool : Tool.values()) {
            ToggleButton button = new ToggleButton(tool.word);
            button.setId("prep-tool-" + tool.word);
            button.getStyleClass().add("small");
            button.setMinWidth(USE_PREF_SIZE);
            button.setToggleGroup(group);
            Controls.hint(button, tool.hint + " (Alt+" + (tool.ordinal() + 1) + ")");
            button.setOnAction(event -> show(tool));
            buttons.put(tool, button);
            row.getChildren().add(button);
        }
        row.getStyleClass().add(Styles.PANEL_TITLE);
        return row;
    }

    /** Opens a tool. */
    public void show(Tool tool) {
        buttons.get(tool).setSelected(true);
        shown.getChildren().setAll(panes.get(tool));
        preview.tint(tool == Tool.TWINS);
    }

    /** Takes the keys to what can be inspected. */
    void enter() {
        items.enter();
    }

    /** Lets the user choose files to be inspected. */
    public void chooseFiles() {
        model.add(Ask.of(this, "Inspect files").files());
    }

    /** Saves the working copy as a file. */
    public void save() {
        preview.save();
    }

    /** Asks for what is to be said of the next version, where there is something to publish. */
    void publish() {
        preview.publish();
    }

    /** Shows before and after side by side, or no longer. */
    public void toggleBeside() {
        preview.toggleBeside();
    }

    public boolean isBeside() {
        return preview.isBeside();
    }

    /** Fits a proxy as the panel says. */
    public void tryProxy() {
        proxy.fit();
    }

    /** Whether a proxy was fitted that is not written yet. */
    public boolean hasTried() {
        return proxy.hasTried();
    }

    /** Selects all that share their shape with what is selected. */
    public void selectLike() {
        objects.selectLike();
    }

    /** The views, for those who look at them from outside. */
    public List<View3d> views() {
        return preview.views();
    }

    public View3d view() {
        return preview.view();
    }
}
