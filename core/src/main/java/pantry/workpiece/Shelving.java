package pantry.workpiece;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.ImageTiles;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.library.Asset;
import pantry.library.Identity;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.SourceFiles;
import pantry.library.VersionStatus;
import pantry.model.Facts;
import pantry.model.Model;
import pantry.render.ColourNames;
import pantry.render.RenderCache;
import pantry.render.Thumbnails;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.Value;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;

/**
 * Publishes a working copy as the next version of the asset that it is a copy of. What the version had beside its
 * layers, such as the file that it was received as, stays with it; images that were made are taken in.
 */
public final class Shelving {
    private final Workpiece piece;
    private final Workpiece.Shelved place;
    private final RenderCache cache;
    private final Progress progress;

    private Shelving(Workpiece piece, Workpiece.Shelved place, RenderCache cache, Progress progress) {
        this.piece = piece;
        this.place = place;
        this.cache = cache;
        this.progress = progress;
    }

    /**
     * Makes the next version.
     *
     * @throws PrepException where the working copy is of no asset
     * @throws pantry.library.LibraryException where the library refuses, or somebody else has reserved the asset
     */
    public static Published publish(
            Workpiece piece, VersionStatus status, String note, RenderCache cache, Progress progress) {
        Workpiece.Shelved place = piece.shelved()
                .orElseThrow(() ->
                        new PrepException(piece.source(), "is of no library; save it as a file, and receive that"));
        Shelving shelving = new Shelving(piece, place, cache, progress);
        Library library = place.library();
        Asset asset = library.current(place.asset());
        String source = library.seal(place.asset(), place.version()).getOrDefault(Identity.SOURCE, "");
        return library.publish(
                asset,
                status,
                shelving::write,
                Library.noted(note, Identity.of(asset).labels(source)),
                progress.part(0.6, 1));
    }

    private void write(Path data, String slug, String version) throws IOException {
        progress.step("writing " + slug, 0.1);
        Path entry = data.resolve(slug + ".usda");
        Path before = place.asset().entryLayer(place.version());
        Path work = piece.layer().file().orElse(piece.source());
        Map<Path, String> copied = new HashMap<>();
        if (work.equals(before)) {
            Layer layer = copyTo(piece.layer(), entry, data, copied);
            root(layer).ifPresent(prim -> Identity.of(place.asset()).write(prim, version));
            LayerFiles.write(layer, entry);
        } else {
            Path geometry = data.resolve(
                    slug + ".geom." + Names.ending(work.getFileName().toString()));
            LayerFiles.write(copyTo(piece.layer(), geometry, data, copied), geometry);
            Layer layer = copyTo(LayerFiles.read(before), entry, data, copied);
            loading(layer, before, geometry, version);
            LayerFiles.write(layer, entry);
        }
        keepSource(data);
        Model model = piece.model().named(place.asset().card().name());
        var picture = Thumbnails.picture(model, cache, Thumbnails.SIZE);
        AtomicFiles.write(data.resolve("preview.png"), Png.of(picture));
        Facts facts =
                Facts.of(slug + ".usda", model, piece.surfaces(), 1, "Y").seen(variants(), ColourNames.of(picture));
        AtomicFiles.write(data.resolve("facts.json"), Json.write(facts));
    }

    /**
     * Has an entry layer load the new geometry, under the name that its root has now.
     *
     * @param before the file that it was copied from
     */
    private void loading(Layer layer, Path before, Path geometry, String version) {
        String rootName = piece.layer()
                .defaultPrim()
                .orElseThrow(() -> new PrepException(piece.source(), "does not say which of its prims is the root"));
        PrimSpec prim = root(layer).orElseThrow(() -> new PrepException(before, "has no root"));
        if (!prim.name().equals(rootName)) {
            layer.root().removeChild(prim.name());
            prim = prim.copyAs(rootName);
            layer.root().add(prim);
            layer.metadata().put("defaultPrim", new Value.Token(rootName));
        }
        prim.setPayloads(Reference.to("./" + geometry.getFileName()));
        Identity.of(place.asset()).write(prim, version);
    }

    private static Optional<PrimSpec> root(Layer layer) {
        return layer.defaultPrimPath().flatMap(layer::prim);
    }

    private Map<String, List<String>> variants() {
        Map<String, List<String>> variants = new LinkedHashMap<>();
        root(piece.layer()).ifPresent(prim -> prim.variantSets()
                .forEach((set, names) -> variants.put(set, List.copyOf(names.keySet()))));
        return variants;
    }

    /**
     * A layer as it stands in the new version: what the old version holds is copied to the same place, images from
     * elsewhere into {@code textures/}, and other assets are used as before.
     *
     * @param copied files that have their place already, each with its path from the data folder
     */
    private Layer copyTo(Layer layer, Path target, Path data, Map<Path, String> copied) throws IOException {
        Path oldData = place.asset().data(place.version());
        Map<String, String> renamed = new HashMap<>();
        for (String written : written(layer)) {
            AssetLocation location = piece.layers().resolve(layer, written);
            Path file = location.file();
            boolean work = file.equals(piece.layer().file().orElse(piece.source()));
            if (location.isPackaged() || work || !Files.isRegularFile(file)) {
                continue;
            }
            boolean within = file.startsWith(oldData);
            boolean image = !LayerFiles.isLayer(file.getFileName().toString());
            if (image
                    && !within
                    && piece.layers()
                            .gate()
                            .admitImage(file, written, piece.source())
                            .isEmpty()) {
                continue;
            }
            if (within || image) {
                renamed.put(written, copied(file, within ? oldData : null, data, copied));
            }
        }
        return LayerAssets.renamed(layer, AssetLocation.of(target), path -> ImageTiles.renamed(path, renamed::get)
                .orElse(renamed.getOrDefault(path, path)));
    }

    /** What a layer names; of images in tiles, all that there can be. */
    private static List<String> written(Layer layer) {
        return LayerAssets.of(layer).stream()
                .flatMap(path -> ImageTiles.each(path).stream())
                .toList();
    }

    private static String copied(Path file, @Nullable Path oldData, Path data, Map<Path, String> copied)
            throws IOException {
        String known = copied.get(file);
        if (known != null) {
            return known;
        }
        String path;
        if (oldData == null) {
            String name = file.getFileName().toString();
            path = "textures/"
                    + Names.free(
                            Names.stem(name),
                            "-",
                            stem -> Files.exists(data.resolve("textures").resolve(stem + "." + Names.ending(name))))
                    + "." + Names.ending(name);
        } else {
            path = oldData.relativize(file).toString().replace('\\', '/');
        }
        Path target = data.resolve(path);
        Files.createDirectories(target.getParent());
        Files.copy(file, target);
        String written = "./" + path;
        copied.put(file, written);
        return written;
    }

    private void keepSource(Path data) throws IOException {
        Path source = place.asset().data(place.version()).resolve(SourceFiles.FOLDER);
        if (!Files.isDirectory(source)) {
            return;
        }
        try (Stream<Path> files = Files.walk(source)) {
            for (Path file : files.toList()) {
                Path target = data.resolve(SourceFiles.FOLDER)
                        .resolve(source.relativize(file).toString());
                if (Files.isDirectory(file)) {
                    Files.createDirectories(target);
                } else {
                    Files.copy(file, target);
                }
            }
        }
    }
}
