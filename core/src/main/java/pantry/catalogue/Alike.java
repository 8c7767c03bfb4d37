package pantry.catalogue;

/**
 * An asset of nearly the same shape.
 *
 * @param likeness 1 the same, 0 nothing in common
 */
public record Alike(IndexedAsset item, double likeness) {}
