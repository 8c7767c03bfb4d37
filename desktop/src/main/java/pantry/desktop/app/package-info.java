/** Starting the application, and the commands that do so. */
@NullMarked
package pantry.desktop.app;

import org.jspecify.annotations.NullMarked;
