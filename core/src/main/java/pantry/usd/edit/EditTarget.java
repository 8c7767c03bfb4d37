package pantry.usd.edit;

import java.util.Optional;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;

/**
 * Where edits go: a layer of the stack, or a variant within one.
 *
 * @param variant the path of a variant, such as {@code /Mast{size=tall}}, in which everything of that prim and below it
 *     is to be written; what lies elsewhere cannot be edited through such a target
 */
public record EditTarget(Layer layer, Optional<SdfPath> variant) {
    public static EditTarget of(Layer layer) {
        return new EditTarget(layer, Optional.empty());
    }

    /** A variant of a prim in a layer. */
    public static EditTarget inVariant(Layer layer, SdfPath prim, String set, String selection) {
        return new EditTarget(layer, Optional.of(prim.variant(set, selection)));
    }

    /**
     * The path at which the layer speaks of a prim or property of the stage.
     *
     * @throws UsdException where the target is a variant and the path is not of its prim or below it
     */
    public SdfPath specPath(SdfPath stagePath) {
        if (variant.isEmpty()) {
            return stagePath;
        }
        SdfPath prim = variant.get().withoutVariants();
        if (!stagePath.startsWith(prim)) {
            throw new UsdException("<" + stagePath + "> lies outside of <" + prim + ">, whose variant is being edited");
        }
        return stagePath.replacePrefix(prim, variant.get());
    }
}
