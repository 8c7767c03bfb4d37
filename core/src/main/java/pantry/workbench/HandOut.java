package pantry.workbench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import pantry.base.IoProblems;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.ModelWriters;
import pantry.library.Asset;
import pantry.scene.Scene;
import pantry.usd.compose.Flattener;
import pantry.usd.file.LayerFiles;

/** Writes assets as files for other programs. */
public final class HandOut {
    /** The endings of the formats in which assets can be handed out. */
    public static final List<String> FORMATS = List.of("glb", "gltf", "usdz", "usdc", "usda", "obj", "ply", "stl");

    private final Workbench workbench;

    HandOut(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * Writes a version of an asset as one file, with what belongs beside it.
     *
     * @param ending one of {@link #FORMATS}
     * @param folder made where it is missing
     * @return the file
     */
    public Path write(Asset asset, String version, String ending, Path folder, Progress progress) {
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw new PantryException(folder, "cannot be made: " + IoProblems.describe(e), e);
        }
        progress.step("writing " + asset.card().name(), -1);
        Path file = folder.resolve(asset.slug() + "." + ending);
        write(asset.entryLayer(version), file);
        return file;
    }

    /** Writes a USD layer, composed, in the format that a file's ending tells; gives what it shows. */
    public pantry.exchange.Model write(Path layer, Path file) {
        Scene scene = workbench.openScene(layer);
        if (LayerFiles.isLayer(file.toString())) {
            LayerFiles.write(Flattener.flatten(scene.stage(), Flattener.Instances.SHARED, file), file);
        } else {
            ModelWriters.write(scene.model(), file);
        }
        return scene.model();
    }
}
