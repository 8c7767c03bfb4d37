package pantry.render;

import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * Which places a sun does not reach: how far its light comes, seen from the sun (L. Williams, SIGGRAPH 1978), with edges
 * softened over two texels.
 */
final class SunShadow {
    /** Texels of the map along each side. */
    static final int SIZE = 1536;

    /** Texels by which a place is taken to be nearer to the sun, so that surfaces do not darken themselves. */
    private static final double OFF = 1.5;

    private final float[] depth;
    private final double[] view;
    private final double focal;
    private final double texel;
    private final Vec3 towards;

    /**
     * Makes a map.
     *
     * @param depth one over the distance from the camera, {@link #SIZE} × {@link #SIZE}, row by row from above; shared
     * @param towards unit vector to the sun
     */
    SunShadow(float[] depth, Camera camera, Vec3 towards) {
        this.depth = depth;
        Matrix4 seen = camera.view();
        this.view = seen.rows();
        this.focal = camera.focal(SIZE);
        this.texel = camera.metresPerPixel(SIZE);
        this.towards = towards;
    }

    /** Looks from the sun, at no place yet. */
    static Camera camera(Vec3 towards) {
        double pitch = Math.toDegrees(Math.asin(Math.clamp(towards.y(), -1, 1)));
        double yaw = Math.toDegrees(Math.atan2(towards.x(), towards.z()));
        return Camera.START.from(yaw, pitch).parallel(true);
    }

    /** How much of the sun reaches a place whose normal is given: 0 to 1. */
    double light(double x, double y, double z, double nx, double ny, double nz) {
        double px = x + OFF * texel * (nx + towards.x());
        double py = y + OFF * texel * (ny + towards.y());
        double pz = z + OFF * texel * (nz + towards.z());
        double inverse = 1 / (px * view[2] + py * view[6] + pz * view[10] + view[14]);
        double u = SIZE / 2.0 + (px * view[0] + py * view[4] + pz * view[8] + view[12]) * focal * inverse - 0.5;
        double v = SIZE / 2.0 - (px * view[1] + py * view[5] + pz * view[9] + view[13]) * focal * inverse - 0.5;
        if (!(u >= 1 && v >= 1 && u < SIZE - 2 && v < SIZE - 2)) {
            return 1;
        }
        int x0 = (int) u;
        int y0 = (int) v;
        double fx = u - x0;
        double fy = v - y0;
        int at = y0 * SIZE + x0;
        float here = (float) inverse;
        double upper = reached(at, here) * (1 - fx) + reached(at + 1, here) * fx;
        double lower = reached(at + SIZE, here) * (1 - fx) + reached(at + SIZE + 1, here) * fx;
        return upper * (1 - fy) + lower * fy;
    }

    /** The map holds one over the distance, so that what is farther from the sun has less. */
    private int reached(int texelNumber, float here) {
        return depth[texelNumber] > here ? 0 : 1;
    }
}
