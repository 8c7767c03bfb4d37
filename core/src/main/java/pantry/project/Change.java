package pantry.project;

import java.nio.file.Path;

/**
 * One thing that a plan changes: what a place in a file names.
 *
 * @param place the prim or property that names it, with its variants; empty for a sublayer
 * @param before the file that is named
 * @param after the file that shall be
 * @param says what that means, for a person
 */
public record Change(Path file, String place, Path before, Path after, String says) {}
