package pantry.usd;

import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;

/** A layer cannot be read, written or edited as asked. */
public final class UsdException extends PantryException {
    private static final long serialVersionUID = 1L;

    /** A failure at a place of a layer file. */
    public UsdException(String file, @Nullable String place, String message, @Nullable Throwable cause) {
        super(file, place, message, cause);
    }

    /** A failure of a layer file as a whole. */
    public UsdException(Path file, String message, @Nullable Throwable cause) {
        super(file, message, cause);
    }

    /** A failure of a request, such as an ill-formed path. */
    public UsdException(String message) {
        super(message);
    }
}
