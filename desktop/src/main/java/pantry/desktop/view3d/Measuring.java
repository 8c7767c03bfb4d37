package pantry.desktop.view3d;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.scene.control.Label;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Line;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.render.Picking;

/**
 * Lies over a view and measures between points that are clicked, on surfaces and, in a chain, on the floor: lengths, the
 * angles between them, and the height of the last point above the floor.
 */
public final class Measuring extends Pane {
    /** A click that is not farther than this from the last point ends a chain, pixels. */
    private static final double SAME_PLACE = 6;

    private final View3d view;
    private final Way way;
    private final BooleanProperty on = new SimpleBooleanProperty();
    private final List<Vec3> points = new ArrayList<>();
    private boolean ended;

    /** What is measured. */
    public enum Way {
        /** Between two points of surfaces; the third click begins anew. */
        PAIR,
        /** Along a chain of points, of surfaces and of the floor; a second click on the last one ends it. */
        CHAIN
    }

    public Measuring(View3d view, Way way) {
        this.view = view;
        this.way = way;
        setMouseTransparent(true);
        view.cameraProperty().addListener(change -> draw());
        view.widthProperty().addListener(change -> draw());
        view.heightProperty().addListener(change -> draw());
        on.addListener((property, before, now) -> clear());
        view.drawnProperty().addListener(change -> clear());
    }

    public BooleanProperty onProperty() {
        return on;
    }

    private void clear() {
        points.clear();
        ended = false;
        draw();
    }

    /** The distance between the first two points, metres; empty until both are set. */
    public Optional<Double> distance() {
        return points.size() >= 2
                ? Optional.of(points.get(1).minus(points.get(0)).length())
                : Optional.empty();
    }

    /** The length of the whole chain, metres. */
    public double length() {
        double sum = 0;
        for (int i = 1; i < points.size(); i++) {
            sum += points.get(i).minus(points.get(i - 1)).length();
        }
        return sum;
    }

    /** The angle between the two stretches that meet at a point, degrees; 180 where they go straight on. */
    public double angle(int point) {
        Vec3 back = points.get(point - 1).minus(points.get(point)).unit();
        Vec3 on = points.get(point + 1).minus(points.get(point)).unit();
        return Math.toDegrees(Math.acos(Math.clamp(back.dot(on), -1, 1)));
    }

    /** Takes a click on the view as a point. */
    public void click(MouseEvent event) {
        if (!on.get()) {
            return;
        }
        if (way == Way.CHAIN && points.size() > 1 && !ended && isAtLast(event)) {
            ended = true;
            draw();
            return;
        }
        point(event).ifPresent(point -> {
            if (ended || way == Way.PAIR && points.size() == 2) {
                points.clear();
                ended = false;
            }
            points.add(point);
            draw();
        });
    }

    private boolean isAtLast(MouseEvent event) {
        Vec3 last = view.project(points.getLast());
        return Math.hypot(last.x() - event.getX(), last.y() - event.getY()) <= SAME_PLACE;
    }

    private Optional<Vec3> point(MouseEvent event) {
        Optional<Vec3> hit = view.hitAt(event.getX(), event.getY(), Set.of()).map(Picking.Hit::point);
        return hit.isPresent() || way == Way.PAIR ? hit : Optional.of(view.groundAt(event.getX(), event.getY(), 0));
    }

    private void draw() {
        getChildren().clear();
        if (!on.get()) {
            return;
        }
        List<Vec3> seen = points.stream().map(view::project).toList();
        for (int i = 1; i < seen.size(); i++) {
            Vec3 from = seen.get(i - 1);
            Vec3 to = seen.get(i);
            Line line = new Line(from.x(), from.y(), to.x(), to.y());
            line.getStyleClass().add("grip-line");
            getChildren().add(line);
            if (way == Way.CHAIN && seen.size() > 2) {
                note(
                        Units.length(points.get(i).minus(points.get(i - 1)).length()),
                        (from.x() + to.x()) / 2 + 6,
                        (from.y() + to.y()) / 2 - 10);
            }
        }
        for (int i = 0; i < seen.size(); i++) {
            Circle dot = new Circle(seen.get(i).x(), seen.get(i).y(), 4);
            dot.getStyleClass().add("grip");
            getChildren().add(dot);
            if (i > 0 && i + 1 < seen.size()) {
                note(
                        String.format(Locale.ROOT, "%.1f°", angle(i)),
                        seen.get(i).x() + 8,
                        seen.get(i).y() + 6);
            }
        }
        Label told = Controls.label(told(), Styles.FIGURE, "view-note");
        told.setId("measure");
        told.relocate(8, 8);
        getChildren().add(told);
    }

    private void note(String text, double x, double y) {
        Label note = Controls.label(text, Styles.FIGURE, "view-note", "small");
        note.relocate(x, y);
        getChildren().add(note);
    }

    private String told() {
        String goOn = way == Way.CHAIN && !ended ? "; click on, or once more on the last point to end" : "";
        if (points.isEmpty()) {
            return "click the first point";
        }
        if (points.size() == 1) {
            return way == Way.PAIR
                    ? "click the second point"
                    : Units.length(points.getFirst().y()) + " above the floor; click the second point";
        }
        Vec3 by = points.getLast().minus(points.getFirst());
        String across = "across " + Units.length(Math.hypot(by.x(), by.z())) + ", up " + Units.length(Math.abs(by.y()));
        return points.size() == 2
                ? Units.length(by.length()) + "  (" + across + ")" + goOn
                : Units.length(length()) + " in all, straight " + Units.length(by.length()) + "  (" + across + ")"
                        + goOn;
    }
}
