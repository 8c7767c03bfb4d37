package pantry.render;

import java.util.Arrays;

/** Triangles on the screen, waiting for their tiles: one thread's share of a round. */
final class TriangleBatch {
    static final int CAPACITY = 1 << 16;

    /** x, y and 1/z of each corner. */
    final float[] corners = new float[9 * CAPACITY];

    /** The pixels that each may cover: left, top, right, bottom. */
    final int[] bounds = new int[4 * CAPACITY];

    final int[] use = new int[CAPACITY];
    final int[] triangle = new int[CAPACITY];
    final int[] opacity = new int[CAPACITY];
    final int[][] bins;
    final int[] binSizes;
    int count;

    /** Scratch: a cluster's vertices in the camera's space, and as x, y and 1/z in the picture. */
    final float[] seen = new float[9 * RenderMesh.CLUSTER];

    final float[] screen = new float[9 * RenderMesh.CLUSTER];

    TriangleBatch(int tiles) {
        bins = new int[tiles][64];
        binSizes = new int[tiles];
    }

    /** Whether another cluster surely fits, clipped triangles counted twice. */
    boolean hasRoom() {
        return count + 2 * RenderMesh.CLUSTER < CAPACITY;
    }

    void clear() {
        count = 0;
        Arrays.fill(binSizes, 0);
    }

    void bin(int tile, int number) {
        int size = binSizes[tile]++;
        if (size == bins[tile].length) {
            bins[tile] = Arrays.copyOf(bins[tile], size * 2);
        }
        bins[tile][size] = number;
    }
}
