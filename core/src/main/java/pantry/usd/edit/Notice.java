package pantry.usd.edit;

import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.compose.Stage;
import pantry.usd.compose.StageChange;

/** Collects what edits changed, layer by layer, until the stage takes it in. */
final class Notice {
    private final Map<Layer, Paths> byLayer = new IdentityHashMap<>();
    private boolean everything;

    private record Paths(Set<SdfPath> structure, Set<SdfPath> values) {}

    void structure(Layer layer, SdfPath path) {
        paths(layer).structure.add(path);
    }

    void value(Layer layer, SdfPath path) {
        paths(layer).values.add(path);
    }

    private Paths paths(Layer layer) {
        return byLayer.computeIfAbsent(layer, l -> new Paths(new LinkedHashSet<>(), new LinkedHashSet<>()));
    }

    /** Says that a stage has to be opened anew, since its layer stacks are others. */
    void everything() {
        everything = true;
    }

    boolean isEverything() {
        return everything;
    }

    boolean isEmpty() {
        return !everything && byLayer.isEmpty();
    }

    /** Lets a stage take in what was collected, and starts over. */
    StageChange update(Stage stage) {
        Set<SdfPath> resynced = new LinkedHashSet<>();
        Set<SdfPath> changed = new LinkedHashSet<>();
        byLayer.forEach((layer, paths) -> {
            StageChange change = stage.update(layer, paths.structure, paths.values);
            resynced.addAll(change.resynced());
            changed.addAll(change.changed());
        });
        byLayer.clear();
        everything = false;
        return new StageChange(resynced, changed);
    }
}
