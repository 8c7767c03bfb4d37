package pantry.mesh;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.DoubleAccumulator;
import java.util.stream.IntStream;
import pantry.base.math.Vec3;

/**
 * The greatest distance between two surfaces: how far any point of either is, at most, from the other (F. Hausdorff,
 * Grundzüge der Mengenlehre, 1914).
 *
 * <p>Points are taken at all corners, and over each triangle so densely that none of it is farther than a step from one;
 * so the true figure is at most a step greater; less than a ten-thousandth of a step is none. What is nearer than the greatest distance found so far is not looked
 * into further (A. A. Taha, A. Hanbury, An efficient algorithm for calculating the exact Hausdorff distance, IEEE PAMI
 * 37, 2015).
 */
public final class SurfaceDistance {
    /** Steps along the diagonal of both surfaces' box. */
    private static final int STEPS = 400;

    /** What of a step is no distance: surfaces that lie in each other differ by the rounding of their figures. */
    private static final double NOTHING = 1e-4;

    private SurfaceDistance() {}

    /**
     * @param greatest distance in the surfaces' unit; infinite where only one of them has a triangle
     * @param step what the true distance may be greater, at most
     */
    public record Result(double greatest, double step) {}

    /**
     * Measures two surfaces.
     *
     * @param first nine numbers for each triangle: three corners' x, y and z
     * @param second as well
     */
    public static Result between(double[] first, double[] second) {
        return measured(first, second, Double.POSITIVE_INFINITY);
    }

    /** Whether two surfaces are nowhere farther from each other than a limit; a place where they are ends the measuring. */
    public static boolean isWithin(double[] first, double[] second, double limit) {
        return measured(first, second, limit).greatest() <= limit;
    }

    private static Result measured(double[] first, double[] second, double limit) {
        if (first.length == 0 || second.length == 0) {
            return new Result(first.length == second.length ? 0 : Double.POSITIVE_INFINITY, 0);
        }
        double step = diagonal(first, second) / STEPS;
        DoubleAccumulator greatest = new DoubleAccumulator(Math::max, 0);
        oneWay(first, new TriangleTree(second), step, limit, greatest);
        oneWay(second, new TriangleTree(first), step, limit, greatest);
        return new Result(greatest.get(), step);
    }

    private static double diagonal(double[] first, double[] second) {
        double[] least = {Double.MAX_VALUE, Double.MAX_VALUE, Double.MAX_VALUE};
        double[] most = {-Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
        for (double[] surface : List.of(first, second)) {
            for (int i = 0; i < surface.length; i++) {
                least[i % 3] = Math.min(least[i % 3], surface[i]);
                most[i % 3] = Math.max(most[i % 3], surface[i]);
            }
        }
        return Math.sqrt(
                Math.pow(most[0] - least[0], 2) + Math.pow(most[1] - least[1], 2) + Math.pow(most[2] - least[2], 2));
    }

    private static void oneWay(double[] from, TriangleTree to, double step, double limit, DoubleAccumulator greatest) {
        int triangles = from.length / 9;
        List<Integer> stretches = new ArrayList<>();
        int stretch = Math.max(1, triangles / 256);
        for (int start = 0; start < triangles; start += stretch) {
            stretches.add(start);
        }
        IntStream.range(0, stretches.size()).parallel().forEach(s -> {
            int end = Math.min(triangles, stretches.get(s) + stretch);
            TriangleTree.Search near = to.search();
            for (int t = stretches.get(s); t < end && greatest.get() <= limit; t++) {
                sample(from, 9 * t, near, step, greatest);
            }
        });
    }

    /**
     * Takes points in rows beside a triangle's longest side: as dense along it as across it, so that a sliver of any length costs
     * no more than its surface.
     */
    private static void sample(double[] from, int at, TriangleTree.Search to, double step, DoubleAccumulator greatest) {
        int longest = 0;
        for (int side = 1; side < 3; side++) {
            longest = side(from, at, side).length() > side(from, at, longest).length() ? side : longest;
        }
        Vec3 corner = corner(from, at, longest);
        Vec3 along = side(from, at, longest);
        Vec3 aside = corner(from, at, (longest + 2) % 3).minus(corner);
        double length = along.length();
        double height = length == 0 ? 0 : along.cross(aside).length() / length;
        int rows = cuts(height, step);
        for (int row = 0; row <= rows; row++) {
            double v = (double) row / rows;
            int cuts = row == rows ? 0 : cuts(length * (1 - v), step);
            for (int i = 0; i <= cuts; i++) {
                double u = cuts == 0 ? 0 : (1 - v) * i / cuts;
                double distance = to.distance(
                        corner.x() + u * along.x() + v * aside.x(),
                        corner.y() + u * along.y() + v * aside.y(),
                        corner.z() + u * along.z() + v * aside.z(),
                        Math.max(greatest.get(), NOTHING * step));
                if (distance > NOTHING * step) {
                    greatest.accumulate(distance);
                }
            }
        }
    }

    private static int cuts(double length, double step) {
        return (int) Math.clamp(Math.ceil(length / step), 1, STEPS);
    }

    private static Vec3 corner(double[] from, int at, int corner) {
        int i = at + 3 * (corner % 3);
        return new Vec3(from[i], from[i + 1], from[i + 2]);
    }

    private static Vec3 side(double[] from, int at, int side) {
        return corner(from, at, side + 1).minus(corner(from, at, side));
    }
}
