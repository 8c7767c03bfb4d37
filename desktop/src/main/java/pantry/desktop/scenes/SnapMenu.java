package pantry.desktop.scenes;

import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.MenuButton;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;

/** Below the view: whether what is dragged goes in steps, how long these are, and what things come to stand on. */
final class SnapMenu extends MenuButton {
    SnapMenu(SelectionEdits edits) {
        super("Steps");
        setId("snap");
        getStyleClass().add("small");
        setMinWidth(USE_PREF_SIZE);
        CheckBox steps = new CheckBox("in steps of");
        steps.setId("snap-steps");
        steps.selectedProperty().bindBidirectional(edits.inStepsProperty());
        Controls.hint(steps, "What is dragged goes in steps; Shift does the other");
        TextField size = new TextField(Figures.show(edits.stepSizeProperty().get()));
        size.setId("snap-size");
        size.getStyleClass().add("number-field");
        size.setPrefColumnCount(4);
        Runnable take = () -> {
            Figures.typed(size.getText(), edits.stepSizeProperty().get())
                    .filter(figure -> figure > 0)
                    .ifPresent(edits.stepSizeProperty()::set);
            size.setText(Figures.show(edits.stepSizeProperty().get()));
        };
        size.setOnAction(event -> take.run());
        size.focusedProperty().addListener((property, before, now) -> {
            if (!now) {
                take.run();
            }
        });
        HBox row = new HBox(6, steps, size, Controls.label("m, 15°", Styles.FAINT));
        row.setAlignment(Pos.CENTER_LEFT);
        CheckBox dropped = new CheckBox("what is dropped stands on what is below");
        dropped.setId("snap-dropped");
        dropped.selectedProperty().bindBidirectional(edits.droppedOntoThingsProperty());
        CheckBox slid = new CheckBox("what is slid stands on what is below");
        slid.setId("snap-onto");
        slid.selectedProperty().bindBidirectional(edits.ontoThingsProperty());
        CheckBox flush = new CheckBox("what is slid lies flush with what is near");
        flush.setId("snap-flush");
        flush.selectedProperty().bindBidirectional(edits.flushProperty());
        Controls.hint(flush, "Sides, edges, corners and pivots, each with its like; Shift slides freely");
        VBox box = new VBox(
                8, row, dropped, slid, flush, Controls.label("Alt: leaning on walls and slopes", Styles.FAINT));
        box.setPadding(new Insets(6));
        getItems().setAll(new CustomMenuItem(box, false));
        Controls.hint(this, "Steps of what is dragged, and what it comes to stand on");
        edits.inStepsProperty().addListener(change -> tell(edits));
        edits.stepSizeProperty().addListener(change -> tell(edits));
        tell(edits);
    }

    private void tell(SelectionEdits edits) {
        setText(
                edits.inStepsProperty().get()
                        ? "Steps " + Figures.show(edits.stepSizeProperty().get()) + " m"
                        : "Steps");
    }
}
