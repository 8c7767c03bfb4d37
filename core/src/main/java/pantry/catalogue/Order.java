package pantry.catalogue;

/** How what was found is sorted. */
public enum Order {
    /** By shelf and name; while words are looked for, the best first. */
    BEST("shelf"),
    NAME("name"),
    /** What was changed last comes first. */
    DATE("date"),
    /** The lightest first. */
    TRIANGLES("triangles"),
    /** The largest first. */
    SIZE("size"),
    /** What most others use comes first. */
    USE("use");

    private final String word;

    Order(String word) {
        this.word = word;
    }

    public String word() {
        return word;
    }
}
