/** Benchmarks: JMH for single operations, and side-by-side runs against named peers. */
@NullMarked
package pantry.bench;

import org.jspecify.annotations.NullMarked;
