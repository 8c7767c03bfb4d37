package pantry.scene;

import java.util.List;
import pantry.base.math.Matrix4;
import pantry.usd.SdfPath;

/**
 * One of the places at which something within shared contents is drawn.
 *
 * @param through the uses that lead there, the outermost first; empty for what is drawn only by itself
 * @param drawnAs the stage's path of what is drawn there, which may be within a prototype
 * @param parentSpace from the space in which its own place is told to the stage's
 */
public record Occurrence(List<SdfPath> through, SdfPath drawnAs, Matrix4 parentSpace) {
    public Occurrence {
        through = List.copyOf(through);
    }

    /** The object of the scene that is seen there: the outermost use, or the thing itself. */
    public SdfPath seenAs() {
        return through.isEmpty() ? drawnAs : through.getFirst();
    }
}
