/**
 * What is wrong with a workpiece: {@link pantry.prep.inspect.Inspection} finds what the
 * {@link pantry.prep.inspect.RuleSet} asks for. A {@link pantry.prep.inspect.Rule} states a
 * {@link pantry.prep.inspect.Finding}, and the {@link pantry.prep.inspect.Fix} where there is one.
 */
@NullMarked
package pantry.prep.inspect;

import org.jspecify.annotations.NullMarked;
