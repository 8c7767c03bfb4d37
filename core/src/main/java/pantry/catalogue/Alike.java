package pantry.catalogue;

/**
 * An asset of nearly the same shape.
 *
 * @param likeness 1 the same, 0 nothing in common
 * @param sameFile whether a version of it was made of the very same file
 */
public record Alike(IndexedAsset item, double likeness, boolean sameFile) {
    /** From here on, a shape is the same but for rounding. */
    public static final double SAME = 0.995;

    /** Whether the shapes are the same, at whatever size. */
    public boolean isSameShape() {
        return likeness >= SAME;
    }
}
