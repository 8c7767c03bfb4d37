/**
 * Inspecting and cleaning: {@link pantry.prep.Workpiece} is what is worked on, {@link pantry.prep.Inspection} finds what
 * the {@link pantry.prep.RuleSet} asks for, {@link pantry.prep.Tidy} applies fixes and checks them.
 */
@NullMarked
package pantry.prep;

import org.jspecify.annotations.NullMarked;
