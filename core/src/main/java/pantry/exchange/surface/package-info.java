/** Reads the formats that hold little more than surfaces: OBJ with its materials, PLY and STL. */
@NullMarked
package pantry.exchange.surface;

import org.jspecify.annotations.NullMarked;
