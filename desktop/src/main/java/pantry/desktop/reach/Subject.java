package pantry.desktop.reach;

import java.nio.file.Path;

/** What is looked at. */
public sealed interface Subject {
    /** All projects. */
    Subject ALL = new Everything();

    record Everything() implements Subject {}

    /** @param id of the asset */
    record OfAsset(String id) implements Subject {}

    /** @param file of a project */
    record OfFile(Path file) implements Subject {}

    /** Whether a file is meant. */
    default boolean isOf(Path file) {
        return !(this instanceof OfFile(Path wanted)) || wanted.equals(file);
    }
}
