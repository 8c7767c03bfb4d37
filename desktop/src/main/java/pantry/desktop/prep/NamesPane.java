package pantry.desktop.prep;

import java.util.List;
import javafx.animation.PauseTransition;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.prep.tools.Renaming;
import pantry.usd.SdfPath;

/** New names by a pattern, each seen before it is given; names that are taken get a number. */
final class NamesPane extends VBox {
    private final PrepModel model;
    private final TextField pattern = new TextField(Renaming.NONE.pattern());
    private final TextField find = new TextField();
    private final TextField with = new TextField();
    private final CheckBox expression = new CheckBox("Expression");
    private final Choice<Renaming.Letters> letters = new Choice<>();
    private final ListView<Renaming.Line> lines = new ListView<>();
    private final Label problem = Controls.wrapped("", Styles.WRONG);
    private final Label of = Controls.wrapped("", Styles.FAINT);
    private final Button apply;
    private final PauseTransition soon = new PauseTransition(Duration.millis(120));

    NamesPane(PrepModel model) {
        super(8);
        this.model = model;
        pattern.setId("prep-name-pattern");
        find.setId("prep-name-find");
        with.setId("prep-name-with");
        Controls.hint(
                pattern, "<name> is the present name; <kind>, <shelf>, <parent>; <1>, <01> or <001> counts from there");
        letters.getItems().setAll(Renaming.Letters.values());
        letters.setValue(Renaming.Letters.AS_THEY_ARE);
        letters.shownAs(Renaming.Letters::word);
        GridPane grid = new GridPane();
        grid.setHgap(8);
        grid.setVgap(6);
        grid.addRow(0, Controls.label("New name", Styles.FAINT), pattern);
        grid.addRow(1, Controls.label("Replace", Styles.FAINT), find);
        grid.addRow(2, Controls.label("by", Styles.FAINT), with);
        grid.addRow(3, Controls.label("Letters", Styles.FAINT), new HBox(8, letters, expression));
        ColumnConstraints names = new ColumnConstraints();
        names.setMinWidth(USE_PREF_SIZE);
        grid.getColumnConstraints().setAll(names, new ColumnConstraints());
        for (TextField field : List.of(pattern, find, with)) {
            GridPane.setHgrow(field, Priority.ALWAYS);
            field.textProperty().addListener(change -> soon.playFromStart());
        }
        ((HBox) grid.getChildren().getLast()).setAlignment(Pos.CENTER_LEFT);
        expression.setMinWidth(USE_PREF_SIZE);
        Controls.hint(expression, "What is replaced is a regular expression");
        letters.setOnAction(event -> preview());
        expression.setOnAction(event -> preview());
        HBox words = new HBox(6);
        for (String word : List.of("<name>", "<kind>", "<parent>", "<shelf>", "<01>")) {
            Button add = Controls.button(word, "", "Add it to the pattern", () -> {
                pattern.appendText(
                        pattern.getText().isEmpty() || pattern.getText().endsWith("_") ? word : "_" + word);
                pattern.requestFocus();
                pattern.end();
            });
            add.getStyleClass().add("small");
            words.getChildren().add(add);
        }
        lines.setId("prep-names");
        lines.setCellFactory(cells -> new Cell());
        lines.setPlaceholder(Controls.label("No name would change.", Styles.FAINT));
        VBox.setVgrow(lines, Priority.ALWAYS);
        apply = Controls.button("Rename", "", "Give the new names", this::apply);
        apply.setId("prep-rename");
        apply.getStyleClass().add(Styles.PRIMARY);
        HBox foot = new HBox(8, of, Controls.spring(), apply);
        HBox.setHgrow(of, Priority.ALWAYS);
        foot.setAlignment(Pos.CENTER_LEFT);
        soon.setOnFinished(event -> preview());
        getChildren().setAll(grid, words, problem, lines, foot);
        model.openedProperty().addListener(change -> preview());
        model.selectionProperty().addListener(change -> preview());
        preview();
    }

    private Renaming renaming() {
        return new Renaming(
                pattern.getText(), find.getText(), with.getText(), expression.isSelected(), letters.getValue());
    }

    private void preview() {
        problem.setText("");
        lines.getItems().clear();
        apply.setDisable(true);
        of.setText("");
        model.openedProperty()
                .get()
                .filter(now -> getScene() != null && !model.busyProperty().get())
                .ifPresent(now -> {
                    List<SdfPath> selected =
                            List.copyOf(model.selectionProperty().get());
                    try {
                        synchronized (now.piece()) {
                            List<SdfPath> paths = selected.isEmpty() ? Renaming.usual(now.piece()) : selected;
                            lines.getItems()
                                    .setAll(renaming().lines(now.piece(), paths).stream()
                                            .filter(Renaming.Line::changes)
                                            .toList());
                        }
                        long clashes = lines.getItems().stream()
                                .filter(Renaming.Line::clash)
                                .count();
                        of.setText((selected.isEmpty() ? "of all objects" : "of what is selected") + ": "
                                + lines.getItems().size() + " new names"
                                + (clashes > 0 ? ", " + clashes + " numbered since the name is taken" : ""));
                        apply.setDisable(lines.getItems().isEmpty());
                    } catch (PantryException e) {
                        problem.setText(e.getMessage());
                    }
                    problem.setManaged(!problem.getText().isEmpty());
                });
    }

    private void apply() {
        List<Renaming.Line> some = List.copyOf(lines.getItems());
        model.change("Renamed " + Names.counted(some.size(), "object"), piece -> Renaming.apply(piece, some));
        // The next renaming begins with the names as they are now.
        pattern.setText(Renaming.NONE.pattern());
        find.clear();
        with.clear();
    }

    private static final class Cell extends ListCell<Renaming.Line> {
        @Override
        protected void updateItem(Renaming.Line line, boolean empty) {
            super.updateItem(line, empty);
            setText(null);
            setGraphic(null);
            setPrefWidth(10);
            if (empty || line == null) {
                return;
            }
            Label before = Controls.label(line.before(), Styles.FAINT);
            before.setMinWidth(120);
            before.setPrefWidth(120);
            Label arrow = Controls.label("→", Styles.FAINT);
            arrow.setMinWidth(USE_PREF_SIZE);
            HBox row = new HBox(8, before, arrow, Controls.label(line.after()));
            if (line.clash()) {
                Label taken = Controls.label("numbered", Styles.CAUTION);
                taken.setMinWidth(USE_PREF_SIZE);
                row.getChildren().addAll(Controls.spring(), taken);
            }
            row.setAlignment(Pos.CENTER_LEFT);
            setGraphic(row);
        }
    }
}
