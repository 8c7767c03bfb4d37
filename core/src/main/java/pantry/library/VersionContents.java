package pantry.library;

import java.io.IOException;
import java.nio.file.Path;

/** Fills the payload of a version that is being made. */
@FunctionalInterface
public interface VersionContents {
    /**
     * @param data an empty folder, to be filled with the entry layer {@code <slug>.usda} and all it needs
     * @param slug the asset's folder name
     * @param version such as {@code v001}
     */
    void write(Path data, String slug, String version) throws IOException;
}
