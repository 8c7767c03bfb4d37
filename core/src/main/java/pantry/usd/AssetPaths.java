package pantry.usd;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * Finds the files that layers name. Absolute paths are taken as they are. Paths that begin with {@code ./} or {@code
 * ../} are relative to the layer's folder; others too, and where nothing is there, to each search folder in turn.
 * Within a package, paths are relative to the folder of the layer's entry.
 */
public final class AssetPaths {
    /** Without search folders. */
    public static final AssetPaths PLAIN = new AssetPaths(List.of());

    private final List<Path> searchFolders;

    /** @param searchFolders in the order in which they are searched */
    public AssetPaths(List<Path> searchFolders) {
        this.searchFolders = List.copyOf(searchFolders);
    }

    /**
     * The place that an asset path names.
     *
     * @return it need not exist
     */
    public AssetLocation resolve(Layer anchor, String asset) {
        // No system has files with this character in their names, and some refuse to look for them.
        String written = asset.replace('\\', '/').replace('\0', '\ufffd');
        String outer = written;
        String inner = "";
        int bracket = written.indexOf('[');
        if (bracket > 0 && written.endsWith("]")) {
            outer = written.substring(0, bracket);
            inner = written.substring(bracket + 1, written.length() - 1);
        }
        AssetLocation from = anchor.location()
                .orElseGet(() -> AssetLocation.of(Path.of("unsaved").toAbsolutePath()));
        if (from.isPackaged() && inner.isEmpty() && !outer.startsWith("/")) {
            return new AssetLocation(from.file(), withinPackage(from, outer));
        }
        return new AssetLocation(file(from, outer), inner);
    }

    private Path file(AssetLocation from, String asset) {
        Path path = Path.of(asset);
        Path folder = from.file().getParent();
        Path beside =
                folder == null ? path.toAbsolutePath() : folder.resolve(path).normalize();
        if (searchFolders.isEmpty()
                || path.isAbsolute()
                || asset.startsWith("./")
                || asset.startsWith("../")
                || Files.exists(beside)) {
            return beside;
        }
        return searchFolders.stream()
                .map(search -> search.resolve(path).toAbsolutePath().normalize())
                .filter(Files::exists)
                .findFirst()
                .orElse(beside);
    }

    /** An entry named from another: relative to the folder of that one. */
    private static String withinPackage(AssetLocation from, String asset) {
        int slash = from.inside().lastIndexOf('/');
        String folder = slash < 0 ? "" : from.inside().substring(0, slash + 1);
        return Path.of(folder + asset).normalize().toString().replace('\\', '/');
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

    /** The asset path by which a layer in {@code folder} names a place, which may be within a package. */
    public static String relative(Path folder, AssetLocation place) {
        String file = relative(folder, place.file());
        return place.isPackaged() ? file + "[" + place.inside() + "]" : file;
    }
}
