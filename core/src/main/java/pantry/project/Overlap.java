package pantry.project;

/**
 * Something that would stand in something else, and does not now, or not as deep.
 *
 * @param thing the prim that would
 * @param other the prim in which
 * @param depth how far, metres
 */
public record Overlap(String thing, String other, double depth) {}
