package pantry.usd.compose;

import java.util.LinkedHashSet;
import java.util.Set;
import pantry.usd.SdfPath;

/**
 * What an edit changed of a stage.
 *
 * @param resynced prims that are composed anew with everything below them; those that are gone are among them
 * @param changed properties with other values; their prims are the same
 */
public record StageChange(Set<SdfPath> resynced, Set<SdfPath> changed) {
    public StageChange {
        resynced = outermost(resynced);
        Set<SdfPath> all = resynced;
        Set<SdfPath> others = new LinkedHashSet<>(changed);
        others.removeIf(property -> property.startsWithAny(all));
        changed = Set.copyOf(others);
    }

    private static Set<SdfPath> outermost(Set<SdfPath> paths) {
        Set<SdfPath> outermost = new LinkedHashSet<>();
        for (SdfPath path : paths) {
            if (path.equals(SdfPath.ROOT) || !path.parent().startsWithAny(paths)) {
                outermost.add(path);
            }
        }
        return outermost;
    }

    public boolean isEmpty() {
        return resynced.isEmpty() && changed.isEmpty();
    }
}
