package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import pantry.base.AtomicFiles;
import pantry.base.Json;
import pantry.base.PantryException;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.file.LayerFiles;

/**
 * What is left where an asset stood before: a file that says where it went, and small layers under the old names that
 * reference the new ones. Nothing that referenced the asset breaks, whoever opens it.
 */
final class Redirects {
    private static final String FILE = "moved.json";

    private Redirects() {}

    /** @param to the new folder, relative to this one */
    private record Moved(String id, String to) {}

    static boolean standsAt(Path folder) {
        return Files.exists(folder.resolve(FILE));
    }

    /** Where the asset went that stood in a folder. */
    static Optional<Path> target(Path folder) {
        if (!standsAt(folder)) {
            return Optional.empty();
        }
        try {
            return Optional.of(
                    folder.resolve(Json.read(folder.resolve(FILE), Moved.class).to())
                            .normalize());
        } catch (PantryException e) {
            return Optional.empty();
        }
    }

    /** @param old the folder where the asset stood, and where nothing is now */
    static void leave(Path old, Asset now) throws IOException {
        Files.createDirectories(old);
        AtomicFiles.write(
                old.resolve(FILE), Json.write(new Moved(now.card().id(), slashed(old.relativize(now.folder())))));
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

    /** Writes a layer that stands for another one; tells its root prim's name. */
    private static String point(Path target, Path stub) throws IOException {
        Files.createDirectories(stub.getParent());
        String root = LayerFiles.read(target)
                .defaultPrim()
                .orElseThrow(() -> new LibraryException(target, "the layer has no default prim"));
        Layer layer = Layer.inMetres(stub, root);
        PrimSpec prim = layer.root().define("", root);
        prim.setReferences(Reference.to(slashed(stub.getParent().relativize(target))));
        LayerFiles.write(layer, stub);
        return root;
    }

    static String slashed(Path relative) {
        String path = relative.toString().replace('\\', '/');
        return path.startsWith(".") ? path : "./" + path;
    }

    /** Whether a folder is the signpost of an asset, which makes room where that comes back. */
    static boolean isOf(Path folder, String id) {
        try {
            return standsAt(folder)
                    && Json.read(folder.resolve(FILE), Moved.class).id().equals(id);
        } catch (PantryException e) {
            // Whatever it was, it is not this asset's: the place counts as taken.
            return false;
        }
    }
}
