package pantry.library;

import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Locale;

/** What an asset is. */
public enum AssetKind {
    MODEL,
    MATERIAL,
    /** A group of shading nodes that materials use. */
    MATERIAL_PART,
    /** What a skeleton does over time, for figures that have such a skeleton. */
    MOTION,
    PREFAB,
    IMAGE,
    LIGHT_RIG,
    SCENE;

    /** The word on cards and the command line: {@code light rig}. */
    @JsonValue
    public String word() {
        return name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }
}
