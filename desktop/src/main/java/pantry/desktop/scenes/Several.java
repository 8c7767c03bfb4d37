package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.scene.Placement;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** What is entered for several selected objects at once. */
public final class Several {
    private final OpenScene scene;
    private final SelectionEdits edits;

    Several(OpenScene scene, SelectionEdits edits) {
        this.scene = scene;
        this.edits = edits;
    }

    /** A selected object, and where it stands in the space of what it hangs on or is inside of. */
    public record Placed(SdfPath path, TransformComponents placing) {}

    /** The selected objects and parts whose places are told by the usual figures. */
    public List<Placed> placed() {
        List<Placed> placed = new ArrayList<>();
        scene.get().ifPresent(open -> scene.selected().forEach(path -> scene.selection()
                .part(path)
                .map(part -> part.placing())
                .orElseGet(() ->
                        open.spec(path).filter(TransformComponents::isUsual).map(TransformComponents::read))
                .ifPresent(placing -> placed.add(new Placed(path, placing)))));
        return placed;
    }

    /** The selected placements. */
    public List<Placement> placements() {
        return scene.get()
                .map(open -> scene.selected().stream()
                        .flatMap(path -> open.placements().at(path).stream())
                        .toList())
                .orElse(List.of());
    }

    /**
     * Enters a figure for each of them, as one change.
     *
     * @param index of the figure: move, turn and scale along x, y and z
     * @param text as it is typed: a figure for all, or what is added to or multiplies each
     * @return whether it was understood
     */
    public boolean enter(int index, String text) {
        Map<SdfPath, TransformComponents> places = new LinkedHashMap<>();
        for (Placed each : placed()) {
            Optional<Double> figure = Figures.typed(text, PlaceFigures.of(each.placing(), index))
                    .filter(typed -> index < 6 || typed != 0);
            if (figure.isEmpty()) {
                return false;
            }
            places.put(each.path(), PlaceFigures.with(each.placing(), index, figure.get()));
        }
        edits.moveEach(places);
        return true;
    }
}
