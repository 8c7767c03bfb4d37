package pantry.library;

/**
 * A way to put a problem right.
 *
 * @param name by which the command line takes it
 * @param words what it does
 * @param action does it; destroys nothing
 */
public record Repair(String name, String words, Runnable action) {}
