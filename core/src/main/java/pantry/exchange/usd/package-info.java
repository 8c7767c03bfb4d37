/** The model out of OpenUSD stages, and back into layers. */
@NullMarked
package pantry.exchange.usd;

import org.jspecify.annotations.NullMarked;
