/** Skeletons, their motions, and what they do to the points that hang on them: UsdSkel without a stage. */
@NullMarked
package pantry.motion;

import org.jspecify.annotations.NullMarked;
