/**
 * Scenes: what stands in them, changed by operations that can each be undone, kept as plain USD layers with relative
 * references into libraries.
 */
@NullMarked
package pantry.scene;

import org.jspecify.annotations.NullMarked;
