/** How Pantry looks: fonts, style names, icons, small building blocks of forms. */
@NullMarked
package pantry.desktop.controls;

import org.jspecify.annotations.NullMarked;
