package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** The placements of the open scene in their order, found by their paths. */
final class PlacementList {
    private final ObservableList<Placement> placements = FXCollections.observableArrayList();
    private final Map<SdfPath, Integer> numbers = new HashMap<>();
    private final Map<Path, Long> counts = new HashMap<>();

    /** One of those that show the same file, which is not of a library. */
    private final Map<Path, Placement> ofFiles = new LinkedHashMap<>();

    ObservableList<Placement> all() {
        return placements;
    }

    boolean contains(SdfPath path) {
        return numbers.containsKey(path);
    }

    /** The number of placements that show the same thing as one does. */
    long like(Placement placement) {
        return counts.getOrDefault(placement.layer(), 1L);
    }

    /** For each file that is not of a library and is placed, one of the placements that show it. */
    Collection<Placement> ofFiles() {
        return Collections.unmodifiableCollection(ofFiles.values());
    }

    void set(List<Placement> all) {
        placements.setAll(all);
        numbers.clear();
        for (int i = 0; i < placements.size(); i++) {
            numbers.put(placements.get(i).path(), i);
        }
        counts.clear();
        ofFiles.clear();
        for (Placement placement : placements) {
            counts.merge(placement.layer(), 1L, Long::sum);
            if (placement.held() == Placement.Held.FILE) {
                ofFiles.putIfAbsent(placement.layer(), placement);
            }
        }
    }

    /** Reads those of some prims anew that were only moved. */
    void moved(Scene open, Set<SdfPath> paths) {
        for (SdfPath path : paths) {
            Integer number = numbers.get(path);
            if (number != null) {
                open.placements().at(path).ifPresent(placement -> placements.set(number, placement));
            }
        }
    }
}
