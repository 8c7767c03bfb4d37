package pantry.exchange;

import java.nio.file.Path;
import java.util.Optional;

/**
 * An image that a material uses.
 *
 * @param name as the file that was read writes it
 * @param file where it was found; empty where it is missing
 */
public record Texture(String name, Optional<Path> file) {
    public boolean found() {
        return file.isPresent();
    }
}
