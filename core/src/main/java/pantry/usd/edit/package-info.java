/**
 * Editing of stages: transactions that can be undone, in any layer of the stack or inside a variant, with notices of
 * what changed. {@link pantry.usd.edit.StageEditor} is the way in.
 */
@NullMarked
package pantry.usd.edit;

import org.jspecify.annotations.NullMarked;
