/**
 * The index over libraries, in SQLite with full-text search. It holds nothing that the libraries' folders do not:
 * deleting it loses nothing.
 */
@NullMarked
package pantry.catalogue;

import org.jspecify.annotations.NullMarked;
