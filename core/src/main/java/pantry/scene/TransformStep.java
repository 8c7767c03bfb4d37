package pantry.scene;

import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * A change of place that can be done to several objects, and again.
 *
 * @param move metres, along the axes
 * @param turn degrees about the first, then the second, then the third axis
 * @param factor of size, above 0
 * @param about what is turned and sized about
 * @param axes whose directions count
 */
public record TransformStep(Vec3 move, Vec3 turn, double factor, About about, Axes axes) {
    /** What objects are turned and sized about. */
    public enum About {
        /** Each about its own origin. */
        PIVOT,
        /** All about the middle of their boxes. */
        CENTRE,
        /** Each about what it hangs on. */
        ANCHOR
    }

    /** Whose directions count. */
    public enum Axes {
        WORLD,
        PARENT,
        OWN
    }

    public TransformStep {
        if (!(factor > 0) || Double.isInfinite(factor) || !move.isFinite() || !turn.isFinite()) {
            throw new SceneException("a step has finite figures, and a factor above 0");
        }
    }

    /**
     * The change of the world.
     *
     * @param pivot a point of the world that stays, but for the move
     * @param frame the directions of the axes, as a rotation
     */
    Matrix4 change(Vec3 pivot, Matrix4 frame) {
        Matrix4 turned = frame.inverse().times(Matrix4.rotationXyz(turn)).times(frame);
        return Matrix4.translation(pivot.times(-1))
                .times(Matrix4.scale(new Vec3(factor, factor, factor)))
                .times(turned)
                .times(Matrix4.translation(pivot.plus(frame.direction(move))));
    }

    /** The turn of a transform, without its size and place. */
    static Matrix4 frame(Matrix4 world) {
        Vec3 x = world.direction(new Vec3(1, 0, 0)).unit();
        Vec3 across = world.direction(new Vec3(0, 1, 0));
        Vec3 y = across.minus(x.times(across.dot(x))).unit();
        Vec3 z = x.cross(y);
        return Matrix4.ofRows(x.x(), x.y(), x.z(), 0, y.x(), y.y(), y.z(), 0, z.x(), z.y(), z.z(), 0, 0, 0, 0, 1);
    }
}
