package pantry.twins;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import pantry.mesh.Mesh;
import pantry.mesh.PointGrid;
import pantry.mesh.Welding;

/**
 * A mesh as it is compared: each place that a face uses once, seen from the middle of them, with what no turn or
 * translation changes. Points are numbered in the order of their first use in the mesh's arrays.
 */
final class Shape {
    final Mesh mesh;

    /** Seen from the middle; x, y and z of each. */
    final double[] points;

    /** The middle of the points, in the mesh's space. */
    final double[] middle;

    /** For each corner of the mesh, in its order, the point. */
    final int[] corners;

    final double tolerance;

    /** What the numbers of the mesh can tell apart where it stands. */
    final double digits;

    /** Distance of each point from the middle. */
    final double[] radii;

    /** How many corners meet at each point. */
    final int[] degrees;

    /** The points by degree, then by radius. */
    final int[] order;

    /** Root mean square of the radii. */
    final double size;

    final double greatest;

    /**
     * A number for the proportions, the same whatever the size: the farthest point's distance over the size, and the
     * norm of the second moments over their trace, which an error of a tolerance changes by some tolerances over the
     * size.
     */
    final double proportion;

    /** What must be exactly the same of twins: counts, and how many faces have how many corners. */
    final Counts counts;

    private @Nullable PointGrid grid;
    private @Nullable FaceTable faces;

    record Counts(int points, int faces, int corners, int faceSizes, int degrees) {}

    private Shape(Mesh mesh, double[] points, double[] middle, int[] corners, double tolerance, double digits) {
        this.mesh = mesh;
        this.points = points;
        this.middle = middle;
        this.corners = corners;
        this.tolerance = tolerance;
        this.digits = digits;
        int count = points.length / 3;
        this.radii = new double[count];
        this.degrees = new int[count];
        double sum = 0;
        double most = 0;
        for (int p = 0; p < count; p++) {
            double squared = points[3 * p] * points[3 * p]
                    + points[3 * p + 1] * points[3 * p + 1]
                    + points[3 * p + 2] * points[3 * p + 2];
            radii[p] = Math.sqrt(squared);
            sum += squared;
            most = Math.max(most, radii[p]);
        }
        for (int point : corners) {
            degrees[point]++;
        }
        this.size = count == 0 ? 0 : Math.sqrt(sum / count);
        this.greatest = most;
        this.proportion = count == 0 ? 0 : most / size + 2 * roundness(points);
        this.order = ordered();
        this.counts =
                new Counts(count, mesh.faceCount(), corners.length, histogram(mesh.faceSizes()), histogram(degrees));
    }

    /** @param wanted the tolerance, or 0 for a usual part of the mesh's diagonal */
    static Shape of(Mesh mesh, double wanted) {
        int[] first = Welding.firstAtPlace(mesh.points());
        int[] number = new int[first.length];
        Arrays.fill(number, -1);
        boolean[] used = new boolean[first.length];
        for (int corner : mesh.corners()) {
            used[first[corner]] = true;
        }
        int count = 0;
        double[] middle = new double[3];
        float[] source = mesh.points();
        double farthest = 0;
        for (int p = 0; p < first.length; p++) {
            if (used[p]) {
                number[p] = count++;
                for (int axis = 0; axis < 3; axis++) {
                    middle[axis] += source[3 * p + axis];
                    farthest = Math.max(farthest, Math.abs(source[3 * p + axis]));
                }
            }
        }
        for (int axis = 0; axis < 3 && count > 0; axis++) {
            middle[axis] /= count;
        }
        double[] points = new double[3 * count];
        double[] least = new double[3];
        double[] most = new double[3];
        for (int p = 0; p < first.length; p++) {
            if (number[p] >= 0) {
                for (int axis = 0; axis < 3; axis++) {
                    double value = source[3 * p + axis] - middle[axis];
                    points[3 * number[p] + axis] = value;
                    least[axis] = Math.min(least[axis], value);
                    most[axis] = Math.max(most[axis], value);
                }
            }
        }
        int[] corners = new int[mesh.corners().length];
        for (int c = 0; c < corners.length; c++) {
            corners[c] = number[first[mesh.corners()[c]]];
        }
        double diagonal = Math.sqrt(
                Math.pow(most[0] - least[0], 2) + Math.pow(most[1] - least[1], 2) + Math.pow(most[2] - least[2], 2));
        // Four steps of what a number so far out can tell apart.
        double digits = 4 * Math.ulp((float) farthest);
        return new Shape(
                mesh,
                points,
                middle,
                corners,
                Math.max(digits, wanted > 0 ? wanted : TwinOptions.RELATIVE * diagonal),
                digits);
    }

    /** The Frobenius norm of the second moments over their trace. */
    private static double roundness(double[] points) {
        double[] m = new double[6];
        for (int i = 0; i < points.length; i += 3) {
            m[0] += points[i] * points[i];
            m[1] += points[i + 1] * points[i + 1];
            m[2] += points[i + 2] * points[i + 2];
            m[3] += points[i] * points[i + 1];
            m[4] += points[i + 1] * points[i + 2];
            m[5] += points[i + 2] * points[i];
        }
        double squares = m[0] * m[0] + m[1] * m[1] + m[2] * m[2] + 2 * (m[3] * m[3] + m[4] * m[4] + m[5] * m[5]);
        return Math.sqrt(squares) / (m[0] + m[1] + m[2]);
    }

    private int[] ordered() {
        // Degree and radius as one number that sorts as they do.
        long[] keys = new long[radii.length];
        for (int p = 0; p < keys.length; p++) {
            keys[p] = (long) degrees[p] << 32 | Float.floatToIntBits((float) radii[p]);
        }
        int[] result = new int[keys.length];
        if (keys.length < 64) {
            for (int p = 1; p < keys.length; p++) {
                result[p] = p;
                for (int at = p; at > 0 && keys[result[at - 1]] > keys[result[at]]; at--) {
                    int swapped = result[at];
                    result[at] = result[at - 1];
                    result[at - 1] = swapped;
                }
            }
            return result;
        }
        return sorted(keys);
    }

    private static int[] sorted(long[] keys) {
        int[] result = new int[keys.length];
        int[] spare = new int[keys.length];
        for (int i = 0; i < result.length; i++) {
            result[i] = i;
        }
        for (int width = 1; width < keys.length; width *= 2) {
            for (int from = 0; from < keys.length; from += 2 * width) {
                int middle = Math.min(from + width, keys.length);
                int end = Math.min(from + 2 * width, keys.length);
                int left = from;
                int right = middle;
                for (int at = from; at < end; at++) {
                    boolean takeLeft = left < middle && (right >= end || keys[result[left]] <= keys[result[right]]);
                    spare[at] = result[takeLeft ? left++ : right++];
                }
            }
            int[] swapped = result;
            result = spare;
            spare = swapped;
        }
        return result;
    }

    private static int histogram(int[] numbers) {
        int most = 0;
        for (int number : numbers) {
            most = Math.max(most, number);
        }
        int[] counts = new int[most + 1];
        for (int number : numbers) {
            counts[number]++;
        }
        return Arrays.hashCode(counts);
    }

    PointGrid grid() {
        PointGrid known = grid;
        if (known == null) {
            known = new PointGrid(points, greatest);
            grid = known;
        }
        return known;
    }

    FaceTable faces() {
        FaceTable known = faces;
        if (known == null) {
            known = new FaceTable(mesh.faceSizes(), corners);
            faces = known;
        }
        return known;
    }

    /** Gives up what is only needed while it is compared. */
    void forget() {
        grid = null;
        faces = null;
    }
}
