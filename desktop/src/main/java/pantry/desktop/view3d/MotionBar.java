package pantry.desktop.view3d;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.InvalidationListener;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.scene.control.ComboBox;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Slider;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Line;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.OwnKeys;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WrappingRow;
import pantry.desktop.session.LatestWork;
import pantry.model.Model;
import pantry.motion.Skeleton;
import pantry.render.RenderCache;
import pantry.render.RenderScene;

/** What plays the motions of the model in a view: shown where it has some. Draws its joints over it where that is wanted. */
public final class MotionBar extends VBox {
    /** How fast a motion is played, by what stands in the list. */
    private static final Map<String, Double> SPEEDS = new LinkedHashMap<>();

    private static final String USUAL = "× 1";

    private static final double SHAPE_NAME = 180;
    private static final double SHAPES_HEIGHT = 320;

    static {
        SPEEDS.put("× ¼", 0.25);
        SPEEDS.put("× ½", 0.5);
        SPEEDS.put(USUAL, 1.0);
        SPEEDS.put("× 2", 2.0);
    }

    private final View3d view;
    private final RenderCache cache;
    private final LatestWork work;
    private final MotionPlayer player = new MotionPlayer();
    private final Pane bones = new Pane();
    private final ToggleButton showBones = Controls.toggle("Bones", "motion-bones", "Draw the joints over the model");
    private final ComboBox<String> motions = new Choice<>();
    private final PlayRow time = new PlayRow(player.clock(), "play-motion", "Play or stop (Space)");
    private final MenuButton shapes = new MenuButton("Shapes");

    /** What there is of use only where there are motions. */
    private final List<Region> playing;

    /** The shapes that there are sliders for. */
    private List<String> filled = List.of();

    private final BooleanProperty picturesShown = new SimpleBooleanProperty(true);
    private final BooleanProperty resting = new SimpleBooleanProperty();
    private final ToggleButton rest = Controls.toggle("At rest", "motion-rest", "Show it as it stands without motion");
    private boolean restsAtFirst;
    private Optional<Model> still = Optional.empty();
    private Optional<MotionStrip> strip = Optional.empty();
    private Optional<Matrix4[]> joints = Optional.empty();
    private Optional<Skeleton> skeleton = Optional.empty();
    private boolean again;

    /**
     * @param view that the model is drawn in
     * @param work that poses it
     */
    public MotionBar(View3d view, RenderCache cache, LatestWork work) {
        this.view = view;
        this.cache = cache;
        this.work = work;
        bones.setMouseTransparent(true);
        motions.setId("motion-choice");
        motions.setAccessibleText("Motion");
        motions.getStyleClass().add("small");
        motions.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(motions, Priority.ALWAYS);
        motions.setOnAction(event -> player.motionProperty()
                .set(Math.max(0, motions.getSelectionModel().getSelectedIndex())));
        ComboBox<String> speed = new Choice<>();
        speed.setId("motion-speed");
        speed.setAccessibleText("Speed");
        speed.getStyleClass().add("small");
        speed.getItems().setAll(SPEEDS.keySet());
        speed.setMinWidth(USE_PREF_SIZE);
        speed.setValue(USUAL);
        speed.setOnAction(event -> player.clock().speedProperty().set(SPEEDS.getOrDefault(speed.getValue(), 1.0)));
        ToggleButton loop = Controls.toggle("Loop", "motion-loop", "Begin again at the end");
        loop.selectedProperty().bindBidirectional(player.clock().loopingProperty());
        showBones.selectedProperty().addListener(change -> drawBones());
        shapes.setId("motion-shapes");
        shapes.getStyleClass().addAll("small", Styles.QUIET);
        shapes.setMinWidth(USE_PREF_SIZE);
        Controls.hint(shapes, "Hold blend shapes at weights, whatever the motion says of them");
        playing = List.of(motions, speed, loop);
        rest.selectedProperty().bindBidirectional(resting);
        Controls.showOnly(rest, false);
        WrappingRow choices = new WrappingRow(6, motions, speed, loop, shapes, rest, showBones);
        getChildren().setAll(time, choices);
        setSpacing(4);
        getStyleClass().add("motion-bar");
        setMinHeight(USE_PREF_SIZE);
        Controls.showOnly(this, false);
        resting.addListener(change -> {
            if (resting.get()) {
                player.clock().playingProperty().set(false);
            }
            draw();
        });
        InvalidationListener moved = change -> {
            resting.set(false);
            draw();
        };
        player.clock().timeProperty().addListener(moved);
        player.held().addListener(moved);
        player.motionProperty().addListener(change -> {
            showStrip();
            time.fit();
            resting.set(false);
            draw();
        });
        view.cameraProperty().addListener(change -> drawBones());
        view.widthProperty().addListener(change -> drawBones());
        view.heightProperty().addListener(change -> drawBones());
        OwnKeys.claim(view, KeyCode.SPACE);
        view.addEventHandler(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.SPACE && isVisible()) {
                player.clock().toggle();
                event.consume();
            }
        });
    }

    /**
     * Shows each motion as a strip of small pictures as well.
     *
     * @param drawing that draws them
     */
    public MotionBar withPictures(LatestWork drawing) {
        MotionStrip made = new MotionStrip(player.clock(), cache, drawing);
        strip = Optional.of(made);
        picturesShown.addListener(change -> showStrip());
        getChildren().add(1, made);
        return this;
    }

    /** Shows what is new as it stands without motion, until somebody plays it; a button goes back to that. */
    public MotionBar restingAtFirst() {
        restsAtFirst = true;
        return this;
    }

    /** Whether the model is shown as it stands without motion, although it has some. */
    public ReadOnlyBooleanProperty restingProperty() {
        return resting;
    }

    /** What lies over the view: the joints. */
    public Pane overlay() {
        return bones;
    }

    public MotionPlayer player() {
        return player;
    }

    /** Takes the model that the view shows, as it stands still; what is looked at of its motions stays. */
    public void show(Model model) {
        // A pose of what was shown before must not come after it.
        work.drop();
        again = false;
        List<String> before = player.names();
        boolean rested = resting.get();
        player.show(model);
        still = Optional.of(model);
        skeleton = model.extras().skeleton();
        joints = skeleton.map(Skeleton::rest);
        boolean moves = !player.names().isEmpty();
        Controls.showOnly(this, skeleton.isPresent());
        Controls.showOnly(time, moves);
        playing.forEach(control -> Controls.showOnly(control, moves));
        Controls.showOnly(rest, moves && restsAtFirst);
        resting.set(moves && restsAtFirst && (rested || !player.names().equals(before)));
        Controls.showOnly(
                showBones, skeleton.filter(each -> !each.joints().isEmpty()).isPresent());
        fillShapes();
        showStrip();
        if (!player.names().equals(motions.getItems())) {
            motions.getItems().setAll(player.names());
        }
        if (moves) {
            motions.getSelectionModel().select(player.motionProperty().get());
            time.fit();
        } else {
            drawBones();
        }
        draw();
    }

    /** Whether there is room for the pictures of {@link #withPictures}. */
    public BooleanProperty picturesShownProperty() {
        return picturesShown;
    }

    private void showStrip() {
        strip.ifPresent(pictures ->
                pictures.show(player.posingProperty().get(), player.played().filter(motion -> picturesShown.get())));
    }

    /** A slider for each shape, made anew where there are others. */
    private void fillShapes() {
        Controls.showOnly(shapes, !player.shapes().isEmpty());
        if (player.shapes().equals(filled) && !player.held().isEmpty()) {
            return;
        }
        filled = player.shapes();
        GridPane rows = new GridPane(10, 4);
        for (int i = 0; i < filled.size(); i++) {
            String name = filled.get(i);
            Slider weight = new Slider(0, 1, 0);
            weight.setId("shape-" + i);
            weight.setAccessibleText(name);
            weight.valueProperty()
                    .addListener((property, was, now) -> player.held().put(name, now.doubleValue()));
            Label label = Controls.label(name, "small");
            label.setMaxWidth(SHAPE_NAME);
            Label figure = Controls.whole("0.00", Styles.FIGURE, "small");
            figure.textProperty()
                    .bind(weight.valueProperty().map(now -> String.format(Locale.ROOT, "%.2f", now.doubleValue())));
            rows.addRow(i, label, weight, figure);
        }
        ScrollPane scrolled = Controls.scrolling(rows);
        scrolled.setMaxHeight(SHAPES_HEIGHT);
        CustomMenuItem item = new CustomMenuItem(scrolled, false);
        MenuItem free = new MenuItem("As the motion has them");
        free.setOnAction(event -> {
            rows.getChildren().stream().filter(Slider.class::isInstance).forEach(weight -> ((Slider) weight)
                    .setValue(0));
            player.held().clear();
            draw();
        });
        shapes.getItems().setAll(item, free);
    }

    /** Poses the model; where that takes longer than a picture, what comes meanwhile is passed over. */
    private void draw() {
        if (work.isPending()) {
            again = true;
            return;
        }
        Optional<Supplier<MotionPlayer.Pose>> pose = resting.get() ? atRest() : player.pose();
        if (pose.isEmpty()) {
            return;
        }
        record Drawn(RenderScene scene, Matrix4[] joints) {}
        work.answer(
                "posing",
                progress -> {
                    MotionPlayer.Pose posed = pose.get().get();
                    return new Drawn(RenderScene.of(posed.model(), cache), posed.joints());
                },
                drawn -> {
                    view.drawnProperty().set(drawn.scene());
                    joints = Optional.of(drawn.joints());
                    drawBones();
                    if (again) {
                        again = false;
                        draw();
                    }
                });
    }

    private Optional<Supplier<MotionPlayer.Pose>> atRest() {
        return still.flatMap(model -> skeleton.map(bones -> () -> new MotionPlayer.Pose(model, bones.rest())));
    }

    private void drawBones() {
        bones.getChildren().clear();
        if (!showBones.isSelected() || joints.isEmpty() || skeleton.isEmpty() || view.getWidth() < 10) {
            return;
        }
        for (int i = 0; i < joints.get().length; i++) {
            Vec3 here = view.project(joints.get()[i].translationPart());
            int parent = skeleton.get().joints().get(i).parent();
            if (parent != Skeleton.NONE) {
                Vec3 there = view.project(joints.get()[parent].translationPart());
                Line line = new Line(there.x(), there.y(), here.x(), here.y());
                line.getStyleClass().add("bone");
                bones.getChildren().add(line);
            }
            Circle dot = new Circle(here.x(), here.y(), 3);
            dot.getStyleClass().add("joint");
            bones.getChildren().add(dot);
        }
    }
}
