/** The workplace where files come in. */
@NullMarked
package pantry.desktop.receive;

import org.jspecify.annotations.NullMarked;
