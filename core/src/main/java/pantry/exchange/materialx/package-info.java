/** Reading MaterialX documents. */
@NullMarked
package pantry.exchange.materialx;

import org.jspecify.annotations.NullMarked;
