/**
 * What is worked on when an asset or a file is cleaned, or an object of a scene: {@link pantry.workpiece.Workpiece} is an
 * open layer with undo, {@link pantry.workpiece.Tidying} a change of it, {@link pantry.workpiece.Subject} what stands in
 * it as rules and tools see it, {@link pantry.workpiece.Shelving} its way into a library.
 */
@NullMarked
package pantry.workpiece;

import org.jspecify.annotations.NullMarked;
