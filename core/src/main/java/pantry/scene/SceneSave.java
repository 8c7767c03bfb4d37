package pantry.scene;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.base.FileStamp;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.edit.LayerMark;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;

/**
 * What of a scene is not saved, as it was when {@link Scene#unsaved} was asked: written by any thread while the scene is
 * worked on. {@link Scene#saved} takes note of it then.
 */
public final class SceneSave {
    private final Path file;
    private final List<Part> parts;
    private final Layer root;
    private final List<String> actions;
    private Optional<FileStamp> stamp = Optional.empty();

    /** A layer to be written, and which of its states that is. */
    record Part(Layer layer, LayerMark mark) {}

    /**
     * @param file the scene's
     * @param parts copies of the layers that were changed
     * @param root a copy of the scene's own layer
     * @param actions what was done since it was saved, the last first
     */
    SceneSave(Path file, List<Part> parts, Layer root, List<String> actions) {
        this.file = file;
        this.parts = List.copyOf(parts);
        this.root = root;
        this.actions = List.copyOf(actions);
    }

    /**
     * Writes the scene, and those of its sublayers that were changed, to their files; nothing where nothing was changed.
     * What the file held before is kept beside it; see {@link Safekeeping}.
     *
     * @throws SceneException where it cannot be kept
     * @throws pantry.usd.UsdException where a file cannot be written
     */
    public void write() {
        if (!parts.isEmpty()) {
            Safekeeping.keepBefore(file);
            for (Part part : parts) {
                LayerFiles.write(part.layer(), part.layer().file().orElseThrow());
            }
            Safekeeping.forget(file);
        }
        stamp = Safekeeping.stamp(file);
    }

    /** Writes the scene beside its file, so that it is not lost; nothing where nothing was changed. */
    public void autosave() {
        if (!parts.isEmpty()) {
            Path kept = Safekeeping.autosaved(file);
            Safekeeping.tell(file, actions);
            LayerFiles.write(LayerAssets.copied(root, AssetLocation.of(kept)), kept);
        }
    }

    List<Part> parts() {
        return parts;
    }

    /** What tells the file that was written from another of its name. */
    Optional<FileStamp> stamp() {
        return stamp;
    }
}
