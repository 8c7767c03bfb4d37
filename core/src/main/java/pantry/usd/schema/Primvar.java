package pantry.usd.schema;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;

/**
 * A primvar (UsdGeomPrimvarsAPI): a value that varies over a surface, with or without indices into its elements. A
 * constant one holds for everything below its prim, until one of the same name is found.
 *
 * @param name without the namespace
 * @param prim that has it, which may be above the one that was asked for
 */
public record Primvar(String name, Prim prim, Attribute attribute) {
    private static final String NAMESPACE = "primvars:";

    /** The prim's own primvar, or the nearest constant one above. A blocked one ends the search without a find. */
    public static Optional<Primvar> find(Prim prim, String name) {
        for (Prim at = prim; at != null; at = above(at)) {
            Optional<Attribute> attribute = at.attribute(NAMESPACE + name);
            if (attribute.isPresent()) {
                Primvar found = new Primvar(name, at, attribute.get());
                if (attribute.get().value().isEmpty()) {
                    return Optional.empty();
                }
                if (at == prim || found.isConstant()) {
                    return Optional.of(found);
                }
            }
        }
        return Optional.empty();
    }

    /** All primvars of a prim, its own and those that it inherits, by name. */
    public static Map<String, Primvar> all(Prim prim) {
        Set<String> names = new java.util.TreeSet<>();
        for (Prim at = prim; at != null; at = above(at)) {
            for (String property : at.propertyNames()) {
                if (property.startsWith(NAMESPACE) && !property.endsWith(":indices")) {
                    names.add(property.substring(NAMESPACE.length()));
                }
            }
        }
        Map<String, Primvar> all = new TreeMap<>();
        names.forEach(name -> find(prim, name).ifPresent(primvar -> all.put(name, primvar)));
        return all;
    }

    private static @Nullable Prim above(Prim prim) {
        return prim.parent().orElse(null);
    }

    /** What has an element of its own: {@code constant} where nothing is said, as the standard has it. */
    public String interpolation() {
        return attribute.text("interpolation").orElse("constant");
    }

    public boolean isConstant() {
        return interpolation().equals("constant");
    }

    /**
     * The numbers with indices resolved, element by element.
     *
     * @param width numbers per element
     * @return empty where it has no value, or one of another type
     * @throws UsdException where an index leads outside of the values
     */
    public Optional<float[]> floats(int width) {
        return switch (attribute.value().orElse(null)) {
            case Value.Floats(float[] data, int given) when given == width -> Optional.of(indexed(data, width));
            case Value.Tuple(double[] components)
            when components.length == width -> {
                float[] single = new float[width];
                for (int i = 0; i < width; i++) {
                    single[i] = (float) components[i];
                }
                yield Optional.of(single);
            }
            case Value.Real(double number) when width == 1 -> Optional.of(new float[] {(float) number});
            case null, default -> Optional.empty();
        };
    }

    private float[] indexed(float[] data, int width) {
        int[] indices = Values.ints(prim, attribute.name() + ":indices");
        if (indices == null) {
            return data;
        }
        float[] flat = new float[indices.length * width];
        for (int i = 0; i < indices.length; i++) {
            int index = indices[i];
            if (index < 0 || index >= data.length / width) {
                throw new UsdException("<" + prim.path().property(attribute.name()) + "> uses element " + index + " of "
                        + data.length / width);
            }
            System.arraycopy(data, index * width, flat, i * width, width);
        }
        return flat;
    }
}
