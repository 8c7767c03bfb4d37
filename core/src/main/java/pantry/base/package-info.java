/**
 * What everything else stands on: errors, progress and cancellation, atomic files, hashing, names and JSON.
 *
 * <p>Depends on nothing of Pantry.
 */
@NullMarked
package pantry.base;

import org.jspecify.annotations.NullMarked;
