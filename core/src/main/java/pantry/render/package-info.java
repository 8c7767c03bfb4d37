/**
 * Pictures without a graphics card: {@link pantry.render.Renderer} draws a {@link pantry.render.RenderScene} seen by a
 * {@link pantry.render.Camera}, for thumbnails and for the live view alike.
 *
 * <p>Each frame first finds which triangle every pixel sees (tiles over all cores, depth buffer, one list of triangles
 * per tile), then shades each pixel once, by meeting its ray with that triangle. Memory is a few numbers per pixel and
 * a bounded batch of triangles, however many are drawn; instances share their meshes.
 */
@NullMarked
package pantry.render;

import org.jspecify.annotations.NullMarked;
