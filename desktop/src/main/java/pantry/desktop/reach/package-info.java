/** The workplace that tells which scene uses what. */
@NullMarked
package pantry.desktop.reach;

import org.jspecify.annotations.NullMarked;
