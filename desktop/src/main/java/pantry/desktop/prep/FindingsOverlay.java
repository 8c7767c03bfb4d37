package pantry.desktop.prep;

import java.util.List;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.Pane;
import javafx.scene.paint.Color;
import pantry.base.math.Vec3;
import pantry.desktop.view3d.View3d;

/** Lines and marks over a view that follow its camera: outlines of hidden things, pivots, what is being made. */
final class FindingsOverlay extends Pane {
    /** What a line tells. */
    enum Ink {
        FLAW("#9C2F4A"),
        HIDDEN("#B9770E"),
        MADE("#2F6B57"),
        PIVOT("#3C6491");

        private final Color colour;

        Ink(String colour) {
            this.colour = Color.web(colour);
        }
    }

    /**
     * Something to be drawn.
     *
     * @param ends two for each line, metres
     */
    record Strokes(List<Vec3> ends, Ink ink) {}

    /** A place that is marked with a cross in a ring. */
    record Mark(Vec3 place, Ink ink) {}

    private final View3d view;
    private final Canvas canvas = new Canvas();
    private List<Strokes> strokes = List.of();
    private List<Mark> marks = List.of();

    FindingsOverlay(View3d view) {
        this.view = view;
        setMouseTransparent(true);
        getChildren().add(canvas);
        canvas.widthProperty().bind(widthProperty());
        canvas.heightProperty().bind(heightProperty());
        view.cameraProperty().addListener(change -> draw());
        widthProperty().addListener(change -> draw());
        heightProperty().addListener(change -> draw());
    }

    void show(List<Strokes> lines, List<Mark> places) {
        strokes = List.copyOf(lines);
        marks = List.copyOf(places);
        draw();
    }

    private void draw() {
        GraphicsContext g = canvas.getGraphicsContext2D();
        g.clearRect(0, 0, canvas.getWidth(), canvas.getHeight());
        g.setLineWidth(1.2);
        for (Strokes some : strokes) {
            g.setStroke(some.ink().colour);
            g.beginPath();
            List<Vec3> ends = some.ends();
            for (int i = 0; i + 1 < ends.size(); i += 2) {
                Vec3 from = view.project(ends.get(i));
                Vec3 to = view.project(ends.get(i + 1));
                if (from.z() > 0 && to.z() > 0) {
                    g.moveTo(from.x(), from.y());
                    g.lineTo(to.x(), to.y());
                }
            }
            g.stroke();
        }
        for (Mark mark : marks) {
            Vec3 at = view.project(mark.place());
            if (at.z() > 0) {
                g.setStroke(Color.WHITE);
                g.setLineWidth(4);
                cross(g, at);
                g.setStroke(mark.ink().colour);
                g.setLineWidth(1.8);
                cross(g, at);
            }
        }
    }

    private static void cross(GraphicsContext g, Vec3 at) {
        g.strokeOval(at.x() - 5, at.y() - 5, 10, 10);
        g.strokeLine(at.x() - 9, at.y(), at.x() + 9, at.y());
        g.strokeLine(at.x(), at.y() - 9, at.x(), at.y() + 9);
    }
}
