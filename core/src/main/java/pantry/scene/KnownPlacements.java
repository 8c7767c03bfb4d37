package pantry.scene;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.usd.SdfPath;
import pantry.usd.compose.StageChange;

/**
 * The placements that were read of a scene, so that after a change only those that it concerns are read anew. Holds
 * nothing between the changes of one that is not told yet.
 */
class KnownPlacements {
    /** Knows nothing, and keeps nothing. */
    static final KnownPlacements NOTHING = new KnownPlacements() {
        @Override
        void keep(SdfPath group, List<Placement> below) {
            // What is read once is not asked for again.
        }

        @Override
        void keep(Placement placement) {
            // As above.
        }
    };

    /** The placements below each group. */
    private final Map<SdfPath, List<Placement>> groups = new HashMap<>();

    private final Map<SdfPath, Placement> single = new HashMap<>();

    /** Lets go of what a change concerns. */
    void changed(StageChange change) {
        if (change.resynced().contains(SdfPath.ROOT)) {
            clear();
            return;
        }
        Set<SdfPath> groupsChanged = new HashSet<>();
        for (SdfPath path : change.resynced()) {
            if (!single.containsKey(path)) {
                groupsChanged.add(path);
            }
            forget(path);
        }
        if (!groupsChanged.isEmpty()) {
            single.keySet().removeIf(path -> path.startsWithAny(groupsChanged));
            groups.keySet().removeIf(group -> group.startsWithAny(groupsChanged));
        }
        change.changed().forEach(path -> forget(path.prim()));
    }

    private void forget(SdfPath path) {
        single.remove(path);
        for (SdfPath above = path.parent(); ; above = above.parent()) {
            groups.remove(above);
            if (above.equals(SdfPath.ROOT)) {
                return;
            }
        }
    }

    Optional<List<Placement>> below(SdfPath group) {
        return Optional.ofNullable(groups.get(group));
    }

    void keep(SdfPath group, List<Placement> below) {
        groups.put(group, List.copyOf(below));
    }

    Optional<Placement> at(SdfPath path) {
        return Optional.ofNullable(single.get(path));
    }

    void keep(Placement placement) {
        single.put(placement.path(), placement);
    }

    void clear() {
        groups.clear();
        single.clear();
    }

    /** Goes on with what another one has read of the same. */
    void takeOver(KnownPlacements other) {
        clear();
        groups.putAll(other.groups);
        single.putAll(other.single);
    }
}
