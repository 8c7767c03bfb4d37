package pantry.twins;

import java.util.Arrays;

/**
 * Two points of a shape that, with its middle, tell how it stands; chosen so that few others are like them: of the
 * rarest distance from the middle and number of faces around. The farther out they are, the better they tell.
 *
 * @param second -1 where all points are on one line through the middle, or in one place
 */
record ReferencePoints(int first, int second) {
    /** Points nearer to the middle than this part of the farthest, or to the axis, tell directions badly. */
    private static final double FAR_ENOUGH = 0.25;

    static ReferencePoints of(Shape shape) {
        int[] like = like(shape);
        int first = -1;
        for (int p = 0; p < like.length; p++) {
            if (shape.radii[p] >= FAR_ENOUGH * shape.greatest && rarer(like, shape.radii, p, first)) {
                first = p;
            }
        }
        if (first < 0) {
            return new ReferencePoints(0, -1);
        }
        double[] aside = new double[like.length];
        double most = 0;
        for (int p = 0; p < aside.length; p++) {
            aside[p] = aside(shape, first, p);
            most = Math.max(most, aside[p]);
        }
        int second = -1;
        if (most > 4 * shape.tolerance) {
            for (int p = 0; p < aside.length; p++) {
                if (aside[p] >= FAR_ENOUGH * most && rarer(like, aside, p, second)) {
                    second = p;
                }
            }
        }
        return new ReferencePoints(first, second);
    }

    private static boolean rarer(int[] like, double[] distance, int p, int best) {
        return best < 0 || like[p] < like[best] || like[p] == like[best] && distance[p] > distance[best] * (1 + 1e-9);
    }

    /** How far a point is from the line through the middle and another. */
    private static double aside(Shape shape, int axis, int p) {
        double[] q = shape.points;
        double r = shape.radii[axis];
        double along = (q[3 * p] * q[3 * axis] + q[3 * p + 1] * q[3 * axis + 1] + q[3 * p + 2] * q[3 * axis + 2]) / r;
        return Math.sqrt(Math.max(0, shape.radii[p] * shape.radii[p] - along * along));
    }

    /** For each point, how many are like it: at about its distance, with as many faces around. */
    private static int[] like(Shape shape) {
        int[] order = shape.order;
        int[] like = new int[order.length];
        int low = 0;
        int high = 0;
        for (int i = 0; i < order.length; i++) {
            int degree = shape.degrees[order[i]];
            double radius = shape.radii[order[i]];
            while (shape.degrees[order[low]] < degree || shape.radii[order[low]] < radius - 4 * shape.tolerance) {
                low++;
            }
            high = Math.max(high, i);
            while (high < order.length
                    && shape.degrees[order[high]] == degree
                    && shape.radii[order[high]] <= radius + 4 * shape.tolerance) {
                high++;
            }
            like[order[i]] = high - low;
        }
        return like;
    }

    /** Where, in a shape's order, the points of a degree and at least a radius begin. */
    static int from(Shape shape, int degree, double radius) {
        int low = 0;
        int high = shape.order.length;
        while (low < high) {
            int middle = (low + high) >>> 1;
            int p = shape.order[middle];
            if (shape.degrees[p] < degree || shape.degrees[p] == degree && shape.radii[p] < radius) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }

    /** The points of a shape that may be another's: of its degree, at about its distance. */
    static int[] candidates(Shape shape, int degree, double radius, double within) {
        int from = from(shape, degree, radius - within);
        int to = from;
        while (to < shape.order.length
                && shape.degrees[shape.order[to]] == degree
                && shape.radii[shape.order[to]] <= radius + within) {
            to++;
        }
        return Arrays.copyOfRange(shape.order, from, to);
    }
}
