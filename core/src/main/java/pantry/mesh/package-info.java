/** Polygon meshes: their arrays, triangulation, welding and measures. */
@NullMarked
package pantry.mesh;

import org.jspecify.annotations.NullMarked;
