/**
 * A file system that fails at a chosen change: for trying what an operation leaves behind wherever it is stopped.
 *
 * <p>It stands before the system's own and passes everything on; changes are counted, and from the chosen one on either
 * nothing more happens, as if the process had been killed, or nothing more can be written, as on a full disk.
 */
@NullMarked
package pantry.testing.faults;

import org.jspecify.annotations.NullMarked;
