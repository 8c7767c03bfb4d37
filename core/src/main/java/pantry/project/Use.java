package pantry.project;

import java.nio.file.Path;

/**
 * What something uses: a version of an asset, or another file.
 *
 * @param target the asset's folder, or the file
 * @param version of the asset; empty for a file
 * @param following whether it shows whatever version is ready, which is this one now
 */
public record Use(Path target, String version, boolean following) {
    static Use ofFile(Path file) {
        return new Use(file, "", false);
    }

    public boolean isOfAsset() {
        return !version.isEmpty();
    }
}
