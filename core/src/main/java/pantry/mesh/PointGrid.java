package pantry.mesh;

import java.util.Arrays;

/** Finds the nearest of some points within a distance: cells of equal size in a hash table, about one point to each. */
public final class PointGrid {
    private final double[] points;
    private final double cell;
    private final int mask;
    private final int[] first;
    private final int[] next;

    /**
     * @param points x, y and z of each; shared
     * @param greatest how far from the origin the points are at most
     */
    public PointGrid(double[] points, double greatest) {
        this.points = points;
        int count = points.length / 3;
        this.cell = Math.max(Double.MIN_NORMAL, greatest * 2 / Math.max(1, Math.sqrt(count)));
        int capacity = Integer.highestOneBit(Math.max(4, count)) * 2;
        this.mask = capacity - 1;
        this.first = new int[capacity];
        this.next = new int[count];
        Arrays.fill(first, -1);
        for (int p = count - 1; p >= 0; p--) {
            int slot = slot(index(points[3 * p]), index(points[3 * p + 1]), index(points[3 * p + 2]));
            next[p] = first[slot];
            first[slot] = p;
        }
    }

    private long index(double coordinate) {
        return (long) Math.floor(coordinate / cell);
    }

    private int slot(long x, long y, long z) {
        long h = x * 0x9E3779B97F4A7C15L + y * 0xC2B2AE3D27D4EB4FL + z * 0x165667B19E3779F9L;
        return (int) (h ^ h >>> 29 ^ h >>> 47) & mask;
    }

    /** The nearest point at most so far away; -1 where there is none. */
    public int nearest(double x, double y, double z, double within) {
        int best = -1;
        double least = within * within;
        long toX = index(x + within);
        long toY = index(y + within);
        long toZ = index(z + within);
        for (long i = index(x - within); i <= toX; i++) {
            for (long j = index(y - within); j <= toY; j++) {
                for (long k = index(z - within); k <= toZ; k++) {
                    for (int p = first[slot(i, j, k)]; p >= 0; p = next[p]) {
                        double dx = points[3 * p] - x;
                        double dy = points[3 * p + 1] - y;
                        double dz = points[3 * p + 2] - z;
                        double squared = dx * dx + dy * dy + dz * dz;
                        if (squared <= least) {
                            least = squared;
                            best = p;
                        }
                    }
                }
            }
        }
        return best;
    }
}
