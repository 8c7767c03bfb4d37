package pantry.desktop.scenes;

import javafx.scene.layout.Pane;
import javafx.scene.shape.Line;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.view3d.View3d;

/** Drawn over the view while something is dragged into it: a box of its size, where it would come to stand. */
final class DropMark extends Pane {
    /** The pairs of corners between which a box has edges; a corner's bits tell its sides along x, y and z. */
    private static final int[][] EDGES = {
        {0, 1}, {2, 3}, {4, 5}, {6, 7}, {0, 2}, {1, 3}, {4, 6}, {5, 7}, {0, 4}, {1, 5}, {2, 6}, {3, 7}
    };

    private final View3d view;
    private final Line[] edges = new Line[EDGES.length];

    DropMark(View3d view) {
        this.view = view;
        setMouseTransparent(true);
        setVisible(false);
        for (int i = 0; i < edges.length; i++) {
            edges[i] = new Line();
            edges[i].getStyleClass().add("drop-mark");
            edges[i].setManaged(false);
        }
        getChildren().setAll(edges);
    }

    /**
     * Shows it.
     *
     * @param size metres along x, y and z; the middle of its base is the origin
     * @param place from there into the world
     */
    void show(double[] size, Matrix4 place) {
        Vec3[] corners = new Vec3[8];
        boolean seen = true;
        for (int i = 0; i < corners.length; i++) {
            corners[i] = view.project(
                    place.point(size[0] * ((i & 1) - 0.5), (i & 2) == 0 ? 0 : size[1], size[2] * ((i >> 2) - 0.5)));
            seen &= corners[i].z() > 0;
        }
        setVisible(seen);
        for (int i = 0; i < edges.length; i++) {
            Vec3 from = corners[EDGES[i][0]];
            Vec3 to = corners[EDGES[i][1]];
            edges[i].setStartX(from.x());
            edges[i].setStartY(from.y());
            edges[i].setEndX(to.x());
            edges[i].setEndY(to.y());
        }
    }

    void hide() {
        setVisible(false);
    }
}
