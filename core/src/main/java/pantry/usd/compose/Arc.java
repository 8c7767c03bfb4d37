package pantry.usd.compose;

/** How a site comes to contribute to a prim; declared in the standard's order of strength. */
public enum Arc {
    ROOT,
    INHERIT,
    VARIANT,
    REFERENCE,
    PAYLOAD,
    SPECIALIZE;

    /** Whether the arc is to a class, so that whoever brings in its owner can refine the class too. */
    boolean isClass() {
        return this == INHERIT || this == SPECIALIZE;
    }

    /** The arc's word for a person. */
    public String word() {
        return name().toLowerCase(java.util.Locale.ROOT);
    }
}
