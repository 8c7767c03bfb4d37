package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import pantry.base.IoProblems;

/** The names that a library's files and folders have. */
final class LibraryLayout {
    static final String READY_LAYER = "ready.usda";
    /** Tells where an asset or a version went that stood in a folder. */
    static final String MOVED = "moved.json";

    static final String CARD = "card.json";
    static final String MARKER = "pantry-library.json";
    static final String ASSETS = "assets";
    static final String DATA = "data";

    private LibraryLayout() {}

    /** The versions in an asset's folder, in order; links are none, and neither is what leads to an archive. */
    static List<String> versions(Path folder) {
        try (Stream<Path> inside = Files.list(folder)) {
            return inside.filter(path -> VersionName.matches(path.getFileName().toString())
                            && !Files.isSymbolicLink(path)
                            && !Files.exists(path.resolve(MOVED)))
                    .map(path -> path.getFileName().toString())
                    .sorted(VersionName.ORDER)
                    .toList();
        } catch (IOException e) {
            throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /**
     * The layer through which a version is used.
     *
     * @param folder the asset's
     */
    static Path entryLayer(Path folder, String version) {
        Path data = folder.resolve(version).resolve(DATA);
        Path named = data.resolve(folder.getFileName() + ".usda");
        if (Files.exists(named)) {
            return named;
        }
        // The folder was renamed after the version was sealed: the layer keeps its name.
        try (Stream<Path> files = Files.list(data)) {
            return files.filter(file -> {
                        String name = file.getFileName().toString();
                        return name.endsWith(".usda") && !name.endsWith(".geom.usda");
                    })
                    .findFirst()
                    .orElse(named);
        } catch (IOException e) {
            return named;
        }
    }
}
