/** Rigid bodies that fall, push each other and come to rest. Knows shapes and figures, no scene. */
@NullMarked
package pantry.settle;

import org.jspecify.annotations.NullMarked;
