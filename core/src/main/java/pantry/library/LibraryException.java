package pantry.library;

import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;

/** A library cannot be opened, or refuses what is asked of it. */
public final class LibraryException extends PantryException {
    private static final long serialVersionUID = 1L;

    /** A refusal that says by itself whom or what it concerns. */
    public LibraryException(String message) {
        super(message);
    }

    public LibraryException(Path folder, String message) {
        super(folder, message);
    }

    public LibraryException(Path folder, String message, @Nullable Throwable cause) {
        super(folder, message, cause);
    }
}
