package pantry.exchange.usd;

import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.mesh.Mesh;
import pantry.model.Fixture;
import pantry.model.Model;
import pantry.usd.SdfPath;
import pantry.usd.compose.StageChange;

/**
 * The nodes that were read of the prims of a stage, so that after an edit only what it concerns is read anew.
 *
 * <p>A node is taken as it was where nothing changed at its prim, below it, or at those above it in what they hand down,
 * and nothing changed of what it uses from elsewhere: materials, prototypes, the prims that a point instancer repeats.
 * To be told of every change of the stage, between two readings and never within a change, and by one thread at a time.
 */
public final class NodeCache {
    /** So many choices of what is shown are kept, so that going to and fro between them reads nothing anew. */
    private static final int CHOICES = 3;

    private final Map<Object, Reading> readings = new LinkedHashMap<>(CHOICES, 1, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Object, Reading> eldest) {
            return size() > CHOICES;
        }
    };

    /** Simple solids that were made, by their figures. */
    private final Map<List<String>, Mesh> solids = new HashMap<>();

    Map<List<String>, Mesh> solids() {
        return solids;
    }

    /** Takes note that the stage was changed. */
    public void changed(StageChange change) {
        if (change.resynced().contains(SdfPath.ROOT)) {
            readings.clear();
            solids.clear();
        } else {
            readings.values().forEach(reading -> reading.changes.add(change));
        }
    }

    /** Goes on with what another one has read of the same stage; that one is not to be used any more. */
    public void takeOver(NodeCache other) {
        readings.clear();
        readings.putAll(other.readings);
        solids.clear();
        solids.putAll(other.solids);
    }

    /** What was read the last time that the same was chosen to be shown. */
    Reading reading(Object choice) {
        return readings.computeIfAbsent(choice, made -> new Reading());
    }

    /** Lets go what was read by a choice, where a reading failed or depends on more than is known. */
    void forget(Object choice) {
        readings.remove(choice);
    }

    /** What a prim was read as. */
    record Entry(Object context, Optional<Model.Node> node, Map<String, Entry> below, Found found) {}

    /**
     * What was met at a prim and below it.
     *
     * @param sources prims elsewhere that it depends on, each with all below it
     * @param noted what is no surface, or is hidden
     */
    record Found(Set<SdfPath> sources, Set<Noted> noted) {
        static final Found NOTHING = new Found(Set.of(), Set.of());
    }

    /**
     * Something that is counted once, however often it is shown.
     *
     * @param kind what it is, where it is kept and not drawn
     */
    record Noted(SdfPath prim, Optional<Fixture> fixture, Optional<String> kind, boolean hidden) {}

    /** Contents that several prims share, read once. */
    record Shared(List<Model.Node> nodes, Found found) {}

    /** Gathers what is met at a prim and below it. */
    static final class Gathering {
        private @Nullable Set<SdfPath> sources;
        private @Nullable Set<Noted> noted;
        private Found last = Found.NOTHING;

        void source(SdfPath prim) {
            if (sources == null) {
                sources = new LinkedHashSet<>();
            }
            sources.add(prim);
        }

        void note(Noted what) {
            if (noted == null) {
                noted = new LinkedHashSet<>();
            }
            noted.add(what);
        }

        /** What a prim that is shared by others shares with them. */
        Found sharedBy(SdfPath prim) {
            outside(prim);
            source(prim);
            return all();
        }

        void add(Found found) {
            // Neighbours often use the very same.
            if (found == last || found.equals(Found.NOTHING)) {
                return;
            }
            last = found;
            found.sources().forEach(this::source);
            found.noted().forEach(this::note);
        }

        /** All of it, as what lies outside of a prim sees it: what is at or below the prim is no source. */
        Found outside(SdfPath prim) {
            if (sources != null) {
                sources.removeIf(source -> source.startsWith(prim));
            }
            return all();
        }

        private Found all() {
            return sources == null && noted == null
                    ? Found.NOTHING
                    : new Found(sources == null ? Set.of() : sources, noted == null ? Set.of() : noted);
        }
    }

    /** One reading of a stage, and what changed since. */
    static final class Reading {
        private Map<String, Entry> roots = Map.of();
        private final Map<Object, Shared> shared = new HashMap<>();
        private final Changes changes = new Changes();

        Map<String, Entry> roots() {
            return roots;
        }

        /** Whether a prim is still as it was read. */
        boolean holds(@Nullable Entry entry, SdfPath prim, Object context) {
            return entry != null
                    && entry.context().equals(context)
                    && !changes.isAround(prim)
                    && entry.found().sources().stream().noneMatch(changes::concern);
        }

        /** What was read below a prim, as far as what the prim hands down is the same. */
        Map<String, Entry> below(@Nullable Entry entry, SdfPath prim) {
            return entry == null || changes.isHandedDownFrom(prim) ? Map.of() : entry.below();
        }

        /** @param key the prim that is shared, and what holds around it */
        Optional<Shared> shared(Object key) {
            return Optional.ofNullable(shared.get(key));
        }

        void share(Object key, Shared contents) {
            shared.put(key, contents);
        }

        /** Lets go of what is shared and was changed. */
        void begin() {
            if (!changes.isEmpty()) {
                shared.values().removeIf(contents -> contents.found().sources().stream()
                        .anyMatch(changes::concern));
            }
        }

        void end(Map<String, Entry> read) {
            roots = read;
            changes.clear();
        }
    }

    /** What changed of a stage since it was read. */
    private static final class Changes {
        /** The prims that changed, and all those above them. */
        private final Set<SdfPath> around = new HashSet<>();

        /** Those of which also what they hand down to prims below them may have changed. */
        private final Set<SdfPath> handedDown = new HashSet<>();

        private final Map<SdfPath, Boolean> concerned = new HashMap<>();

        void add(StageChange change) {
            change.resynced().forEach(path -> add(path, true));
            // Fields of a prim that compose nothing, such as what it is called, are not handed down.
            change.changed().forEach(path -> add(path.prim(), path.isProperty()));
            concerned.clear();
        }

        private void add(SdfPath prim, boolean isHandedDown) {
            if (isHandedDown) {
                handedDown.add(prim);
            }
            for (SdfPath at = prim; around.add(at) && !at.equals(SdfPath.ROOT); ) {
                at = at.parent();
            }
        }

        boolean isEmpty() {
            return around.isEmpty();
        }

        boolean isAround(SdfPath prim) {
            return around.contains(prim);
        }

        boolean isHandedDownFrom(SdfPath prim) {
            return handedDown.contains(prim);
        }

        /** Whether something changed at a prim, below it, or in what is handed down to it. */
        boolean concern(SdfPath prim) {
            return concerned.computeIfAbsent(prim, path -> around.contains(path) || path.startsWithAny(handedDown));
        }

        void clear() {
            around.clear();
            handedDown.clear();
            concerned.clear();
        }
    }
}
