package pantry.library;

/**
 * A library's own facts, as its marker file holds them.
 *
 * @param unit metres per unit
 * @param upAxis {@code Y}
 */
public record LibraryInfo(String id, String name, int format, double unit, String upAxis) {
    /** The newest format that this Pantry makes and understands. */
    static final int NEWEST = 2;

    /** Since this format cards say on which shelf they stand. */
    private static final int WITH_SHELF = 2;

    /** Whether cards say on which shelf they stand. */
    boolean cardsSayShelf() {
        return format >= WITH_SHELF;
    }
}
