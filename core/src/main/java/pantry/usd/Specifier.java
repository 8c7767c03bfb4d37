package pantry.usd;

/** Whether a prim spec defines, overrides, or is a class to inherit from. */
public enum Specifier {
    DEF,
    OVER,
    CLASS;

    /** The word in the text format. */
    public String word() {
        return name().toLowerCase(java.util.Locale.ROOT);
    }
}
