/**
 * The index over libraries, in SQLite or PostgreSQL, and searching, in memory. It holds nothing that the libraries'
 * folders do not: deleting it loses nothing.
 */
@NullMarked
package pantry.catalogue;

import org.jspecify.annotations.NullMarked;
