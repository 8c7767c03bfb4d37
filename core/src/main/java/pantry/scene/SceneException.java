package pantry.scene;

import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;

/** A scene cannot be opened, changed or saved as asked. */
public final class SceneException extends PantryException {
    private static final long serialVersionUID = 1L;

    public SceneException(String message) {
        super(message);
    }

    public SceneException(Path file, String message) {
        super(file, message);
    }

    public SceneException(Path file, String message, @Nullable Throwable cause) {
        super(file, message, cause);
    }
}
