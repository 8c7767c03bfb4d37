/** Networks of shading nodes: what they say, what they come to at a place of a surface, and images made of that. */
@NullMarked
package pantry.shading;

import org.jspecify.annotations.NullMarked;
