/** The workplace with the catalogue. */
@NullMarked
package pantry.desktop.shelves;

import org.jspecify.annotations.NullMarked;
