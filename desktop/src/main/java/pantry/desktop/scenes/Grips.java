package pantry.desktop.scenes;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import javafx.scene.Cursor;
import javafx.scene.Group;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Line;
import javafx.scene.shape.LineTo;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.Path;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Polyline;
import javafx.scene.shape.Rectangle;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.desktop.view3d.View3d;
import pantry.render.Picking;
import pantry.render.PlanEdges;
import pantry.render.RenderScene;
import pantry.usd.schema.TransformComponents;

/**
 * What the selected placement is taken by: a plate on the floor to slide it, a tab above to raise it, a knob on the
 * ring to turn it, a corner to scale it. Drawn over the view; Shift goes in steps.
 */
final class Grips extends Pane {
    private static final double STEP_DEGREES = 15;
    private static final double STEP_SCALE = 0.1;
    private static final int RING_POINTS = 72;
    private static final double RING_PIXELS = 74;

    /** So near to another, it comes to lie flush with it. */
    private static final double REACH_PIXELS = 12;

    private final View3d view;
    private final ScenesModel model;
    private final Circle plate = new Circle(9);
    private final Polygon raise = new Polygon(0, -10, 9, 6, -9, 6);
    private final Circle knob = new Circle(7);
    private final Rectangle corner = new Rectangle(13, 13);
    private final Polyline ring = new Polyline();
    private final Line stem = new Line();
    private final Path guides = new Path();

    /** Of what was near while something is slid, by its path. */
    private final Map<String, PlanEdges> edges = new HashMap<>();

    private final Label figure = Controls.label("", Styles.FIGURE, "view-note");
    private final Group all = new Group(ring, stem, plate, raise, knob, corner);
    private Optional<TransformComponents> placing = Optional.empty();
    private Matrix4 parent = Matrix4.IDENTITY;
    private double height = 1;
    private double base;
    private String path = "";
    private Optional<Drag> drag = Optional.empty();
    private BiConsumer<TransformComponents, Boolean> onMove = (placing, finished) -> {};

    /** A drag that goes on: from where, by which grip. */
    private record Drag(Grip grip, TransformComponents start, double x, double y) {}

    private enum Grip {
        SLIDE,
        RAISE,
        TURN,
        SCALE
    }

    Grips(View3d view, ScenesModel model) {
        this.view = view;
        this.model = model;
        setPickOnBounds(false);
        ring.getStyleClass().add("grip-line");
        stem.getStyleClass().add("grip-line");
        ring.setMouseTransparent(true);
        stem.setMouseTransparent(true);
        figure.setMouseTransparent(true);
        figure.setVisible(false);
        grip(plate, Grip.SLIDE, "grip-slide", "Slide over the floor");
        grip(raise, Grip.RAISE, "grip-raise", "Raise and lower");
        grip(knob, Grip.TURN, "grip-turn", "Turn about the vertical");
        grip(corner, Grip.SCALE, "grip-scale", "Scale evenly");
        guides.getStyleClass().add("layout-line");
        guides.setMouseTransparent(true);
        guides.setManaged(false);
        getChildren().setAll(guides, all, figure);
        all.setVisible(false);
        view.cameraProperty().addListener(change -> place());
        view.widthProperty().addListener(change -> place());
        view.heightProperty().addListener(change -> place());
    }

    /** Called while something is dragged, and once more with true when it is let go. */
    void setOnMove(BiConsumer<TransformComponents, Boolean> handler) {
        onMove = handler;
    }

    private void grip(Node node, Grip kind, String id, String hint) {
        node.setId(id);
        node.getStyleClass().add("grip");
        node.setCursor(Cursor.HAND);
        Controls.hint(node, hint + (kind == Grip.TURN ? "; Shift turns freely" : "; Shift goes in steps"));
        node.setOnMousePressed(event -> {
            placing.ifPresent(p -> drag = Optional.of(new Drag(kind, p, event.getX(), event.getY())));
            drag = drag.map(d ->
                    new Drag(kind, d.start(), local(event).x(), local(event).y()));
            event.consume();
        });
        node.setOnMouseDragged(event -> {
            drag.ifPresent(d -> moved(d, event, false));
            event.consume();
        });
        node.setOnMouseReleased(event -> {
            drag.ifPresent(d -> moved(d, event, true));
            drag = Optional.empty();
            edges.clear();
            guides.getElements().clear();
            figure.setVisible(false);
            event.consume();
        });
    }

    private Vec3 local(MouseEvent event) {
        var point = sceneToLocal(event.getSceneX(), event.getSceneY());
        return new Vec3(point.getX(), point.getY(), 0);
    }

    /**
     * Shows the grips of what is selected, or none.
     *
     * @param shown its place, told in {@code parentSpace}
     * @param box around it, in the world; empty where it has no surfaces
     */
    void show(Optional<TransformComponents> shown, Matrix4 parentSpace, String objectPath, Box3 box) {
        placing = shown;
        parent = parentSpace;
        path = objectPath;
        height = box.isEmpty() ? 1 : Math.max(box.size().y(), 1e-3);
        base = shown.isEmpty() || box.isEmpty() ? 0 : box.min().y() - origin().y();
        place();
    }

    private Vec3 origin() {
        return parent.point(placing.orElseThrow().move());
    }

    private void place() {
        boolean visible = placing.isPresent() && view.project(origin()).z() > 0;
        all.setVisible(visible);
        if (!visible) {
            return;
        }
        Vec3 origin = origin();
        Vec3 at = view.project(origin);
        double radius = RING_PIXELS * at.z() / pixelsPerSlope();
        ring.getPoints().clear();
        for (int i = 0; i <= RING_POINTS; i++) {
            Vec3 p = view.project(onRing(origin, radius, 360.0 * i / RING_POINTS));
            ring.getPoints().addAll(p.x(), p.y());
        }
        put(plate, at);
        double turn = placing.orElseThrow().turn().y();
        put(knob, view.project(onRing(origin, radius, turn)));
        put(corner, view.project(onRing(origin, radius, turn + 135)));
        Vec3 top = view.project(origin.plus(new Vec3(0, Math.max(height, radius * 0.6) + radius * 0.25, 0)));
        put(raise, top);
        stem.setStartX(at.x());
        stem.setStartY(at.y());
        stem.setEndX(top.x());
        stem.setEndY(top.y());
    }

    private static Vec3 onRing(Vec3 origin, double radius, double degrees) {
        double angle = Math.toRadians(degrees);
        return origin.plus(new Vec3(Math.cos(angle) * radius, 0, -Math.sin(angle) * radius));
    }

    private void put(Node node, Vec3 at) {
        if (node instanceof Rectangle) {
            node.relocate(at.x() - 6.5, at.y() - 6.5);
        } else {
            node.setTranslateX(at.x());
            node.setTranslateY(at.y());
        }
    }

    private double pixelsPerSlope() {
        return view.getHeight()
                / (2 * Math.tan(Math.toRadians(view.cameraProperty().get().fieldOfView() / 2)));
    }

    private void moved(Drag from, MouseEvent event, boolean finished) {
        Vec3 now = local(event);
        TransformComponents start = from.start();
        boolean steps = event.isShiftDown() != model.edits().inStepsProperty().get();
        double length = model.edits().stepSizeProperty().get();
        Vec3 world = parent.point(start.move());
        Vec3 centre = view.project(world);
        TransformComponents next =
                switch (from.grip()) {
                    case SLIDE -> {
                        if (model.edits().ontoThingsProperty().get()) {
                            yield onto(start, now, steps, length);
                        }
                        Vec3 by = view.groundAt(now.x(), now.y(), world.y())
                                .minus(view.groundAt(from.x(), from.y(), world.y()));
                        Vec3 to = start.move().plus(parent.inverse().direction(by));
                        TransformComponents slid = start.withMove(new Vec3(
                                rounded(to.x(), length, steps), start.move().y(), rounded(to.z(), length, steps)));
                        yield flush(start, slid, event);
                    }
                    case RAISE -> {
                        double up = (from.y() - now.y()) * centre.z() / pixelsPerSlope();
                        yield start.withMove(new Vec3(
                                start.move().x(),
                                rounded(start.move().y() + up, length, steps),
                                start.move().z()));
                    }
                    case TURN -> {
                        double before = Math.atan2(from.y() - centre.y(), from.x() - centre.x());
                        double after = Math.atan2(now.y() - centre.y(), now.x() - centre.x());
                        double turn = start.turn().y() - Math.toDegrees(after - before);
                        yield start.withTurn(new Vec3(
                                start.turn().x(),
                                rounded(Math.IEEEremainder(turn, 360), STEP_DEGREES, !event.isShiftDown(), 10),
                                start.turn().z()));
                    }
                    case SCALE -> {
                        double before = Math.hypot(from.x() - centre.x(), from.y() - centre.y());
                        double after = Math.hypot(now.x() - centre.x(), now.y() - centre.y());
                        double factor = Math.max(0.01, after / Math.max(1, before));
                        double first = rounded(start.scale().x() * factor, STEP_SCALE, steps);
                        yield start.withScale(start.scale()
                                .times(Math.max(0.001, first) / start.scale().x()));
                    }
                };
        TransformComponents held = model.edits().locked(start, next);
        figure.setText(words(from.grip(), held));
        figure.setVisible(!finished);
        figure.relocate(now.x() + 16, now.y() - 30);
        // The grips go with what is dragged; once it is let go, they are told anew where it stands.
        placing = Optional.of(finished ? start : held);
        place();
        onMove.accept(held, finished);
    }

    /** Flush with what is near, where that is wanted. */
    private TransformComponents flush(TransformComponents start, TransformComponents slid, MouseEvent event) {
        guides.getElements().clear();
        if (!model.edits().flushProperty().get() || event.isShiftDown()) {
            return slid;
        }
        RenderScene drawn = model.shownProperty().get().drawn();
        Vec3 from = parent.point(start.move());
        Vec3 to = parent.point(slid.move());
        Vec3 by = to.minus(from);
        Box3 box = drawn.boundsBelow(path);
        Box3 there =
                box.isEmpty() ? box : new Box3(box.min().plus(by), box.max().plus(by));
        double reach = REACH_PIXELS * view.project(to).z() / pixelsPerSlope();
        List<RenderScene.Standing> others = drawn.standingBut(path);
        Snapping boxes = Snapping.of(new RenderScene.Standing(path, there, to), others, reach);
        PlanEdges own = edges.computeIfAbsent(path, drawn::planEdges);
        Snapping snapping = Snapping.near(there, others).stream()
                .map(other -> edges.computeIfAbsent(other.path(), drawn::planEdges))
                .flatMap(other -> other.meet(own, by, reach).stream())
                .min(PlanEdges.Meeting.BEST_FIRST)
                .map(boxes::or)
                .orElse(boxes);
        for (int i = 0; i < snapping.guides().size(); i += 2) {
            Vec3 one = view.project(snapping.guides().get(i));
            Vec3 other = view.project(snapping.guides().get(i + 1));
            if (one.z() > 0 && other.z() > 0) {
                guides.getElements().addAll(new MoveTo(one.x(), one.y()), new LineTo(other.x(), other.y()));
            }
        }
        return slid.withMove(slid.move().plus(parent.inverse().direction(snapping.shift())));
    }

    /** Standing on the surface that is under the mouse, or on the floor. */
    private TransformComponents onto(TransformComponents start, Vec3 mouse, boolean steps, double length) {
        Vec3 on = view.hitAt(mouse.x(), mouse.y(), Set.of(path))
                .map(Picking.Hit::point)
                .orElseGet(() -> view.groundAt(mouse.x(), mouse.y(), 0));
        Vec3 to = parent.inverse()
                .point(new Vec3(rounded(on.x(), length, steps), on.y() - base, rounded(on.z(), length, steps)));
        return start.withMove(to);
    }

    /** To the millimetre, or to whole steps. */
    private static double rounded(double number, double step, boolean steps) {
        return rounded(number, step, steps, 1000);
    }

    private static double rounded(double number, double step, boolean steps, double fineness) {
        return steps
                ? Math.rint(Math.rint(number / step) * step * 1000) / 1000
                : Math.rint(number * fineness) / fineness;
    }

    private static String words(Grip grip, TransformComponents placing) {
        return switch (grip) {
            case SLIDE ->
                "x " + Units.length(placing.move().x()) + "   y "
                        + Units.length(placing.move().y()) + "   z "
                        + Units.length(placing.move().z());
            case RAISE -> Units.length(placing.move().y()) + " up";
            case TURN -> String.format(Locale.ROOT, "%.1f°", placing.turn().y());
            case SCALE -> String.format(Locale.ROOT, "× %.3f", placing.scale().x());
        };
    }
}
