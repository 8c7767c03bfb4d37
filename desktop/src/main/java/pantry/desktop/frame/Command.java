package pantry.desktop.frame;

import java.util.Arrays;
import java.util.List;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;

/**
 * Something that can be done, found by its name and perhaps by a key.
 *
 * @param keys the combinations that do it; the first is shown
 * @param group the workplace's word, or a word for what is everywhere
 */
public record Command(String group, String name, List<KeyCombination> keys, Runnable action) {
    /** @param keys combinations with spaces between; empty for none */
    static Command of(String group, String name, String keys, Runnable action) {
        List<KeyCombination> combinations = Arrays.stream(keys.split(" "))
                .filter(key -> !key.isEmpty())
                .map(Command::combination)
                .toList();
        return new Command(group, name, combinations, action);
    }

    /** What the toolkit does not know by name, it takes for a character that no key ever types. */
    private static KeyCombination combination(String key) {
        KeyCombination combination = KeyCombination.valueOf(key);
        if (!(combination instanceof KeyCodeCombination)) {
            throw new IllegalArgumentException(key + " is no key");
        }
        return combination;
    }

    boolean matches(KeyEvent event) {
        return keys.stream().anyMatch(key -> key.match(event));
    }

    /** The key as a person reads it; empty where there is none. */
    String keyText() {
        return keys.isEmpty() ? "" : keys.getFirst().getDisplayText();
    }
}
