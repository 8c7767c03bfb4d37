package pantry.scene;

import java.util.List;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * The figures of a layout, as they are kept with its anchor.
 *
 * @param original the transform of the first object as it was before, row by row
 * @param others those of the further ones
 * @param shares of the objects; empty for all alike
 * @param standing whether each use stands on what is below it
 * @param uses the names of all uses by their numbers, of those that were taken away too; empty in scenes of before,
 *     where they are told by their order
 * @param lifted how far each use was moved to stand on what is below it, three numbers each in the anchor's space;
 *     empty where they stand at the layout's own height
 * @param surface tells the triangles that it lies on from others; 0 where it lies on none
 */
public record LayoutFigures(
        Layout layout,
        Layout.Variation variation,
        double[] original,
        List<double[]> others,
        List<Double> shares,
        boolean standing,
        List<String> uses,
        double[] lifted,
        long surface) {
    /** Scenes of before say less. */
    public LayoutFigures {
        others = others == null ? List.of() : List.copyOf(others);
        shares = shares == null ? List.of() : List.copyOf(shares);
        uses = uses == null ? List.of() : List.copyOf(uses);
        lifted = lifted == null ? new double[0] : lifted;
    }

    /** What is known before the uses are made. */
    LayoutFigures(LayoutPlan plan, double[] original, List<double[]> others) {
        this(
                plan.layout(),
                plan.variation(),
                original,
                others,
                plan.shares(),
                plan.standing(),
                List.of(),
                new double[0],
                0);
    }

    LayoutFigures withUses(List<String> names, double[] up, long lainOn) {
        return new LayoutFigures(layout, variation, original, others, shares, standing, names, up, lainOn);
    }

    public LayoutPlan plan() {
        return new LayoutPlan(layout, variation, shares, standing);
    }

    /** How many different objects are laid out. */
    public int objects() {
        return 1 + others.size();
    }

    /**
     * The transform of an object, in the anchor's space, that its places are told from: as it was before, but that those
     * which are mixed in stand where the first stood, each at its own height.
     */
    Matrix4 original(int object) {
        Matrix4 first = Matrix4.ofRows(original);
        if (object == 0) {
            return first;
        }
        Matrix4 own = Matrix4.ofRows(others.get(object - 1));
        Vec3 aside = first.translationPart().minus(own.translationPart());
        return own.times(Matrix4.translation(new Vec3(aside.x(), 0, aside.z())));
    }
}
