package pantry.usd;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/**
 * A USD value type by its name in layers, such as {@code point3f[]}.
 *
 * @param name as written
 * @param scalar the kind of its numbers or texts
 * @param width how many scalars make one element
 * @param rows rows of a matrix, else 0
 * @param array whether it is an array
 */
public record ValueType(String name, Scalar scalar, int width, int rows, boolean array) {
    /** What one component is. */
    public enum Scalar {
        BOOL,
        UCHAR,
        INT,
        UINT,
        INT64,
        UINT64,
        HALF,
        FLOAT,
        DOUBLE,
        TIMECODE,
        STRING,
        TOKEN,
        ASSET;

        boolean isText() {
            return this == STRING || this == TOKEN || this == ASSET;
        }
    }

    private static final Map<String, ValueType> KNOWN = new HashMap<>();

    static {
        for (Scalar scalar : Scalar.values()) {
            add(scalar.name().toLowerCase(java.util.Locale.ROOT), scalar, 1, 0);
        }
        add("pathExpression", Scalar.STRING, 1, 0);
        Map<String, Scalar> numbers = Map.of("h", Scalar.HALF, "f", Scalar.FLOAT, "d", Scalar.DOUBLE);
        for (int width = 2; width <= 4; width++) {
            add("int" + width, Scalar.INT, width, 0);
            add("half" + width, Scalar.HALF, width, 0);
            add("float" + width, Scalar.FLOAT, width, 0);
            add("double" + width, Scalar.DOUBLE, width, 0);
            add("matrix" + width + "d", Scalar.DOUBLE, width * width, width);
        }
        add("frame4d", Scalar.DOUBLE, 16, 4);
        numbers.forEach((suffix, scalar) -> {
            for (String role : new String[] {"point3", "normal3", "vector3", "color3", "texCoord3"}) {
                add(role + suffix, scalar, 3, 0);
            }
            add("color4" + suffix, scalar, 4, 0);
            add("texCoord2" + suffix, scalar, 2, 0);
            add("quat" + suffix, scalar, 4, 0);
        });
    }

    private static void add(String name, Scalar scalar, int width, int rows) {
        KNOWN.put(name, new ValueType(name, scalar, width, rows, false));
        KNOWN.put(name + "[]", new ValueType(name + "[]", scalar, width, rows, true));
    }

    /** The type of that name; empty where the standard has none. */
    public static Optional<ValueType> of(String name) {
        return Optional.ofNullable(KNOWN.get(name));
    }

    /** Whether the numbers are single precision or less. */
    public boolean isSingle() {
        return scalar == Scalar.FLOAT || scalar == Scalar.HALF;
    }

    /** Whether the elements are strings, tokens or asset paths. */
    public boolean isText() {
        return scalar.isText();
    }
}
