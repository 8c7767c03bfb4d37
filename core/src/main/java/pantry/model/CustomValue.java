package pantry.model;

/**
 * Something that a file says of one of its objects or materials beyond what its format means; kept as it is said.
 *
 * @param object the name of what it is said of; empty for the whole file
 * @param name of the property
 * @param value a text, a {@code Double} or a {@code Boolean}; what is more than that is a text of JSON
 */
public record CustomValue(String object, String name, Object value) {
    /** So many are kept of a file. */
    public static final int MOST = 5_000;
}
