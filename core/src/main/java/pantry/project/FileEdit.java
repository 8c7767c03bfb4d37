package pantry.project;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * What is done to one file.
 *
 * @param places how many places in it are changed
 * @param moved where it stands afterwards; empty where it stays
 * @param rewrite makes the file's new contents of those that it has
 */
public record FileEdit(Path file, int places, Optional<Path> moved, Rewrite rewrite) {
    /** Of a file that stays where it is. */
    public FileEdit(Path file, int places, Rewrite rewrite) {
        this(file, places, Optional.empty(), rewrite);
    }

    /** Several edits of one file that stays where it is, one after another, as one. */
    static FileEdit inTurn(List<FileEdit> edits) {
        return new FileEdit(
                edits.getFirst().file(),
                edits.stream().mapToInt(FileEdit::places).sum(),
                before -> {
                    byte[] contents = before;
                    for (FileEdit edit : edits) {
                        contents = edit.rewrite().of(contents);
                    }
                    return contents;
                });
    }

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
