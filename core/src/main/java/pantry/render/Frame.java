package pantry.render;

/**
 * A finished picture.
 *
 * @param argb display colours, row by row from the top, alpha opaque; the renderer's own buffer, good until it draws
 *     again
 * @param ids per pixel the number of the object seen there, -1 for none; likewise shared
 */
public record Frame(int width, int height, int[] argb, int[] ids) {
    /** The object under a pixel; -1 for none and outside the picture. */
    public int id(int x, int y) {
        return x < 0 || y < 0 || x >= width || y >= height ? -1 : ids[y * width + x];
    }
}
