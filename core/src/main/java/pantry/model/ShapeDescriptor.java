package pantry.model;

import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.random.RandomGenerator;
import java.util.random.RandomGeneratorFactory;
import pantry.base.math.Matrix4;
import pantry.mesh.Triangulation;

/**
 * Tells shapes apart whatever their size, place, turn and triangles.
 *
 * <p>How the distances between points spread over the surface are distributed, and those of points from their middle,
 * both measured in the mean of the former (R. Osada, T. Funkhouser, B. Chazelle, D. Dobkin, Shape Distributions, ACM
 * Transactions on Graphics 21, 2002, their D2 and D1). Points are taken at even steps of the area, so equal shapes
 * differ by little more than rounding. Mirrored shapes are not told apart.
 */
public final class ShapeDescriptor {
    private static final int POINTS = 4096;
    private static final int MOST_TRIANGLES = 100_000;
    private static final int PAIRS = 1 << 15;
    private static final int PAIR_BINS = 32;
    private static final int MIDDLE_BINS = 16;

    /** In mean distances: no pair of points on a surface of one piece is farther apart than about this. */
    private static final double PAIR_REACH = 3;

    private static final double MIDDLE_REACH = 2.5;
    private static final long SEED = 20_020_810;

    /** Unlike shapes share about this much of their distributions. */
    private static final double CHANCE = 0.5;

    private final double[] bins;

    private ShapeDescriptor(double[] bins) {
        this.bins = bins;
    }

    /** A model's shape; of one without area, a shape like no other. */
    public static ShapeDescriptor of(Model model) {
        List<double[]> points = spread(model);
        double[] bins = new double[PAIR_BINS + MIDDLE_BINS];
        if (points.size() < POINTS / 2) {
            return new ShapeDescriptor(bins);
        }
        RandomGenerator random = RandomGeneratorFactory.of("L64X128MixRandom").create(SEED);
        double[] distances = new double[PAIRS];
        double mean = 0;
        for (int i = 0; i < PAIRS; i++) {
            double[] a = points.get(i % points.size());
            double[] b = points.get(random.nextInt(points.size()));
            distances[i] = distance(a, b);
            mean += distances[i] / PAIRS;
        }
        if (!(mean > 0)) {
            return new ShapeDescriptor(bins);
        }
        for (double distance : distances) {
            bins[bin(distance / mean / PAIR_REACH, PAIR_BINS)] += 1.0 / PAIRS;
        }
        double[] middle = new double[3];
        for (double[] point : points) {
            for (int axis = 0; axis < 3; axis++) {
                middle[axis] += point[axis] / points.size();
            }
        }
        for (double[] point : points) {
            bins[PAIR_BINS + bin(distance(point, middle) / mean / MIDDLE_REACH, MIDDLE_BINS)] += 1.0 / points.size();
        }
        return new ShapeDescriptor(bins);
    }

    private static int bin(double place, int count) {
        return Math.clamp((int) (place * count), 0, count - 1);
    }

    private static double distance(double[] a, double[] b) {
        double x = a[0] - b[0];
        double y = a[1] - b[1];
        double z = a[2] - b[2];
        return Math.sqrt(x * x + y * y + z * z);
    }

    /** Called with each drawn triangle's corners, three numbers each, and twice its area. */
    private interface Triangles {
        void triangle(double[] a, double[] b, double[] c, double doubled);
    }

    /** Of very many triangles, every so many stand for all. */
    private static void walk(Model model, int every, Triangles each) {
        double[] a = new double[3];
        double[] b = new double[3];
        double[] c = new double[3];
        model.visit((owner, part, world) -> {
            float[] points = part.mesh().points();
            int[] corners = part.mesh().corners();
            int[] triangles = Triangulation.corners(part.mesh());
            double[] m = world.equals(Matrix4.IDENTITY) ? Matrix4.IDENTITY.rows() : world.rows();
            for (int t = 0; t < triangles.length; t += 3 * every) {
                place(points, 3 * corners[triangles[t]], m, a);
                place(points, 3 * corners[triangles[t + 1]], m, b);
                place(points, 3 * corners[triangles[t + 2]], m, c);
                double ux = b[0] - a[0];
                double uy = b[1] - a[1];
                double uz = b[2] - a[2];
                double vx = c[0] - a[0];
                double vy = c[1] - a[1];
                double vz = c[2] - a[2];
                double x = uy * vz - uz * vy;
                double y = uz * vx - ux * vz;
                double z = ux * vy - uy * vx;
                each.triangle(a, b, c, Math.sqrt(x * x + y * y + z * z));
            }
        });
    }

    private static void place(float[] points, int at, double[] m, double[] out) {
        double x = points[at];
        double y = points[at + 1];
        double z = points[at + 2];
        out[0] = x * m[0] + y * m[4] + z * m[8] + m[12];
        out[1] = x * m[1] + y * m[5] + z * m[9] + m[13];
        out[2] = x * m[2] + y * m[6] + z * m[10] + m[14];
    }

    /** Points at even steps of the area, each at a place of its own in its triangle. */
    private static List<double[]> spread(Model model) {
        int every = (int) Math.max(1, model.trianglesDrawn() / MOST_TRIANGLES);
        double[] total = {0};
        walk(model, every, (a, b, c, doubled) -> total[0] += doubled);
        List<double[]> points = new ArrayList<>();
        if (!(total[0] > 0) || Double.isInfinite(total[0])) {
            return points;
        }
        double step = total[0] / POINTS;
        double[] passed = {0, step / 2};
        RandomGenerator random = RandomGeneratorFactory.of("L64X128MixRandom").create(SEED);
        walk(model, every, (a, b, c, doubled) -> {
            passed[0] += doubled;
            while (passed[1] < passed[0]) {
                passed[1] += step;
                // Even over the triangle (R. Osada et al., section 4.1).
                double root = Math.sqrt(random.nextDouble());
                double along = random.nextDouble();
                double[] point = new double[3];
                for (int axis = 0; axis < 3; axis++) {
                    point[axis] = (1 - root) * a[axis] + root * (1 - along) * b[axis] + root * along * c[axis];
                }
                points.add(point);
            }
        });
        return points;
    }

    /** How alike two shapes are: 1 the same, 0 nothing in common. */
    public double likeness(ShapeDescriptor other) {
        double pairs = 0;
        double middles = 0;
        for (int i = 0; i < bins.length; i++) {
            double shared = Math.min(bins[i], other.bins[i]);
            if (i < PAIR_BINS) {
                pairs += shared;
            } else {
                middles += shared;
            }
        }
        return Math.max(0, (Math.min(pairs, middles) - CHANCE) / (1 - CHANCE));
    }

    /** As text, for keeping: four hexadecimal digits for each share of a distribution. */
    public String code() {
        HexFormat hex = HexFormat.of();
        StringBuilder code = new StringBuilder();
        for (double bin : bins) {
            code.append(hex.toHexDigits((short) Math.round(bin * 65_535)));
        }
        return code.toString();
    }

    /** From its text; empty where that is none. */
    public static Optional<ShapeDescriptor> ofCode(String code) {
        double[] bins = new double[PAIR_BINS + MIDDLE_BINS];
        if (code.length() != 4 * bins.length || !code.matches("[0-9a-f]+")) {
            return Optional.empty();
        }
        for (int i = 0; i < bins.length; i++) {
            bins[i] = HexFormat.fromHexDigits(code, 4 * i, 4 * i + 4) / 65_535.0;
        }
        return Optional.of(new ShapeDescriptor(bins));
    }
}
