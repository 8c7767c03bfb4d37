package pantry.scene;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;

/** A prim of which two layers say different things. */
public record Difference(SdfPath path, Kind kind) {
    /** What became of it from the one to the other. */
    public enum Kind {
        ADDED,
        REMOVED,
        CHANGED
    }

    /** The prims in which two layers differ, in the order of the later one; of those added and removed the topmost. */
    public static List<Difference> between(Layer before, Layer after) {
        List<Difference> found = new ArrayList<>();
        compare(SdfPath.ROOT, before.root(), after.root(), found);
        return found;
    }

    private static void compare(SdfPath path, PrimSpec before, PrimSpec after, List<Difference> found) {
        if (before.sameAs(after)) {
            return;
        }
        if (!before.copyOfOwn().sameAs(after.copyOfOwn())
                || !before.variantSets().keySet().equals(after.variantSets().keySet())) {
            found.add(new Difference(path, Kind.CHANGED));
        }
        Set<String> names = new LinkedHashSet<>(after.childNames());
        names.addAll(before.childNames());
        for (String name : names) {
            SdfPath child = path.child(name);
            Optional<PrimSpec> old = before.child(name);
            Optional<PrimSpec> now = after.child(name);
            if (old.isEmpty()) {
                found.add(new Difference(child, Kind.ADDED));
            } else if (now.isEmpty()) {
                found.add(new Difference(child, Kind.REMOVED));
            } else {
                compare(child, old.get(), now.get(), found);
            }
        }
    }
}
