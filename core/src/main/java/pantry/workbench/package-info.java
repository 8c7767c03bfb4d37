/** The services of the core wired together, for the command and the window alike. */
@NullMarked
package pantry.workbench;

import org.jspecify.annotations.NullMarked;
