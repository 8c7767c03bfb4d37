package pantry.render;

import java.util.Arrays;

/** Triangles on the screen, waiting for their tiles: one thread's share of a round. */
final class TriangleBatch {
    /** The opacity of what lets no light through, in sixteenths. */
    static final int SOLID = 16;

    static final int CAPACITY = 1 << 16;

    /** x, y and 1/z of each corner. */
    final float[] corners = new float[9 * CAPACITY];

    /** The pixels that each may cover: left, top, right, bottom. */
    final int[] bounds = new int[4 * CAPACITY];

    final int[] use = new int[CAPACITY];
    final int[] triangle = new int[CAPACITY];
    /** In sixteenths. */
    final int[] opacity = new int[CAPACITY];

    /** The colours of those that are dots. */
    final int[] colour = new int[CAPACITY];

    /** What may touch each tile, as a chain: its last entry by tile, -1 for none; the triangle and the entry before by entry. */
    final int[] last;

    int[] entry = new int[CAPACITY];
    int[] before = new int[CAPACITY];
    int count;
    private int entries;

    /** Scratch: a cluster's vertices in the camera's space, and as x, y and 1/z in the picture. */
    final float[] seen = new float[9 * RenderMesh.CLUSTER];

    final float[] screen = new float[9 * RenderMesh.CLUSTER];
    final RowScratch row = new RowScratch();

    TriangleBatch(int tiles) {
        last = new int[tiles];
    }

    /** Whether another cluster surely fits, clipped triangles counted twice. */
    boolean hasRoom() {
        return count + 2 * RenderMesh.CLUSTER < CAPACITY;
    }

    void clear() {
        count = 0;
        entries = 0;
        Arrays.fill(last, -1);
    }

    /** Adds to a tile's chain. */
    void chain(int tile, int number) {
        if (entries == entry.length) {
            entry = Arrays.copyOf(entry, 2 * entries);
            before = Arrays.copyOf(before, 2 * entries);
        }
        entry[entries] = number;
        before[entries] = last[tile];
        last[tile] = entries++;
    }

    /** An opacity from 0 to 1 in sixteenths. */
    static int sixteenths(float opacity) {
        return Math.round(opacity * SOLID);
    }
}
