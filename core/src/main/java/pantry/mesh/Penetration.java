package pantry.mesh;

import pantry.base.math.Box3;
import pantry.base.math.Vec3;

/**
 * How deep two solids stand in each other: the farthest that a point of the one's surface, within the other, is from the
 * other's surface; of two that meet a little, how far they would have to be moved apart. Surfaces are sampled, so that it is told a little less than it is; what encloses nothing, such as ground,
 * has nothing within.
 */
public final class Penetration {
    /** Along the diagonal of where the boxes meet, so many samples. */
    private static final int SAMPLES = 16;

    /** Two that no edge of a usual model lies along, and their opposites. */
    private static final Vec3 UP = new Vec3(0.1371, 0.9784, 0.1549);

    private static final Vec3 ASIDE = new Vec3(0.8923, -0.2417, 0.3811);

    private Penetration() {}

    /**
     * The depth in the unit of the meshes; 0 where neither is within the other.
     *
     * @param first nine numbers for each triangle, wound outwards
     * @param second the other's
     */
    public static double depth(double[] first, double[] second) {
        Box3 common = Box3.around(first.length, i -> first[i]).intersection(Box3.around(second.length, i -> second[i]));
        if (common.isEmpty()) {
            return 0;
        }
        double step = Math.max(common.size().length() / SAMPLES, Double.MIN_NORMAL);
        return Math.max(
                within(first, new TriangleTree(second), common, step),
                within(second, new TriangleTree(first), common, step));
    }

    /** The deepest point of a surface within the other one. */
    private static double within(double[] surface, TriangleTree other, Box3 common, double step) {
        double deepest = 0;
        for (int at = 0; at < surface.length; at += 9) {
            Vec3 a = new Vec3(surface[at], surface[at + 1], surface[at + 2]);
            Vec3 b = new Vec3(surface[at + 3], surface[at + 4], surface[at + 5]);
            Vec3 c = new Vec3(surface[at + 6], surface[at + 7], surface[at + 8]);
            Box3 around = Box3.EMPTY.including(a).including(b).including(c);
            if (!around.intersection(common).isEmpty()) {
                deepest = Math.max(deepest, deepest(a, b, c, other, common, step));
            }
        }
        return deepest;
    }

    private static double deepest(Vec3 a, Vec3 b, Vec3 c, TriangleTree other, Box3 common, double step) {
        double longest = Math.max(
                b.minus(a).length(), Math.max(c.minus(a).length(), c.minus(b).length()));
        int parts = (int) Math.clamp(Math.ceil(longest / step), 1, 512);
        double deepest = 0;
        for (int i = 0; i <= parts; i++) {
            Vec3 from = a.plus(b.minus(a).times((double) i / parts));
            Vec3 to = a.plus(c.minus(a).times((double) i / parts));
            // Rows that cannot meet the common box are passed over: few of a large triangle do.
            if (!Box3.EMPTY.including(from).including(to).intersection(common).isEmpty()) {
                for (int j = 0; j <= i; j++) {
                    Vec3 point = i == 0 ? a : from.plus(to.minus(from).times((double) j / i));
                    if (common.contains(point, 0) && isWithin(point, other)) {
                        deepest = Math.max(deepest, other.distance(point.x(), point.y(), point.z(), 0));
                    }
                }
            }
        }
        return deepest;
    }

    private static boolean isWithin(Vec3 point, TriangleTree solid) {
        return solid.windings(point, UP) != 0
                && solid.windings(point, UP.times(-1)) != 0
                && solid.windings(point, ASIDE) != 0
                && solid.windings(point, ASIDE.times(-1)) != 0;
    }
}
