package pantry.usd.binary;

import java.util.HashMap;
import java.util.Map;

/** Fields that are called otherwise in the binary format than in the text format. */
final class FieldNames {
    private static final Map<String, String> TO_TEXT = Map.of(
            "documentation", "doc",
            "variantSetNames", "variantSets",
            "variantSelection", "variants",
            "inheritPaths", "inherits",
            "layerRelocates", "relocates");

    private static final Map<String, String> TO_BINARY = new HashMap<>();

    static {
        TO_TEXT.forEach((binary, text) -> TO_BINARY.put(text, binary));
    }

    private FieldNames() {}

    static String text(String binary) {
        return TO_TEXT.getOrDefault(binary, binary);
    }

    static String binary(String text) {
        return TO_BINARY.getOrDefault(text, text);
    }
}
