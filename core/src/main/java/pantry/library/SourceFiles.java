package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/** The files that an asset's versions were made of, as the versions keep them. */
public final class SourceFiles {
    /** The folder that holds them, beside a version's layers. */
    public static final String FOLDER = "source";

    private SourceFiles() {}

    /**
     * A file in a version's folder of sources.
     *
     * @param version the version's folder
     */
    public record Source(Path version, Path file, long bytes) {
        /** Whether its version was made of this file, and not of one that this file came along with. */
        public boolean isMain() {
            try {
                return file.getFileName().toString().equals(Bag.info(version).get(Identity.SOURCE));
            } catch (IOException e) {
                return false;
            }
        }
    }

    /**
     * The sources of all versions; empty where the folder cannot be read.
     *
     * @param folder an asset's
     */
    public static List<Source> of(Path folder) {
        List<Source> all = new ArrayList<>();
        try {
            for (String name : LibraryLayout.versions(folder)) {
                Path version = folder.resolve(name);
                Path sources = version.resolve(LibraryLayout.DATA).resolve(FOLDER);
                if (!Files.isDirectory(sources)) {
                    continue;
                }
                try (Stream<Path> files = Files.list(sources)) {
                    for (Path file : files.filter(Files::isRegularFile).toList()) {
                        all.add(new Source(version, file, Files.size(file)));
                    }
                }
            }
        } catch (IOException | LibraryException e) {
            return List.of();
        }
        return all;
    }
}
