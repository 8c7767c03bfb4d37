package pantry.base;

import java.nio.file.Path;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The root of Pantry's own failures: something outside the program (a file, a folder, a worker, a request) is not as
 * it has to be.
 *
 * <p>The message is one line for a person: what happened and, where it helps, what to do. The file and the place in
 * it are kept apart, so that the window can offer to open the file; {@link #line()} puts all of them together.
 */
public class PantryException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final @Nullable String file;
    private final @Nullable String place;

    /** A failure that concerns no single file. */
    public PantryException(String message) {
        this(null, null, message, null);
    }

    /** A failure of one file or folder. */
    public PantryException(Path file, String message) {
        this(file.toString(), null, message, null);
    }

    /** A failure of one file or folder, with what caused it. */
    public PantryException(Path file, String message, @Nullable Throwable cause) {
        this(file.toString(), null, message, cause);
    }

    /**
     * @param file the file as the user would name it, or null
     * @param place where in the file ("line 3, column 7"), or null
     * @param message what was expected, what was found, what to do
     */
    public PantryException(@Nullable String file, @Nullable String place, String message, @Nullable Throwable cause) {
        super(message, cause);
        this.file = file;
        this.place = place;
    }

    /** The file that the failure concerns. */
    public Optional<String> file() {
        return Optional.ofNullable(file);
    }

    /** The place within the file. */
    public Optional<String> place() {
        return Optional.ofNullable(place);
    }

    /** File, place and message in one line, as shown to a person. */
    public String line() {
        return file == null ? reason() : file + ": " + reason();
    }

    /** Place and message, as shown to a person beside the name of the file. */
    public String reason() {
        return place == null ? String.valueOf(getMessage()) : place + ": " + getMessage();
    }
}
