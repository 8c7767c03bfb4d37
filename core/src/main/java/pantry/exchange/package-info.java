/**
 * Files of all formats into and out of {@link pantry.model.Model}: {@link pantry.exchange.FileReaders} and
 * {@link pantry.exchange.ModelWriters} choose among the packages below, one for each format.
 */
@NullMarked
package pantry.exchange;

import org.jspecify.annotations.NullMarked;
