package pantry.desktop.scenes;

import java.util.List;
import java.util.Optional;
import javafx.geometry.HPos;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.scene.TransformStep;

/** A step that is done to all that is selected, and again. */
final class StepPane extends VBox {
    private final ScenesModel model;
    private final TextField[] fields = new TextField[7];
    private final TextField copies = new TextField("5");
    private final ComboBox<String> about = new Choice<>();
    private final ComboBox<String> axes = new Choice<>();

    StepPane(ScenesModel model) {
        super(6);
        this.model = model;
        String[] ids = {"step-x", "step-y", "step-z", "step-turn-x", "step-turn-y", "step-turn-z", "step-factor"};
        for (int i = 0; i < fields.length; i++) {
            fields[i] = new TextField(i < 6 ? "0" : "1");
            fields[i].setId(ids[i]);
            fields[i].getStyleClass().add("number-field");
            fields[i].setOnAction(event -> step());
        }
        GridPane grid = new GridPane();
        grid.setHgap(6);
        grid.setVgap(6);
        grid.getColumnConstraints().add(new ColumnConstraints(72));
        for (int i = 0; i < 3; i++) {
            ColumnConstraints column = new ColumnConstraints(40, 70, Double.MAX_VALUE);
            column.setHgrow(Priority.ALWAYS);
            grid.getColumnConstraints().add(column);
            String axis = "xyz".substring(i, i + 1);
            Label heading = Controls.label(axis, Styles.FAINT);
            GridPane.setHalignment(heading, HPos.CENTER);
            grid.add(heading, i + 1, 0);
            fields[i].setAccessibleText("move by along " + axis + ", m");
            fields[i + 3].setAccessibleText("turn about " + axis + ", °");
        }
        fields[6].setAccessibleText("size, ×");
        grid.addRow(1, Controls.label("move by, m", Styles.FAINT), fields[0], fields[1], fields[2]);
        grid.addRow(2, Controls.label("turn, °", Styles.FAINT), fields[3], fields[4], fields[5]);
        grid.addRow(3, Controls.label("size, ×", Styles.FAINT), fields[6]);
        about.getItems().setAll("about its pivot", "about their middle", "about the anchor");
        about.setValue("about its pivot");
        about.setId("step-about");
        Controls.hint(about, "What is turned and sized about");
        axes.getItems().setAll("world's axes", "anchor's axes", "own axes");
        axes.setValue("world's axes");
        axes.setId("step-axes");
        Controls.hint(axes, "Whose directions count");
        about.setPrefWidth(1);
        grid.add(about, 2, 3, 2, 1);
        about.setMaxWidth(Double.MAX_VALUE);
        Button apply = Controls.button("Do", "", "Do this step to all that is selected (Enter)", this::step);
        apply.setId("step-do");
        Button again = Controls.button("Again", "", "Do the last step again (A)", model.edits()::repeat);
        again.setId("step-again");
        HBox row = new HBox(8, axes, Controls.spring(), again, apply);
        row.setAlignment(Pos.CENTER_LEFT);
        copies.setId("step-copies");
        copies.getStyleClass().add("number-field");
        copies.setPrefColumnCount(4);
        copies.setOnAction(event -> makeCopies());
        Button make = Controls.button(
                "Copies", "", "Make so many more of each, each one step further than the one before", this::makeCopies);
        make.setId("step-copies-make");
        List.of(apply, again, make).forEach(button -> button.getStyleClass().add("small"));
        HBox more = new HBox(8, Controls.label("and make", Styles.FAINT), copies, make);
        more.setAlignment(Pos.CENTER_LEFT);
        getChildren().setAll(grid, row, more);
    }

    private void step() {
        read().ifPresent(step -> model.session().attempt(() -> model.edits().step(step)));
    }

    private void makeCopies() {
        Optional<Double> count = Figures.typed(copies.getText(), 0).filter(number -> number == Math.rint(number));
        if (count.isEmpty()) {
            model.session().wrong(new PantryException("\"" + copies.getText() + "\" is no number of copies"));
            copies.requestFocus();
            return;
        }
        read().ifPresent(step ->
                model.session().attempt(() -> model.edits().copies(count.get().intValue(), step)));
    }

    /** What is entered; empty, with what is wrong told, where it is no step. */
    private Optional<TransformStep> read() {
        double[] n = new double[fields.length];
        for (int i = 0; i < n.length; i++) {
            double[] read = {Double.NaN};
            Figures.typed(fields[i].getText(), 0).ifPresent(figure -> read[0] = figure);
            if (Double.isNaN(read[0])) {
                model.session().wrong(new PantryException("\"" + fields[i].getText() + "\" is not a number"));
                fields[i].requestFocus();
                return Optional.empty();
            }
            n[i] = read[0];
        }
        try {
            return Optional.of(new TransformStep(
                    new Vec3(n[0], n[1], n[2]),
                    new Vec3(n[3], n[4], n[5]),
                    n[6],
                    TransformStep.About.values()[about.getItems().indexOf(about.getValue())],
                    TransformStep.Axes.values()[axes.getItems().indexOf(axes.getValue())]));
        } catch (PantryException e) {
            model.session().wrong(e);
            return Optional.empty();
        }
    }
}
