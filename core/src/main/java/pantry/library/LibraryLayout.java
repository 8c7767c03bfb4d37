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
    static final String CARD = "card.json";
    static final String MARKER = "pantry-library.json";
    static final String ASSETS = "assets";

    private LibraryLayout() {}

    /** The versions in an asset's folder, in order; links are none. */
    static List<String> versions(Path folder) {
        try (Stream<Path> inside = Files.list(folder)) {
            return inside.filter(
                            path -> VersionName.matches(path.getFileName().toString()) && !Files.isSymbolicLink(path))
                    .map(path -> path.getFileName().toString())
                    .sorted(VersionName.ORDER)
                    .toList();
        } catch (IOException e) {
            throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
        }
    }
}
