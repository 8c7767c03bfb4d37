/**
 * Other formats, into and out of {@link pantry.model.Model}.
 */
@NullMarked
package pantry.exchange;

import org.jspecify.annotations.NullMarked;
