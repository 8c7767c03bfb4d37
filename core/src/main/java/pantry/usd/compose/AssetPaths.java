package pantry.usd.compose;

import java.nio.file.Path;
import pantry.usd.Layer;

/** Where the files are that layers name. */
public final class AssetPaths {
    private AssetPaths() {}

    /**
     * The file that an asset path names: absolute paths as they are, others relative to the layer's folder.
     *
     * @return absolute and normalized; it need not exist
     */
    public static Path resolve(Layer anchor, String asset) {
        Path path = Path.of(asset.replace('\\', '/'));
        Path folder =
                anchor.file().map(Path::getParent).orElseGet(() -> Path.of("").toAbsolutePath());
        return folder.resolve(path).normalize();
    }

    /** The asset path by which a layer in {@code folder} names a file: relative, with forward slashes. */
    public static String relative(Path folder, Path file) {
        Path from = folder.toAbsolutePath().normalize();
        Path to = file.toAbsolutePath().normalize();
        if (from.getRoot() != null && !from.getRoot().equals(to.getRoot())) {
            return to.toString().replace('\\', '/');
        }
        String path = from.relativize(to).toString().replace('\\', '/');
        return path.startsWith(".") ? path : "./" + path;
    }
}
