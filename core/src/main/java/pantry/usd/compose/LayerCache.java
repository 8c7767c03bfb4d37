package pantry.usd.compose;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.HashMap;
import java.util.Map;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.UsdException;
import pantry.usd.text.UsdaReader;

/**
 * Keeps layers that were read and reads them again when their files have changed. To be used by any thread; the layers
 * themselves must then not be edited.
 */
public final class LayerCache implements Layers {
    private final Map<Path, Entry> entries = new HashMap<>();

    private record Entry(Layer layer, FileTime modified, long size) {}

    @Override
    public synchronized Layer open(Path file) {
        Path key = file.toAbsolutePath().normalize();
        Entry known = entries.get(key);
        FileTime modified;
        long size;
        try {
            modified = Files.getLastModifiedTime(key);
            size = Files.size(key);
        } catch (IOException e) {
            entries.remove(key);
            throw new UsdException(key, "cannot be opened: " + pantry.base.IoProblems.describe(e), e);
        }
        if (known == null || !known.modified.equals(modified) || known.size != size) {
            known = new Entry(UsdaReader.read(key), modified, size);
            entries.put(key, known);
        }
        return known.layer();
    }
}
