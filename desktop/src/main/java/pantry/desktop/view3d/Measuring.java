package pantry.desktop.view3d;

import java.util.ArrayList;
import java.util.List;
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

/** Lies over a view and measures between two points that are clicked; the third click begins anew. */
public final class Measuring extends Pane {
    private final View3d view;
    private final BooleanProperty on = new SimpleBooleanProperty();
    private final List<Vec3> points = new ArrayList<>();

    public Measuring(View3d view) {
        this.view = view;
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
        draw();
    }

    /** The distance between the two points, metres; empty until both are set. */
    public Optional<Double> distance() {
        return points.size() == 2
                ? Optional.of(points.get(1).minus(points.get(0)).length())
                : Optional.empty();
    }

    /** Takes a click on the view as a point. */
    public void click(MouseEvent event) {
        if (!on.get()) {
            return;
        }
        view.hitAt(event.getX(), event.getY(), Set.of()).map(Picking.Hit::point).ifPresent(point -> {
            if (points.size() == 2) {
                points.clear();
            }
            points.add(point);
            draw();
        });
    }

    private void draw() {
        getChildren().clear();
        if (!on.get()) {
            return;
        }
        List<Vec3> seen = points.stream().map(view::project).toList();
        if (seen.size() == 2) {
            Line line = new Line(
                    seen.get(0).x(),
                    seen.get(0).y(),
                    seen.get(1).x(),
                    seen.get(1).y());
            line.getStyleClass().add("grip-line");
            getChildren().add(line);
        }
        for (Vec3 each : seen) {
            Circle dot = new Circle(each.x(), each.y(), 4);
            dot.getStyleClass().add("grip");
            getChildren().add(dot);
        }
        Label told = Controls.label(
                points.isEmpty()
                        ? "click the first point"
                        : points.size() == 1 ? "click the second point" : told(points.get(0), points.get(1)),
                Styles.FIGURE,
                "view-note");
        told.setId("measure");
        told.relocate(8, 8);
        getChildren().add(told);
    }

    private static String told(Vec3 from, Vec3 to) {
        Vec3 by = to.minus(from);
        return Units.length(by.length()) + "  (across " + Units.length(Math.hypot(by.x(), by.z())) + ", up "
                + Units.length(Math.abs(by.y())) + ")";
    }
}
