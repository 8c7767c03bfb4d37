package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Stream;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;

/**
 * The contents of a version once more, for another version or another asset: everything as it was, but the entry
 * layer's file name and what it says of asset and version.
 */
final class Reissue implements VersionContents {
    private final Path from;
    private final Path entry;
    private final String id;
    private final Consumer<Layer> edit;

    /** @param id of the asset that the contents are for */
    Reissue(Asset asset, String version, String id) {
        this(asset, version, id, layer -> {});
    }

    /** As above, with something else in its entry layer. */
    Reissue(Asset asset, String version, String id, Consumer<Layer> edit) {
        this.edit = edit;
        this.from = asset.data(version);
        this.entry = asset.entryLayer(version);
        this.id = id;
    }

    @Override
    public void write(Path data, String slug, String version) throws IOException {
        try (Stream<Path> files = Files.walk(from)) {
            for (Path file : files.toList()) {
                Path target = data.resolve(from.relativize(file).toString());
                if (Files.isDirectory(file)) {
                    Files.createDirectories(target);
                } else if (!file.equals(entry)) {
                    Files.copy(file, target);
                }
            }
        }
        Layer layer = LayerFiles.read(entry);
        layer.defaultPrim()
                .flatMap(root -> layer.prim(SdfPath.ROOT.child(root)))
                .ifPresent(prim -> identify(prim, version));
        edit.accept(layer);
        LayerFiles.write(layer, data.resolve(slug + ".usda"));
    }

    private void identify(PrimSpec prim, String version) {
        Map<String, Value.Dictionary.Entry> info = new LinkedHashMap<>();
        if (prim.metadata().get("assetInfo") instanceof Value.Dictionary known) {
            info.putAll(known.entries());
        }
        info.put("identifier", new Value.Dictionary.Entry("string", new Value.Text(id)));
        info.put("version", new Value.Dictionary.Entry("string", new Value.Text(version)));
        prim.metadata().put("assetInfo", new Value.Dictionary(info));
    }
}
