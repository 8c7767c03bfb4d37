package pantry.usd.compose;

import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import pantry.usd.SdfPath;

/**
 * What of a stage is composed.
 *
 * @param loads whether the payloads of the prim at a path are brought in
 * @param mask the prims to be had, with all above and below them; all prims where empty. Within instances it has no
 *     effect, since their contents are shared
 * @param fallbacks by variant set, the variants to take where no layer selects one, the first that exists
 */
public record Population(Predicate<SdfPath> loads, List<SdfPath> mask, Map<String, List<String>> fallbacks) {
    /** Everything. */
    public static final Population ALL = new Population(path -> true, List.of(), Map.of());

    public Population {
        mask = List.copyOf(mask);
        fallbacks = Map.copyOf(fallbacks);
    }

    public Population withLoads(Predicate<SdfPath> newLoads) {
        return new Population(newLoads, mask, fallbacks);
    }

    public Population withMask(List<SdfPath> newMask) {
        return new Population(loads, newMask, fallbacks);
    }

    public Population withFallbacks(Map<String, List<String>> newFallbacks) {
        return new Population(loads, mask, newFallbacks);
    }

    boolean includes(SdfPath path) {
        if (mask.isEmpty()) {
            return true;
        }
        for (SdfPath wanted : mask) {
            if (path.startsWith(wanted) || wanted.startsWith(path)) {
                return true;
            }
        }
        return false;
    }
}
