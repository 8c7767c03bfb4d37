/**
 * What differs between two states of a model: objects, places, shapes, materials, and the distance of their surfaces.
 */
@NullMarked
package pantry.compare;

import org.jspecify.annotations.NullMarked;
