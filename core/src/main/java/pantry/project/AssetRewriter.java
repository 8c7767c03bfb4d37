package pantry.project;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BinaryOperator;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import pantry.base.PantryException;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.SdfPath;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;
import pantry.usd.text.WrittenAsset;

/**
 * Lets places in a layer's file name other files. Of a text layer, nothing but those names is changed; a binary one is
 * written anew, and says the same otherwise.
 */
final class AssetRewriter {
    private final Path file;
    private final AssetPaths paths;
    private final Map<String, Map<Path, Path>> wanted = new HashMap<>();
    private final Set<Change> left = new HashSet<>();

    /** @param changes all of one file */
    private AssetRewriter(Path file, List<Change> changes, AssetPaths paths) {
        this.file = file;
        this.paths = paths;
        left.addAll(changes);
        changes.forEach(change ->
                wanted.computeIfAbsent(change.place(), place -> new HashMap<>()).put(change.before(), change.after()));
    }

    /** What has to be done to the files of a plan that changes nothing but what they name. */
    static List<FileEdit> edits(ChangePlan plan, Function<Path, AssetPaths> paths) {
        List<FileEdit> edits = new ArrayList<>();
        plan.byFile()
                .forEach((file, changes) -> edits.add(new FileEdit(
                        file, changes.size(), before -> rewritten(file, before, changes, paths.apply(file)))));
        return edits;
    }

    /**
     * A file's contents with some changes made in them.
     *
     * @param before its contents as they are
     * @param paths how asset paths in it are resolved
     * @throws PantryException where the file has not what a change begins with, so that it was changed since
     */
    static byte[] rewritten(Path file, byte[] before, List<Change> changes, AssetPaths paths) {
        AssetRewriter rewriter = new AssetRewriter(file, changes, paths);
        byte[] after = LayerBytes.isText(before) ? rewriter.text(before) : rewriter.binary(before);
        if (!rewriter.left.isEmpty()) {
            Change missed = rewriter.left.iterator().next();
            throw new PantryException(
                    file.toString(),
                    missed.place(),
                    "was changed since the plan was made: it no longer names " + missed.before() + " there",
                    null);
        }
        return after;
    }

    private byte[] text(byte[] before) {
        Layer anchor = new Layer(file);
        return text(file, before, (place, written) -> renamed(place, written, anchor));
    }

    /** @param rename gives the path for a place, empty for the layer itself, and for what is written there */
    private static byte[] text(Path file, byte[] before, BinaryOperator<String> rename) {
        ByteArrayOutputStream after = new ByteArrayOutputStream(before.length + 256);
        int copied = 0;
        for (WrittenAsset asset : UsdaReader.assets(before, AssetLocation.of(file))) {
            String place =
                    asset.place().equals(SdfPath.ROOT) ? "" : asset.place().toString();
            String renamed = rename.apply(place, asset.path());
            if (!renamed.equals(asset.path())) {
                after.write(before, copied, asset.from() - copied);
                after.writeBytes(UsdaWriter.asset(renamed).getBytes(StandardCharsets.UTF_8));
                copied = asset.to();
            }
        }
        after.write(before, copied, before.length - copied);
        return after.toByteArray();
    }

    /** A file's contents with other asset paths wherever there are some; the same bytes where none becomes another. */
    static byte[] renamed(Path file, byte[] before, UnaryOperator<String> rename) {
        if (LayerBytes.isText(before)) {
            return text(file, before, (place, written) -> rename.apply(written));
        }
        Layer layer = LayerFiles.read(file);
        boolean same = LayerAssets.of(layer).stream()
                .allMatch(written -> rename.apply(written).equals(written));
        return same ? before : LayerBytes.of(LayerAssets.renamed(layer, AssetLocation.of(file), rename), file, "usdc");
    }

    private String renamed(String place, String written, Layer anchor) {
        Map<Path, Path> here = wanted.get(place);
        if (here == null || written.isEmpty()) {
            return written;
        }
        AssetLocation target = paths.resolve(anchor, written);
        Path after = here.get(target.file());
        if (after == null) {
            return written;
        }
        left.removeIf(change -> change.place().equals(place) && change.before().equals(target.file()));
        Path folder = file.toAbsolutePath().getParent();
        return AssetPaths.relative(folder == null ? Path.of("") : folder, new AssetLocation(after, target.inside()));
    }

    private byte[] binary(byte[] before) {
        Layer read = LayerBytes.read(before, file);
        Layer layer = LayerAssets.copied(read, AssetLocation.of(file));
        layer.subLayers().replaceAll(sub -> new Layer.SubLayer(renamed("", sub.asset(), layer), sub.offset()));
        layer.rootPrims().forEach(prim -> prim(prim, SdfPath.ROOT.child(prim.name()), layer));
        return LayerBytes.of(layer, file, "usdc");
    }

    private void prim(PrimSpec prim, SdfPath path, Layer layer) {
        prim.metadata()
                .replaceAll((field, value) ->
                        LayerAssets.renamed(value, "", layer, asset -> renamed(path.toString(), asset, layer)));
        for (PropertySpec property : prim.properties()) {
            if (property instanceof AttributeSpec attribute
                    && attribute.typeName().startsWith("asset")) {
                String place = path.property(property.name()).toString();
                attribute
                        .value()
                        .ifPresent(value -> attribute.setValue(LayerAssets.renamed(
                                value, attribute.typeName(), layer, asset -> renamed(place, asset, layer))));
                for (double time : List.copyOf(attribute.timeSamples().times())) {
                    attribute
                            .timeSamples()
                            .put(
                                    time,
                                    LayerAssets.renamed(
                                            attribute.timeSamples().at(time).orElseThrow(),
                                            attribute.typeName(),
                                            layer,
                                            asset -> renamed(place, asset, layer)));
                }
            }
        }
        prim.children().forEach(child -> prim(child, path.child(child.name()), layer));
        prim.variantSets()
                .forEach((set, variants) ->
                        variants.forEach((name, variant) -> prim(variant.contents(), path.variant(set, name), layer)));
    }
}
