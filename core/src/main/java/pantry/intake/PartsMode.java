package pantry.intake;

/** How an arrival's objects are arranged. */
public enum PartsMode {
    /** Every object in its place in the hierarchy. */
    KEEP,
    /** One mesh for each material. */
    BY_MATERIAL,
    /** One mesh; which of its faces are of which material is kept. */
    SINGLE,
    /** Each connected part an object of its own: what a single mesh is taken apart into. */
    APART;

    /** The word on the command line. */
    public String word() {
        return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }
}
