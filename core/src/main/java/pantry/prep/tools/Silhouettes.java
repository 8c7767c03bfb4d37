package pantry.prep.tools;

import java.util.Arrays;
import java.util.List;
import pantry.base.Parallel;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;

/** What a thing covers, seen from afar from some directions: a picture of yes and no for each. */
final class Silhouettes {
    /**
     * A direction to look along.
     *
     * @param right of the picture
     * @param up of the picture
     */
    record Direction(String name, Vec3 right, Vec3 up) {}

    private static final double HALF = Math.sqrt(0.5);

    /** Opposite directions show the same outline, so these are six that do not. */
    static final List<Direction> DIRECTIONS = List.of(
            new Direction("front", new Vec3(1, 0, 0), Vec3.UP),
            new Direction("side", new Vec3(0, 0, -1), Vec3.UP),
            new Direction("above", new Vec3(1, 0, 0), new Vec3(0, 0, -1)),
            new Direction("front left", new Vec3(HALF, 0, HALF), Vec3.UP),
            new Direction("front right", new Vec3(HALF, 0, -HALF), Vec3.UP),
            new Direction("corner", new Vec3(HALF, 0, -HALF), new Vec3(-1, 2, -1).times(1 / Math.sqrt(6))));

    private final int size;
    private final Vec3 centre;
    private final double scale;
    private final long[][] masks;

    private Silhouettes(int size, Vec3 centre, double scale) {
        this.size = size;
        this.centre = centre;
        this.scale = scale;
        this.masks = new long[DIRECTIONS.size()][size * words()];
    }

    private int words() {
        return size / 64;
    }

    /** An empty picture, a multiple of 64 pixels wide, that a box has room in from all sides. */
    static Silhouettes around(Box3 box, int size) {
        return new Silhouettes(size, box.centre(), (size - 8) / Math.max(1e-12, 2 * box.radius()));
    }

    /** Another empty picture of the same frame. */
    Silhouettes empty() {
        return new Silhouettes(size, centre, scale);
    }

    /** @param triangles nine numbers for each */
    Silhouettes withTriangles(double[] triangles) {
        Silhouettes drawn = empty();
        Parallel.map(List.of(0, 1, 2, 3, 4, 5), direction -> {
            double[] x = new double[3];
            double[] y = new double[3];
            for (int t = 0; t < triangles.length; t += 9) {
                for (int corner = 0; corner < 3; corner++) {
                    int at = t + 3 * corner;
                    x[corner] = drawn.across(direction, triangles[at], triangles[at + 1], triangles[at + 2]);
                    y[corner] = drawn.along(direction, triangles[at], triangles[at + 1], triangles[at + 2]);
                }
                drawn.fill(drawn.masks[direction], x, y, 3);
            }
            return direction;
        });
        return drawn;
    }

    private double across(int direction, double x, double y, double z) {
        Vec3 right = DIRECTIONS.get(direction).right();
        return size / 2.0
                + scale * ((x - centre.x()) * right.x() + (y - centre.y()) * right.y() + (z - centre.z()) * right.z());
    }

    private double along(int direction, double x, double y, double z) {
        Vec3 up = DIRECTIONS.get(direction).up();
        return size / 2.0 + scale * ((x - centre.x()) * up.x() + (y - centre.y()) * up.y() + (z - centre.z()) * up.z());
    }

    /** Adds the outline of a convex body. */
    void addHull(Vec3[] corners) {
        double[] x = new double[corners.length];
        double[] y = new double[corners.length];
        for (int direction = 0; direction < masks.length; direction++) {
            for (int i = 0; i < corners.length; i++) {
                x[i] = across(direction, corners[i].x(), corners[i].y(), corners[i].z());
                y[i] = along(direction, corners[i].x(), corners[i].y(), corners[i].z());
            }
            fill(masks[direction], x, y, corners.length);
        }
    }

    void add(Silhouettes other) {
        for (int direction = 0; direction < masks.length; direction++) {
            for (int i = 0; i < masks[direction].length; i++) {
                masks[direction][i] |= other.masks[direction][i];
            }
        }
    }

    /**
     * Fills the convex hull of points: for each row of pixels from the least to the greatest x at which a line between
     * any two of them crosses it. At least a pixel wide, so that thin things are not lost.
     */
    private void fill(long[] mask, double[] x, double[] y, int count) {
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < count; i++) {
            low = Math.min(low, y[i]);
            high = Math.max(high, y[i]);
        }
        int firstRow = Math.clamp((int) Math.ceil(low - 0.5), 0, size - 1);
        int lastRow = Math.clamp((int) Math.floor(high - 0.5), 0, size - 1);
        if (firstRow > lastRow) {
            lastRow = Math.clamp((int) low, 0, size - 1);
            firstRow = lastRow;
        }
        for (int row = firstRow; row <= lastRow; row++) {
            double at = Math.clamp(row + 0.5, low, high);
            double left = Double.POSITIVE_INFINITY;
            double right = Double.NEGATIVE_INFINITY;
            for (int i = 0; i < count; i++) {
                for (int j = 0; j <= i; j++) {
                    double from = Math.min(y[i], y[j]);
                    double to = Math.max(y[i], y[j]);
                    if (at >= from && at <= to) {
                        double part = y[i] == y[j] ? 0 : (at - y[j]) / (y[i] - y[j]);
                        double crossing = x[j] + part * (x[i] - x[j]);
                        left = Math.min(left, crossing);
                        right = Math.max(right, y[i] == y[j] ? Math.max(x[i], x[j]) : crossing);
                        left = Math.min(left, y[i] == y[j] ? Math.min(x[i], x[j]) : crossing);
                    }
                }
            }
            int first = Math.clamp((int) Math.ceil(left - 0.5), 0, size - 1);
            int last = Math.clamp((int) Math.floor(right - 0.5), 0, size - 1);
            if (first > last) {
                last = Math.clamp((int) left, 0, size - 1);
                first = last;
            }
            set(mask, row, first, last);
        }
    }

    private void set(long[] mask, int row, int first, int last) {
        int at = row * words();
        for (int word = first >> 6; word <= last >> 6; word++) {
            long bits = -1L;
            if (word == first >> 6) {
                bits &= -1L << (first & 63);
            }
            if (word == last >> 6) {
                bits &= -1L >>> (63 - (last & 63));
            }
            mask[at + word] |= bits;
        }
    }

    /** What both cover, as a part of what either covers, for each direction; 1 where nothing is covered. */
    double[] overlap(Silhouettes other) {
        double[] overlap = new double[masks.length];
        for (int direction = 0; direction < masks.length; direction++) {
            long both = 0;
            long either = 0;
            for (int i = 0; i < masks[direction].length; i++) {
                both += Long.bitCount(masks[direction][i] & other.masks[direction][i]);
                either += Long.bitCount(masks[direction][i] | other.masks[direction][i]);
            }
            overlap[direction] = either == 0 ? 1 : (double) both / either;
        }
        return overlap;
    }

    double meanOverlap(Silhouettes other) {
        return Arrays.stream(overlap(other)).average().orElse(1);
    }
}
