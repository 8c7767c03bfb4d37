package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javafx.scene.Cursor;
import javafx.scene.layout.Pane;
import javafx.scene.paint.Color;
import javafx.scene.shape.Polyline;
import javafx.scene.shape.StrokeLineCap;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.view3d.View3d;
import pantry.scene.Anchors;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** The marks of anchors, drawn over the view; a click on one selects its anchor. */
final class AnchorMarks extends Pane {
    private static final int MOST = 500;
    private static final double THICK = 2;
    private static final double CHOSEN = 4;

    private final ScenesModel model;
    private final View3d view;
    private final Map<SdfPath, Mark> marks = new LinkedHashMap<>();

    /** A mark where it stands. */
    private record Mark(Anchors.Mark mark, List<List<Vec3>> lines) {}

    AnchorMarks(ScenesModel model, View3d view) {
        this.model = model;
        this.view = view;
        setPickOnBounds(false);
        model.shownProperty().addListener(change -> update());
        model.selectionProperty().addListener(change -> draw());
        view.cameraProperty().addListener(change -> draw());
        view.widthProperty().addListener(change -> draw());
        view.heightProperty().addListener(change -> draw());
    }

    private void update() {
        marks.clear();
        model.sceneProperty().get().ifPresent(open -> open.anchors()
                .marks(MOST)
                .forEach((path, mark) -> marks.put(path, placed(open, path, mark))));
        draw();
    }

    private static Mark placed(Scene open, SdfPath path, Anchors.Mark mark) {
        Matrix4 world = open.world(path).orElse(Matrix4.IDENTITY);
        List<List<Vec3>> lines = new ArrayList<>();
        mark.lines().forEach(line -> lines.add(line.stream().map(world::point).toList()));
        return new Mark(mark, lines);
    }

    private void draw() {
        getChildren().clear();
        Set<SdfPath> chosen = model.selectionProperty().get();
        marks.forEach((path, mark) -> mark.lines().forEach(line -> {
            Polyline drawn = new Polyline();
            for (Vec3 point : line) {
                Vec3 at = view.project(point);
                if (at.z() <= 0) {
                    return;
                }
                drawn.getPoints().addAll(at.x(), at.y());
            }
            drawn.setStroke(Color.rgb(
                    mark.mark().colour() >> 16 & 0xFF,
                    mark.mark().colour() >> 8 & 0xFF,
                    mark.mark().colour() & 0xFF));
            drawn.setStrokeWidth(chosen.contains(path) ? CHOSEN : THICK);
            drawn.setStrokeLineCap(StrokeLineCap.ROUND);
            drawn.setFill(null);
            drawn.setCursor(Cursor.HAND);
            drawn.setOnMouseClicked(event -> {
                model.selectionProperty().set(Set.of(path));
                event.consume();
            });
            getChildren().add(drawn);
        }));
    }
}
