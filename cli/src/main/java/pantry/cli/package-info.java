/** The {@code pantry} command: every capability of the core, scriptable, one class per command. */
@NullMarked
package pantry.cli;

import org.jspecify.annotations.NullMarked;
