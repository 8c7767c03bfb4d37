/**
 * The tree of placed meshes, materials, lights and cameras in which file formats, USD stages, measures, comparisons and
 * pictures meet ({@link pantry.model.Model}), and what is counted and told of it.
 */
@NullMarked
package pantry.model;

import org.jspecify.annotations.NullMarked;
