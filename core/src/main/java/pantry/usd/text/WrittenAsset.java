package pantry.usd.text;

import pantry.usd.SdfPath;

/**
 * An asset path where it stands in a text layer.
 *
 * @param place the prim or property that has it, with its variants; the root for the layer itself
 * @param path without its at-signs
 * @param from the first byte of it, at-signs included
 * @param to the byte behind it
 */
public record WrittenAsset(SdfPath place, String path, int from, int to) {}
