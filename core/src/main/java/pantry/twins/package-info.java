/** Meshes of the same shape, wherever and however turned they stand: begin with {@link pantry.twins.Twins}. */
@NullMarked
package pantry.twins;

import org.jspecify.annotations.NullMarked;
