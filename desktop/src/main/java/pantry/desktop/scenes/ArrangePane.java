package pantry.desktop.scenes;

import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ColorPicker;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.render.RenderScene;
import pantry.scene.Anchors;
import pantry.scene.Arranging;
import pantry.usd.SdfPath;

/** How the selected objects hang together and how they stand: groups, lines, what they fall on, anchors. */
final class ArrangePane extends VBox {
    private final ScenesModel model;
    private final TextField name = new TextField();
    private final ComboBox<String> axis = new Choice<>();

    /**
     * @param seen shows things while they fall
     * @param lookedAt where the view looks, metres
     */
    ArrangePane(ScenesModel model, Consumer<RenderScene> seen, Supplier<Vec3> lookedAt) {
        super(16);
        this.model = model;
        getChildren()
                .setAll(
                        structure(),
                        Controls.section("Step", new StepPane(model)),
                        arrange(),
                        settle(seen),
                        anchor(lookedAt));
    }

    private VBox structure() {
        name.setId("group-name");
        name.setPromptText("name of the group, or new name");
        FlowPane row = new FlowPane(
                6,
                6,
                button("Group", "group", "Put them on an anchor of their own (Ctrl+G)", () -> model.edits()
                        .group(named("Group"))),
                button("Ungroup", "ungroup", "Take a group apart (Ctrl+Shift+G)", model.edits()::ungroup),
                button("Rename", "rename", "Give the one that is selected this name", () -> model.edits()
                        .rename(named(""))),
                button(
                        "Break out",
                        "break-out",
                        "Let it no longer share its insides, so that it can be changed alone",
                        model.edits()::breakOut),
                button(
                        "Share again",
                        "share",
                        "Let it share its insides with others of its kind again",
                        model.edits()::share),
                button("Sort", "sort", "Put what hangs on it into the order of names", model.edits()::sort),
                button(
                        "What hangs on it",
                        "children",
                        "Select that instead (Alt+Down)",
                        model.selection()::selectChildren),
                button("What it hangs on", "above", "Select that instead (Alt+Up)", model.selection()::selectAbove),
                button("Alone", "isolate", "Show nothing else, or all again (I)", model.display()::isolate));
        return Controls.section("Structure", name, row);
    }

    private VBox arrange() {
        axis.getItems().setAll("x", "y", "z");
        axis.setValue("x");
        axis.setId("arrange-axis");
        axis.getStyleClass().add("small");
        FlowPane row = new FlowPane(
                6,
                6,
                button("Mirror", "mirror", "Exchange its sides along the axis", () -> model.edits()
                        .mirror(axis())),
                align("Least", Arranging.Side.LEAST, "least sides"),
                align("Middle", Arranging.Side.MIDDLE, "middles"),
                align("Greatest", Arranging.Side.GREATEST, "greatest sides"),
                button("Spread", "spread", "Leave equal gaps between them", () -> model.edits()
                        .spread(axis())),
                button(
                        "Centre on last",
                        "centre",
                        "Put the others over the middle of the one that was selected last",
                        model.edits()::centreOnLast),
                button(
                        "Next to last, before",
                        "next-before",
                        "Put the others before the one selected last, touching",
                        () -> model.edits().nextToLast(axis(), false)),
                button(
                        "Next to last, behind",
                        "next-behind",
                        "Put the others behind the one selected last, touching",
                        () -> model.edits().nextToLast(axis(), true)),
                button("Drop", "drop", "Let it down onto what is below (Shift+D)", model.edits()::drop));
        HBox along = new HBox(8, Controls.label("along", Styles.FAINT), axis);
        along.setAlignment(Pos.CENTER_LEFT);
        return Controls.section("Arrange", along, row);
    }

    private Button align(String text, Arranging.Side side, String words) {
        return button(
                text,
                "align-" + text.toLowerCase(Locale.ROOT),
                "Bring their " + words + " in line with the first",
                () -> model.edits().align(axis(), side));
    }

    private VBox settle(Consumer<RenderScene> seen) {
        ComboBox<String> onto = new Choice<>();
        String all = "onto everything else";
        String last = "onto the one selected last";
        onto.getItems().setAll(all, last);
        onto.setValue(all);
        onto.setId("settle-onto");
        onto.getStyleClass().add("small");
        CheckBox floor = new CheckBox("and the floor");
        floor.setId("settle-floor");
        floor.setSelected(true);
        Controls.hint(floor, "There is a floor at height 0");
        Button settle = button(
                "Settle",
                "settle",
                "Let what is selected fall until it rests; the job can be cancelled, and undo steps back",
                () -> {
                    List<SdfPath> chosen = List.copyOf(model.selectionProperty().get());
                    boolean some = onto.getValue().equals(last) && chosen.size() > 1;
                    if (some) {
                        SdfPath ground = chosen.getLast();
                        model.selectionProperty()
                                .set(new java.util.LinkedHashSet<>(chosen.subList(0, chosen.size() - 1)));
                        model.edits().settle(Set.of(ground), floor.isSelected(), seen);
                    } else {
                        model.edits().settle(Set.of(), floor.isSelected(), seen);
                    }
                });
        HBox row = new HBox(8, floor, Controls.spring(), settle);
        row.setAlignment(Pos.CENTER_LEFT);
        onto.setMaxWidth(Double.MAX_VALUE);
        return Controls.section("Settle", onto, row);
    }

    private VBox anchor(Supplier<Vec3> lookedAt) {
        ComboBox<String> shape = new Choice<>();
        for (Anchors.Shape each : Anchors.Shape.values()) {
            shape.getItems().add(each.name().toLowerCase(Locale.ROOT));
        }
        shape.setValue("cross");
        shape.setId("anchor-shape");
        shape.getStyleClass().add("small");
        TextField size = new TextField("1");
        size.setId("anchor-size");
        size.getStyleClass().add("number-field");
        size.setPrefColumnCount(4);
        Controls.hint(size, "Across, metres");
        ColorPicker colour = new ColorPicker(Color.web("#3C6491"));
        colour.setId("anchor-colour");
        colour.getStyleClass().addAll("button", "small");
        HBox row = new HBox(8, shape, size, Controls.label("m", Styles.FAINT), colour);
        row.setAlignment(Pos.CENTER_LEFT);
        Button make = button(
                "Mark, or make one",
                "anchor",
                "Give the selected group this mark; or, where none is selected, make an anchor where the view looks",
                () -> model.session().attempt(() -> {
                    Color c = colour.getValue();
                    int rgb = (int) Math.round(c.getRed() * 255) << 16
                            | (int) Math.round(c.getGreen() * 255) << 8
                            | (int) Math.round(c.getBlue() * 255);
                    double metres = Figures.typed(size.getText(), 1).orElse(1.0);
                    Anchors.Shape chosen =
                            Anchors.Shape.valueOf(shape.getValue().toUpperCase(Locale.ROOT));
                    model.edits().anchor(named("Anchor"), new Anchors.Mark(chosen, metres, rgb), lookedAt.get());
                }));
        return Controls.section("Anchor", row, make);
    }

    static Button button(String text, String id, String hint, Runnable action) {
        Button button = Controls.button(text, "", hint, action);
        button.setId("scene-" + id);
        button.getStyleClass().add("small");
        return button;
    }

    private String named(String otherwise) {
        return name.getText().isBlank() ? otherwise : name.getText().strip();
    }

    private int axis() {
        return axis.getItems().indexOf(axis.getValue());
    }
}
