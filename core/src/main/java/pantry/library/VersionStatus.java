package pantry.library;

import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Locale;

/** How far a version may be relied on. */
public enum VersionStatus {
    DRAFT,
    READY,
    RETIRED;

    @JsonValue
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
