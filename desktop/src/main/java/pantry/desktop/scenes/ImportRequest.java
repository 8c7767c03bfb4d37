package pantry.desktop.scenes;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.scene.ImportSource;
import pantry.scene.Scene;
import pantry.scene.SceneImport;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/**
 * What is to be brought into a scene from another file, as it was chosen.
 *
 * @param importables all that the source offers
 * @param chosen the paths of those that are brought in
 * @param referred whether the scene refers to the source rather than taking copies
 */
record ImportRequest(
        ImportSource source,
        List<ImportSource.Importable> importables,
        Set<SdfPath> chosen,
        boolean referred,
        Into into) {
    /**
     * Where it goes.
     *
     * @param name of what it hangs on
     * @param drawer that it is put into; blank for none
     * @param decided which side of names that both have counts
     */
    record Into(String name, String drawer, Map<SceneImport.Conflict, SceneImport.Decision> decided) {}

    /**
     * Brings it in; images are copied beside the scene.
     *
     * @param to the point of the world over which its middle comes to stand; where it stood where empty
     * @param onto whether it comes to stand on that point; heights stay otherwise
     * @return what it hangs on, or what refers to it
     */
    SdfPath carryOut(Scene scene, Optional<Vec3> to, boolean onto) {
        Vec3 move = to.map(point -> toward(point, onto)).orElse(Vec3.ZERO);
        return referred ? refer(scene, move) : copy(scene, move);
    }

    private SdfPath copy(Scene scene, Vec3 move) {
        TransformComponents placing = TransformComponents.ORIGIN.withMove(move);
        return SceneImport.bring(
                        scene,
                        source,
                        chosen,
                        new SceneImport.Options(into.name(), placing, Optional.empty(), into.decided(), into.drawer()))
                .anchor();
    }

    private SdfPath refer(Scene scene, Vec3 move) {
        Optional<SdfPath> part = part(importables, chosen);
        Vec3 pivot = part.map(source::pivot).orElse(Vec3.ZERO);
        TransformComponents placing = TransformComponents.ORIGIN.withMove(move.plus(pivot));
        SdfPath placed = scene.placements().placeFile(source.file(), part, into.name(), placing, Optional.empty());
        if (!into.drawer().isBlank()) {
            scene.drawers().put(into.drawer(), List.of(placed));
        }
        return placed;
    }

    /** The one thing that would be referred to; empty where it would be the whole file. */
    static Optional<SdfPath> part(List<ImportSource.Importable> importables, Set<SdfPath> chosen) {
        return chosen.size() == 1 && importables.size() > 1 ? chosen.stream().findFirst() : Optional.empty();
    }

    private Vec3 toward(Vec3 to, boolean onto) {
        Box3 box = Box3.EMPTY;
        for (ImportSource.Importable piece : importables) {
            if (chosen.contains(piece.path()) && piece.kind() != ImportSource.Kind.MATERIAL) {
                box = box.union(source.model(piece).bounds());
            }
        }
        return box.isEmpty()
                ? to
                : new Vec3(
                        to.x() - box.centre().x(),
                        onto ? to.y() - box.min().y() : 0,
                        to.z() - box.centre().z());
    }
}
