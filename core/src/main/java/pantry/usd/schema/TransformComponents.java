package pantry.usd.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.Value;

/**
 * A place told in figures that people type: moved, turned about x, then y, then z, and scaled.
 *
 * @param move metres
 * @param turn degrees
 * @param scale factors
 */
public record TransformComponents(Vec3 move, Vec3 turn, Vec3 scale) {
    public static final TransformComponents ORIGIN = new TransformComponents(Vec3.ZERO, Vec3.ZERO, Vec3.ONE);

    private static final String TRANSLATE = "xformOp:translate";
    private static final String ROTATE = "xformOp:rotateXYZ";
    private static final String SCALE = "xformOp:scale";

    /** Axes whose cosine is less are at a right angle. */
    private static final double SHEAR = 1e-6;

    private static final List<String> USUAL = List.of(TRANSLATE, ROTATE, SCALE);

    /** The place as a transform: scaled first, then turned, then moved. */
    public Matrix4 matrix() {
        return Matrix4.scale(scale).times(Matrix4.rotationXyz(turn)).times(Matrix4.translation(move));
    }

    /**
     * A transform as a place: empty where it is sheared, or has no size along some direction. A mirroring one has a
     * negative scale along x.
     */
    public static Optional<TransformComponents> of(Matrix4 matrix) {
        Vec3[] rows = new Vec3[3];
        double[] size = new double[3];
        for (int row = 0; row < 3; row++) {
            rows[row] = new Vec3(matrix.get(row, 0), matrix.get(row, 1), matrix.get(row, 2));
            size[row] = rows[row].length();
            if (!(size[row] > 0) || Double.isInfinite(size[row])) {
                return Optional.empty();
            }
            rows[row] = rows[row].times(1 / size[row]);
        }
        for (int row = 0; row < 3; row++) {
            if (Math.abs(rows[row].dot(rows[(row + 1) % 3])) > SHEAR) {
                return Optional.empty();
            }
        }
        if (rows[0].cross(rows[1]).dot(rows[2]) < 0) {
            size[0] = -size[0];
            rows[0] = rows[0].times(-1);
        }
        double sine = Math.clamp(-rows[0].z(), -1, 1);
        double x;
        double z;
        if (Math.abs(sine) < 1 - 1e-12) {
            x = Math.atan2(rows[1].z(), rows[2].z());
            z = Math.atan2(rows[0].y(), rows[0].x());
        } else {
            // Turned by a right angle about y, turns about x and z are the same; all of it is given to x.
            x = Math.atan2(-rows[2].y(), rows[1].y());
            z = 0;
        }
        Vec3 turn = plainer(Math.toDegrees(x), Math.toDegrees(Math.asin(sine)), Math.toDegrees(z));
        return Optional.of(
                new TransformComponents(matrix.translationPart(), turn, new Vec3(size[0], size[1], size[2])));
    }

    /**
     * Of the two ways to tell a turn by three angles, the one that turns less about x and z: what stands upright is
     * then turned about the upright axis alone.
     */
    private static Vec3 plainer(double x, double y, double z) {
        double otherX = x > 0 ? x - 180 : x + 180;
        double otherY = y > 0 ? 180 - y : -180 - y;
        double otherZ = z > 0 ? z - 180 : z + 180;
        boolean other = Math.abs(otherX) + Math.abs(otherZ) < Math.abs(x) + Math.abs(z) - 1e-9;
        // Adding zero leaves no negative one.
        return other ? new Vec3(otherX + 0.0, otherY + 0.0, otherZ + 0.0) : new Vec3(x + 0.0, y + 0.0, z + 0.0);
    }

    /** Writes the place to a prim as the three usual ops. */
    public void write(PrimSpec prim) {
        prim.set("double3", TRANSLATE, tuple(move));
        prim.set("float3", ROTATE, tuple(turn));
        prim.set("float3", SCALE, tuple(scale));
        List<String> ops = new ArrayList<>(USUAL);
        ops.addAll(further(prim));
        Xforms.order(prim, ops);
    }

    /** Ops behind the usual three, such as the correction of a foreign unit. */
    private static List<String> further(PrimSpec prim) {
        List<String> ops = ops(prim);
        return ops.size() > USUAL.size() && ops.subList(0, USUAL.size()).equals(USUAL)
                ? ops.subList(USUAL.size(), ops.size())
                : List.of();
    }

    private static List<String> ops(PrimSpec prim) {
        return prim.attribute("xformOpOrder").flatMap(AttributeSpec::value).orElse(null)
                        instanceof Value.Strings(List<String> ops)
                ? ops
                : List.of();
    }

    /** The place that {@link #write} wrote; the origin where there is none. */
    public static TransformComponents read(PrimSpec prim) {
        return new TransformComponents(
                read(prim, TRANSLATE, Vec3.ZERO),
                asTyped(read(prim, ROTATE, Vec3.ZERO)),
                asTyped(read(prim, SCALE, Vec3.ONE)));
    }

    /**
     * Whether a prim's own transform is told as {@link #write} tells it: it starts with the three usual ops, or has only
     * some of them in their order, or none.
     */
    public static boolean isUsual(PrimSpec prim) {
        List<String> ops = ops(prim);
        return ops.size() >= USUAL.size() && ops.subList(0, USUAL.size()).equals(USUAL)
                || USUAL.stream().filter(ops::contains).toList().equals(ops);
    }

    /** Single-precision figures as the decimals that were typed: 5.8 rather than 5.800000190734863. */
    private static Vec3 asTyped(Vec3 v) {
        return new Vec3(asTyped(v.x()), asTyped(v.y()), asTyped(v.z()));
    }

    private static double asTyped(double figure) {
        return Double.parseDouble(Float.toString((float) figure));
    }

    private static Vec3 read(PrimSpec prim, String name, Vec3 otherwise) {
        // A spec without an order of its own has the one of a weaker spec.
        boolean counts = prim.attribute("xformOpOrder").isEmpty() || ops(prim).contains(name);
        return counts
                        && prim.attribute(name).flatMap(AttributeSpec::value).orElse(null)
                                instanceof Value.Tuple(double[] n)
                        && n.length == 3
                ? new Vec3(n[0], n[1], n[2])
                : otherwise;
    }

    private static Value.Tuple tuple(Vec3 v) {
        return new Value.Tuple(v.x(), v.y(), v.z());
    }

    public TransformComponents withMove(Vec3 newMove) {
        return new TransformComponents(newMove, turn, scale);
    }

    public TransformComponents withTurn(Vec3 newTurn) {
        return new TransformComponents(move, newTurn, scale);
    }

    public TransformComponents withScale(Vec3 newScale) {
        return new TransformComponents(move, turn, newScale);
    }
}
