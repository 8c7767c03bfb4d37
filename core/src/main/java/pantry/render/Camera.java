package pantry.render;

import java.util.List;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * A view of a point, in perspective or with parallel lines of sight.
 *
 * @param target what is looked at and turned about
 * @param yaw degrees about the vertical; 0 looks along -z
 * @param pitch degrees downwards; 90 looks straight down
 * @param distance from the eye to the target, metres, positive
 * @param fieldOfView vertical, degrees
 */
public record Camera(Vec3 target, double yaw, double pitch, double distance, double fieldOfView) {
    /** Where a look begins: from the front, a little to the right and above. */
    public static final Camera START = new Camera(Vec3.ZERO, 30, 18, 5, 35);

    /** So narrow a view, from so far, that lines of sight are parallel to within a pixel; degrees. */
    private static final double PARALLEL = 0.5;

    /** The share of the picture that framing fills. */
    private static final double FILLED = 0.88;

    public Camera {
        if (!(distance > 0) || !target.isFinite()) {
            throw new IllegalArgumentException("a camera needs a finite target and a positive distance");
        }
    }

    /** The direction from the target to the eye. */
    public Vec3 back() {
        double y = Math.toRadians(yaw);
        double p = Math.toRadians(pitch);
        return new Vec3(Math.sin(y) * Math.cos(p), Math.sin(p), Math.cos(y) * Math.cos(p));
    }

    public Vec3 eye() {
        return target.plus(back().times(distance));
    }

    public Vec3 right() {
        double y = Math.toRadians(yaw);
        return new Vec3(Math.cos(y), 0, -Math.sin(y));
    }

    public Vec3 up() {
        return back().cross(right());
    }

    /** This direction of view, moved to look at another point. */
    public Camera withTarget(Vec3 other) {
        return new Camera(other, yaw, pitch, distance, fieldOfView);
    }

    /** This direction of view, moved so that a box fills the picture but for a margin. */
    public Camera framing(Box3 box, double aspect) {
        return framing(List.of(box), aspect);
    }

    /**
     * This direction of view, moved so that boxes fill the picture but for a margin, as near as may be.
     *
     * <p>Each side of the picture is a plane through the eye; along each one box corner reaches farthest. Two opposite
     * sides that touch theirs meet at the eye's place across and its least distance; the larger of the two distances
     * holds.
     */
    public Camera framing(List<Box3> boxes, double aspect) {
        double vertical = Math.tan(Math.toRadians(fieldOfView / 2)) * FILLED;
        double horizontal = vertical * aspect;
        double[] reach = {
            Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY
        };
        Vec3 right = right();
        Vec3 up = up();
        Vec3 back = back();
        Box3 all = Box3.EMPTY;
        for (Box3 box : boxes) {
            if (box.isEmpty()) {
                continue;
            }
            all = all.union(box);
            for (int i = 0; i < 8; i++) {
                Vec3 corner = box.corner(i);
                double x = corner.dot(right);
                double y = corner.dot(up);
                double z = corner.dot(back);
                reach[0] = Math.max(reach[0], x + horizontal * z);
                reach[1] = Math.max(reach[1], -x + horizontal * z);
                reach[2] = Math.max(reach[2], y + vertical * z);
                reach[3] = Math.max(reach[3], -y + vertical * z);
            }
        }
        if (all.isEmpty()) {
            return new Camera(Vec3.ZERO, yaw, pitch, START.distance, START.fieldOfView).parallel(isParallel());
        }
        double x = (reach[0] - reach[1]) / 2;
        double y = (reach[2] - reach[3]) / 2;
        double z = Math.max((reach[0] + reach[1]) / (2 * horizontal), (reach[2] + reach[3]) / (2 * vertical));
        double depth = all.centre().dot(back);
        double away = Math.max(z - depth, Math.max(1e-6, all.radius() * 0.1));
        Vec3 looked = right.times(x).plus(up.times(y)).plus(back.times(depth));
        return new Camera(looked, yaw, pitch, away, fieldOfView);
    }

    /** Turned about the target. */
    public Camera orbited(double yawDegrees, double pitchDegrees) {
        return new Camera(
                target, yaw + yawDegrees, Math.clamp(pitch + pitchDegrees, -89.9, 89.9), distance, fieldOfView);
    }

    /** Moved sideways and upwards, metres. */
    public Camera panned(double rightwards, double upwards) {
        return new Camera(
                target.plus(right().times(rightwards)).plus(up().times(upwards)), yaw, pitch, distance, fieldOfView);
    }

    /** Moved towards the target (factor below 1) or away. */
    public Camera dollied(double factor) {
        return new Camera(target, yaw, pitch, Math.clamp(distance * factor, 1e-5, 1e7), fieldOfView);
    }

    /** From another distance, metres. */
    public Camera away(double metres) {
        return new Camera(target, yaw, pitch, metres, fieldOfView);
    }

    /** Looking from elsewhere, about the same target. */
    public Camera from(double newYaw, double newPitch) {
        return new Camera(target, newYaw, newPitch, distance, fieldOfView);
    }

    /** This view with parallel lines of sight, or in perspective; what is looked at keeps its size. */
    public Camera parallel(boolean wanted) {
        if (wanted == isParallel()) {
            return this;
        }
        double angle = wanted ? PARALLEL : START.fieldOfView;
        double away = distance * Math.tan(Math.toRadians(fieldOfView / 2)) / Math.tan(Math.toRadians(angle / 2));
        return new Camera(target, yaw, pitch, away, angle);
    }

    public boolean isParallel() {
        return fieldOfView <= PARALLEL;
    }

    /** How far the eye would be for the usual angle. */
    private double usualDistance() {
        return distance * Math.tan(Math.toRadians(fieldOfView / 2)) / Math.tan(Math.toRadians(START.fieldOfView / 2));
    }

    /** Metres that a pixel covers at the target. */
    public double metresPerPixel(int height) {
        return 2 * distance * Math.tan(Math.toRadians(fieldOfView / 2)) / height;
    }

    /** Metres between lines of the ground's grid: one, or the power of ten that leaves some twenty lines in view. */
    public double gridStep() {
        return Math.max(1e-4, Math.pow(10, Math.round(Math.log10(usualDistance() / 6))));
    }

    /** From the world to the camera's space: x right, y up, z forward. */
    Matrix4 view() {
        Vec3 r = right();
        Vec3 u = up();
        Vec3 f = back().times(-1);
        Vec3 e = eye();
        return Matrix4.ofRows(
                r.x(), u.x(), f.x(), 0, r.y(), u.y(), f.y(), 0, r.z(), u.z(), f.z(), 0, -e.dot(r), -e.dot(u), -e.dot(f),
                1);
    }

    /** Pixels per unit of x/z at this picture height. */
    double focal(int height) {
        return height / (2 * Math.tan(Math.toRadians(fieldOfView / 2)));
    }

    /**
     * Where a point appears.
     *
     * @return pixels from the upper left corner as x and y, and the distance forward as z, which is not positive for
     *     points behind the eye
     */
    public Vec3 project(Vec3 world, int width, int height) {
        Vec3 seen = view().point(world);
        double scale = focal(height) / seen.z();
        return new Vec3(width / 2.0 + seen.x() * scale, height / 2.0 - seen.y() * scale, seen.z());
    }

    /** Whether all of a box is within the picture, but for a pixel. */
    public boolean shows(Box3 box, int width, int height) {
        for (int i = 0; i < 8; i++) {
            Vec3 at = project(box.corner(i), width, height);
            if (!(at.z() > 0 && at.x() >= -1 && at.x() <= width + 1 && at.y() >= -1 && at.y() <= height + 1)) {
                return false;
            }
        }
        return true;
    }

    /** The unit direction from the eye through a pixel. */
    public Vec3 ray(double x, double y, int width, int height) {
        double f = focal(height);
        return right().times((x - width / 2.0) / f)
                .plus(up().times((height / 2.0 - y) / f))
                .minus(back())
                .unit();
    }

    /**
     * Where a pixel's ray meets a level plane.
     *
     * @param ground the height of the plane, metres
     */
    public Vec3 onGround(double x, double y, int width, int height, double ground) {
        Vec3 ray = ray(x, y, width, height);
        Vec3 eye = eye();
        double along = (ground - eye.y()) / ray.y();
        // Rays that never come down meet the plane at the target's distance instead.
        return Double.isFinite(along) && along > 0 && along < distance() * 20 ? eye.plus(ray.times(along)) : target();
    }
}
