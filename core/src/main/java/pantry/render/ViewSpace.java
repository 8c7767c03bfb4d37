package pantry.render;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;

/** A camera's space: x to the right, y upwards, z forwards, metres; what of it is drawn, and where in the picture. */
final class ViewSpace {
    private final double[] viewRows;
    final float focal;
    final float near;
    private final float halfWidth;
    private final float halfHeight;
    private final double slopeX;
    private final double slopeY;

    /** The plane of the cut: what is beyond it is left out; null without one. */
    private final float @Nullable [] cut;

    /**
     * @param width of the picture, pixels
     * @param height of the picture, pixels
     */
    ViewSpace(Camera camera, Optional<RenderOptions.Cut> plane, int width, int height) {
        this.cut = plane.map(p -> new float[] {
                    (float) p.normal().dot(camera.right()),
                    (float) p.normal().dot(camera.up()),
                    (float) -p.normal().dot(camera.back()),
                    (float) p.beyond(camera.eye())
                })
                .orElse(null);
        this.viewRows = camera.view().rows();
        this.focal = (float) camera.focal(height);
        this.near = (float) (camera.distance() * 1e-3);
        this.halfWidth = width / 2f;
        this.halfHeight = height / 2f;
        this.slopeX = width / (2.0 * focal);
        this.slopeY = height / (2.0 * focal);
    }

    boolean isCut() {
        return cut != null;
    }

    /** A coordinate of a ball's centre in the camera's space: x, y or z. */
    double seen(BoundingSphere sphere, int column) {
        return sphere.x() * viewRows[column]
                + sphere.y() * viewRows[4 + column]
                + sphere.z() * viewRows[8 + column]
                + viewRows[12 + column];
    }

    /** Whether all of a ball is beyond the cut. */
    boolean isCutOff(BoundingSphere sphere) {
        float[] plane = cut;
        return plane != null
                && seen(sphere, 0) * plane[0] + seen(sphere, 1) * plane[1] + seen(sphere, 2) * plane[2] + plane[3]
                        > sphere.radius();
    }

    /** Whether a ball is out of the picture to one side. */
    private static boolean isBeside(double across, double forward, double reach, double slope) {
        return Math.abs(across) > (forward + reach) * slope + reach * Math.sqrt(1 + slope * slope);
    }

    /**
     * Whether all of a ball is before the near plane or beside the picture.
     *
     * @param z of its centre, as x and y are
     */
    boolean isOutOfSight(double x, double y, float z, float radius) {
        return z + radius < near || isBeside(x, z, radius, slopeX) || isBeside(y, z, radius, slopeY);
    }

    /** From a mesh's space to the camera's: three rows and the shift, as {@link Matrix4#times} gives them. */
    void toView(Matrix4 world, float[] into) {
        for (int row = 0; row < 4; row++) {
            double x = world.get(row, 0);
            double y = world.get(row, 1);
            double z = world.get(row, 2);
            double shift = row == 3 ? 1 : 0;
            for (int column = 0; column < 3; column++) {
                into[row * 3 + column] = (float) (x * viewRows[column]
                        + y * viewRows[4 + column]
                        + z * viewRows[8 + column]
                        + shift * viewRows[12 + column]);
            }
        }
    }

    boolean isWhole(float[] seen, int vertex) {
        return seen[vertex + 2] >= near && (cut == null || kept(seen, vertex, 1) >= 0);
    }

    /** How far a point is on the drawn side of the near plane (0) or of the cut (1). */
    float kept(float[] points, int at, int plane) {
        float[] section = cut;
        if (plane == 0 || section == null) {
            return points[at + 2] - near;
        }
        return -(points[at] * section[0] + points[at + 1] * section[1] + points[at + 2] * section[2] + section[3]);
    }

    /** From the camera's space to pixels and 1/z. */
    void project(float[] seen, int from, float[] screen, int to) {
        float inverse = 1 / seen[from + 2];
        screen[to] = halfWidth + seen[from] * focal * inverse;
        screen[to + 1] = halfHeight - seen[from + 1] * focal * inverse;
        screen[to + 2] = inverse;
    }

    /** Where a point of this space is in the picture, pixels from the left. */
    float across(float x, float inverse) {
        return halfWidth + x * focal * inverse;
    }

    /** Where a point of this space is in the picture, pixels from the top. */
    float down(float y, float inverse) {
        return halfHeight - y * focal * inverse;
    }
}
