package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;
import pantry.mesh.Tubes;
import pantry.usd.PrimSpec;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Values;

/**
 * Curves and points of UsdGeom as meshes: curves as tubes, points as octahedra, as wide as they say.
 *
 * <p>Source: UsdGeomBasisCurves and UsdGeomPoints of OpenUSD, from memory: bases, wrapping, and the counts of widths by
 * their interpolation.
 */
final class UsdLines {
    static final String CURVES = "BasisCurves";
    static final String POINTS = "Points";

    /** Straight pieces of each cubic segment. */
    private static final int PIECES = 8;

    private static final int MOST_PIECES = 300_000;

    private static final String COLOURS = "primvars:displayColor";

    /** From this many pieces on, tubes have three sides rather than six. */
    private static final int MANY_PIECES = 30_000;

    /** What has no width is drawn as wide as this part of its size. */
    private static final double THIN = 1 / 400.0;

    private final Prim prim;
    private final float[] points;
    private final float @Nullable [] widths;
    private final double otherwise;

    private UsdLines(Prim prim, float[] points) {
        this.prim = prim;
        this.points = points;
        this.widths = Values.floats(prim, "widths", 1);
        int[] none = {};
        this.otherwise =
                THIN * new Mesh(points, none, none, null, null).bounds().size().length();
    }

    /**
     * What is drawn of a prim; empty where it is neither curves nor points, or has none.
     *
     * @throws IllegalArgumentException where its arrays do not agree, or where there are too many to be drawn
     */
    static Optional<Mesh> of(Prim prim) {
        boolean curves = prim.typeName().equals(CURVES);
        float[] points = curves || prim.typeName().equals(POINTS) ? Values.floats(prim, "points", 3) : null;
        if (points == null || points.length == 0) {
            return Optional.empty();
        }
        for (float number : points) {
            if (!Float.isFinite(number)) {
                throw new IllegalArgumentException("a point is not a number or infinite");
            }
        }
        UsdLines lines = new UsdLines(prim, points);
        if (!curves) {
            return Optional.of(lines.plain(new int[0]).drawn());
        }
        int[] counts = lines.counts();
        boolean straight = Values.token(prim, "type").filter("linear"::equals).isPresent();
        return Optional.of(
                straight && !lines.isPeriodic() ? lines.plain(counts).drawn() : lines.curves(counts, !straight));
    }

    /** Writes points or lines to a prim of their type. */
    static void write(PrimSpec prim, Strands strands) {
        prim.set("point3f[]", "points", new Value.Floats(strands.points(), 3));
        if (!strands.areLoose()) {
            prim.set("int[]", "curveVertexCounts", new Value.Ints(strands.counts(), 1));
            prim.set("token", "type", new Value.Token("linear")).setUniform(true);
        }
        if (strands.colours().length > 0) {
            prim.set("color3f[]", COLOURS, new Value.Floats(strands.colours(), 3))
                    .metadata()
                    .put("interpolation", new Value.Token("vertex"));
        }
        if (strands.widths().length > 0) {
            prim.set("float[]", "widths", new Value.Floats(strands.widths(), 1))
                    .metadata()
                    .put("interpolation", new Value.Token("vertex"));
        }
    }

    private boolean isPeriodic() {
        return Values.token(prim, "wrap").filter("periodic"::equals).isPresent();
    }

    /** Points, or straight lines, as they are. */
    private Strands plain(int[] counts) {
        int count = points.length / 3;
        float @Nullable [] colours = Values.floats(prim, COLOURS, 3);
        float[] each = new float[widths == null || widths.length == 0 ? 0 : count];
        int curve = 0;
        int end = counts.length == 0 ? count : counts[0];
        for (int i = 0; i < each.length; i++) {
            while (i >= end && curve + 1 < counts.length) {
                end += counts[++curve];
            }
            each[i] = (float) width(i, curve, counts.length == 0 ? count : counts.length);
        }
        return new Strands(
                points, counts, colours != null && colours.length == points.length ? colours : new float[0], each);
    }

    private Vec3 point(int i) {
        return new Vec3(points[3 * i], points[3 * i + 1], points[3 * i + 2]);
    }

    /** The width at a point, told for each point, for each curve or for all. */
    private double width(int point, int curve, int curves) {
        if (widths == null || widths.length == 0) {
            return otherwise;
        }
        int count = points.length / 3;
        float width = widths.length == count ? widths[point] : widths.length == curves ? widths[curve] : widths[0];
        return Float.isFinite(width) ? Math.max(0, width) : otherwise;
    }

    private int[] counts() {
        int[] counts = Values.ints(prim, "curveVertexCounts");
        if (counts == null) {
            throw new IllegalArgumentException("curveVertexCounts is missing");
        }
        long needed = 0;
        for (int count : counts) {
            if (count < 0) {
                throw new IllegalArgumentException("curveVertexCounts has " + count);
            }
            needed += count;
        }
        if (needed != points.length / 3) {
            throw new IllegalArgumentException(
                    "curveVertexCounts come to " + needed + " points; there are " + points.length / 3);
        }
        return counts;
    }

    private Mesh curves(int[] counts, boolean cubic) {
        long needed = points.length / 3;
        if (needed * (cubic ? PIECES : 1) > MOST_PIECES) {
            throw new IllegalArgumentException(
                    counts.length + " curves of " + needed + " points are too many to be drawn");
        }
        Tubes tubes = new Tubes(needed * (cubic ? PIECES : 1) > MANY_PIECES ? 3 : 6);
        int first = 0;
        for (int curve = 0; curve < counts.length; curve++) {
            List<Knot> knots = new ArrayList<>();
            for (int i = 0; i < counts[curve]; i++) {
                knots.add(new Knot(point(first + i), width(first + i, curve, counts.length) / 2));
            }
            first += counts[curve];
            String wrap = Values.token(prim, "wrap").orElse("nonperiodic");
            List<Knot> line = cubic ? rounded(knots, wrap) : knots;
            boolean closed = wrap.equals("periodic") && line.size() > 2;
            tubes.add(
                    line.stream().map(Knot::place).toList(),
                    line.stream().mapToDouble(Knot::radius).toArray(),
                    closed);
        }
        return tubes.mesh().withDoubleSided(true);
    }

    /** A point of a curve with half the width there. */
    private record Knot(Vec3 place, double radius) {
        Knot weighed(double by) {
            return new Knot(place.times(by), radius * by);
        }

        Knot plus(Knot other) {
            return new Knot(place.plus(other.place), radius + other.radius);
        }
    }

    /** A cubic curve as a line of straight pieces. */
    private List<Knot> rounded(List<Knot> knots, String wrap) {
        String basis = Values.token(prim, "basis").orElse("bezier");
        int step = basis.equals("bezier") ? 3 : 1;
        boolean periodic = wrap.equals("periodic");
        List<Knot> controls = wrap.equals("pinned") && step == 1 && knots.size() > 1 ? pinned(knots) : knots;
        int count = controls.size();
        int segments = periodic ? count / step : (count - 4) / step + 1;
        List<Knot> line = new ArrayList<>();
        for (int segment = 0; segment < segments && count >= (periodic ? 3 : 4); segment++) {
            Knot[] four = new Knot[4];
            for (int i = 0; i < 4; i++) {
                four[i] = controls.get((segment * step + i) % count);
            }
            boolean last = segment == segments - 1 && !periodic;
            for (int piece = 0; piece < (last ? PIECES + 1 : PIECES); piece++) {
                line.add(at(basis, four, (double) piece / PIECES));
            }
        }
        return line;
    }

    /** With a further point at each end, such that the curve reaches the first and the last. */
    private static List<Knot> pinned(List<Knot> knots) {
        List<Knot> more = new ArrayList<>(knots);
        more.addFirst(knots.getFirst().weighed(2).plus(knots.get(1).weighed(-1)));
        more.addLast(knots.getLast().weighed(2).plus(knots.get(knots.size() - 2).weighed(-1)));
        return more;
    }

    private static Knot at(String basis, Knot[] four, double t) {
        double t2 = t * t;
        double t3 = t2 * t;
        double s = 1 - t;
        double[] weights =
                switch (basis) {
                    case "bspline" ->
                        new double[] {
                            s * s * s / 6, (3 * t3 - 6 * t2 + 4) / 6, (-3 * t3 + 3 * t2 + 3 * t + 1) / 6, t3 / 6
                        };
                    case "catmullRom" ->
                        new double[] {
                            (-t3 + 2 * t2 - t) / 2, (3 * t3 - 5 * t2 + 2) / 2, (-3 * t3 + 4 * t2 + t) / 2, (t3 - t2) / 2
                        };
                    default -> new double[] {s * s * s, 3 * t * s * s, 3 * t2 * s, t3};
                };
        Knot sum = four[0].weighed(weights[0]);
        for (int i = 1; i < 4; i++) {
            sum = sum.plus(four[i].weighed(weights[i]));
        }
        return sum;
    }
}
