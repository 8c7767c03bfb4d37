package pantry.intake;

import java.util.List;
import org.jspecify.annotations.Nullable;
import pantry.model.Axis;

/**
 * Choices that are kept for further arrivals: under a name, or as the usual ones of a shelf. What is null is left as
 * it is found.
 *
 * @param factor metres per unit of the file
 */
public record SlipPreset(
        @Nullable String shelf,
        @Nullable Double factor,
        @Nullable Axis up,
        @Nullable PartsMode parts,
        @Nullable Pivot pivot,
        @Nullable List<String> tags,
        @Nullable String licence,
        @Nullable String credit,
        @Nullable ProcessingOptions making) {
    /** All choices of a slip that are not its arrival's own. */
    public static SlipPreset of(Slip slip) {
        return new SlipPreset(
                slip.shelf(),
                slip.factor(),
                slip.up(),
                slip.parts(),
                slip.pivot(),
                slip.tags(),
                slip.licence(),
                slip.credit(),
                slip.making());
    }

    /** As a shelf keeps it: the shelf itself goes without saying, and each file has a unit of its own. */
    public SlipPreset forShelf() {
        return new SlipPreset(null, null, null, parts, pivot, tags, licence, credit, making);
    }

    /** A slip with these choices. */
    public Slip on(Slip slip) {
        Slip changed = slip;
        changed = shelf == null ? changed : changed.withShelf(shelf);
        changed = factor == null ? changed : changed.withFactor(factor);
        changed = up == null ? changed : changed.withUp(up);
        changed = parts == null ? changed : changed.withParts(parts);
        changed = pivot == null ? changed : changed.withPivot(pivot);
        changed = tags == null ? changed : changed.withTags(tags);
        changed = changed.withCredit(
                licence == null ? changed.licence() : licence, credit == null ? changed.credit() : credit);
        return making == null ? changed : changed.withMaking(making);
    }
}
