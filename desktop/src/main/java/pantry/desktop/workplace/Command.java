package pantry.desktop.workplace;

import java.util.Arrays;
import java.util.List;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;

/**
 * Something that can be done, found by its name and perhaps by a key.
 *
 * @param keys combinations that do it; the first is shown
 */
public record Command(String name, List<KeyCombination> keys, Runnable action) {
    /** A command that has no key. */
    public static Command of(String name, Runnable action) {
        return of(name, "", action);
    }

    /**
     * A command with keys.
     *
     * @param keys combinations as {@link KeyCombination#valueOf} reads them, with spaces between; empty for none
     */
    public static Command of(String name, String keys, Runnable action) {
        List<KeyCombination> combinations = Arrays.stream(keys.split(" "))
                .filter(key -> !key.isEmpty())
                .map(Command::combination)
                .toList();
        return new Command(name, combinations, action);
    }

    /** What the toolkit does not know by name, it takes for a character that no key ever types. */
    private static KeyCombination combination(String key) {
        KeyCombination combination = KeyCombination.valueOf(key);
        if (!(combination instanceof KeyCodeCombination)) {
            throw new IllegalArgumentException(key + " is no key");
        }
        return combination;
    }

    public boolean matches(KeyEvent event) {
        return keys.stream().anyMatch(key -> key.match(event));
    }

    /** The first key as a person reads it; empty where there is none. */
    public String keyText() {
        return keys.isEmpty() ? "" : keys.getFirst().getDisplayText();
    }
}
