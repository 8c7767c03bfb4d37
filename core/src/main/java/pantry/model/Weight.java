package pantry.model;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.Set;

/**
 * What a scene or model weighs, in the field names that scripts rely on.
 *
 * @param trianglesStored each mesh once
 * @param trianglesDrawn each mesh as often as it stands somewhere
 * @param placements uses of assets and files
 * @param objects nodes, those inside instances as often as they stand somewhere
 * @param textureBytes image files, each once
 * @param fileBytes the layers that are used, each once
 */
public record Weight(
        long trianglesStored, long trianglesDrawn, int placements, int objects, long textureBytes, long fileBytes) {
    public static final Weight NOTHING = new Weight(0, 0, 0, 0, 0, 0);

    /** The weight of a model that is not a scene. */
    public static Weight of(Model model) {
        return of(model, 0, Set.of());
    }

    /**
     * The weight of what a scene shows.
     *
     * @param layers the files of the layers that it uses
     */
    public static Weight of(Model model, int placements, Set<Path> layers) {
        Set<Path> images = new LinkedHashSet<>();
        for (Texture texture : model.textures()) {
            texture.file().ifPresent(images::add);
        }
        return new Weight(
                model.trianglesStored(),
                model.trianglesDrawn(),
                placements,
                model.objects(),
                bytes(images),
                bytes(layers));
    }

    /** The weight of images and files alone. */
    public Weight withoutSurfaces() {
        return new Weight(0, 0, placements, 0, textureBytes, fileBytes);
    }

    /** The weight of this and another thing beside each other; what both use is counted for each. */
    public Weight plus(Weight other) {
        return new Weight(
                trianglesStored + other.trianglesStored,
                trianglesDrawn + other.trianglesDrawn,
                placements + other.placements,
                objects + other.objects,
                textureBytes + other.textureBytes,
                fileBytes + other.fileBytes);
    }

    private static long bytes(Set<Path> files) {
        long sum = 0;
        for (Path file : files) {
            try {
                sum += Files.size(file);
            } catch (IOException e) {
                // A file that is gone weighs nothing.
            }
        }
        return sum;
    }
}
