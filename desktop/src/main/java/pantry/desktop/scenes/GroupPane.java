package pantry.desktop.scenes;

import java.util.Locale;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ColorPicker;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.scene.Anchors;

/** How the selected objects hang together: groups, what they share, and the marks of what they hang on. */
final class GroupPane extends VBox {
    private final ScenesModel model;
    private final TextField name = new TextField();

    /** @param lookedAt where the view looks, metres */
    GroupPane(ScenesModel model, Supplier<Vec3> lookedAt) {
        super(16);
        this.model = model;
        getChildren().setAll(structure(), anchor(lookedAt));
    }

    private VBox structure() {
        name.setId("group-name");
        name.setPromptText("name of the group, or new name");
        SelectionEdits edits = model.edits();
        FlowPane row = new FlowPane(
                6,
                6,
                ArrangePane.button(
                        "Group",
                        "group",
                        "Put them on an anchor of their own (Ctrl+G)",
                        () -> edits.group(named("Group"))),
                ArrangePane.button("Take apart", "ungroup", "Take a group apart (Ctrl+Shift+G)", edits::ungroup),
                ArrangePane.button(
                        "Rename", "rename", "Give the one that is selected this name", () -> edits.rename(named(""))),
                ArrangePane.button("Sort", "sort", "Put what hangs on it into the order of names", edits::sort),
                ArrangePane.button(
                        "Break out",
                        "break-out",
                        "Let it no longer share its insides, so that it can be changed alone",
                        edits::breakOut),
                ArrangePane.button(
                        "Share again",
                        "share",
                        "Let it share its insides with others of its kind again",
                        edits::share));
        return Controls.section("Group", name, row);
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
        Label metre = Controls.label("m", Styles.FAINT);
        metre.setMinWidth(USE_PREF_SIZE);
        HBox row = new HBox(8, shape, size, metre, colour);
        row.setAlignment(Pos.CENTER_LEFT);
        Button make = ArrangePane.button(
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

    private String named(String otherwise) {
        return name.getText().isBlank() ? otherwise : name.getText().strip();
    }
}
