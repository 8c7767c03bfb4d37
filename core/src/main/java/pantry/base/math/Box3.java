package pantry.base.math;

import java.util.function.IntToDoubleFunction;

/**
 * An axis-aligned box; {@link #EMPTY} holds nothing.
 *
 * @param min the lowest corner
 * @param max the highest corner; below {@code min} only in an empty box
 */
public record Box3(Vec3 min, Vec3 max) {
    public static final Box3 EMPTY = new Box3(
            new Vec3(Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY),
            new Vec3(Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY));

    /**
     * The box around points; empty where there are none.
     *
     * @param length three times the number of points
     * @param coordinate x, y and z of each point in turn
     */
    public static Box3 around(int length, IntToDoubleFunction coordinate) {
        double[] least = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
        double[] most = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
        for (int i = 0; i < length; i++) {
            double at = coordinate.applyAsDouble(i);
            least[i % 3] = Math.min(least[i % 3], at);
            most[i % 3] = Math.max(most[i % 3], at);
        }
        return length == 0
                ? EMPTY
                : new Box3(new Vec3(least[0], least[1], least[2]), new Vec3(most[0], most[1], most[2]));
    }

    public boolean isEmpty() {
        return min.x() > max.x();
    }

    public Box3 union(Box3 o) {
        return new Box3(
                new Vec3(Math.min(min.x(), o.min.x()), Math.min(min.y(), o.min.y()), Math.min(min.z(), o.min.z())),
                new Vec3(Math.max(max.x(), o.max.x()), Math.max(max.y(), o.max.y()), Math.max(max.z(), o.max.z())));
    }

    /** What lies in both; empty where they do not meet. */
    public Box3 intersection(Box3 o) {
        return new Box3(
                new Vec3(Math.max(min.x(), o.min.x()), Math.max(min.y(), o.min.y()), Math.max(min.z(), o.min.z())),
                new Vec3(Math.min(max.x(), o.max.x()), Math.min(max.y(), o.max.y()), Math.min(max.z(), o.max.z())));
    }

    public Box3 including(Vec3 p) {
        return union(new Box3(p, p));
    }

    /** The extent along each axis; zero where empty. */
    public Vec3 size() {
        return isEmpty() ? Vec3.ZERO : max.minus(min);
    }

    public Vec3 centre() {
        return isEmpty() ? Vec3.ZERO : min.plus(max).times(0.5);
    }

    /** Whether a point lies within, or no further outside along any axis than is allowed for. */
    public boolean contains(Vec3 p, double margin) {
        return p.x() >= min.x() - margin
                && p.x() <= max.x() + margin
                && p.y() >= min.y() - margin
                && p.y() <= max.y() + margin
                && p.z() >= min.z() - margin
                && p.z() <= max.z() + margin;
    }

    /** Half the length of the diagonal. */
    public double radius() {
        return size().length() / 2;
    }

    /** Corner 0 to 7; bit 0 chooses x, bit 1 y, bit 2 z. */
    public Vec3 corner(int i) {
        return new Vec3(
                (i & 1) == 0 ? min.x() : max.x(), (i & 2) == 0 ? min.y() : max.y(), (i & 4) == 0 ? min.z() : max.z());
    }

    /** The box around the transformed corners. */
    public Box3 transformed(Matrix4 m) {
        if (isEmpty()) {
            return this;
        }
        Box3 box = EMPTY;
        for (int i = 0; i < 8; i++) {
            box = box.including(m.point(corner(i)));
        }
        return box;
    }
}
