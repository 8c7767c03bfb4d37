package pantry.usd;

import java.util.Map;
import java.util.Optional;

/**
 * The types of the metadata fields that the standard names, by their names in the text format. Fields that are not here
 * are told by the look of their value.
 *
 * <p>Source: AOUSD Core Specification 1.0, metadata fields of layers, prims and properties; from memory, as the text
 * of the specification cannot be reached from the build.
 */
public final class FieldTypes {
    private static final Map<String, String> TYPES = Map.ofEntries(
            Map.entry("active", "bool"),
            Map.entry("allowedTokens", "token[]"),
            Map.entry("arraySizeConstraint", "int64"),
            Map.entry("assetInfo", "dictionary"),
            Map.entry("bindMaterialAs", "token"),
            Map.entry("colorConfiguration", "asset"),
            Map.entry("colorManagementSystem", "token"),
            Map.entry("colorSpace", "token"),
            Map.entry("comment", "string"),
            Map.entry("connectability", "token"),
            Map.entry("customData", "dictionary"),
            Map.entry("customLayerData", "dictionary"),
            Map.entry("defaultPrim", "token"),
            Map.entry("displayGroup", "string"),
            Map.entry("displayName", "string"),
            Map.entry("displayUnit", "token"),
            Map.entry("doc", "string"),
            Map.entry("elementSize", "int"),
            Map.entry("endTimeCode", "double"),
            Map.entry("endFrame", "double"),
            Map.entry("framePrecision", "int"),
            Map.entry("framesPerSecond", "double"),
            Map.entry("hidden", "bool"),
            Map.entry("hasOwnedSubLayers", "bool"),
            Map.entry("instanceable", "bool"),
            Map.entry("interpolation", "token"),
            Map.entry("kind", "token"),
            Map.entry("kilogramsPerUnit", "double"),
            Map.entry("metersPerUnit", "double"),
            Map.entry("outputName", "token"),
            Map.entry("owner", "string"),
            Map.entry("permission", "token"),
            Map.entry("prefix", "string"),
            Map.entry("renderType", "token"),
            Map.entry("sdrMetadata", "dictionary"),
            Map.entry("sessionOwner", "string"),
            Map.entry("startTimeCode", "double"),
            Map.entry("startFrame", "double"),
            Map.entry("suffix", "string"),
            Map.entry("timeCodesPerSecond", "double"),
            Map.entry("unauthoredValuesIndex", "int"),
            Map.entry("upAxis", "token"));

    private FieldTypes() {}

    /** The type of a field; empty where the standard does not name it or it has a grammar of its own. */
    public static Optional<String> of(String field) {
        return Optional.ofNullable(TYPES.get(field));
    }
}
