/**
 * What people do to a workpiece by hand, and fixes do for them: instances of equal shapes, proxies, plan symbols,
 * pivots, names, levels of detail and shapes for collision.
 */
@NullMarked
package pantry.prep.tools;

import org.jspecify.annotations.NullMarked;
