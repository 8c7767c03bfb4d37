package pantry.workpiece;

import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;

/** Something cannot be inspected, cleaned or saved as asked. */
public final class PrepException extends PantryException {
    private static final long serialVersionUID = 1L;

    public PrepException(String message) {
        super(message);
    }

    public PrepException(Path file, String message) {
        super(file, message);
    }

    /** @param place where in the file, such as a line; or null */
    public PrepException(Path file, @Nullable String place, String message, @Nullable Throwable cause) {
        super(file.toString(), place, message, cause);
    }
}
