package pantry.scene;

import java.nio.file.Path;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/**
 * One use of an asset or file in a scene.
 *
 * @param layer the file that it refers to
 * @param version the version it is pinned to; empty where it is not
 */
public record Placement(SdfPath path, Held held, Path layer, String version, TransformComponents placing) {
    /** How a placement holds on to what it shows. */
    public enum Held {
        /** Tied to one sealed version. */
        PINNED,
        /** Shows whatever version is ready. */
        FOLLOWING,
        /** A file that is not of a library. */
        FILE,
        /** What it refers to is not there. */
        MISSING,
        /** What it refers to lies where nothing may be read, and nobody looked whether it is there. */
        REFUSED
    }

    /** What a reference leads to. */
    record Target(Path file, Held held, String version) {
        Placement placed(SdfPath path, TransformComponents placing) {
            return new Placement(path, held, file, version, placing);
        }
    }

    public String name() {
        return path.name();
    }
}
