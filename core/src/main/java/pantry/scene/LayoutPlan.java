package pantry.scene;

import java.util.List;

/**
 * What is laid out, and how.
 *
 * @param variation how much uses may differ
 * @param shares how often each of the objects is used, compared with the others; empty for all alike
 * @param standing whether each use stands on what is below it rather than at the layout's own height
 */
public record LayoutPlan(Layout layout, Layout.Variation variation, List<Double> shares, boolean standing) {
    /** The golden ratio's fractional part: multiples of it fill an interval evenly, and never in a pattern. */
    private static final double GOLDEN = (Math.sqrt(5) - 1) / 2;

    public LayoutPlan {
        shares = List.copyOf(shares);
        if (!shares.stream().allMatch(share -> share > 0 && share < Double.POSITIVE_INFINITY)) {
            throw new SceneException("shares are numbers above 0");
        }
    }

    /** One object, as often as the layout has places, at the layout's own height. */
    public static LayoutPlan of(Layout layout, Layout.Variation variation) {
        return new LayoutPlan(layout, variation, List.of(), false);
    }

    /**
     * Which of several objects stands at each place. The first of each stand at the first places; each place further on
     * is given by its number, so that more places do not change those that there are.
     *
     * <p>Source: the additive recurrence of the golden ratio, a sequence of low discrepancy (H. Niederreiter, Random
     * Number Generation and Quasi-Monte Carlo Methods, 1992, section 3.1).
     *
     * @param places how many there are; at least as many as objects
     * @throws SceneException where there are fewer, or shares of another number of objects
     */
    public int[] kinds(int objects, int places) {
        if (places < objects) {
            throw new SceneException(
                    "there are " + places + " places for " + objects + " different objects; ask for more places");
        }
        if (!shares.isEmpty() && shares.size() != objects) {
            throw new SceneException("there are " + shares.size() + " shares for " + objects + " objects");
        }
        double[] upTo = new double[objects];
        double sum = 0;
        for (int i = 0; i < objects; i++) {
            sum += shares.isEmpty() ? 1 : shares.get(i);
            upTo[i] = sum;
        }
        double start = (variation.seed() * GOLDEN * GOLDEN) % 1;
        int[] kinds = new int[places];
        for (int i = 0; i < places; i++) {
            double at = Math.abs(start + i * GOLDEN) % 1 * sum;
            int kind = 0;
            while (kind < objects - 1 && upTo[kind] <= at) {
                kind++;
            }
            kinds[i] = i < objects ? i : kind;
        }
        return kinds;
    }
}
