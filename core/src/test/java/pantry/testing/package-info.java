/** Small builders and outside checkers for the tests. */
@NullMarked
package pantry.testing;

import org.jspecify.annotations.NullMarked;
