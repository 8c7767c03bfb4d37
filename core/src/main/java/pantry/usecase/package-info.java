/**
 * What people do with Pantry, a class each: options in, progress and cancel, a result out. The command and the window
 * both call these and only present them.
 */
@NullMarked
package pantry.usecase;

import org.jspecify.annotations.NullMarked;
