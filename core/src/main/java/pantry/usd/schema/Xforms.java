package pantry.usd.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.Value;
import pantry.usd.compose.Prim;

/**
 * Transforms of prims (UsdGeomXformable). Ops apply from the last of {@code xformOpOrder} to the first, as the standard
 * has it for row vectors.
 */
public final class Xforms {
    private static final String INVERT = "!invert!";
    private static final String RESET = "!resetXformStack!";

    private Xforms() {}

    /** The transform from a prim's space to its parent's, or to the stage's where {@link #resets}; for a still. */
    public static Matrix4 local(Prim prim) {
        return local(prim, prim::value);
    }

    /** As {@link #local(Prim)}, at a time in the stage's time codes. */
    public static Matrix4 local(Prim prim, double time) {
        return local(prim, name -> prim.attribute(name).flatMap(attribute -> attribute.valueAt(time)));
    }

    /** The names of the attributes that a prim's transform is made of. */
    public static List<String> attributes(Prim prim) {
        List<String> order = Values.strings(prim, "xformOpOrder");
        return order.subList(order.lastIndexOf(RESET) + 1, order.size()).stream()
                .map(name -> name.startsWith(INVERT) ? name.substring(INVERT.length()) : name)
                .distinct()
                .toList();
    }

    /** Whether a prim starts from the stage's space rather than from its parent's. */
    public static boolean resets(Prim prim) {
        return Values.strings(prim, "xformOpOrder").contains(RESET);
    }

    /** The transform from a prim's space to the stage's; to that of the prototype where the prim is in one. */
    public static Matrix4 world(Prim prim) {
        Matrix4 result = Matrix4.IDENTITY;
        for (Prim at = prim; at != null; at = resets(at) ? null : at.parent().orElse(null)) {
            result = result.times(local(at));
        }
        return result;
    }

    private static Matrix4 local(Prim prim, Function<String, Optional<Value>> values) {
        return local(Values.strings(prim, "xformOpOrder"), values);
    }

    /**
     * The transform that ops come to, such as those that some of a prim's layers tell.
     *
     * @param values of attributes by their names, {@code xformOpOrder} among them
     */
    public static Matrix4 local(Function<String, Optional<Value>> values) {
        return local(
                values.apply("xformOpOrder").orElse(null) instanceof Value.Strings(List<String> order)
                        ? order
                        : List.of(),
                values);
    }

    private static Matrix4 local(List<String> order, Function<String, Optional<Value>> values) {
        Matrix4 result = Matrix4.IDENTITY;
        for (String name : order.subList(order.lastIndexOf(RESET) + 1, order.size())) {
            boolean inverse = name.startsWith(INVERT);
            String attribute = inverse ? name.substring(INVERT.length()) : name;
            Optional<Matrix4> op = values.apply(attribute).map(value -> op(attribute, value));
            if (op.isPresent()) {
                result = (inverse ? op.get().inverse() : op.get()).times(result);
            }
        }
        return result;
    }

    private static Matrix4 op(String attribute, Value value) {
        String[] parts = attribute.split(":");
        String kind = parts.length > 1 ? parts[1] : "";
        if (value instanceof Value.Real(double figure)) {
            return switch (kind) {
                case "rotateX" -> Matrix4.rotation(0, figure);
                case "rotateY" -> Matrix4.rotation(1, figure);
                case "rotateZ" -> Matrix4.rotation(2, figure);
                case "translateX" -> Matrix4.translation(new Vec3(figure, 0, 0));
                case "translateY" -> Matrix4.translation(new Vec3(0, figure, 0));
                case "translateZ" -> Matrix4.translation(new Vec3(0, 0, figure));
                case "scaleX" -> Matrix4.scale(new Vec3(figure, 1, 1));
                case "scaleY" -> Matrix4.scale(new Vec3(1, figure, 1));
                case "scaleZ" -> Matrix4.scale(new Vec3(1, 1, figure));
                default -> Matrix4.IDENTITY;
            };
        }
        if (!(value instanceof Value.Tuple(double[] n))) {
            return Matrix4.IDENTITY;
        }
        return switch (n.length) {
            case 16 -> Matrix4.ofRows(n);
            case 4 -> Matrix4.quaternion(n[0], n[1], n[2], n[3]);
            case 3 ->
                switch (kind) {
                    case "translate" -> Matrix4.translation(new Vec3(n[0], n[1], n[2]));
                    case "scale" -> Matrix4.scale(new Vec3(n[0], n[1], n[2]));
                    default -> kind.startsWith("rotate") ? rotation(kind.substring(6), n) : Matrix4.IDENTITY;
                };
            default -> Matrix4.IDENTITY;
        };
    }

    /** {@code order} such as {@code XYZ}: the first letter's rotation is applied first. */
    private static Matrix4 rotation(String order, double[] degrees) {
        Matrix4 result = Matrix4.IDENTITY;
        for (char axis : order.toCharArray()) {
            int number = axis - 'X';
            if (number < 0 || number > 2) {
                return Matrix4.IDENTITY;
            }
            result = result.times(Matrix4.rotation(number, degrees[number]));
        }
        return result;
    }

    /** Gives a prim one matrix as its transform; none where it is the identity. */
    public static void setMatrix(PrimSpec prim, Matrix4 matrix) {
        if (!matrix.equals(Matrix4.IDENTITY)) {
            putMatrix(prim, matrix);
        }
    }

    /** Gives a prim one matrix as its transform, the identity too, in place of all ops that it had. */
    public static void replaceByMatrix(PrimSpec prim, Matrix4 matrix) {
        clear(prim);
        putMatrix(prim, matrix);
    }

    private static void putMatrix(PrimSpec prim, Matrix4 matrix) {
        prim.set("matrix4d", "xformOp:transform", new Value.Tuple(matrix.rows()));
        order(prim, List.of("xformOp:transform"));
    }

    /** Takes away all that a prim itself says of its transform. */
    public static void clear(PrimSpec prim) {
        for (String name : List.copyOf(prim.propertyNames())) {
            if (name.startsWith("xformOp")) {
                prim.removeProperty(name);
            }
        }
    }

    /** Adds a matrix that applies before the ops that the prim has, under a name of its own. */
    public static void appendMatrix(PrimSpec prim, String suffix, Matrix4 matrix) {
        String op = "xformOp:transform:" + suffix;
        prim.set("matrix4d", op, new Value.Tuple(matrix.rows()));
        List<String> ops = new ArrayList<>();
        if (prim.attribute("xformOpOrder").flatMap(AttributeSpec::value).orElse(null)
                instanceof Value.Strings(List<String> before)) {
            ops.addAll(before);
        }
        ops.add(op);
        order(prim, ops);
    }

    /** Takes a matrix away that {@link #appendMatrix} added; nothing where there is none of that name. */
    public static void removeMatrix(PrimSpec prim, String suffix) {
        String op = "xformOp:transform:" + suffix;
        if (prim.attribute("xformOpOrder").flatMap(AttributeSpec::value).orElse(null)
                        instanceof Value.Strings(List<String> before)
                && before.contains(op)) {
            order(prim, before.stream().filter(each -> !each.equals(op)).toList());
            prim.removeProperty(op);
        }
    }

    static void order(PrimSpec prim, List<String> ops) {
        prim.set("token[]", "xformOpOrder", new Value.Strings(ops)).setUniform(true);
    }
}
