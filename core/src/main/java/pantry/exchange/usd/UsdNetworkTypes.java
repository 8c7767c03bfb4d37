package pantry.exchange.usd;

import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.DoubleStream;
import org.jspecify.annotations.Nullable;
import pantry.model.ShaderNetwork.Input;
import pantry.shading.NodeValues;
import pantry.usd.Value;

/** MaterialX's types and values as OpenUSD's, and back; which stand for each other as usdMtlx has them, from memory. */
final class UsdNetworkTypes {
    private static final Map<String, String> SDF = new LinkedHashMap<>();

    static {
        SDF.put("float", "float");
        SDF.put("integer", "int");
        SDF.put("boolean", "bool");
        SDF.put("string", "string");
        SDF.put("filename", "asset");
        SDF.put("color3", "color3f");
        SDF.put("color4", "color4f");
        SDF.put("vector2", "float2");
        SDF.put("vector3", "vector3f");
        SDF.put("vector4", "float4");
        SDF.put("surfaceshader", "token");
        SDF.put("displacementshader", "token");
    }

    private UsdNetworkTypes() {}

    /** The type of an attribute; a string for types that are kept as they are written. */
    static String sdf(String type) {
        return SDF.getOrDefault(type, "string");
    }

    /** The type that an attribute's stands for. */
    static String materialX(String sdf) {
        return SDF.entrySet().stream()
                .filter(entry -> entry.getValue().equals(sdf))
                .findFirst()
                .map(Map.Entry::getKey)
                .orElseGet(() -> switch (sdf) {
                    case "float3", "normal3f", "point3f" -> "vector3";
                    case "texCoord2f" -> "vector2";
                    default -> "string";
                });
    }

    /** Null where what is written is no value of the type. */
    static @Nullable Value value(String type, String written) {
        String sdf = sdf(type);
        if (sdf.equals("string") || sdf.equals("token")) {
            return new Value.Text(written);
        }
        if (sdf.equals("asset")) {
            return new Value.Asset(written);
        }
        float[] numbers = NodeValues.numbers(Input.of(type, written));
        if (numbers.length == 0) {
            return null;
        }
        return switch (sdf) {
            case "float" -> new Value.Real(numbers[0]);
            case "int" -> new Value.Int((long) numbers[0]);
            case "bool" -> new Value.Bool(numbers[0] != 0);
            default -> {
                double[] all = new double[NodeValues.width(type)];
                for (int i = 0; i < all.length; i++) {
                    all[i] = numbers[numbers.length == 1 ? 0 : i];
                }
                yield new Value.Tuple(all);
            }
        };
    }

    /** A value as MaterialX writes it. */
    static String written(Value value) {
        return switch (value) {
            case Value.Real(double number) -> number(number);
            case Value.Int(long number) -> String.valueOf(number);
            case Value.Bool(boolean yes) -> String.valueOf(yes);
            case Value.Text(String text) -> text;
            case Value.Token(String token) -> token;
            case Value.Asset(String path) -> path;
            case Value.Tuple(double[] numbers) ->
                DoubleStream.of(numbers).mapToObj(UsdNetworkTypes::number).collect(Collectors.joining(", "));
            default -> "";
        };
    }

    private static String number(double number) {
        // Attributes of such types are of single precision.
        String text = Float.toString((float) number);
        return text.endsWith(".0") ? text.substring(0, text.length() - 2) : text.toLowerCase(Locale.ROOT);
    }
}
