package pantry.usd.schema;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.usd.Value;
import pantry.usd.compose.Prim;

/**
 * Attributes of prims, for a still, in the types that schemas give them; what has another type counts as not there.
 * Arrays are shared, not copied.
 */
public final class Values {
    private Values() {}

    public static Optional<String> token(Prim prim, String attribute) {
        return switch (prim.value(attribute).orElse(null)) {
            case Value.Token(String token) -> Optional.of(token);
            case Value.Text(String text) -> Optional.of(text);
            case null, default -> Optional.empty();
        };
    }

    public static double number(Prim prim, String attribute, double otherwise) {
        return switch (prim.value(attribute).orElse(null)) {
            case Value.Real(double number) -> number;
            case Value.Int(long number) -> number;
            case null, default -> otherwise;
        };
    }

    /** The numbers of an array whose elements have the given width; shared. */
    public static float @Nullable [] floats(Prim prim, String attribute, int width) {
        return prim.value(attribute).orElse(null) instanceof Value.Floats(float[] data, int given) && given == width
                ? data
                : null;
    }

    public static int @Nullable [] ints(Prim prim, String attribute) {
        return prim.value(attribute).orElse(null) instanceof Value.Ints(int[] data, int width) && width == 1
                ? data
                : null;
    }

    public static long @Nullable [] longs(Prim prim, String attribute) {
        return prim.value(attribute).orElse(null) instanceof Value.Longs(long[] data) ? data : null;
    }

    public static boolean flag(Prim prim, String attribute) {
        return prim.value(attribute).orElse(null) instanceof Value.Bool(boolean flag) && flag;
    }

    public static List<String> strings(Prim prim, String attribute) {
        return prim.value(attribute).orElse(null) instanceof Value.Strings(List<String> items) ? items : List.of();
    }
}
