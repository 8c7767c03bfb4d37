package pantry.usd.compose;

/** How a site comes to contribute to a prim; declared in the standard's order of strength. */
public enum Arc {
    ROOT,
    INHERIT,
    VARIANT,
    REFERENCE,
    PAYLOAD,
    SPECIALIZE
}
