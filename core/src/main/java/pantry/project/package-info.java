/**
 * Many files: projects, which of their scenes use what, and changes that reach over all of them.
 *
 * <p>{@link pantry.project.UseIndex} keeps what files say and what is used in them as composed; {@link
 * pantry.project.Reach} answers from it.
 */
@org.jspecify.annotations.NullMarked
package pantry.project;
