package pantry.usd.edit;

import java.util.Optional;
import java.util.stream.Stream;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.Value;

/**
 * Where edits go: a layer of the stack, or a variant within one.
 *
 * @param variant the path of a variant, such as {@code /Mast{size=tall}}, in which everything of that prim and below it
 *     is to be written; what lies elsewhere cannot be edited through such a target
 * @param whereSaid whether what a selected variant alone says is edited there
 */
public record EditTarget(Layer layer, Optional<SdfPath> variant, boolean whereSaid) {
    public static EditTarget of(Layer layer) {
        return new EditTarget(layer, Optional.empty(), false);
    }

    /**
     * A layer, of which each prim is edited where it is said: by itself, or in a variant that the layer selects and that
     * alone speaks of it.
     */
    public static EditTarget whereSaid(Layer layer) {
        return new EditTarget(layer, Optional.empty(), true);
    }

    /** A variant of a prim in a layer. */
    public static EditTarget inVariant(Layer layer, SdfPath prim, String set, String selection) {
        return new EditTarget(layer, Optional.of(prim.variant(set, selection)), false);
    }

    /**
     * The path at which the layer speaks of a prim or property of the stage.
     *
     * @throws UsdException where the target is a variant and the path is not of its prim or below it
     */
    public SdfPath specPath(SdfPath stagePath) {
        if (variant.isEmpty()) {
            return whereSaid ? said(stagePath) : stagePath;
        }
        SdfPath prim = variant.get().withoutVariants();
        if (!stagePath.startsWith(prim)) {
            throw new UsdException("<" + stagePath + "> lies outside of <" + prim + ">, whose variant is being edited");
        }
        return stagePath.replacePrefix(prim, variant.get());
    }

    private SdfPath said(SdfPath stagePath) {
        SdfPath prim = stagePath.prim();
        if (layer.prim(prim).isPresent()) {
            return stagePath;
        }
        for (SdfPath above = prim.parent(); !above.equals(SdfPath.ROOT); above = above.parent()) {
            SdfPath outer = above;
            Optional<SdfPath> found = layer.prim(above).stream()
                    .flatMap(spec -> selected(spec, outer))
                    .filter(inner ->
                            layer.prim(prim.replacePrefix(outer, inner)).isPresent())
                    .findFirst();
            if (found.isPresent()) {
                return stagePath.replacePrefix(above, found.get());
            }
        }
        return stagePath;
    }

    private static Stream<SdfPath> selected(PrimSpec spec, SdfPath path) {
        return spec.metadata("variants").stream()
                .filter(Value.Selections.class::isInstance)
                .flatMap(value -> ((Value.Selections) value).bySet().entrySet().stream())
                .map(choice -> path.variant(choice.getKey(), choice.getValue()));
    }

    /**
     * A package is written as a whole, with the layer that it stands for.
     *
     * @param root of the stage
     * @throws UsdException where another layer is within a package
     */
    static void checkWritable(Layer layer, Layer root) {
        if (layer != root && layer.location().filter(AssetLocation::isPackaged).isPresent()) {
            throw new UsdException(layer.name() + " is within a package and cannot be edited; unpack it first");
        }
    }
}
