package pantry.desktop.scenes;

import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ContentDisplay;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.render.RenderScene;
import pantry.scene.Arranging;
import pantry.usd.SdfPath;

/** How the selected objects stand: by steps, in lines, on what they fall. */
final class ArrangePane extends VBox {
    private final ScenesModel model;
    private final ComboBox<String> axis = new Choice<>();

    /** @param seen shows things while they fall */
    ArrangePane(ScenesModel model, Consumer<RenderScene> seen) {
        super(16);
        this.model = model;
        getChildren().setAll(Controls.section("Step", new StepPane(model)), arrange(), settle(seen));
    }

    private VBox arrange() {
        axis.getItems().setAll("x", "y", "z");
        axis.setValue("x");
        axis.setId("arrange-axis");
        axis.getStyleClass().add("small");
        SelectionEdits edits = model.edits();
        FlowPane tiles = new FlowPane(
                6,
                6,
                align("Least", 0, Arranging.Side.LEAST, "least sides"),
                align("Middle", 0.5, Arranging.Side.MIDDLE, "middles"),
                align("Greatest", 1, Arranging.Side.GREATEST, "greatest sides"),
                tile(
                        ArrangeGlyph.gaps(),
                        "Even gaps",
                        "spread",
                        "Leave equal gaps between them",
                        () -> edits.spread(axis())),
                tile(
                        ArrangeGlyph.nextTo(false),
                        "Before last",
                        "next-before",
                        "Put the others before the one selected last, touching",
                        () -> edits.nextToLast(axis(), false)),
                tile(
                        ArrangeGlyph.nextTo(true),
                        "Behind last",
                        "next-behind",
                        "Put the others behind the one selected last, touching",
                        () -> edits.nextToLast(axis(), true)),
                tile(
                        ArrangeGlyph.over(),
                        "Over last",
                        "centre",
                        "Put the others over the middle of the one that was selected last",
                        edits::centreOnLast),
                tile(
                        ArrangeGlyph.mirrored(),
                        "Mirror",
                        "mirror",
                        "Exchange its sides along the axis",
                        () -> edits.mirror(axis())));
        HBox along = new HBox(8, Controls.label("along", Styles.FAINT), axis);
        along.setAlignment(Pos.CENTER_LEFT);
        return Controls.section("Arrange", along, tiles);
    }

    private Button align(String text, double share, Arranging.Side side, String words) {
        return tile(
                ArrangeGlyph.inLine(share),
                text,
                "align-" + text.toLowerCase(Locale.ROOT),
                "Bring their " + words + " in line with the first",
                () -> model.edits().align(axis(), side));
    }

    /** A button with a picture of what it does. */
    private static Button tile(ArrangeGlyph glyph, String text, String id, String hint, Runnable action) {
        Button tile = button(text, id, hint, action);
        tile.setGraphic(glyph);
        tile.setContentDisplay(ContentDisplay.TOP);
        tile.getStyleClass().add("glyph-tile");
        return tile;
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
        Button drop = button(
                "Drop", "drop", "Let it down at once, upright, onto what is below (Shift+D)", model.edits()::drop);
        HBox row = new HBox(8, floor, Controls.spring(), drop, settle);
        row.setAlignment(Pos.CENTER_LEFT);
        onto.setMaxWidth(Double.MAX_VALUE);
        return Controls.section("Fall", onto, row);
    }

    static Button button(String text, String id, String hint, Runnable action) {
        Button button = Controls.button(text, "", hint, action);
        button.setId("scene-" + id);
        button.getStyleClass().add("small");
        return button;
    }

    private int axis() {
        return axis.getItems().indexOf(axis.getValue());
    }
}
