package pantry.project;

import java.nio.file.Path;

/**
 * What is done to one file.
 *
 * @param places how many places in it are changed
 * @param rewrite makes the file's new contents of those that it has
 */
public record FileEdit(Path file, int places, Rewrite rewrite) {
    /** How a file's contents become others. */
    @FunctionalInterface
    public interface Rewrite {
        /**
         * The new contents.
         *
         * @throws pantry.base.PantryException where they are not what the edit was planned for
         */
        byte[] of(byte[] before);
    }
}
