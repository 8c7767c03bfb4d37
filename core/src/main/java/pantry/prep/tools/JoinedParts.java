package pantry.prep.tools;

import java.util.Arrays;
import pantry.mesh.ConnectedParts;
import pantry.mesh.Mesh;

/**
 * Groups the connected parts of a surface: two groups at a time, those whose common box hides least that was free before as
 * seen along the three axes. Parts that lie close become one, and posts stay apart from what stands between them.
 */
final class JoinedParts {
    /** More parts than that are not put together pair by pair. */
    private static final int MOST_PARTS = 1500;

    private final int[] group;
    private final double[][] low;
    private final double[][] high;
    private final int[] nearest;
    private final double[] hidden;
    private int count;

    private JoinedParts(double[] triangles, int[] part, int parts) {
        group = new int[parts];
        low = new double[parts][3];
        high = new double[parts][3];
        nearest = new int[parts];
        hidden = new double[parts];
        count = parts;
        for (int p = 0; p < parts; p++) {
            group[p] = p;
            Arrays.fill(low[p], Double.POSITIVE_INFINITY);
            Arrays.fill(high[p], Double.NEGATIVE_INFINITY);
        }
        for (int i = 0; i < triangles.length; i++) {
            int p = part[i / 9];
            low[p][i % 3] = Math.min(low[p][i % 3], triangles[i]);
            high[p][i % 3] = Math.max(high[p][i % 3], triangles[i]);
        }
    }

    /**
     * The number of the group that each triangle is of, from 0 on without gaps.
     *
     * @param triangles nine numbers for each
     * @param most groups, at least 1
     * @return empty where the surface is one part, or of too many
     */
    static int[] of(double[] triangles, int most) {
        int[] part = parts(triangles);
        int parts = Arrays.stream(part).max().orElse(-1) + 1;
        if (parts < 2 || parts > MOST_PARTS) {
            return new int[0];
        }
        JoinedParts joined = new JoinedParts(triangles, part, parts);
        joined.join(most);
        int[] numbers = joined.numbers();
        return Arrays.stream(part).map(p -> numbers[p]).toArray();
    }

    private static int[] parts(double[] triangles) {
        int count = triangles.length / 9;
        float[] points = new float[triangles.length];
        int[] sizes = new int[count];
        int[] corners = new int[3 * count];
        Arrays.fill(sizes, 3);
        for (int i = 0; i < points.length; i++) {
            points[i] = (float) triangles[i];
        }
        Arrays.setAll(corners, i -> i);
        return ConnectedParts.partOfFace(new Mesh(points, sizes, corners, null, null));
    }

    private void join(int most) {
        for (int i = 0; i < group.length; i++) {
            findNearest(i);
        }
        while (count > most) {
            int least = -1;
            for (int i = 0; i < group.length; i++) {
                if (group[i] == i && nearest[i] >= 0 && (least < 0 || hidden[i] < hidden[least])) {
                    least = i;
                }
            }
            if (least < 0) {
                return;
            }
            take(least, nearest[least]);
        }
    }

    private void take(int one, int other) {
        group[other] = one;
        for (int axis = 0; axis < 3; axis++) {
            low[one][axis] = Math.min(low[one][axis], low[other][axis]);
            high[one][axis] = Math.max(high[one][axis], high[other][axis]);
        }
        count--;
        for (int i = 0; i < group.length; i++) {
            if (group[i] == i && (i == one || nearest[i] == one || nearest[i] == other)) {
                findNearest(i);
            } else if (group[i] == i && i < one) {
                double now = hides(i, one);
                if (now < hidden[i]) {
                    hidden[i] = now;
                    nearest[i] = one;
                }
            }
        }
    }

    /** Of those behind it, so that each pair is looked at once. */
    private void findNearest(int of) {
        nearest[of] = -1;
        hidden[of] = Double.POSITIVE_INFINITY;
        for (int i = of + 1; i < group.length; i++) {
            if (group[i] == i) {
                double now = hides(of, i);
                if (now < hidden[of]) {
                    hidden[of] = now;
                    nearest[of] = i;
                }
            }
        }
    }

    /** The area that a common box hides and the two alone do not, along the three axes together. */
    private double hides(int one, int other) {
        double sum = 0;
        for (int axis = 0; axis < 3; axis++) {
            int u = (axis + 1) % 3;
            int v = (axis + 2) % 3;
            double both = Math.max(0, Math.min(high[one][u], high[other][u]) - Math.max(low[one][u], low[other][u]))
                    * Math.max(0, Math.min(high[one][v], high[other][v]) - Math.max(low[one][v], low[other][v]));
            double around = (Math.max(high[one][u], high[other][u]) - Math.min(low[one][u], low[other][u]))
                    * (Math.max(high[one][v], high[other][v]) - Math.min(low[one][v], low[other][v]));
            sum += around - area(one, u, v) - area(other, u, v) + both;
        }
        return sum;
    }

    private double area(int of, int u, int v) {
        return (high[of][u] - low[of][u]) * (high[of][v] - low[of][v]);
    }

    private int[] numbers() {
        int[] numbers = new int[group.length];
        int next = 0;
        for (int i = 0; i < group.length; i++) {
            if (group[i] == i) {
                numbers[i] = next++;
            }
        }
        for (int i = 0; i < group.length; i++) {
            int at = i;
            while (group[at] != at) {
                at = group[at];
            }
            numbers[i] = numbers[at];
        }
        return numbers;
    }
}
