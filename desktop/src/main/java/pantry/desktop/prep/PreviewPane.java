package pantry.desktop.prep;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.animation.PauseTransition;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.PublishForm;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WrappingRow;
import pantry.desktop.session.Followers;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Units;
import pantry.desktop.view3d.MotionBar;
import pantry.desktop.view3d.View3d;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.prep.inspect.Finding;
import pantry.prep.tools.WorkpieceContents;
import pantry.render.RenderCache;
import pantry.render.RenderScene;
import pantry.usd.SdfPath;

/** The large preview of what is opened, with the finding that is pointed at drawn in it; before and after side by side. */
final class PreviewPane extends BorderPane {
    private static final int MOST_EDGES = 6000;

    private final PrepModel model;
    private final View3d view = new View3d();
    private final View3d before = new View3d();
    private final FindingsOverlay overlay = new FindingsOverlay(view);
    private final MotionBar motion;
    private final StackPane layers = new StackPane();
    private final HBox sides = new HBox(1);
    private final Label title = Controls.path("", Styles.TITLE);
    private final ToggleButton beside = new ToggleButton("Before and after");
    private final ToggleButton pivots = new ToggleButton("Pivots");
    private final ToggleButton light = new ToggleButton("Proxy");
    private final FlowPane figures = new FlowPane(16, 4);
    private final HBox actions = new HBox(8);
    private final VBox asking = new VBox(8);
    private final Label followers = Controls.wrapped("", Styles.FAINT);
    private List<FindingsOverlay.Strokes> made = List.of();
    private Optional<Consumer<Vec3>> picking = Optional.empty();
    private Optional<InspectionItem> framed = Optional.empty();
    private final Consumer<Path> takeIn;
    private boolean tinting;
    private @Nullable Model shown;

    private final LatestWork drawing;
    private final LatestWork drawingBefore;

    /** Whether what is drawn next is of something else than what was looked at. */
    private boolean unframed;

    PreviewPane(PrepModel model, Node nothing, Consumer<Path> takeIn) {
        this.model = model;
        this.drawing = new LatestWork(model.session().background());
        this.drawingBefore = new LatestWork(model.session().background());
        this.takeIn = takeIn;
        this.motion = new MotionBar(
                        view,
                        model.session().workbench().renderCache(),
                        new LatestWork(model.session().background()))
                .restingAtFirst();
        // Findings are marked where things stand without motion.
        overlay.visibleProperty().bind(motion.visibleProperty().not().or(motion.restingProperty()));
        before.cameraProperty().bindBidirectional(view.cameraProperty());
        for (ToggleButton button : List.of(beside, pivots, light)) {
            button.getStyleClass().add("small");
            button.setMinWidth(USE_PREF_SIZE);
            button.setOnAction(event -> show());
        }
        beside.setOnAction(event -> {
            show();
            frameSoon();
        });
        beside.setId("prep-beside");
        pivots.setId("prep-pivots");
        light.setId("prep-light");
        Controls.hint(beside, "The copy as it was opened beside what it is now (B)");
        Controls.hint(pivots, "Where each object is held");
        Controls.hint(light, "Show the proxy, as while working in a scene");
        WrappingRow head = new WrappingRow(8, title, Controls.spring(), pivots, light, beside);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        setTop(head);
        layers.getChildren().setAll(sides, nothing);
        setCenter(layers);
        figures.setAlignment(Pos.CENTER_LEFT);
        actions.setAlignment(Pos.CENTER_RIGHT);
        WrappingRow foot = new WrappingRow(12, figures, Controls.spring(), actions);
        followers.setId("prep-followers");
        VBox strip = new VBox(6, asking, followers, new ReadingChoice(model), foot);
        strip.getStyleClass().add("strip");
        setBottom(new VBox(motion, strip));
        getStyleClass().add(Styles.PANEL);
        setMinWidth(220);
        view.setOnPick((owner, event) -> {
            if (picking.isPresent()) {
                Consumer<Vec3> take = picking.get();
                picking = Optional.empty();
                take.accept(pointAt(owner, event.getX(), event.getY()));
                return;
            }
            Set<SdfPath> chosen = new LinkedHashSet<>(
                    event.isShiftDown() ? model.selectionProperty().get() : Set.of());
            owner.map(PreviewPane::path).ifPresent(chosen::add);
            model.selectionProperty().set(chosen);
        });
        model.openedProperty().addListener(change -> show());
        model.refusedProperty().addListener(change -> show());
        model.selectionProperty().addListener(change -> mark());
        model.chosen().pointedProperty().addListener(change -> mark());
        show();
    }

    private static SdfPath path(String owner) {
        return SdfPath.of(owner);
    }

    /** A point on what is under the mouse: on the ground, or in the middle of an object's box as far as the eye goes. */
    private Vec3 pointAt(Optional<String> owner, double x, double y) {
        Vec3 ground = view.groundAt(x, y, 0);
        return owner.flatMap(path -> model.openedProperty().get().flatMap(now -> now.contents()
                        .find(path(path))))
                .map(thing -> nearest(thing, x, y))
                .orElse(ground);
    }

    /** The corner of an object's surface that is seen nearest to a point of the view. */
    private Vec3 nearest(WorkpieceContents.Thing thing, double x, double y) {
        List<Vec3> ends = model.openedProperty()
                .get()
                .map(now -> now.contents().edges(thing.path(), 100_000))
                .orElse(List.of());
        Vec3 best = thing.box().centre();
        double least = Double.POSITIVE_INFINITY;
        for (Vec3 end : ends) {
            Vec3 at = view.project(end);
            double away = Math.hypot(at.x() - x, at.y() - y);
            if (at.z() > 0 && away < least) {
                least = away;
                best = end;
            }
        }
        return best;
    }

    /** Lets the next click choose a point. */
    void pick(Consumer<Vec3> take) {
        picking = Optional.of(take);
        view.requestFocus();
    }

    /** Whether several objects that are selected are shown in one tint. */
    void tint(boolean wanted) {
        tinting = wanted;
        mark();
    }

    /** Lines of something that a tool is making. */
    void showMade(List<FindingsOverlay.Strokes> strokes) {
        made = strokes;
        mark();
    }

    View3d view() {
        return view;
    }

    List<View3d> views() {
        return List.of(view, before);
    }

    boolean isBeside() {
        return beside.isSelected();
    }

    void toggleBeside() {
        if (!beside.isDisabled()) {
            beside.fire();
        }
    }

    /** Once what was changed is laid out. */
    private void frameSoon() {
        PauseTransition laidOut = new PauseTransition(Duration.millis(160));
        laidOut.setOnFinished(event -> view.frameAll());
        laidOut.play();
    }

    private record Drawn(Model model, RenderScene scene) {}

    /** Prepares a model in the background; of several, the last is shown. */
    private void draw(LatestWork work, Supplier<Model> drawn, Consumer<Drawn> then) {
        RenderCache cache = model.session().workbench().renderCache();
        work.answer(
                "drawing the working copy",
                progress -> {
                    Model made = drawn.get();
                    return new Drawn(made, RenderScene.of(made, cache));
                },
                then);
    }

    private void showDrawn(Drawn drawn) {
        boolean whole = view.showsAll();
        view.drawnProperty().set(drawn.scene());
        motion.show(drawn.model());
        if (unframed) {
            unframed = false;
            frameSoon();
        } else if (whole && !view.showsAll()) {
            // A fix has moved it out of the picture.
            view.frameAll();
        }
    }

    private void show() {
        Optional<Opened> now = model.openedProperty().get();
        layers.getChildren()
                .get(1)
                .setVisible(now.isEmpty() && model.refusedProperty().get().isEmpty());
        sides.setVisible(now.isPresent());
        figures.getChildren().clear();
        actions.getChildren().clear();
        Controls.showOnly(actions, true);
        asking.getChildren().clear();
        Controls.showOnly(followers, false);
        title.setText(model.selectedProperty().get().map(InspectionItem::title).orElse("Prep"));
        beside.setDisable(now.filter(Opened::changed).isEmpty());
        if (beside.isDisabled()) {
            beside.setSelected(false);
        }
        light.setDisable(now.flatMap(Opened::proxy).isEmpty());
        pivots.setDisable(now.isEmpty());
        if (layers.getChildren().size() > 2) {
            layers.getChildren().remove(2);
        }
        model.refusedProperty().get().ifPresent(problem -> layers.getChildren().add(refusal(problem)));
        shown = null;
        if (now.isEmpty()) {
            framed = Optional.empty();
            overlay.show(List.of(), List.of());
            return;
        }
        Opened opened = now.get();
        StackPane main = named(new StackPane(view, overlay, motion.overlay()), beside.isSelected() ? "now" : "");
        if (beside.isSelected()) {
            draw(drawingBefore, opened::original, drawn -> before.drawnProperty()
                    .set(drawn.scene()));
            sides.getChildren().setAll(named(new StackPane(before), "as it was opened"), main);
        } else {
            sides.getChildren().setAll(main);
        }
        if (framed.filter(subject -> subject == opened.subject()).isEmpty()) {
            framed = Optional.of(opened.subject());
            made = List.of();
            unframed = true;
        }
        tell(opened);
        mark();
    }

    private static Node refusal(PantryException problem) {
        VBox box = Controls.empty("remixal-forbid-2-line", "It cannot be inspected", problem.line());
        box.setId("prep-refused");
        return box;
    }

    private static StackPane named(StackPane stack, String name) {
        if (!name.isEmpty()) {
            Label note = Controls.label(name, Styles.SECTION, "view-note");
            StackPane.setAlignment(note, Pos.TOP_LEFT);
            StackPane.setMargin(note, new Insets(8));
            stack.getChildren().add(note);
        }
        HBox.setHgrow(stack, Priority.ALWAYS);
        stack.setMinWidth(100);
        stack.setPrefWidth(200);
        return stack;
    }

    private void tell(Opened opened) {
        Weight was = opened.weightBefore();
        Weight is = opened.weight();
        Vec3 size = opened.model().bounds().isEmpty()
                ? Vec3.ZERO
                : opened.model().bounds().size();
        figures.getChildren()
                .setAll(
                        figure("wide × tall × deep", Units.size(size.x(), size.y(), size.z())),
                        figure("triangles stored", change(was.trianglesStored(), is.trianglesStored())),
                        figure("objects", change(was.objects(), is.objects())));
        Button save = Controls.button("", "remixmz-save-line", "Save the working copy as a file (Ctrl+S)", this::save);
        save.setId("prep-save");
        actions.getChildren().add(save);
        if (opened.subject().asset().isPresent()) {
            Button publish = Controls.button(
                    "New version…",
                    "",
                    "Publish the working copy as the asset's next version (Ctrl+P)",
                    () -> askToPublish(opened));
            publish.setId("prep-publish");
            publish.getStyleClass().add(Styles.PRIMARY);
            publish.setDisable(!opened.changed());
            actions.getChildren().add(publish);
            if (opened.changed()) {
                tellFollowers(opened);
            }
        } else {
            Button receive = Controls.button(
                    "Save and take in…", "", "Save the working copy, and put it among the arrivals", this::receive);
            receive.setId("prep-receive");
            receive.getStyleClass().add(Styles.PRIMARY);
            actions.getChildren().add(receive);
        }
    }

    /** Asks to publish, where an asset was changed. */
    void publish() {
        model.openedProperty()
                .get()
                .filter(opened -> opened.changed() && opened.subject().asset().isPresent())
                .ifPresentOrElse(this::askToPublish, () -> model.session()
                        .wrong(new PantryException(
                                "There is nothing to publish: no asset that was changed here is open")));
    }

    /** Asks for a note in place of the buttons. */
    private void askToPublish(Opened opened) {
        PublishForm form = new PublishForm(
                model.session(),
                opened.subject().asset().map(InspectionItem.AssetVersion::id),
                "tidied: " + opened.undo().orElse(""),
                (note, status) -> {
                    asking.getChildren().clear();
                    model.publish(note, status);
                });
        Button cancel = Controls.button("Cancel", "", "Publish nothing", () -> {
            asking.getChildren().clear();
            Controls.showOnly(actions, true);
        });
        form.add(cancel);
        asking.getChildren().setAll(form);
        Controls.showOnly(actions, false);
        Controls.showOnly(followers, false);
        form.enter();
    }

    private void tellFollowers(Opened opened) {
        Followers.ask(model.session(), opened.subject().asset().orElseThrow().id(), who -> {
            boolean still = model.openedProperty().get().equals(Optional.of(opened));
            followers.setText("As a new version, it is shown at once in " + who.words() + ".");
            Controls.showOnly(followers, still && !who.isNobody());
        });
    }

    private static String change(long was, long is) {
        return was == is ? Units.count(is) : Units.count(was) + " → " + Units.count(is);
    }

    private static VBox figure(String name, String value) {
        VBox box = new VBox(1, Controls.label(name, Styles.FAINT), Controls.label(value, Styles.FIGURE));
        box.setMinWidth(USE_PREF_SIZE);
        return box;
    }

    /** What is selected and what is pointed at. */
    private void mark() {
        Optional<Opened> now = model.openedProperty().get();
        if (now.isEmpty()) {
            return;
        }
        WorkpieceContents contents = now.get().contents();
        Set<String> chosen = new LinkedHashSet<>();
        model.selectionProperty().get().forEach(path -> chosen.add(path.toString()));
        List<FindingsOverlay.Strokes> strokes = new ArrayList<>(made);
        List<FindingsOverlay.Mark> marks = new ArrayList<>();
        model.chosen().pointedProperty().get().ifPresent(finding -> point(finding, contents, chosen, strokes, marks));
        if (pivots.isSelected()) {
            contents.tops().forEach(top -> pivots(top, marks));
        } else {
            model.selectionProperty().get().stream()
                    .flatMap(path -> contents.find(path).stream())
                    .limit(50)
                    .forEach(thing -> marks.add(new FindingsOverlay.Mark(thing.pivot(), FindingsOverlay.Ink.PIVOT)));
        }
        Model drawn = light.isSelected()
                ? now.get().proxy().orElse(now.get().model())
                : now.get().model();
        boolean together = model.chosen()
                        .pointedProperty()
                        .get()
                        .filter(finding -> finding.shown().size() > 1)
                        .isPresent()
                || tinting;
        if (together && chosen.size() > 1) {
            view.optionsProperty().set(view.optionsProperty().get().withSelected(Set.of()));
            draw(drawing, () -> Tint.of(drawn, chosen), this::showDrawn);
        } else {
            view.optionsProperty().set(view.optionsProperty().get().withSelected(chosen));
            if (shown != drawn) {
                draw(drawing, () -> drawn, this::showDrawn);
            }
        }
        shown = together && chosen.size() > 1 ? null : drawn;
        overlay.show(strokes, marks);
    }

    private static void point(
            Finding finding,
            WorkpieceContents contents,
            Set<String> chosen,
            List<FindingsOverlay.Strokes> strokes,
            List<FindingsOverlay.Mark> marks) {
        int each = Math.max(50, MOST_EDGES / Math.max(1, finding.shown().size()));
        for (SdfPath path : finding.shown()) {
            contents.find(path).ifPresent(thing -> {
                boolean lines = !thing.seen() || thing.triangles() == 0;
                if (thing.seen() && thing.below().isEmpty()) {
                    chosen.add(path.toString());
                }
                if (lines) {
                    strokes.add(new FindingsOverlay.Strokes(
                            contents.edges(path, each),
                            thing.seen() ? FindingsOverlay.Ink.FLAW : FindingsOverlay.Ink.HIDDEN));
                }
                if (finding.rule().id().startsWith("pivot")
                        || finding.rule().id().startsWith("off-")) {
                    marks.add(new FindingsOverlay.Mark(thing.pivot(), FindingsOverlay.Ink.FLAW));
                }
            });
        }
    }

    private static void pivots(WorkpieceContents.Thing thing, List<FindingsOverlay.Mark> marks) {
        if (!thing.box().isEmpty() && thing.seen() && marks.size() < 400) {
            marks.add(new FindingsOverlay.Mark(thing.pivot(), FindingsOverlay.Ink.PIVOT));
            thing.below().forEach(child -> pivots(child, marks));
        }
    }

    private Optional<Path> target(String title) {
        String stem = model.selectedProperty()
                .get()
                .map(subject -> Names.slug(Names.stem(subject.title())) + "-tidy.usda")
                .orElse("");
        return Ask.of(this, title)
                .kind("USD", "usda", "usdc", "usdz")
                .kind("glTF", "glb", "gltf")
                .kind("OBJ, STL, PLY", "obj", "stl", "ply")
                .named(stem)
                .saveAs();
    }

    void save() {
        if (model.openedProperty().get().isPresent()) {
            target("Save the working copy").ifPresent(model::save);
        }
    }

    private void receive() {
        target("Save the working copy").ifPresent(file -> model.save(file, () -> takeIn.accept(file)));
    }
}
