package pantry.desktop.scenes;

import java.util.List;
import java.util.Set;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** What draws the open scene. */
interface SceneDrawing {
    /** Whether what is seen has to be prepared anew whatever was changed. */
    boolean isStale();

    /** Draws objects that were only moved at their new places. */
    void move(Scene open, Set<SdfPath> paths);

    /** @param restructured whether the structure may have become another */
    void redraw(Scene open, boolean restructured);

    /** What is to be drawn of a scene that is changed in the background, as it is set now. */
    Ahead ahead(Scene open);

    /** What is drawn of a scene, read in the background. */
    interface Ahead {
        /** Reads it. */
        void read(Scene changed, List<Placement> placements);

        /** Draws it, now that the change is that of the open scene. */
        void draw(Scene open);
    }
}
