/**
 * Reading foreign formats through Assimp in a process of its own, which a bad file may bring down without harm.
 *
 * <p>{@link pantry.exchange.worker.ForeignReader} starts one worker, keeps it, and replaces it when it dies, hangs or
 * grows too large. Requests go through the worker's standard input; what was read comes back in a file that is mapped,
 * never through text.
 */
@NullMarked
package pantry.exchange.worker;

import org.jspecify.annotations.NullMarked;
