package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.model.Facts;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.file.LayerAssets;
import pantry.usd.schema.Xforms;

/** Lets what is swapped stand where the other stood: the middle of its base goes to where that of the other's was. */
public final class Swapping {
    /** The transform that is added to placements, before those that they have. */
    private static final String OP = "swapped";

    /** Differences that are not worth a transform, metres. */
    private static final double NOTHING = 1e-6;

    private Swapping() {}

    /** By how much an asset has to be moved for that, in its own space, metres; nothing where it need not be. */
    public static Optional<Vec3> offset(Asset asset, Asset other) {
        Vec3 offset = base(asset).minus(base(other));
        return offset.length() > NOTHING ? Optional.of(offset) : Optional.empty();
    }

    /** How large it would be by how large it is, along the axis along which they differ most. */
    public static double growth(Asset asset, Asset other) {
        Vec3 one = bounds(asset).size();
        Vec3 two = bounds(other).size();
        double most = 1;
        for (int axis = 0; axis < 3; axis++) {
            double ratio = one.get(axis) > 0 ? two.get(axis) / one.get(axis) : 1;
            if (Math.abs(Math.log(Math.max(ratio, NOTHING))) > Math.abs(Math.log(Math.max(most, NOTHING)))) {
                most = ratio;
            }
        }
        return most;
    }

    private static Facts.Bounds bounds(Asset asset) {
        return asset.shown()
                .map(version -> asset.facts(version).bounds())
                .orElseThrow(() -> new PantryException(asset.folder(), "has no version"));
    }

    private static Vec3 base(Asset asset) {
        Facts.Bounds bounds = bounds(asset);
        return new Vec3(
                (bounds.min()[0] + bounds.max()[0]) / 2, bounds.min()[1], (bounds.min()[2] + bounds.max()[2]) / 2);
    }

    /**
     * What has to be done to the files of a plan that swaps an asset. They are written anew as a whole; placements within
     * variants are swapped and not moved.
     *
     * @param offset from the other asset's space to that of the one that it takes the place of
     * @param paths how asset paths in a file are resolved
     */
    public static List<FileEdit> edits(ChangePlan plan, Matrix4 offset, Function<Path, AssetPaths> paths) {
        List<FileEdit> edits = new ArrayList<>();
        plan.byFile()
                .forEach((file, changes) -> edits.add(new FileEdit(file, changes.size(), before -> {
                    byte[] swapped = AssetRewriter.rewritten(file, before, changes, paths.apply(file));
                    return moved(file, swapped, changes, offset);
                })));
        return edits;
    }

    private static byte[] moved(Path file, byte[] swapped, List<Change> changes, Matrix4 offset) {
        Layer layer = LayerAssets.copied(LayerBytes.read(swapped, file), AssetLocation.of(file));
        for (Change change : changes) {
            SdfPath path = SdfPath.of(change.place());
            if (path.equals(path.withoutVariants())) {
                PrimSpec spec = layer.prim(path)
                        .orElseThrow(() -> new PantryException(
                                file.toString(), change.place(), "was changed since the plan was made", null));
                Xforms.appendMatrix(spec, free(spec), offset);
            }
        }
        return LayerBytes.of(layer, file, LayerBytes.isText(swapped) ? "usda" : "usdc");
    }

    /** What is swapped once more is moved once more. */
    private static String free(PrimSpec spec) {
        return Names.free(OP, name -> spec.property("xformOp:transform:" + name).isPresent());
    }
}
