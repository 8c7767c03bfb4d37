package pantry.desktop.frame;

import java.util.Optional;
import javafx.scene.input.KeyCombination;

/**
 * Something that can be done, found by its name and perhaps by a key.
 *
 * @param group the workplace's word, or a word for what is everywhere
 */
public record Command(String group, String name, Optional<KeyCombination> key, Runnable action) {
    static Command of(String group, String name, String key, Runnable action) {
        return new Command(
                group, name, key.isEmpty() ? Optional.empty() : Optional.of(KeyCombination.valueOf(key)), action);
    }
}
