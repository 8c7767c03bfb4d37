package pantry.desktop.prep;

import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import javafx.scene.shape.FillRule;
import pantry.base.Names;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.prep.tools.PlanDrawing;
import pantry.prep.tools.PlanSymbol;

/** Draws the plan symbol: into the asset, or as a drawing. */
final class PlanPane extends VBox {
    private static final double SIDE = 320;

    private final PrepModel model;
    private final Canvas canvas = new Canvas(SIDE, 240);
    private final CheckBox edges = new CheckBox("Edges of parts");
    private final ComboBox<String> fineness = new Choice<>();
    private final ComboBox<String> scale = new Choice<>();
    private final VBox figures = new VBox(4);
    private final Button write;
    private final Button save;
    private Optional<PlanSymbol> drawn = Optional.empty();

    PlanPane(PrepModel model) {
        super(12);
        this.model = model;
        fineness.getItems().setAll("fine", "usual", "coarse");
        fineness.setValue("usual");
        scale.getItems().setAll("1:10", "1:20", "1:50", "1:100", "1:200");
        scale.setValue("1:50");
        scale.setId("prep-plan-scale");
        Button draw =
                Controls.button("Draw it", "remixmz-pencil-ruler-2-line", "Draw the outline from above", this::draw);
        draw.setId("prep-plan-draw");
        draw.disableProperty().bind(model.busyProperty());
        HBox how = new HBox(8, edges, Controls.spring(), fineness, draw);
        how.setAlignment(Pos.CENTER_LEFT);
        StackPane paper = new StackPane(canvas);
        paper.getStyleClass().add("plan-paper");
        write = Controls.button(
                "Into the asset", "", "As guide curves that grow with its width and depth", this::write);
        write.setId("prep-plan-write");
        write.getStyleClass().add(Styles.PRIMARY);
        save = Controls.button("Save as drawing…", "", "As SVG or DXF in millimetres", this::save);
        save.setId("prep-plan-save");
        edges.setMinWidth(USE_PREF_SIZE);
        Controls.hint(edges, "Also the edges of its parts that are seen from above");
        Label at = Controls.label("in millimetres at", Styles.FAINT);
        at.setMinWidth(USE_PREF_SIZE);
        scale.setMinWidth(90);
        HBox drawing = new HBox(8, at, scale, Controls.spring(), save);
        drawing.setAlignment(Pos.CENTER_LEFT);
        HBox out = new HBox(
                8, Controls.wrapped("grows with the asset's width and depth", Styles.FAINT), Controls.spring(), write);
        out.setAlignment(Pos.CENTER_LEFT);
        getChildren()
                .setAll(
                        Controls.wrapped(
                                "How it is drawn in a plan: its outline from above, with the holes in it.",
                                Styles.FAINT),
                        how,
                        paper,
                        figures,
                        Controls.section("As a drawing", drawing),
                        Controls.section("As guide curves", out));
        model.openedProperty().addListener((property, before, now) -> {
            if (!before.map(Opened::subject).equals(now.map(Opened::subject))) {
                forget();
            }
        });
        forget();
    }

    private void forget() {
        drawn = Optional.empty();
        write.setDisable(true);
        save.setDisable(true);
        figures.getChildren().clear();
        canvas.getGraphicsContext2D().clearRect(0, 0, canvas.getWidth(), canvas.getHeight());
    }

    private void draw() {
        double times =
                fineness.getValue().equals("fine") ? 0.3 : fineness.getValue().equals("coarse") ? 4 : 1;
        boolean withEdges = edges.isSelected();
        model.ask(
                "Drawing the plan",
                piece -> progress -> {
                    var seen = piece.model();
                    return PlanSymbol.of(seen, times * PlanSymbol.usualTolerance(seen), withEdges, progress);
                },
                this::show);
    }

    private void show(PlanSymbol plan) {
        drawn = Optional.of(plan);
        write.setDisable(false);
        save.setDisable(false);
        figures.getChildren()
                .setAll(
                        Controls.fact("wide × deep", Units.length(plan.width()) + " × " + Units.length(plan.depth())),
                        Controls.fact("covers", Units.area(plan.area())),
                        Controls.fact(
                                "lines",
                                String.valueOf(
                                        plan.rings().size() + plan.edges().size())));
        GraphicsContext g = canvas.getGraphicsContext2D();
        g.clearRect(0, 0, canvas.getWidth(), canvas.getHeight());
        Vec3 middle = plan.bounds().centre();
        double by = Math.min(
                (canvas.getWidth() - 24) / Math.max(1e-9, plan.width()),
                (canvas.getHeight() - 24) / Math.max(1e-9, plan.depth()));
        g.save();
        g.translate(canvas.getWidth() / 2, canvas.getHeight() / 2);
        g.scale(by, by);
        g.translate(-middle.x(), -middle.z());
        g.setFillRule(FillRule.EVEN_ODD);
        g.setFill(Color.web("#E1EDE6"));
        g.setStroke(Color.web("#22262B"));
        g.setLineWidth(1.6 / by);
        g.beginPath();
        plan.rings().forEach(ring -> trace(g, ring));
        g.fill();
        g.stroke();
        g.setLineWidth(0.8 / by);
        g.setStroke(Color.web("#626872"));
        g.beginPath();
        plan.edges().forEach(line -> trace(g, line));
        g.stroke();
        g.restore();
    }

    private static void trace(GraphicsContext g, PlanSymbol.Line line) {
        PlanSymbol.Point first = line.points().getFirst();
        g.moveTo(first.x(), first.z());
        line.points().stream().skip(1).forEach(point -> g.lineTo(point.x(), point.z()));
    }

    private void write() {
        drawn.ifPresent(plan -> model.change("Plan symbol", piece -> PlanSymbol.write(piece, plan)));
    }

    private void save() {
        String name = model.selectedProperty()
                .get()
                .map(subject -> Names.slug(Names.stem(subject.title())) + ".svg")
                .orElse("");
        Ask.of(this, "Save the plan symbol")
                .kind("SVG", "svg")
                .kind("DXF", "dxf")
                .named(name)
                .saveAs()
                .ifPresent(file -> drawn.ifPresent(plan -> model.session().attempt(() -> {
                    new PlanDrawing(plan, Double.parseDouble(scale.getValue().substring(2))).write(file);
                    model.session().told("Saved as " + file);
                })));
    }
}
