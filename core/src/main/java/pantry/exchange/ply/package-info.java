/** Reading and writing PLY. */
@NullMarked
package pantry.exchange.ply;

import org.jspecify.annotations.NullMarked;
