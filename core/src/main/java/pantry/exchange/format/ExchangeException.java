package pantry.exchange.format;

import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;

/** A file of another format cannot be read or written. */
public final class ExchangeException extends PantryException {
    private static final long serialVersionUID = 1L;

    public ExchangeException(Path file, String message) {
        super(file, message);
    }

    public ExchangeException(Path file, String message, @Nullable Throwable cause) {
        super(file, message, cause);
    }

    /** @param place where in the file */
    public ExchangeException(Path file, String place, String message) {
        super(file.toString(), place, message, null);
    }
}
