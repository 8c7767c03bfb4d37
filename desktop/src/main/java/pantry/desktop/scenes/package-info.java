/** The workplace where scenes are composed. */
@NullMarked
package pantry.desktop.scenes;

import org.jspecify.annotations.NullMarked;
