package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.HeldFolder;
import pantry.base.Json;
import pantry.base.PantryException;
import pantry.base.math.Matrix4;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.Xforms;

/**
 * What is left where an asset stood before: a file that says where it went, and small layers under the old names that
 * reference the new ones. Nothing that referenced the asset breaks, whoever opens it.
 */
final class Redirects {
    private static final String BELOW = "Instead";

    private Redirects() {}

    /**
     * @param id of the asset that is meant now
     * @param to its folder, relative to this one
     * @param was the id of the asset that stood here, where that was another one
     */
    private record Moved(String id, String to, @Nullable String was) {
        boolean isOf(String asset) {
            return (was == null ? id : was).equals(asset);
        }
    }

    static boolean standsAt(Path folder) {
        return Files.exists(folder.resolve(LibraryLayout.MOVED));
    }

    /** Where the asset went that stood in a folder. */
    static Optional<Path> target(Path folder) {
        if (!standsAt(folder)) {
            return Optional.empty();
        }
        try {
            return Optional.of(folder.resolve(Json.read(folder.resolve(LibraryLayout.MOVED), Moved.class)
                            .to())
                    .normalize());
        } catch (PantryException e) {
            return Optional.empty();
        }
    }

    /** @param old the folder where the asset stood, and where nothing is now */
    static void leave(Path old, Asset now) throws IOException {
        lead(old, now, null);
        String root = null;
        for (String version : now.versions()) {
            Path entry = now.entryLayer(version);
            if (Files.exists(entry)) {
                root = point(
                        entry, old.resolve(version).resolve(LibraryLayout.DATA).resolve(entry.getFileName()));
            }
        }
        if (root != null && Files.exists(now.readyLayer())) {
            point(now.readyLayer(), old.resolve(LibraryLayout.READY_LAYER));
        }
    }

    private static void lead(Path old, Asset now, @Nullable String was) throws IOException {
        Files.createDirectories(old);
        AtomicFiles.write(
                old.resolve(LibraryLayout.MOVED),
                Json.write(new Moved(now.card().id(), slashed(old.relativize(now.folder())), was)));
    }

    /**
     * Lets what stood for one version of an asset stand for it where it is now.
     *
     * @param old the folder where the version stood, and where nothing is now
     * @param now the version's folder in another library
     * @param entry the name of the layer through which it is used
     */
    static void leaveVersion(Path old, Path now, String entry, String asset, Incoming incoming) throws IOException {
        try (HeldFolder scratch = incoming.newFolder()) {
            Path building = Files.createDirectory(scratch.path().resolve(old.getFileName()));
            AtomicFiles.write(
                    building.resolve(LibraryLayout.MOVED),
                    Json.write(new Moved(asset, slashed(old.relativize(now)), null)));
            Path data = Path.of(LibraryLayout.DATA, entry);
            Files.createDirectories(building.resolve(LibraryLayout.DATA));
            point(now.resolve(data), building.resolve(data), old.resolve(LibraryLayout.DATA));
            if (standsAt(old)) {
                incoming.remove(old);
            }
            Files.createDirectories(old.getParent());
            AtomicFiles.publishFolder(building, old);
        }
    }

    /**
     * A version of an asset that is in another library.
     *
     * @param version its name
     * @param folder where it is
     * @param entry the name of the layer through which it is used
     */
    record Elsewhere(String version, Path folder, String entry) {
        /** Lets it be found from where the asset's folder is now. */
        void leadFrom(Path asset, String id, Incoming incoming) throws IOException {
            leaveVersion(asset.resolve(version), folder, entry, id, incoming);
        }
    }

    /** The versions of an asset that are in other libraries, as an asset's folder tells that stood in another place. */
    static List<Elsewhere> versionsElsewhere(Path asset, Path stood) throws IOException {
        List<Elsewhere> all = new ArrayList<>();
        for (Path each : versionsElsewhere(asset)) {
            String version = each.getFileName().toString();
            Path folder = stood.resolve(version)
                    .resolve(Json.read(each.resolve(LibraryLayout.MOVED), Moved.class)
                            .to())
                    .normalize();
            try (Stream<Path> files = Files.list(each.resolve(LibraryLayout.DATA))) {
                files.map(file -> file.getFileName().toString())
                        .filter(entry ->
                                Files.exists(folder.resolve(LibraryLayout.DATA).resolve(entry)))
                        .forEach(entry -> all.add(new Elsewhere(version, folder, entry)));
            }
        }
        return all;
    }

    private static List<Path> versionsElsewhere(Path asset) throws IOException {
        try (Stream<Path> inside = Files.list(asset)) {
            return inside.filter(path -> VersionName.matches(path.getFileName().toString()) && standsAt(path))
                    .sorted()
                    .toList();
        }
    }

    /**
     * Lets what stood for an asset stand for another one's ready version.
     *
     * @param old the folder where the asset stood, and where nothing is now
     * @param was its id
     * @param layers the layers that others may name, with the names of their root prims
     * @param place from the other asset's space to this one's
     */
    static void leaveInstead(Path old, String was, Map<Path, String> layers, Asset other, Matrix4 place)
            throws IOException {
        lead(old, other, was);
        for (Map.Entry<Path, String> layer : layers.entrySet()) {
            Path stub = layer.getKey();
            Files.createDirectories(stub.getParent());
            Layer made = Layer.inMetres(stub, layer.getValue());
            boolean same = place.equals(Matrix4.IDENTITY);
            PrimSpec root = made.root().define(same ? "" : "Xform", layer.getValue());
            // A placement's own transform takes the place of the root's: what turns the other asset hangs below it.
            PrimSpec prim = same ? root : root.define("Xform", BELOW);
            if (!same) {
                Xforms.setMatrix(prim, place);
            }
            prim.setReferences(Reference.to(slashed(stub.getParent().relativize(other.readyLayer()))));
            LayerFiles.write(made, stub);
        }
    }

    /** Writes a layer that stands for another one; tells its root prim's name. */
    private static String point(Path target, Path stub) throws IOException {
        Files.createDirectories(stub.getParent());
        return point(target, stub, stub.getParent());
    }

    /** As above, of one that is written elsewhere than where it will stand. */
    private static String point(Path target, Path stub, Path standing) {
        String root = LayerFiles.read(target)
                .defaultPrim()
                .orElseThrow(() -> new LibraryException(target, "the layer has no default prim"));
        Layer layer = Layer.inMetres(stub, root);
        PrimSpec prim = layer.root().define("", root);
        prim.setReferences(Reference.to(slashed(standing.relativize(target))));
        LayerFiles.write(layer, stub);
        return root;
    }

    static String slashed(Path relative) {
        String path = relative.toString().replace('\\', '/');
        return path.startsWith(".") ? path : "./" + path;
    }

    /** Whether a folder is what an asset left where it stood, which makes room where that comes back. */
    static boolean isOf(Path folder, String id) {
        try {
            return standsAt(folder)
                    && Json.read(folder.resolve(LibraryLayout.MOVED), Moved.class)
                            .isOf(id);
        } catch (PantryException e) {
            // Whatever it was, it is not this asset's: the place counts as taken.
            return false;
        }
    }
}
