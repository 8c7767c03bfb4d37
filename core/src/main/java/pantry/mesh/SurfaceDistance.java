package pantry.mesh;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.DoubleAccumulator;
import java.util.stream.IntStream;

/**
 * The greatest distance between two surfaces: how far any point of either is, at most, from the other (F. Hausdorff,
 * Grundzüge der Mengenlehre, 1914).
 *
 * <p>Points are taken at all corners, and over each triangle so densely that none of it is farther than a step from one;
 * so the true figure is at most a step greater. What is nearer than the greatest distance found so far is not looked
 * into further (A. A. Taha, A. Hanbury, An efficient algorithm for calculating the exact Hausdorff distance, IEEE PAMI
 * 37, 2015).
 */
public final class SurfaceDistance {
    /** Steps along the diagonal of both surfaces' box. */
    private static final int STEPS = 400;

    private static final int MOST_CUTS = 64;

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
        if (first.length == 0 || second.length == 0) {
            return new Result(first.length == second.length ? 0 : Double.POSITIVE_INFINITY, 0);
        }
        double step = diagonal(first, second) / STEPS;
        DoubleAccumulator greatest = new DoubleAccumulator(Math::max, 0);
        oneWay(first, new TriangleTree(second), step, greatest);
        oneWay(second, new TriangleTree(first), step, greatest);
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

    private static void oneWay(double[] from, TriangleTree to, double step, DoubleAccumulator greatest) {
        int triangles = from.length / 9;
        List<Integer> stretches = new ArrayList<>();
        int stretch = Math.max(1, triangles / 256);
        for (int start = 0; start < triangles; start += stretch) {
            stretches.add(start);
        }
        IntStream.range(0, stretches.size()).parallel().forEach(s -> {
            int end = Math.min(triangles, stretches.get(s) + stretch);
            for (int t = stretches.get(s); t < end; t++) {
                sample(from, 9 * t, to, step, greatest);
            }
        });
    }

    private static void sample(double[] from, int at, TriangleTree to, double step, DoubleAccumulator greatest) {
        double longest = 0;
        for (int corner = 0; corner < 3; corner++) {
            int a = at + 3 * corner;
            int b = at + 3 * ((corner + 1) % 3);
            longest = Math.max(
                    longest,
                    Math.pow(from[a] - from[b], 2)
                            + Math.pow(from[a + 1] - from[b + 1], 2)
                            + Math.pow(from[a + 2] - from[b + 2], 2));
        }
        int cuts = (int) Math.clamp(Math.ceil(Math.sqrt(longest) / step), 1, MOST_CUTS);
        for (int i = 0; i <= cuts; i++) {
            for (int k = 0; k <= cuts - i; k++) {
                double u = (double) i / cuts;
                double v = (double) k / cuts;
                double w = 1 - u - v;
                double x = u * from[at] + v * from[at + 3] + w * from[at + 6];
                double y = u * from[at + 1] + v * from[at + 4] + w * from[at + 7];
                double z = u * from[at + 2] + v * from[at + 5] + w * from[at + 8];
                greatest.accumulate(to.distance(x, y, z, greatest.get()));
            }
        }
    }
}
