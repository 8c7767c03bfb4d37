package pantry.desktop.shelves;

import java.util.Map;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.BooleanBinding;
import javafx.geometry.Pos;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import pantry.base.math.Box3;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.LatestWork;
import pantry.desktop.view3d.Measuring;
import pantry.desktop.view3d.MotionBar;
import pantry.desktop.view3d.View3d;
import pantry.model.Model;
import pantry.render.Camera;
import pantry.render.RenderCache;
import pantry.render.RenderScene;

/** The card's view: turned by dragging, with variants, edges, the proxy, a look from above, and measuring. */
final class PreviewBox extends VBox {
    private final ShelvesModel model;
    private final View3d view = new View3d();
    private final Measuring measuring = new Measuring(view, Measuring.Way.PAIR);
    private final FlowPane choices = new FlowPane(8, 6);
    private final ToggleButton proxy =
            Controls.toggle("Proxy", "card-proxy", "The light stand-in that is shown while working");
    private final ToggleButton above = Controls.toggle("From above", "card-above", "As on a plan");
    private Optional<String> framed = Optional.empty();
    private Box3 framedBox = Box3.EMPTY;

    private final LatestWork drawing;
    private final MotionBar motion;

    /** Of the picture, pixels; the least in a low window. */
    private static final double USUAL_HEIGHT = 200;

    private static final double LEAST_HEIGHT = 130;

    /** So high a window has room for a motion's pictures, pixels. */
    private static final double HIGH_WINDOW = 720;

    PreviewBox(ShelvesModel model) {
        this.model = model;
        this.drawing = new LatestWork(model.session().background());
        this.motion = new MotionBar(
                        view,
                        model.session().workbench().renderCache(),
                        new LatestWork(model.session().background()))
                .withPictures(new LatestWork(model.session().background()));
        ToggleButton edges = Controls.toggle("Edges", "card-edges", "Show the triangles' edges");
        edges.selectedProperty().addListener((property, before, now) -> view.optionsProperty()
                .set(view.optionsProperty().get().withEdges(now)));
        ToggleButton measure = Controls.toggle("Measure", "card-measure", "Click two points of the surface");
        measuring.onProperty().bind(measure.selectedProperty());
        view.setOnPick((owner, event) -> measuring.click(event));
        proxy.selectedProperty().bindBidirectional(model.card().proxyProperty());
        above.selectedProperty().addListener((property, before, now) -> {
            Camera camera = now ? Camera.START.from(0, 89) : Camera.START;
            view.cameraProperty().set(camera);
            view.frameAll();
        });
        FlowPane toggles = new FlowPane(4, 4, edges, above, proxy, measure);
        toggles.setAlignment(Pos.CENTER);
        toggles.getStyleClass().add("view-toggles");
        StackPane stack = new StackPane(view, motion.overlay(), measuring);
        stack.setPrefHeight(220);
        stack.setMinHeight(USUAL_HEIGHT);
        // In a low window, what is told of the asset needs the room more.
        sceneProperty().subscribe(scene -> {
            if (scene != null) {
                BooleanBinding high = scene.heightProperty().greaterThanOrEqualTo(HIGH_WINDOW);
                motion.picturesShownProperty().bind(high);
                stack.minHeightProperty()
                        .bind(Bindings.when(high).then(USUAL_HEIGHT).otherwise(LEAST_HEIGHT));
            }
        });
        choices.getStyleClass().add("variant-choices");
        getChildren().setAll(stack, motion, toggles, choices);
        model.card().previewProperty().addListener((property, before, now) -> show(now));
    }

    View3d view() {
        return view;
    }

    private void show(Optional<Model> preview) {
        if (preview.isEmpty()) {
            drawing.drop();
            return;
        }
        RenderCache cache = model.session().workbench().renderCache();
        drawing.answer("drawing the asset", progress -> RenderScene.of(preview.get(), cache), drawn -> {
            show(drawn);
            motion.show(preview.get());
        });
    }

    private static boolean holds(Box3 outer, Box3 inner) {
        double margin = 0.01 * outer.size().length();
        return inner.isEmpty() || outer.contains(inner.min(), margin) && outer.contains(inner.max(), margin);
    }

    private void show(RenderScene drawn) {
        view.drawnProperty().set(drawn);
        Optional<String> now = model.card().detailsProperty().get().map(details -> details.item()
                .folder());
        boolean another = !now.equals(framed);
        if (another) {
            above.setSelected(false);
        }
        // Another variant of the same asset may reach out of what is seen.
        if (another || !holds(framedBox, drawn.bounds())) {
            framed = now;
            framedBox = drawn.bounds();
            PauseTransition laidOut = new PauseTransition(Duration.millis(30));
            laidOut.setOnFinished(event -> view.frameAll());
            laidOut.play();
        }
    }

    /** Shows the variants of an asset, and whether it has a proxy. */
    void show(CardModel.Details details) {
        proxy.setDisable(!details.hasProxy());
        Controls.hint(
                proxy,
                details.hasProxy() ? "The light stand-in that is shown while working" : "This asset has no proxy");
        choices.getChildren().clear();
        Map<String, String> chosen = model.card().variantsProperty().get();
        details.facts().variants().forEach((set, variants) -> {
            ComboBox<String> choice = new Choice<>();
            choice.setId("variant-" + set);
            choice.getItems().setAll(variants);
            choice.setValue(chosen.getOrDefault(set, details.choices().getOrDefault(set, variants.getFirst())));
            choice.getStyleClass().add("small");
            choice.setOnAction(event -> model.card().choose(set, choice.getValue()));
            Label name = Controls.label(set, Styles.FAINT);
            HBox line = new HBox(6, name, choice);
            line.setAlignment(Pos.CENTER_LEFT);
            choices.getChildren().add(line);
        });
        choices.setVisible(!choices.getChildren().isEmpty());
        choices.setManaged(choices.isVisible());
    }
}
