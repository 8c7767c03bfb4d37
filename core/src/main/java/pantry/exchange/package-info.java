/**
 * Other formats, into and out of {@link pantry.exchange.Model}: a tree of placed meshes with materials, which stands
 * between files, USD stages, measures and pictures.
 */
@NullMarked
package pantry.exchange;

import org.jspecify.annotations.NullMarked;
