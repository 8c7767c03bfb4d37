package pantry.prep.inspect;

import java.util.Locale;

/** How much a finding matters; {@code OFF} is a rule that is not asked. */
public enum Severity {
    OFF,
    INFORMATION,
    CAUTION,
    WRONG;

    /** As rule files and people write it. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
