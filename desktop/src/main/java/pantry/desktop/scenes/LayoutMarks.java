package pantry.desktop.scenes;

import java.util.List;
import javafx.scene.Cursor;
import javafx.scene.Node;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Circle;
import javafx.scene.shape.LineTo;
import javafx.scene.shape.MoveTo;
import javafx.scene.shape.Path;
import javafx.scene.shape.Polyline;
import pantry.base.math.Vec3;
import pantry.desktop.controls.Controls;
import pantry.desktop.view3d.View3d;

/**
 * Drawn over the view while a layout is set: where each use would stand, and the path with its points, which are dragged;
 * smaller ones between them become new points.
 */
final class LayoutMarks extends Pane {
    /** The points of longer paths, such as fine rims, cannot be told apart with the mouse. */
    private static final int MOST_POINTS = 80;

    private final View3d view;
    private final LayOutPane pane;
    private final Path bases = new Path();
    private final Polyline line = new Polyline();
    private boolean dragging;

    LayoutMarks(View3d view, LayOutPane pane) {
        this.view = view;
        this.pane = pane;
        setPickOnBounds(false);
        bases.getStyleClass().add("layout-mark");
        line.getStyleClass().add("layout-line");
        bases.setMouseTransparent(true);
        line.setMouseTransparent(true);
        bases.setManaged(false);
        line.setManaged(false);
        getChildren().setAll(bases, line);
        pane.seenProperty().addListener(change -> draw());
        view.cameraProperty().addListener(change -> draw());
        view.widthProperty().addListener(change -> draw());
        view.heightProperty().addListener(change -> draw());
    }

    private void draw() {
        LayoutSpace.Seen seen = pane.seenProperty().get();
        bases.getElements().clear();
        for (int i = 0; i < seen.places().size(); i++) {
            base(seen.places().get(i), seen.sizes().get(i).times(0.5));
        }
        line.getPoints().clear();
        for (Vec3 point : seen.line()) {
            Vec3 on = view.project(point);
            if (on.z() > 0) {
                line.getPoints().addAll(on.x(), on.y());
            }
        }
        points(seen.points());
    }

    /** The outline of what an object stands on. */
    private void base(Vec3 at, Vec3 half) {
        Vec3[] corners = {
            view.project(at.plus(new Vec3(-half.x(), 0, -half.z()))),
            view.project(at.plus(new Vec3(half.x(), 0, -half.z()))),
            view.project(at.plus(new Vec3(half.x(), 0, half.z()))),
            view.project(at.plus(new Vec3(-half.x(), 0, half.z())))
        };
        for (Vec3 corner : corners) {
            if (corner.z() <= 0) {
                return;
            }
        }
        bases.getElements().add(new MoveTo(corners[0].x(), corners[0].y()));
        for (int i = 1; i <= corners.length; i++) {
            Vec3 corner = corners[i % corners.length];
            bases.getElements().add(new LineTo(corner.x(), corner.y()));
        }
    }

    private void points(List<Vec3> points) {
        int wanted = points.size() > MOST_POINTS ? 0 : Math.max(0, 2 * points.size() - 1);
        // Not under a hand that is dragging one.
        if (getChildren().size() - 2 != wanted && !dragging) {
            getChildren().setAll(bases, line);
            for (int i = 0; i < points.size(); i++) {
                getChildren().add(point(i));
                if (i + 1 < points.size()) {
                    getChildren().add(between(i));
                }
            }
        }
        for (int i = 0; i < Math.min(wanted, getChildren().size() - 2); i++) {
            Vec3 at = i % 2 == 0
                    ? points.get(i / 2)
                    : points.get(i / 2).plus(points.get(i / 2 + 1)).times(0.5);
            Vec3 on = view.project(at);
            Node node = getChildren().get(i + 2);
            node.setVisible(on.z() > 0);
            node.relocate(
                    on.x() - node.getBoundsInLocal().getWidth() / 2,
                    on.y() - node.getBoundsInLocal().getHeight() / 2);
        }
    }

    private Circle point(int number) {
        Circle point = new Circle(7);
        point.setId("path-point-" + (number + 1));
        point.getStyleClass().add("grip");
        point.setCursor(Cursor.HAND);
        Controls.hint(
                point, pane.isFree(number) ? "Drag it; a double click takes it away" : "The path begins at the object");
        point.setOnMousePressed(MouseEvent::consume);
        point.setOnMouseDragged(event -> {
            if (pane.isFree(number)) {
                dragging = true;
                pane.movePoint(number, onLevel(event, number));
            }
            event.consume();
        });
        point.setOnMouseReleased(event -> {
            dragging = false;
            event.consume();
        });
        point.setOnMouseClicked(event -> {
            if (event.getClickCount() == 2 && pane.isFree(number)) {
                pane.removePoint(number);
            }
            event.consume();
        });
        return point;
    }

    private Circle between(int after) {
        Circle point = new Circle(4.5);
        point.setId("path-between-" + (after + 1));
        point.getStyleClass().add("grip");
        point.setCursor(Cursor.HAND);
        Controls.hint(point, "Drag it to bend the path here");
        point.setOnMousePressed(event -> {
            dragging = false;
            event.consume();
        });
        point.setOnMouseDragged(event -> {
            if (dragging) {
                pane.movePoint(after + 1, onLevel(event, after));
            } else {
                dragging = true;
                pane.insertPoint(after, onLevel(event, after));
            }
            event.consume();
        });
        point.setOnMouseReleased(event -> {
            dragging = false;
            draw();
            event.consume();
        });
        return point;
    }

    /** The place under the mouse, as high as a point of the path. */
    private Vec3 onLevel(MouseEvent event, int number) {
        var at = view.sceneToLocal(event.getSceneX(), event.getSceneY());
        double height = pane.seenProperty().get().points().get(number).y();
        return PlaceFigures.rounded(view.groundAt(at.getX(), at.getY(), height));
    }
}
