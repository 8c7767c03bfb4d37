package pantry.intake;

/** What becomes of a file's objects. */
public enum PartsMode {
    /** The hierarchy stays, every part in its place. */
    KEEP,
    /** One mesh for each material. */
    BY_MATERIAL,
    /** One object; its surfaces keep their materials. */
    SINGLE
}
