package pantry.intake;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/**
 * Where an arrival comes from, told so that it means the same in another session: a file, or a place in an archive.
 *
 * @param file the file itself, or the archive
 * @param inside the path in the archive, with {@code /} between its names; absent for a file that stands by itself
 */
public record Origin(Path file, Optional<String> inside) {
    private static final String BETWEEN = "!/";

    /** A file that stands by itself. */
    public static Origin of(Path file) {
        return new Origin(file, Optional.empty());
    }

    /** As {@link #toString} has told it; what is no archive with something behind it is a file's path. */
    public static Origin parse(String text) {
        int at = text.lastIndexOf(BETWEEN);
        if (at > 0) {
            Path archive = Path.of(text.substring(0, at));
            if (Files.isRegularFile(archive)) {
                return new Origin(archive, Optional.of(text.substring(at + BETWEEN.length())));
            }
        }
        return of(Path.of(text));
    }

    /** The file's path; for a place in an archive {@code archive.zip!/folder/file}. */
    @Override
    public String toString() {
        return file + inside.map(path -> BETWEEN + path).orElse("");
    }
}
