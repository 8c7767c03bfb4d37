package pantry.desktop.session;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import javafx.scene.image.Image;
import pantry.catalogue.IndexedAsset;

/** Pictures of assets, loaded in the background at the size shown; the least lately used go first. Interface thread. */
public final class AssetPictures {
    private static final int KEPT = 600;
    private static final int LOADED_SIZE = 256;

    private final Map<Path, Image> images = new LinkedHashMap<>(64, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Path, Image> eldest) {
            if (size() > KEPT) {
                // One that is still on its way is no longer wanted: it has been scrolled past.
                eldest.getValue().cancel();
                return true;
            }
            return false;
        }
    };

    /** The picture in a file; still empty while it is loaded. */
    public Image get(Path file) {
        return images.computeIfAbsent(
                file, path -> new Image(path.toUri().toString(), LOADED_SIZE, LOADED_SIZE, true, true, true));
    }

    /** The picture of the version that an asset shows. */
    public Image get(IndexedAsset item) {
        return get(Path.of(item.folder(), item.version(), "data", "preview.png"));
    }
}
