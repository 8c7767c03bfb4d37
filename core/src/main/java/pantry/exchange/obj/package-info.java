/** Reading and writing OBJ with its material libraries. */
@NullMarked
package pantry.exchange.obj;

import org.jspecify.annotations.NullMarked;
