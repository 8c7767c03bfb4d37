package pantry.scene;

import java.util.ArrayList;
import java.util.List;
import pantry.base.math.Vec3;

/** Smooth lines through given points. */
public final class Curve {
    /** Straight pieces for each span between two points. */
    private static final int PIECES = 32;

    private Curve() {}

    /**
     * A line that bends evenly through points, as straight pieces; all the points are on it, in their order.
     *
     * <p>A centripetal Catmull-Rom curve, which neither loops nor overshoots within a span (C. Yuksel, S. Schaefer, J. Keyser,
     * Parameterization and applications of Catmull-Rom curves, Computer-Aided Design 43, 2011). Beyond its ends it is taken to
     * go straight on.
     *
     * @param points at least two; those that repeat the one before count once
     */
    public static List<Vec3> through(List<Vec3> points) {
        List<Vec3> given = new ArrayList<>();
        for (Vec3 point : points) {
            if (given.isEmpty() || point.minus(given.getLast()).length() > 0) {
                given.add(point);
            }
        }
        if (given.size() < 3) {
            return given.size() < 2 ? points : given;
        }
        List<Vec3> line = new ArrayList<>();
        line.add(given.getFirst());
        for (int i = 0; i + 1 < given.size(); i++) {
            Vec3 from = given.get(i);
            Vec3 to = given.get(i + 1);
            Vec3 before = i > 0 ? given.get(i - 1) : from.times(2).minus(to);
            Vec3 after = i + 2 < given.size() ? given.get(i + 2) : to.times(2).minus(from);
            for (int piece = 1; piece < PIECES; piece++) {
                line.add(between(before, from, to, after, (double) piece / PIECES));
            }
            line.add(to);
        }
        return line;
    }

    /** By the pyramid of P. J. Barry and R. N. Goldman (SIGGRAPH 1988); {@code share} 0 to 1 between the middle two. */
    private static Vec3 between(Vec3 a, Vec3 b, Vec3 c, Vec3 d, double share) {
        double t1 = knot(a, b);
        double t2 = t1 + knot(b, c);
        double t3 = t2 + knot(c, d);
        double t = t1 + share * (t2 - t1);
        Vec3 ab = mix(a, b, t / t1);
        Vec3 bc = mix(b, c, (t - t1) / (t2 - t1));
        Vec3 cd = mix(c, d, (t - t2) / (t3 - t2));
        return mix(mix(ab, bc, t / t2), mix(bc, cd, (t - t1) / (t3 - t1)), (t - t1) / (t2 - t1));
    }

    private static double knot(Vec3 a, Vec3 b) {
        return Math.sqrt(b.minus(a).length());
    }

    private static Vec3 mix(Vec3 a, Vec3 b, double share) {
        return a.times(1 - share).plus(b.times(share));
    }
}
