/** Vectors, matrices and boxes. Right-handed, metres, row vectors ({@code p' = p * M}), as OpenUSD has them. */
@NullMarked
package pantry.base.math;

import org.jspecify.annotations.NullMarked;
