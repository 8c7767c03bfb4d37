/** The workplace where files and assets are inspected and cleaned. */
@NullMarked
package pantry.desktop.prep;

import org.jspecify.annotations.NullMarked;
