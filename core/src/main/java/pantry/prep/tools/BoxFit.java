package pantry.prep.tools;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.EigenDecompositionSymmetric;
import org.hipparchus.linear.RealMatrix;
import org.jspecify.annotations.Nullable;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;

/**
 * Fits a few oriented boxes to a thing so that their outline overlaps the thing's as well as it can, in two ways of which
 * the better is taken: one box is split where that helps most, again and again; or the thing's connected parts are put
 * together until so many groups are left. Then sides are drawn in as long as that helps.
 *
 * <p>Greedy, so not the best there is; the last steps are judged by the outlines themselves, not by volumes.
 */
final class BoxFit {
    private static final int SAMPLES = 12_000;
    private static final int PIXELS = 128;

    /** Places along each axis where a box may be cut; the best by volume are judged by their outlines. */
    private static final int CUTS = 24;

    private static final int JUDGED = 10;
    private static final long SEED = 77;

    /** The two ways, in words. */
    private static final String SPLIT = "one box split again and again";

    private static final String JOINED = "parts put together";

    /** So many groups of parts are put together by how their boxes overlap; from there on by the outlines. */
    private static final int ROUGHLY_JOINED = 14;

    /** Gains below this are noise of the pixels. */
    private static final double WORTH_IT = 2e-4;

    private final double[] triangles;
    private final Samples samples;
    private final double[] points;
    private final Silhouettes wanted;
    private final Progress progress;
    private final double least;
    private final Map<Box, List<List<Box>>> splits = new IdentityHashMap<>();

    /**
     * A box.
     *
     * @param axes three directions, each at a right angle to the others
     * @param half extent along each
     * @param points numbers of the samples it is made of
     */
    record Box(Vec3 centre, Vec3[] axes, double[] half, int[] points) {
        Vec3[] corners() {
            Vec3[] corners = new Vec3[8];
            for (int i = 0; i < 8; i++) {
                Vec3 corner = centre;
                for (int axis = 0; axis < 3; axis++) {
                    corner = corner.plus(axes[axis].times((i >> axis & 1) == 0 ? -half[axis] : half[axis]));
                }
                corners[i] = corner;
            }
            return corners;
        }

        /** With a side moved: inwards where positive. */
        Box drawnIn(int axis, boolean upper, double by) {
            double[] less = half.clone();
            less[axis] -= by / 2;
            return new Box(centre.plus(axes[axis].times(upper ? -by / 2 : by / 2)), axes, less, points);
        }

        double volume() {
            return half[0] * half[1] * half[2];
        }

        Box moved(Vec3 by) {
            return new Box(centre.plus(by), axes, half, points);
        }
    }

    private BoxFit(double[] triangles, Progress progress) {
        this.triangles = triangles;
        this.samples = samples(triangles);
        this.points = samples.points();
        this.progress = progress;
        Box3 box = bounds(triangles);
        this.least = Math.max(1e-6, box.size().length() * 0.002);
        this.wanted = Silhouettes.around(box, PIXELS).withTriangles(triangles);
    }

    static Box3 bounds(double[] points) {
        double[] low = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
        double[] high = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
        for (int i = 0; i < points.length; i++) {
            low[i % 3] = Math.min(low[i % 3], points[i]);
            high[i % 3] = Math.max(high[i % 3], points[i]);
        }
        return new Box3(new Vec3(low[0], low[1], low[2]), new Vec3(high[0], high[1], high[2]));
    }

    /**
     * Some boxes, and what was reached.
     *
     * @param tried how well the outlines overlap, 0 to 1, by each way that was tried
     */
    record Fit(List<Box> boxes, Map<String, Double> tried) {}

    /**
     * At most so many boxes around a surface; fewer where more would not help.
     *
     * @param triangles nine numbers for each, at least one
     */
    static Fit of(double[] triangles, int count, Progress progress) {
        BoxFit fit = new BoxFit(triangles, progress);
        List<Box> split = fit.drawnIn(fit.split(count));
        double bySplitting = fit.overlap(split);
        List<Box> groups = fit.joined(count);
        if (groups.isEmpty()) {
            return new Fit(split, Map.of(SPLIT, bySplitting));
        }
        List<Box> joined = fit.drawnIn(groups);
        double byJoining = fit.overlap(joined);
        Map<String, Double> tried = new LinkedHashMap<>();
        tried.put(SPLIT, bySplitting);
        tried.put(JOINED, byJoining);
        return new Fit(byJoining > bySplitting ? joined : split, tried);
    }

    /** The points of a surface that a box was made around: nearly those that lie in it. */
    static double[] pointsWithin(double[] triangles, Box box) {
        double[] all = samples(triangles).points();
        double[] points = new double[3 * box.points().length];
        for (int i = 0; i < box.points().length; i++) {
            System.arraycopy(all, 3 * box.points()[i], points, 3 * i, 3);
        }
        return points;
    }

    /**
     * Points of a surface.
     *
     * @param points three numbers for each
     * @param triangles for each point, the number of the one it lies on
     */
    private record Samples(double[] points, int[] triangles) {}

    /** Points all over the surface, as many on equal areas, and all corners where there are few. */
    private static Samples samples(double[] triangles) {
        int count = triangles.length / 9;
        double[] sums = new double[count];
        double sum = 0;
        for (int t = 0; t < count; t++) {
            sum += area(triangles, 9 * t);
            sums[t] = sum;
        }
        SplittableRandom random = new SplittableRandom(SEED);
        int corners = Math.min(3 * count, SAMPLES);
        double[] points = new double[3 * (corners + (sum > 0 ? SAMPLES : 0))];
        int[] on = new int[points.length / 3];
        for (int c = 0; c < corners; c++) {
            int from = corners == 3 * count ? c : random.nextInt(3 * count);
            System.arraycopy(triangles, 3 * from, points, 3 * c, 3);
            on[c] = from / 3;
        }
        for (int i = corners; 3 * i < points.length; i++) {
            int found = Arrays.binarySearch(sums, random.nextDouble() * sum);
            int t = 9 * Math.min(count - 1, found < 0 ? -found - 1 : found);
            on[i] = t / 9;
            double u = Math.sqrt(random.nextDouble());
            double v = random.nextDouble();
            for (int axis = 0; axis < 3; axis++) {
                points[3 * i + axis] = (1 - u) * triangles[t + axis]
                        + u * (1 - v) * triangles[t + 3 + axis]
                        + u * v * triangles[t + 6 + axis];
            }
        }
        return new Samples(points, on);
    }

    private static double area(double[] t, int at) {
        Vec3 a = new Vec3(t[at + 3] - t[at], t[at + 4] - t[at + 1], t[at + 5] - t[at + 2]);
        Vec3 b = new Vec3(t[at + 6] - t[at], t[at + 7] - t[at + 1], t[at + 8] - t[at + 2]);
        return a.cross(b).length() / 2;
    }

    /** Boxes around groups of the connected parts; none where there are not several parts. */
    private List<Box> joined(int count) {
        int[] groupOf = JoinedParts.of(triangles, Math.max(count, ROUGHLY_JOINED));
        if (groupOf.length == 0) {
            return List.of();
        }
        Map<Integer, List<Integer>> members = new TreeMap<>();
        for (int i = 0; i < samples.triangles().length; i++) {
            members.computeIfAbsent(groupOf[samples.triangles()[i]], group -> new ArrayList<>())
                    .add(i);
        }
        List<Box> boxes = new ArrayList<>();
        members.values()
                .forEach(numbers -> boxes.add(
                        around(numbers.stream().mapToInt(Integer::intValue).toArray())));
        List<Box> now = boxes;
        while (now.size() > count) {
            progress.step("joining parts", 0.5);
            now = joinedBest(now);
        }
        return now;
    }

    /** One box less: the two are put together of which the outline suffers least. */
    private List<Box> joinedBest(List<Box> boxes) {
        List<Box> best = List.of();
        double reached = -1;
        for (int i = 0; i < boxes.size(); i++) {
            for (int j = i + 1; j < boxes.size(); j++) {
                List<Box> fewer = new ArrayList<>(boxes);
                Box other = fewer.remove(j);
                Box one = fewer.remove(i);
                int[] both = Arrays.copyOf(one.points(), one.points().length + other.points().length);
                System.arraycopy(other.points(), 0, both, one.points().length, other.points().length);
                fewer.add(around(both));
                double overlap = overlap(fewer);
                if (overlap > reached) {
                    reached = overlap;
                    best = fewer;
                }
            }
        }
        return best;
    }

    private List<Box> split(int count) {
        int[] all = new int[points.length / 3];
        Arrays.setAll(all, i -> i);
        List<Box> boxes = new ArrayList<>(List.of(around(all)));
        double reached = overlap(boxes);
        while (boxes.size() < count) {
            progress.step("fitting boxes", (double) boxes.size() / count);
            @Nullable List<Box> better = null;
            double best = reached + WORTH_IT;
            for (Box box : boxes) {
                List<Box> others = boxes.stream().filter(other -> other != box).toList();
                Silhouettes rest = outline(others);
                for (List<Box> halves : splits.computeIfAbsent(box, this::splits)) {
                    Silhouettes whole = outline(halves);
                    whole.add(rest);
                    double overlap = whole.meanOverlap(wanted);
                    if (overlap > best) {
                        best = overlap;
                        better = new ArrayList<>(others);
                        better.addAll(halves);
                    }
                }
            }
            if (better == null) {
                break;
            }
            boxes = better;
            reached = best;
        }
        return boxes;
    }

    private Silhouettes outline(List<Box> boxes) {
        Silhouettes outline = wanted.empty();
        boxes.forEach(box -> outline.addHull(box.corners()));
        return outline;
    }

    private double overlap(List<Box> boxes) {
        return outline(boxes).meanOverlap(wanted);
    }

    private List<List<Box>> splits(Box box) {
        List<List<Box>> splits = new ArrayList<>();
        for (int axis = 0; axis < 3; axis++) {
            double[] along = new double[box.points().length];
            for (int i = 0; i < along.length; i++) {
                along[i] = point(box.points()[i]).minus(box.centre()).dot(box.axes()[axis]);
            }
            for (int cut = 1; cut <= CUTS; cut++) {
                // Between the round parts at which things are often joined.
                double at = box.half()[axis] * (2 * (cut - 0.5) / CUTS - 1);
                int[] low = chosen(box.points(), along, at, true);
                int[] high = chosen(box.points(), along, at, false);
                if (low.length >= 8 && high.length >= 8) {
                    splits.add(List.of(around(low), around(high)));
                }
            }
        }
        splits.sort(Comparator.comparingDouble(
                halves -> halves.get(0).volume() + halves.get(1).volume()));
        return splits.subList(0, Math.min(JUDGED, splits.size()));
    }

    private static int[] chosen(int[] numbers, double[] along, double at, boolean below) {
        int[] chosen = new int[numbers.length];
        int count = 0;
        for (int i = 0; i < numbers.length; i++) {
            if (along[i] <= at == below) {
                chosen[count++] = numbers[i];
            }
        }
        return Arrays.copyOf(chosen, count);
    }

    private Vec3 point(int number) {
        return new Vec3(points[3 * number], points[3 * number + 1], points[3 * number + 2]);
    }

    /** The smallest of the boxes along the axes, turned about the upright, and along the points' own main axes. */
    private Box around(int[] numbers) {
        Box best = around(numbers, new Vec3[] {new Vec3(1, 0, 0), new Vec3(0, 1, 0), new Vec3(0, 0, 1)});
        for (Vec3[] axes : List.of(mainAxes(numbers, true), mainAxes(numbers, false))) {
            Box other = around(numbers, axes);
            // Boxes along the axes are preferred: they look tidy.
            if (other.volume() < 0.9 * best.volume()) {
                best = other;
            }
        }
        return best;
    }

    private Box around(int[] numbers, Vec3[] axes) {
        double[] half = new double[3];
        Vec3 centre = Vec3.ZERO;
        for (int axis = 0; axis < 3; axis++) {
            double low = Double.POSITIVE_INFINITY;
            double high = Double.NEGATIVE_INFINITY;
            for (int number : numbers) {
                double along = points[3 * number] * axes[axis].x()
                        + points[3 * number + 1] * axes[axis].y()
                        + points[3 * number + 2] * axes[axis].z();
                low = Math.min(low, along);
                high = Math.max(high, along);
            }
            half[axis] = Math.max(least, (high - low) / 2);
            centre = centre.plus(axes[axis].times((low + high) / 2));
        }
        return new Box(centre, axes, half, numbers);
    }

    private Vec3[] mainAxes(int[] numbers, boolean upright) {
        double[] mean = new double[3];
        for (int number : numbers) {
            for (int axis = 0; axis < 3; axis++) {
                mean[axis] += points[3 * number + axis] / numbers.length;
            }
        }
        double[][] spread = new double[3][3];
        for (int number : numbers) {
            for (int row = 0; row < 3; row++) {
                for (int column = 0; column < 3; column++) {
                    spread[row][column] +=
                            (points[3 * number + row] - mean[row]) * (points[3 * number + column] - mean[column]);
                }
            }
        }
        if (upright) {
            double angle = Math.atan2(2 * spread[0][2], spread[0][0] - spread[2][2]) / 2;
            Vec3 first = new Vec3(Math.cos(angle), 0, Math.sin(angle));
            return new Vec3[] {first, Vec3.UP, first.cross(Vec3.UP)};
        }
        RealMatrix vectors = new EigenDecompositionSymmetric(new Array2DRowRealMatrix(spread)).getV();
        Vec3[] axes = new Vec3[3];
        for (int axis = 0; axis < 3; axis++) {
            axes[axis] =
                    new Vec3(vectors.getEntry(0, axis), vectors.getEntry(1, axis), vectors.getEntry(2, axis)).unit();
        }
        return axes;
    }

    private List<Box> drawnIn(List<Box> boxes) {
        List<Box> now = new ArrayList<>(boxes);
        double best = overlap(boxes);
        for (double part : new double[] {0.08, 0.03}) {
            for (int b = 0; b < now.size(); b++) {
                progress.step("fitting boxes", 0.9);
                for (int side = 0; side < 6; side++) {
                    while (true) {
                        Box box = now.get(b);
                        Box less = box.drawnIn(side / 2, side % 2 == 0, part * 2 * box.half()[side / 2]);
                        List<Box> tried = new ArrayList<>(now);
                        tried.set(b, less);
                        double overlap = overlap(tried);
                        if (overlap <= best + WORTH_IT) {
                            break;
                        }
                        now = tried;
                        best = overlap;
                    }
                }
            }
        }
        return now;
    }
}
