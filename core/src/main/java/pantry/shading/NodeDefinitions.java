package pantry.shading;

import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.model.ShaderNetwork.Input;

/** The names of the definitions of MaterialX's standard nodes, by which UsdShade calls a shader. */
public final class NodeDefinitions {
    /** Those of which a second input may be a single number while the first has several. */
    private static final Map<String, List<String>> SINGLE = Map.ofEntries(
            Map.entry("add", List.of("in2")),
            Map.entry("subtract", List.of("in2")),
            Map.entry("multiply", List.of("in2")),
            Map.entry("divide", List.of("in2")),
            Map.entry("modulo", List.of("in2")),
            Map.entry("power", List.of("in2")),
            Map.entry("safepower", List.of("in2")),
            Map.entry("min", List.of("in2")),
            Map.entry("max", List.of("in2")),
            Map.entry("invert", List.of("amount")),
            Map.entry("clamp", List.of("low", "high")),
            Map.entry("contrast", List.of("amount", "pivot")),
            Map.entry("range", List.of("inlow", "inhigh", "outlow", "outhigh", "gamma")),
            Map.entry("remap", List.of("inlow", "inhigh", "outlow", "outhigh")),
            Map.entry("smoothstep", List.of("low", "high")),
            Map.entry("noise2d", List.of("amplitude")),
            Map.entry("noise3d", List.of("amplitude")),
            Map.entry("fractal2d", List.of("amplitude")),
            Map.entry("fractal3d", List.of("amplitude")));

    /** Those that are told apart by what goes in. */
    private static final Set<String> BY_INPUT =
            Set.of("extract", "separate2", "separate3", "separate4", "dotproduct", "magnitude");

    private NodeDefinitions() {}

    /** The name of the definition of a node. */
    public static String name(String category, String type, Map<String, Input> inputs) {
        String plain = "ND_" + category + "_";
        return switch (category) {
            case "normalmap" -> plain + type(inputs, "scale", "float");
            case "displacement" -> plain + type(inputs, "displacement", "float");
            case "convert" -> plain + type(inputs, "in", "float") + "_" + type;
            case "mix" -> plain + type + (type(inputs, "mix", "float").equals("float") ? "" : "_" + type);
            case "ifgreater", "ifgreatereq", "ifequal" -> plain + type + letter(type(inputs, "value1", "float"));
            case "switch" -> plain + type + letter(type(inputs, "which", "float"));
            case "gltf_image" -> plain + type + "_" + type + "_1_0";
            case "gltf_colorimage" -> "ND_gltf_colorimage";
            default ->
                BY_INPUT.contains(category)
                        ? plain + type(inputs, "in", type(inputs, "in1", "color3"))
                        : plain + type + (isSingle(category, type, inputs) ? "FA" : "");
        };
    }

    /** What a definition ends with that compares whole numbers, or truths. */
    private static String letter(String type) {
        return type.equals("integer") ? "I" : type.equals("boolean") ? "B" : "";
    }

    private static String type(Map<String, Input> inputs, String name, String otherwise) {
        Input input = inputs.get(name);
        return input == null ? otherwise : input.type();
    }

    private static boolean isSingle(String category, String type, Map<String, Input> inputs) {
        return !type.equals("float")
                && SINGLE.getOrDefault(category, List.of()).stream()
                        .anyMatch(name -> type(inputs, name, "").equals("float"));
    }
}
