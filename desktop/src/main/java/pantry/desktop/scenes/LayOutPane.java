package pantry.desktop.scenes;

import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
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
import pantry.desktop.session.LatestWork;
import pantry.model.Model;
import pantry.scene.Layout;
import pantry.scene.LayoutFigures;
import pantry.scene.LayoutPlan;
import pantry.scene.ObjectEdges;
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
    private final ToggleButton edge;
    private final CheckBox standing = new CheckBox("each stands on what is below it");
    private final ShareRows shares = new ShareRows();
    private final LayoutPath path = new LayoutPath();
    private final LatestWork looking;
    private final Label note = Controls.wrapped("", Styles.FAINT);
    private final ReadOnlyObjectWrapper<LayoutSpace.Seen> seen = new ReadOnlyObjectWrapper<>(LayoutSpace.Seen.NOTHING);
    private String surface = "";

    LayOutPane(ScenesModel model) {
        super(10);
        this.model = model;
        this.looking = new LatestWork(model.session().background());
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
        for (int i = 0; i < COLUMNS; i++) {
            ColumnConstraints column = new ColumnConstraints(40, 80, Double.MAX_VALUE);
            column.setPercentWidth(100.0 / COLUMNS);
            figures.getColumnConstraints().add(column);
        }
        draw = ViewToolbar.toggle(
                "Draw the path",
                "layout-draw",
                "Click points on the floor, from the object on; once more ends. Points are dragged, and taken away by a"
                        + " double click");
        draw.selectedProperty().addListener((property, before, now) -> {
            if (now) {
                space().ifPresent(from -> path.begin(from.start()));
                tellPath();
            }
        });
        edge = ViewToolbar.toggle(
                "Along an edge",
                "layout-edge",
                "Click at an edge of an object: the path runs along it, all the way round where it comes back");
        // One of them at a time.
        draw.selectedProperty().addListener((property, before, now) -> edge.setSelected(edge.isSelected() && !now));
        edge.selectedProperty().addListener((property, before, now) -> draw.setSelected(draw.isSelected() && !now));
        for (TextField field : fields) {
            field.textProperty().addListener(change -> look());
        }
        smooth.selectedProperty().addListener(change -> look());
        standing.setId("layout-standing");
        standing.selectedProperty().addListener(change -> look());
        Controls.hint(
                standing,
                "On the highest surface at its place; under a roof, where the object stands under one. Where there is"
                        + " nothing, on the floor");
        sceneProperty().addListener(change -> look());
        model.shownProperty().addListener(change -> look());
        Button lay = ArrangePane.button("Lay out", "lay-out", "Use it as often as the figures say", this::lay);
        again = ArrangePane.button(
                "Lay out otherwise", "lay-again", "Change a group that was laid out before", this::again);
        HBox row = new HBox(8, Controls.spring(), again, lay);
        row.setAlignment(Pos.CENTER_LEFT);
        smooth.setId("layout-smooth");
        smooth.managedProperty().bind(draw.visibleProperty());
        smooth.visibleProperty().bind(draw.visibleProperty());
        getChildren()
                .setAll(Controls.section(
                        "Lay out",
                        way,
                        name,
                        figures,
                        shares,
                        standing,
                        new HBox(8, draw, edge),
                        drawn,
                        smooth,
                        note,
                        row));
        draw.managedProperty().bind(draw.visibleProperty());
        edge.visibleProperty().bind(draw.visibleProperty());
        edge.managedProperty().bind(draw.visibleProperty());
        standing.managedProperty().bind(standing.visibleProperty());
        drawn.managedProperty().bind(draw.visibleProperty());
        drawn.visibleProperty().bind(draw.visibleProperty());
        note.managedProperty().bind(note.textProperty().isNotEmpty());
        model.selectionProperty().addListener(change -> follow());
        show(Optional.empty());
        follow();
    }

    /** Shows the figures of a group that was laid out. */
    private void follow() {
        Optional<LayoutFigures> kept = model.edits().laidOut();
        again.setDisable(kept.isEmpty());
        if (kept.isPresent()) {
            show(kept);
        } else {
            // What was drawn lies in the world, and would be elsewhere from another object.
            space().map(LayoutSpace::start).ifPresent(path::keepFrom);
            showShares(kept);
            tellPath();
        }
    }

    /** The objects that would be laid out: all that are selected but what they are scattered on. */
    private List<SdfPath> objects() {
        List<SdfPath> chosen = model.selected();
        return way.getValue().equals(SURFACE) && chosen.size() > 1 ? chosen.subList(0, chosen.size() - 1) : chosen;
    }

    private void showShares(Optional<LayoutFigures> kept) {
        if (kept.isPresent()) {
            SdfPath group = model.selected().getFirst();
            shares.show(
                    kept.get().uses().stream()
                            .limit(kept.get().objects())
                            .map(use -> model.title(group.child(use)))
                            .toList(),
                    kept.get().shares().isEmpty()
                            ? Collections.nCopies(kept.get().objects(), 1.0)
                            : kept.get().shares());
        } else {
            shares.show(objects().stream().map(model::title).toList(), List.of());
        }
    }

    /** Whether a click at an object in the view takes its nearest edge for the path. */
    boolean isTakingEdge() {
        return edge.isSelected() && edge.isVisible() && getScene() != null;
    }

    /**
     * Lets the path run along the edge of an object that is nearest to a point.
     *
     * @param drawn the object's path as it is drawn
     * @param at in the world, metres
     */
    void edge(String drawn, Vec3 at) {
        Model seenNow = model.display().drawnModel();
        space().ifPresent(from -> model.session()
                .answer(
                        "looking for an edge",
                        progress -> ObjectEdges.near(seenNow, drawn::equals, at),
                        line -> line.ifPresentOrElse(
                                points -> {
                                    path.take(
                                            points.stream().map(from::inLayout).toList(), from.start());
                                    tellPath();
                                },
                                () -> model.session()
                                        .wrong(new PantryException("it has no edge that could be followed")))));
    }

    /** Whether a point of the path can be moved. */
    boolean isFree(int number) {
        return path.isFree(number);
    }

    /** Whether clicks in the view are points of the path. */
    boolean isDrawing() {
        return draw.isSelected() && draw.isVisible() && getScene() != null;
    }

    /**
     * Takes a point of the floor as the path's next.
     *
     * @param at in the world, metres
     */
    void point(Vec3 at) {
        space().ifPresent(from -> {
            path.add(from.inLayout(at));
            tellPath();
        });
    }

    /** Moves a point of the path, which is seen at once. */
    void movePoint(int number, Vec3 at) {
        space().ifPresent(from -> {
            path.move(number, from.inLayout(at));
            tellPath();
        });
    }

    /** Puts a point between one of the path and the next. */
    void insertPoint(int after, Vec3 at) {
        space().ifPresent(from -> {
            path.insert(after, from.inLayout(at));
            tellPath();
        });
    }

    /** Takes a point of the path away; it has two at least. */
    void removePoint(int number) {
        path.remove(number);
        tellPath();
    }

    /** Where a layout of what is selected is told: of a new one, or of a group that was laid out. */
    private Optional<LayoutSpace> space() {
        return LayoutSpace.of(model);
    }

    /** What the figures would come to, seen in the view; nothing where they are none, or nothing is selected. */
    ReadOnlyObjectProperty<LayoutSpace.Seen> seenProperty() {
        return seen.getReadOnlyProperty();
    }

    private void look() {
        boolean shown = getScene() != null && (!way.getValue().equals(ALONG) || path.isLine());
        Optional<LayoutSpace> from = shown ? space() : Optional.empty();
        Optional<LayoutPlan> plan = from.isEmpty() ? Optional.empty() : planned();
        if (plan.isEmpty()) {
            looking.drop();
            seen.set(LayoutSpace.Seen.NOTHING);
            return;
        }
        List<Vec3> line = way.getValue().equals(ALONG) ? path.points() : List.of();
        Model drawnNow = model.display().drawnModel();
        // It is said where the figures are taken over what is wrong with them.
        looking.quietly(
                "looking at a layout",
                progress -> from.get().seen(plan.get(), line, drawnNow),
                seen::set,
                problem -> seen.set(LayoutSpace.Seen.NOTHING));
    }

    /** What would be laid out; empty while a figure is none, or none can be laid out so. */
    private Optional<LayoutPlan> planned() {
        try {
            if (way.getValue().equals(SURFACE)) {
                List<SdfPath> chosen = model.selected();
                if (chosen.size() > 1) {
                    surface = chosen.getLast().toString();
                }
                if (surface.isEmpty()) {
                    return Optional.empty();
                }
            }
            return figured().flatMap(n -> shares.shares().map(each -> plan(n, each)));
        } catch (PantryException | IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private boolean isShown(TextField field) {
        return field.getParent() != null && figures.getChildren().contains(field.getParent());
    }

    /** The figures as they stand there; empty while one is none. */
    private Optional<double[]> figured() {
        double[] n = new double[fields.length];
        for (int i = 0; i < fields.length; i++) {
            if (isShown(fields[i])) {
                Optional<Double> figure = Figures.typed(fields[i].getText(), 0);
                if (figure.isEmpty()) {
                    return Optional.empty();
                }
                n[i] = figure.get();
            }
        }
        return Optional.of(n);
    }

    private void tellPath() {
        int points = path.points().size();
        drawn.setText(
                points == 0
                        ? "no point yet"
                        : points + " points, " + Figures.show(Math.rint(path.length() * 100) / 100) + " m");
        look();
    }

    private void show(Optional<LayoutFigures> kept) {
        figures.getChildren().clear();
        kept.ifPresent(figure -> way.setValue(way(figure.layout())));
        Optional<Layout> layout = kept.map(LayoutFigures::layout);
        note.setText("");
        switch (way.getValue()) {
            case GRID -> {
                Layout.Grid grid = layout.map(Layout.Grid.class::cast)
                        .orElse(new Layout.Grid(new int[] {5, 1, 1}, new Vec3(2, 1, 2)));
                row(0, "count along x;y;z", grid.counts()[0], grid.counts()[1], grid.counts()[2]);
                row(
                        1,
                        "step along x, m;y, m;z, m",
                        grid.steps().x(),
                        grid.steps().y(),
                        grid.steps().z());
            }
            case RING -> {
                Layout.Ring ring =
                        layout.map(Layout.Ring.class::cast).orElse(new Layout.Ring(8, 45, new Vec3(2, 0, 0), true));
                row(0, "count;angle between, °", ring.count(), ring.angle());
                row(1, "axis at x, m;z, m", ring.centre().x(), ring.centre().z());
            }
            case ALONG -> {
                Layout.Along along = layout.map(Layout.Along.class::cast)
                        .orElse(new Layout.Along(List.of(Vec3.ZERO, new Vec3(10, 0, 0)), 6, true, false));
                row(0, "count", along.count());
                if (layout.isPresent()) {
                    path.show(along, space().map(LayoutSpace::start).orElse(along.from()));
                    smooth.setSelected(along.smooth());
                    tellPath();
                }
            }
            case SCATTERED -> {
                Layout.Scatter scatter =
                        layout.map(Layout.Scatter.class::cast).orElse(new Layout.Scatter(10, 10, 20, 1, 1));
                row(0, "count;at least apart, m", scatter.count(), scatter.apart());
                row(1, "area along x, m;z, m", scatter.width(), scatter.depth());
            }
            default -> {
                Layout.OnSurface on = layout.map(Layout.OnSurface.class::cast)
                        .orElse(new Layout.OnSurface("/", 20, 0, 1, 60, true, 1));
                surface = layout.isPresent() ? on.surface() : "";
                row(0, "count;or for each m²", on.count(), on.density());
                row(1, "at least apart, m;steepest, °", on.apart(), on.steepest());
                note.setText("Select the object, then with Ctrl what it is scattered on.");
            }
        }
        Layout.Variation vary = kept.map(LayoutFigures::variation).orElse(Layout.Variation.NONE);
        row(2, "turned by ±°;sized by ±;random number", vary.turn(), vary.size(), vary.seed());
        draw.setVisible(way.getValue().equals(ALONG));
        standing.setVisible(!way.getValue().equals(SURFACE));
        kept.ifPresent(figure -> standing.setSelected(figure.standing()));
        showShares(kept);
        tellPath();
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

    /** @param titles of the fields, with their units, and semicolons between */
    private void row(int row, String titles, double... usual) {
        String[] names = titles.split(";");
        for (int i = 0; i < usual.length; i++) {
            TextField field = fields[COLUMNS * row + i];
            field.setText(Figures.show(usual[i]));
            field.setAccessibleText(names[i]);
            Controls.hint(field, names[i] + "; sums such as 3*2 are worked out");
            Label name = Controls.label(names[i], Styles.FAINT, "small");
            figures.add(new VBox(2, name, field), i, row);
        }
    }

    /** The figures; what is no number is said in the ledger. */
    private Optional<double[]> typed() {
        double[] n = new double[fields.length];
        for (int i = 0; i < fields.length; i++) {
            if (!isShown(fields[i])) {
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
            case ALONG -> path.layout((int) n[0], smooth.isSelected());
            case SCATTERED -> new Layout.Scatter(n[3], n[4], (int) n[0], n[1], (long) n[8]);
            default -> new Layout.OnSurface(surface, (int) n[0], n[1], n[3], n[4], true, (long) n[8]);
        };
    }

    private static Layout.Variation variation(double[] n) {
        return new Layout.Variation(n[6], n[7], "", List.of(), (long) n[8]);
    }

    private LayoutPlan plan(double[] n, List<Double> each) {
        boolean lies = way.getValue().equals(SURFACE);
        return new LayoutPlan(layout(n), variation(n), each, !lies && standing.isSelected());
    }

    /**
     * The plan as it is typed; what is wrong with it is said in the ledger.
     *
     * @param mixed whether it is of several objects
     */
    private void withPlan(boolean mixed, Consumer<LayoutPlan> then) {
        Optional<double[]> n = typed();
        Optional<List<Double>> each = mixed ? shares.shares() : Optional.of(List.of());
        if (n.isPresent() && each.isEmpty()) {
            model.session().wrong(new PantryException("a share is a number above 0"));
            shares.wrong().ifPresent(TextField::requestFocus);
        } else if (n.isPresent()) {
            model.session().attempt(() -> then.accept(plan(n.get(), each.get())));
        }
    }

    private void lay() {
        List<SdfPath> chosen = model.selected();
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
        edge.setSelected(false);
        List<SdfPath> objects = objects();
        String group = name.getText().isBlank()
                ? model.title(objects.getFirst()) + (objects.size() > 1 ? " and more" : "") + " laid out"
                : name.getText().strip();
        withPlan(objects.size() > 1, plan -> model.edits().layOut(objects, group, plan));
    }

    private void again() {
        withPlan(true, plan -> model.edits().layAgain(plan));
    }
}
