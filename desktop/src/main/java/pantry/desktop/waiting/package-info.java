/** Workplaces that are not built yet, which say so. */
@NullMarked
package pantry.desktop.waiting;

import org.jspecify.annotations.NullMarked;
