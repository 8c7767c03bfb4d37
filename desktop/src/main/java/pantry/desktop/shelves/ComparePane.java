package pantry.desktop.shelves;

import java.util.List;
import java.util.Locale;
import javafx.animation.PauseTransition;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.SplitPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import pantry.base.math.Vec3;
import pantry.compare.Comparison;
import pantry.compare.Overlay;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Units;
import pantry.desktop.view3d.View3d;
import pantry.model.Facts;
import pantry.render.RenderCache;
import pantry.render.RenderScene;

/** Two versions side by side in views that turn together, or laid over each other with the differences tinted. */
final class ComparePane extends BorderPane {
    private final ShelvesModel model;
    private final View3d before = new View3d();
    private final View3d after = new View3d();
    private final View3d over = new View3d();
    private final Label beforeName = Controls.label("", Styles.SECTION, "view-note");
    private final Label afterName = Controls.label("", Styles.SECTION, "view-note");
    private final HBox sides = new HBox(1);
    private final VBox differences = new VBox(12);
    private final Label heading = Controls.label("", Styles.TITLE);
    private final ToggleButton laidOver = new ToggleButton("Laid over");

    private final LatestWork drawing;

    ComparePane(ShelvesModel model) {
        this.model = model;
        this.drawing = new LatestWork(model.session().background());
        setId("compare");
        before.cameraProperty().bindBidirectional(after.cameraProperty());
        over.cameraProperty().bindBidirectional(after.cameraProperty());
        for (View3d view : List.of(before, after)) {
            HBox.setHgrow(view, Priority.ALWAYS);
        }
        ToggleButton beside = new ToggleButton("Side by side");
        ToggleGroup way = new ToggleGroup();
        beside.setToggleGroup(way);
        laidOver.setToggleGroup(way);
        laidOver.setId("compare-over");
        beside.getStyleClass().add("small");
        laidOver.getStyleClass().add("small");
        beside.setSelected(true);
        way.selectedToggleProperty().addListener((property, was, now) -> {
            if (now == null) {
                way.selectToggle(was);
            }
            layOut();
        });
        Button close = Controls.button("Back to the shelves", "", "End the comparison (Esc)", () -> model.card()
                .endComparison());
        close.setId("compare-close");
        close.getStyleClass().add("small");
        HBox head = new HBox(8, heading, Controls.spring(), beside, laidOver, close);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        setTop(head);
        differences.getStyleClass().add("slip");
        SplitPane parts = new SplitPane(sides, Controls.scrolling(differences));
        parts.setOrientation(javafx.geometry.Orientation.VERTICAL);
        parts.setDividerPositions(0.58);
        setCenter(parts);
        model.card().comparedProperty().addListener((property, was, now) -> now.ifPresent(this::show));
    }

    void layOver() {
        laidOver.setSelected(true);
    }

    List<View3d> views() {
        return List.of(before, after, over);
    }

    /** The two versions, and both together, ready to be drawn. */
    private record Drawn(RenderScene before, RenderScene after, RenderScene over) {
        static Drawn of(CardModel.Compared compared, RenderCache cache) {
            return new Drawn(
                    RenderScene.of(compared.old(), cache),
                    RenderScene.of(compared.now(), cache),
                    RenderScene.of(compared.overlay(), cache));
        }
    }

    private void show(CardModel.Compared compared) {
        heading.setText(compared.asset().card().name() + "  " + compared.before() + " → " + compared.after());
        beforeName.setText(compared.before());
        afterName.setText(compared.after());
        layOut();
        tell(compared);
        RenderCache cache = model.session().workbench().renderCache();
        drawing.answer("drawing both versions", progress -> Drawn.of(compared, cache), this::show);
    }

    private void show(Drawn drawn) {
        before.drawnProperty().set(drawn.before());
        after.drawnProperty().set(drawn.after());
        over.drawnProperty().set(drawn.over());
        PauseTransition laidOut = new PauseTransition(Duration.millis(60));
        laidOut.setOnFinished(event -> (laidOver.isSelected() ? over : after).frameAll());
        laidOut.play();
    }

    private static Node named(View3d view, Node note) {
        javafx.scene.layout.StackPane stack = new javafx.scene.layout.StackPane(view, note);
        javafx.scene.layout.StackPane.setAlignment(note, Pos.TOP_LEFT);
        javafx.scene.layout.StackPane.setMargin(note, new javafx.geometry.Insets(8));
        HBox.setHgrow(stack, Priority.ALWAYS);
        stack.setMinWidth(100);
        stack.setPrefWidth(200);
        return stack;
    }

    private void layOut() {
        if (laidOver.isSelected()) {
            VBox legend = new VBox(4);
            for (Overlay.Tint tint : Overlay.Tint.values()) {
                Region swatch = new Region();
                swatch.setMinSize(12, 12);
                swatch.setMaxSize(12, 12);
                swatch.setStyle(
                        String.format("-fx-background-color: #%06X; -fx-background-radius: 3;", tint.display()));
                HBox line = new HBox(6, swatch, Controls.label(tint.words()));
                line.setAlignment(Pos.CENTER_LEFT);
                legend.getChildren().add(line);
            }
            legend.getStyleClass().add("view-note");
            legend.setMaxSize(Region.USE_PREF_SIZE, Region.USE_PREF_SIZE);
            sides.getChildren().setAll(named(over, legend));
        } else {
            sides.getChildren().setAll(named(before, beforeName), named(after, afterName));
        }
    }

    private void tell(CardModel.Compared compared) {
        Comparison all = compared.differences();
        VBox figures = new VBox(
                4,
                Controls.fact(
                        "triangles",
                        Units.count(all.triangles().before()) + " → "
                                + Units.count(all.triangles().after())),
                Controls.fact(
                        "size",
                        size(all.bounds().before()) + " → " + size(all.bounds().after())),
                Controls.fact("middle moved from the pivot by", Units.length(all.pivotMoved())),
                Controls.fact(
                        "surfaces at most apart",
                        Double.isInfinite(all.distance())
                                ? "one has none"
                                : Units.length(all.distance()) + " (to " + Units.length(all.distanceStep()) + ")"));
        differences.getChildren().setAll(Controls.section("Figures", figures));
        VBox objects = new VBox(4);
        for (Comparison.ObjectChange change : all.objects()) {
            String words = change.what().stream()
                    .map(Comparison.ChangeKind::word)
                    .reduce((a, b) -> a + ", " + b)
                    .orElse("");
            boolean renamed = change.what().contains(Comparison.ChangeKind.RENAMED);
            objects.getChildren()
                    .add(line(
                            renamed ? change.before() + " → " + change.after() : change.path(),
                            words,
                            change.detail()));
        }
        section("Objects", objects);
        VBox others = new VBox(4);
        all.materials().forEach(each -> others.getChildren()
                .add(line("material " + each.name(), each.what().word(), each.detail())));
        all.textures().forEach(each -> others.getChildren()
                .add(line("texture " + each.name(), each.what().word(), each.detail())));
        all.variants().forEach(each -> others.getChildren()
                .add(line("variant " + each.name(), each.what().word(), each.detail())));
        section("Materials, textures and variants", others);
        VBox motions = new VBox(4);
        all.motions().forEach(each -> motions.getChildren()
                .add(line(each.name(), each.what().word(), each.detail())));
        section("Bones, blend shapes and motions", motions);
        if (all.same()) {
            differences
                    .getChildren()
                    .add(Controls.wrapped("Nothing that can be seen or chosen differs.", Styles.FAINT));
        }
    }

    private void section(String title, VBox lines) {
        if (!lines.getChildren().isEmpty()) {
            differences.getChildren().add(Controls.section(title, lines));
        }
    }

    private static HBox line(String name, String what, String detail) {
        Label object = Controls.label(name);
        object.setMinWidth(60);
        Label word = Controls.label(what, "status");
        word.setMinWidth(Region.USE_PREF_SIZE);
        HBox line = new HBox(8, object, word, Controls.spring(), Controls.label(detail, Styles.FAINT));
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static String size(Facts.Bounds bounds) {
        Vec3 size = bounds.size();
        return Units.size(size.x(), size.y(), size.z()).toLowerCase(Locale.ROOT);
    }
}
