package pantry.desktop.workplace;

/**
 * A key, or several, and what it does, for the list of keys.
 *
 * @param keys as a person reads them
 */
public record KeyHint(String keys, String meaning) {}
