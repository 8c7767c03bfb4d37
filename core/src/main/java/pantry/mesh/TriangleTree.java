package pantry.mesh;

import java.util.Arrays;
import pantry.base.math.Vec3;

/**
 * Triangles sorted into a tree of boxes, for asking how near they come to a point. Safe for use by several threads.
 *
 * <p>Built by halving at the median of the triangles' middles along the longest side (O(n log n)); asked nearest box
 * first (O(log n) on usual shapes). The point of a triangle that is nearest to a point: C. Ericson, Real-Time Collision
 * Detection, 2005, section 5.1.5.
 */
public final class TriangleTree {
    private static final int LEAF = 8;

    /** Nine numbers for each triangle, in the order of the tree. */
    private final double[] corners;

    /** Six numbers for each node: least x, y, z, most x, y, z. Node i has the children 2i+1 and 2i+2. */
    private final double[] boxes;

    private final int[] firsts;
    private final int[] counts;

    /** @param triangles nine numbers for each: three corners' x, y and z; copied */
    public TriangleTree(double[] triangles) {
        int n = triangles.length / 9;
        int depth = 0;
        while ((LEAF << depth) < n) {
            depth++;
        }
        int nodes = (2 << depth) - 1;
        boxes = new double[6 * nodes];
        firsts = new int[nodes];
        counts = new int[nodes];
        double[][] middles = new double[3][n];
        for (int i = 0; i < n; i++) {
            for (int axis = 0; axis < 3; axis++) {
                middles[axis][i] = triangles[9 * i + axis] + triangles[9 * i + 3 + axis] + triangles[9 * i + 6 + axis];
            }
        }
        int[] order = new int[n];
        Arrays.setAll(order, i -> i);
        build(0, depth, order, 0, n, triangles, middles);
        corners = new double[triangles.length];
        for (int i = 0; i < n; i++) {
            System.arraycopy(triangles, 9 * order[i], corners, 9 * i, 9);
        }
    }

    private void build(int node, int depth, int[] order, int from, int to, double[] triangles, double[][] middles) {
        firsts[node] = from;
        counts[node] = to - from;
        double[] box = {
            Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY,
            Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY
        };
        for (int i = from; i < to; i++) {
            for (int k = 0; k < 9; k++) {
                double value = triangles[9 * order[i] + k];
                box[k % 3] = Math.min(box[k % 3], value);
                box[3 + k % 3] = Math.max(box[3 + k % 3], value);
            }
        }
        System.arraycopy(box, 0, boxes, 6 * node, 6);
        if (depth == 0) {
            return;
        }
        int axis = 0;
        for (int other = 1; other < 3; other++) {
            axis = box[3 + other] - box[other] > box[3 + axis] - box[axis] ? other : axis;
        }
        int middle = (from + to) >>> 1;
        select(order, from, to, middle, middles[axis]);
        build(2 * node + 1, depth - 1, order, from, middle, triangles, middles);
        build(2 * node + 2, depth - 1, order, middle, to, triangles, middles);
    }

    /** Puts the smaller half before {@code middle} (C. A. R. Hoare, Algorithm 65: FIND, 1961). */
    private static void select(int[] order, int from, int to, int middle, double[] keys) {
        int low = from;
        int high = to - 1;
        while (low < high) {
            double pivot = keys[order[(low + high) >>> 1]];
            int i = low;
            int j = high;
            while (i <= j) {
                while (keys[order[i]] < pivot) {
                    i++;
                }
                while (keys[order[j]] > pivot) {
                    j--;
                }
                if (i <= j) {
                    int swap = order[i];
                    order[i++] = order[j];
                    order[j--] = swap;
                }
            }
            if (j < middle) {
                low = i;
            }
            if (middle < i) {
                high = j;
            }
        }
    }

    public int size() {
        return counts[0];
    }

    /**
     * How far the nearest triangle is from a point.
     *
     * @param enough a distance below which it does not matter how near exactly
     * @return the distance, or any that is at most {@code enough}
     */
    public double distance(double x, double y, double z, double enough) {
        return search().distance(x, y, z, enough);
    }

    /** For asking for many points. */
    public Search search() {
        return new Search();
    }

    /**
     * How often a ray leaves what triangles enclose, less how often it enters it: 0 outside of closed surfaces, and for a
     * point within one that is wound outwards, 1. A surface that is open tells otherwise in opposite directions.
     *
     * @param from where the ray begins
     * @param direction of any length
     */
    public int windings(Vec3 from, Vec3 direction) {
        return counts[0] == 0 ? 0 : windings(0, from, direction);
    }

    private int windings(int node, Vec3 from, Vec3 direction) {
        if (counts[node] == 0 || !meets(node, from, direction)) {
            return 0;
        }
        if (2 * node + 1 < firsts.length) {
            return windings(2 * node + 1, from, direction) + windings(2 * node + 2, from, direction);
        }
        int windings = 0;
        for (int i = firsts[node]; i < firsts[node] + counts[node]; i++) {
            windings += side(9 * i, from, direction);
        }
        return windings;
    }

    /** Whether a ray goes through a node's box. */
    private boolean meets(int node, Vec3 from, Vec3 direction) {
        double enters = 0;
        double leaves = Double.POSITIVE_INFINITY;
        for (int axis = 0; axis < 3; axis++) {
            double least = boxes[6 * node + axis] - from.get(axis);
            double most = boxes[6 * node + 3 + axis] - from.get(axis);
            double along = direction.get(axis);
            if (along == 0) {
                if (least > 0 || most < 0) {
                    return false;
                }
            } else {
                enters = Math.max(enters, Math.min(least / along, most / along));
                leaves = Math.min(leaves, Math.max(least / along, most / along));
            }
        }
        return enters <= leaves;
    }

    /** 1 where a ray goes out through a triangle, -1 where it goes in, 0 where it misses it (Möller and Trumbore, 1997). */
    private int side(int at, Vec3 from, Vec3 direction) {
        Vec3 a = new Vec3(corners[at], corners[at + 1], corners[at + 2]);
        Vec3 ab = new Vec3(corners[at + 3], corners[at + 4], corners[at + 5]).minus(a);
        Vec3 ac = new Vec3(corners[at + 6], corners[at + 7], corners[at + 8]).minus(a);
        Vec3 across = direction.cross(ac);
        double determinant = ab.dot(across);
        if (determinant == 0) {
            return 0;
        }
        Vec3 to = from.minus(a);
        double u = to.dot(across) / determinant;
        Vec3 other = to.cross(ab);
        double v = direction.dot(other) / determinant;
        boolean hit = u >= 0 && v >= 0 && u + v <= 1 && ac.dot(other) / determinant > 0;
        return hit ? determinant < 0 ? 1 : -1 : 0;
    }

    /**
     * Asks how near the triangles come to one point after another. Points that lie close to each other are answered soonest one
     * after the other: what was nearest to the last one is looked at first. For one thread.
     */
    public final class Search {
        private int leaf = -1;

        private Search() {}

        /** As {@link TriangleTree#distance}. */
        public double distance(double x, double y, double z, double enough) {
            double square = enough * enough;
            double near = leaf < 0 ? Double.POSITIVE_INFINITY : within(leaf, x, y, z, Double.POSITIVE_INFINITY, square);
            return Math.sqrt(near <= square ? near : nearest(0, x, y, z, near, square));
        }

        private double within(int node, double x, double y, double z, double best, double enough) {
            double found = best;
            for (int i = firsts[node]; i < firsts[node] + counts[node] && found > enough; i++) {
                found = Math.min(found, squared(9 * i, x, y, z));
            }
            return found;
        }

        private double nearest(int node, double x, double y, double z, double best, double enough) {
            if (2 * node + 1 >= firsts.length) {
                double found = within(node, x, y, z, best, enough);
                if (found < best) {
                    leaf = node;
                }
                return found;
            }
            double found = best;
            int near = 2 * node + 1;
            int far = near + 1;
            double toNear = toBox(near, x, y, z);
            double toFar = toBox(far, x, y, z);
            if (toFar < toNear) {
                int swap = near;
                near = far;
                far = swap;
                double other = toNear;
                toNear = toFar;
                toFar = other;
            }
            if (toNear < found && found > enough) {
                found = nearest(near, x, y, z, found, enough);
            }
            if (toFar < found && found > enough) {
                found = nearest(far, x, y, z, found, enough);
            }
            return found;
        }
    }

    private double toBox(int node, double x, double y, double z) {
        if (counts[node] == 0) {
            return Double.POSITIVE_INFINITY;
        }
        double dx = Math.max(0, Math.max(boxes[6 * node] - x, x - boxes[6 * node + 3]));
        double dy = Math.max(0, Math.max(boxes[6 * node + 1] - y, y - boxes[6 * node + 4]));
        double dz = Math.max(0, Math.max(boxes[6 * node + 2] - z, z - boxes[6 * node + 5]));
        return dx * dx + dy * dy + dz * dz;
    }

    /** The square of a point's distance from a triangle. */
    private double squared(int at, double x, double y, double z) {
        double ax = corners[at];
        double ay = corners[at + 1];
        double az = corners[at + 2];
        double abx = corners[at + 3] - ax;
        double aby = corners[at + 4] - ay;
        double abz = corners[at + 5] - az;
        double acx = corners[at + 6] - ax;
        double acy = corners[at + 7] - ay;
        double acz = corners[at + 8] - az;
        double d1 = abx * (x - ax) + aby * (y - ay) + abz * (z - az);
        double d2 = acx * (x - ax) + acy * (y - ay) + acz * (z - az);
        if (d1 <= 0 && d2 <= 0) {
            return square(x - ax, y - ay, z - az);
        }
        double bx = x - ax - abx;
        double by = y - ay - aby;
        double bz = z - az - abz;
        double d3 = abx * bx + aby * by + abz * bz;
        double d4 = acx * bx + acy * by + acz * bz;
        if (d3 >= 0 && d4 <= d3) {
            return square(bx, by, bz);
        }
        double vc = d1 * d4 - d3 * d2;
        if (vc <= 0 && d1 >= 0 && d3 <= 0) {
            double v = d1 / (d1 - d3);
            return square(x - ax - v * abx, y - ay - v * aby, z - az - v * abz);
        }
        double cx = x - ax - acx;
        double cy = y - ay - acy;
        double cz = z - az - acz;
        double d5 = abx * cx + aby * cy + abz * cz;
        double d6 = acx * cx + acy * cy + acz * cz;
        if (d6 >= 0 && d5 <= d6) {
            return square(cx, cy, cz);
        }
        double vb = d5 * d2 - d1 * d6;
        if (vb <= 0 && d2 >= 0 && d6 <= 0) {
            double w = d2 / (d2 - d6);
            return square(x - ax - w * acx, y - ay - w * acy, z - az - w * acz);
        }
        double va = d3 * d6 - d5 * d4;
        if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
            double w = (d4 - d3) / (d4 - d3 + d5 - d6);
            return square(bx - w * (acx - abx), by - w * (acy - aby), bz - w * (acz - abz));
        }
        double scale = 1 / (va + vb + vc);
        double v = vb * scale;
        double w = vc * scale;
        return square(x - ax - v * abx - w * acx, y - ay - v * aby - w * acy, z - az - v * abz - w * acz);
    }

    private static double square(double x, double y, double z) {
        return x * x + y * y + z * z;
    }
}
