/** Reading and writing STL. */
@NullMarked
package pantry.exchange.stl;

import org.jspecify.annotations.NullMarked;
