package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import pantry.usd.SdfPath;
import pantry.usd.compose.Stage;
import pantry.usd.compose.StageChange;

/** What was changed of a stage and is not shown yet. */
final class StageChanges {
    private final List<StageChange> all = new ArrayList<>();

    void add(StageChange change) {
        all.add(change);
    }

    void set(List<StageChange> changes) {
        all.clear();
        all.addAll(changes);
    }

    void clear() {
        all.clear();
    }

    /** Whether something was changed, and nothing but where things stand. */
    boolean areMoves() {
        return !all.isEmpty() && all.stream().allMatch(StageChanges::isMove);
    }

    /** What is moved within shared contents is moved in a prototype, which stands wherever it is used. */
    private static boolean isMove(StageChange change) {
        return change.resynced().isEmpty()
                && change.changed().stream()
                        .allMatch(property -> property.name().startsWith("xformOp") && !isInPrototype(property));
    }

    /** Whether something was changed within contents that are shared. */
    boolean areShared() {
        return all.stream()
                .flatMap(change -> Stream.concat(change.changed().stream(), change.resynced().stream()))
                .anyMatch(StageChanges::isInPrototype);
    }

    private static boolean isInPrototype(SdfPath property) {
        return property.depth() > 0 && property.names().getFirst().startsWith(Stage.PROTOTYPE);
    }

    /** The prims whose properties were changed. */
    Set<SdfPath> prims() {
        Set<SdfPath> paths = new LinkedHashSet<>();
        all.forEach(change -> change.changed().forEach(property -> paths.add(property.prim())));
        return paths;
    }
}
