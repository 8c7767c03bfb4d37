package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.scene.Layout;
import pantry.scene.LayoutOperations;
import pantry.usd.SdfPath;

/** Lays the selected object out many times by a few figures, which are kept and can be changed. */
final class LayOutPane extends VBox {
    private static final String GRID = "in a grid";
    private static final String RING = "in a ring";
    private static final String ALONG = "along a drawn path";
    private static final String SCATTERED = "scattered over an area";
    private static final String SURFACE = "scattered on the one selected last";
    private static final int COLUMNS = 3;

    private final ScenesModel model;
    private final TextField name = new TextField();
    private final ComboBox<String> way = new Choice<>();
    private final GridPane figures = new GridPane();
    private final TextField[] fields = new TextField[9];
    private final ToggleButton draw;
    private final Label drawn = Controls.label("", Styles.FAINT);
    private final CheckBox smooth = new CheckBox("bends through its points");
    private final Button again;
    private final List<Vec3> path = new ArrayList<>();
    private final Label note = Controls.wrapped("", Styles.FAINT);
    private String surface = "";

    LayOutPane(ScenesModel model) {
        super(10);
        this.model = model;
        name.setId("layout-name");
        name.setPromptText("name of what they hang on");
        way.getItems().setAll(GRID, RING, ALONG, SCATTERED, SURFACE);
        way.setValue(GRID);
        way.setId("layout-way");
        way.setMaxWidth(Double.MAX_VALUE);
        way.setOnAction(event -> show(Optional.empty()));
        for (int i = 0; i < fields.length; i++) {
            fields[i] = new TextField();
            fields[i].getStyleClass().add("number-field");
            fields[i].setId("layout-" + (i + 1));
        }
        figures.setHgap(6);
        figures.setVgap(6);
        figures.getColumnConstraints().add(new ColumnConstraints(92));
        draw = ViewToolbar.toggle(
                "Draw the path", "layout-draw", "Click points on the floor, from the object on; once more ends");
        draw.selectedProperty().addListener((property, before, now) -> {
            if (now) {
                path.clear();
                tellPath();
            }
        });
        Button lay = ArrangePane.button("Lay out", "lay-out", "Use it as often as the figures say", this::lay);
        again = ArrangePane.button(
                "Lay out otherwise", "lay-again", "Change a group that was laid out before", this::again);
        HBox row = new HBox(8, Controls.spring(), again, lay);
        row.setAlignment(Pos.CENTER_LEFT);
        smooth.setId("layout-smooth");
        smooth.managedProperty().bind(draw.visibleProperty());
        smooth.visibleProperty().bind(draw.visibleProperty());
        getChildren().setAll(Controls.section("Lay out", way, name, figures, draw, drawn, smooth, note, row));
        draw.managedProperty().bind(draw.visibleProperty());
        drawn.managedProperty().bind(draw.visibleProperty());
        drawn.visibleProperty().bind(draw.visibleProperty());
        note.managedProperty().bind(note.textProperty().isNotEmpty());
        model.selectionProperty().addListener(change -> follow());
        show(Optional.empty());
        follow();
    }

    /** Shows the figures of a group that was laid out. */
    private void follow() {
        Optional<LayoutOperations.Figures> kept = model.edits().laidOut();
        again.setDisable(kept.isEmpty());
        kept.ifPresent(figure -> show(Optional.of(figure)));
    }

    /** Whether clicks in the view are points of the path. */
    boolean isDrawing() {
        return draw.isSelected() && draw.isVisible() && getScene() != null;
    }

    /** Takes a point of the floor as the path's next. */
    void point(Vec3 at) {
        path.add(at);
        tellPath();
    }

    private void tellPath() {
        double length = 0;
        for (int i = 1; i < path.size(); i++) {
            length += path.get(i).minus(path.get(i - 1)).length();
        }
        drawn.setText(
                path.isEmpty()
                        ? "no point yet"
                        : path.size() + " points, " + Figures.show(Math.rint(length * 100) / 100) + " m");
    }

    private void show(Optional<LayoutOperations.Figures> kept) {
        figures.getChildren().clear();
        kept.ifPresent(figure -> way.setValue(way(figure.layout())));
        Optional<Layout> layout = kept.map(LayoutOperations.Figures::layout);
        note.setText("");
        switch (way.getValue()) {
            case GRID -> {
                Layout.Grid grid = layout.map(Layout.Grid.class::cast)
                        .orElse(new Layout.Grid(new int[] {5, 1, 1}, new Vec3(2, 1, 2)));
                row(0, "count x, y, z", grid.counts()[0], grid.counts()[1], grid.counts()[2]);
                row(
                        1,
                        "step, m",
                        grid.steps().x(),
                        grid.steps().y(),
                        grid.steps().z());
            }
            case RING -> {
                Layout.Ring ring =
                        layout.map(Layout.Ring.class::cast).orElse(new Layout.Ring(8, 45, new Vec3(2, 0, 0), true));
                row(0, "count; angle, °", ring.count(), ring.angle());
                row(1, "axis x, z, m", ring.centre().x(), ring.centre().z());
            }
            case ALONG -> {
                Layout.Along along = layout.map(Layout.Along.class::cast)
                        .orElse(new Layout.Along(List.of(Vec3.ZERO, new Vec3(10, 0, 0)), 6, true, false));
                row(0, "count", along.count());
                if (layout.isPresent()) {
                    path.clear();
                    path.addAll(along.points());
                    smooth.setSelected(along.smooth());
                    tellPath();
                }
            }
            case SCATTERED -> {
                Layout.Scatter scatter =
                        layout.map(Layout.Scatter.class::cast).orElse(new Layout.Scatter(10, 10, 20, 1, 1));
                row(0, "count; apart, m", scatter.count(), scatter.apart());
                row(1, "area, m", scatter.width(), scatter.depth());
            }
            default -> {
                Layout.OnSurface on = layout.map(Layout.OnSurface.class::cast)
                        .orElse(new Layout.OnSurface("/", 20, 0, 1, 60, true, 1));
                surface = layout.isPresent() ? on.surface() : "";
                row(0, "count, or per m²", on.count(), on.density());
                row(1, "apart, m; to °", on.apart(), on.steepest());
                note.setText("Select the object, then with Ctrl what it is scattered on.");
            }
        }
        Layout.Variation vary = kept.map(LayoutOperations.Figures::variation).orElse(Layout.Variation.NONE);
        row(2, "± °, size; seed", vary.turn(), vary.size(), vary.seed());
        draw.setVisible(way.getValue().equals(ALONG));
        if (path.isEmpty()) {
            tellPath();
        }
    }

    private static String way(Layout layout) {
        return switch (layout) {
            case Layout.Grid grid -> GRID;
            case Layout.Ring ring -> RING;
            case Layout.Along along -> ALONG;
            case Layout.Scatter scatter -> SCATTERED;
            case Layout.OnSurface surface -> SURFACE;
        };
    }

    private void row(int row, String title, double... usual) {
        figures.add(Controls.label(title, Styles.FAINT), 0, row);
        for (int i = 0; i < usual.length; i++) {
            TextField field = fields[COLUMNS * row + i];
            field.setText(Figures.show(usual[i]));
            field.setAccessibleText(title);
            Controls.hint(field, title);
            figures.add(field, i + 1, row);
        }
    }

    /** The figures; what is no number is said in the ledger. */
    private Optional<double[]> typed() {
        double[] n = new double[fields.length];
        for (int i = 0; i < fields.length; i++) {
            if (fields[i].getParent() == null) {
                continue;
            }
            Optional<Double> figure = Figures.typed(fields[i].getText(), 0);
            if (figure.isEmpty()) {
                model.session().wrong(new PantryException("\"" + fields[i].getText() + "\" is not a number"));
                fields[i].requestFocus();
                return Optional.empty();
            }
            n[i] = figure.get();
        }
        return Optional.of(n);
    }

    private Layout layout(double[] n) {
        return switch (way.getValue()) {
            case GRID -> new Layout.Grid(new int[] {(int) n[0], (int) n[1], (int) n[2]}, new Vec3(n[3], n[4], n[5]));
            case RING -> new Layout.Ring((int) n[0], n[1], new Vec3(n[3], 0, n[4]), true);
            case ALONG -> new Layout.Along(path, (int) n[0], true, smooth.isSelected());
            case SCATTERED -> new Layout.Scatter(n[3], n[4], (int) n[0], n[1], (long) n[8]);
            default -> new Layout.OnSurface(surface, (int) n[0], n[1], n[3], n[4], true, (long) n[8]);
        };
    }

    private static Layout.Variation variation(double[] n) {
        return new Layout.Variation(n[6], n[7], "", List.of(), (long) n[8]);
    }

    private void lay() {
        List<SdfPath> chosen = List.copyOf(model.selectionProperty().get());
        if (chosen.isEmpty()) {
            return;
        }
        if (way.getValue().equals(SURFACE)) {
            if (chosen.size() < 2) {
                model.session().wrong(new PantryException("select the object, then with Ctrl what it is scattered on"));
                return;
            }
            surface = chosen.getLast().toString();
        }
        draw.setSelected(false);
        String group = name.getText().isBlank()
                ? chosen.getFirst().name() + " laid out"
                : name.getText().strip();
        typed().ifPresent(n -> model.session().attempt(() -> model.edits().layOut(group, layout(n), variation(n))));
    }

    private void again() {
        typed().ifPresent(n -> model.session().attempt(() -> model.edits().layAgain(layout(n), variation(n))));
    }
}
