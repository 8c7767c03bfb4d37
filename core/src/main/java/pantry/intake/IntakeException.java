package pantry.intake;

import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;

/** An arrival cannot be shelved as it is. */
public final class IntakeException extends PantryException {
    private static final long serialVersionUID = 1L;

    public IntakeException(Path file, String message) {
        super(file, message);
    }

    public IntakeException(Path file, String message, @Nullable Throwable cause) {
        super(file, message, cause);
    }
}
