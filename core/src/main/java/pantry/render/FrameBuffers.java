package pantry.render;

import java.util.Arrays;

/** What is known of each pixel of a picture, and the triangles that wait for its tiles. */
final class FrameBuffers {
    /** Pixels along the side of a tile. */
    static final int TILE = 128;

    final int width;
    final int height;
    final int tilesAcross;
    final int tileCount;

    /** One over the distance of what is seen; 0 where nothing is. */
    final float[] depth;

    /** The number of the draw instance that is seen; -1 where none is. */
    final int[] use;

    /** The number of the triangle of that instance's mesh, or {@link DrawInstance#DOT}. */
    final int[] triangle;

    final int[] argb;

    /** The numbers of the objects that are seen, as {@link Frame} hands them out. */
    final int[] ids;

    /** One for each thread. */
    final TriangleBatch[] batches;

    /**
     * @param width pixels
     * @param height pixels
     * @throws IllegalArgumentException where the picture has no pixels
     */
    FrameBuffers(int width, int height, int threads) {
        if (width <= 0 || height <= 0) {
            throw new IllegalArgumentException("a picture of " + width + "×" + height + " has no pixels");
        }
        this.width = width;
        this.height = height;
        int pixels = width * height;
        depth = new float[pixels];
        use = new int[pixels];
        triangle = new int[pixels];
        argb = new int[pixels];
        ids = new int[pixels];
        tilesAcross = (width + TILE - 1) / TILE;
        tileCount = tilesAcross * ((height + TILE - 1) / TILE);
        batches = new TriangleBatch[threads];
        Arrays.setAll(batches, i -> new TriangleBatch(tileCount));
    }

    /** Forgets what was seen. */
    void clear() {
        Arrays.fill(depth, 0);
        Arrays.fill(use, -1);
    }
}
