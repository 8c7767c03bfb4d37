package pantry.usd.compose;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.HashMap;
import java.util.Map;
import pantry.base.FileGate;
import pantry.base.IoProblems;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.UsdException;
import pantry.usd.file.Assets;
import pantry.usd.file.LayerFiles;

/**
 * Keeps layers that were read and reads them again when their files have changed. To be used by any thread; the layers
 * themselves must then not be edited.
 */
public final class LayerCache implements Layers {
    private final Map<AssetLocation, Entry> entries;
    private final AssetPaths paths;
    private final FileGate gate;

    private record Entry(Layer layer, FileTime modified, long size) {}

    /** Of layers anywhere: for those that Pantry makes itself. */
    public LayerCache() {
        this(FileGate.OPEN);
    }

    /** @param gate which layers may be opened, and which files they may name */
    public LayerCache(FileGate gate) {
        this(AssetPaths.PLAIN, gate);
    }

    /** @param paths how the layers' asset paths are resolved */
    public LayerCache(AssetPaths paths, FileGate gate) {
        this(new HashMap<>(), paths, gate);
    }

    private LayerCache(Map<AssetLocation, Entry> entries, AssetPaths paths, FileGate gate) {
        this.entries = entries;
        this.paths = paths;
        this.gate = gate;
    }

    /** The same kept layers, as far as another gate admits them. */
    public LayerCache through(FileGate other) {
        return new LayerCache(entries, paths, other);
    }

    /** A cache of its own with the same paths and gate. */
    public LayerCache fresh() {
        return new LayerCache(paths, gate);
    }

    /** The layer of a file. */
    public Layer open(Path file) {
        return open(AssetLocation.of(file));
    }

    @Override
    public Layer open(AssetLocation location) {
        Assets.require(location, gate);
        synchronized (entries) {
            return opened(location);
        }
    }

    private Layer opened(AssetLocation location) {
        Entry known = entries.get(location);
        Path file = location.file();
        FileTime modified;
        long size;
        try {
            modified = Files.getLastModifiedTime(file);
            size = Files.size(file);
        } catch (IOException e) {
            entries.remove(location);
            throw new UsdException(file, "cannot be opened: " + IoProblems.describe(e), e);
        }
        if (known == null || !known.modified.equals(modified) || known.size != size) {
            known = new Entry(LayerFiles.read(location), modified, size);
            entries.put(location, known);
        }
        return known.layer();
    }

    @Override
    public AssetLocation resolve(Layer anchor, String asset) {
        return paths.resolve(anchor, asset);
    }

    @Override
    public FileGate gate() {
        return gate;
    }
}
