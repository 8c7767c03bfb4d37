/** The frame around the workplaces: counter, rail, scale and ledger. */
@NullMarked
package pantry.desktop.frame;

import org.jspecify.annotations.NullMarked;
