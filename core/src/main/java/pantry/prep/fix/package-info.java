/**
 * Puts findings right: {@link pantry.prep.fix.Tidy} applies fixes and takes back those that do not keep what they
 * promised.
 */
@NullMarked
package pantry.prep.fix;

import org.jspecify.annotations.NullMarked;
