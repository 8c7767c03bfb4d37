package pantry.prep.inspect;

import java.util.List;
import java.util.Optional;
import pantry.usd.SdfPath;

/**
 * What an inspection reports.
 *
 * @param id rule and path, the same at each inspection of the same thing
 * @param path the prim that it is about; the root where it is about the whole
 * @param shown the prims to be pointed out in the picture
 * @param fix empty where there can be none
 */
public record Finding(
        String id, Rule rule, Severity severity, SdfPath path, String message, List<SdfPath> shown, Optional<Fix> fix) {
    public Finding {
        shown = List.copyOf(shown);
    }

    public boolean fixable() {
        return fix.isPresent();
    }
}
