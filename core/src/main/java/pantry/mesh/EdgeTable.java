package pantry.mesh;

import java.util.Arrays;

/**
 * The edges of a mesh with the faces along each. Points in exactly one place count as one. Edges between a point and
 * itself are left out.
 *
 * <p>Linear in the number of corners, but for sorting the few edges at each point.
 */
final class EdgeTable {
    /** Called with an edge. */
    interface Visitor {
        /**
         * @param low the lower point
         * @param high the other one
         * @param from where, in {@link #face} and {@link #isBackwards}, its uses begin
         * @param to where they end, exclusive
         */
        void edge(int low, int high, int from, int to);
    }

    private final int[] first;
    private final long[] uses;
    private final int[] faces;

    /** @param places for each point the number of the first one at its place */
    EdgeTable(Mesh mesh, int[] places) {
        int[] corners = mesh.corners();
        first = new int[places.length + 1];
        walk(mesh, places, (low, high, backwards, face) -> first[low + 1]++);
        for (int p = 0; p < places.length; p++) {
            first[p + 1] += first[p];
        }
        uses = new long[first[places.length]];
        int[] filled = Arrays.copyOf(first, places.length);
        // The other point and the direction in the upper half, so that sorting brings an edge's uses together.
        walk(
                mesh,
                places,
                (low, high, backwards, face) -> uses[filled[low]++] = ((long) high << 1 | backwards) << 31 | face);
        faces = new int[corners.length == 0 ? 0 : uses.length];
        for (int p = 0; p < places.length; p++) {
            if (first[p + 1] - first[p] > 1) {
                Arrays.sort(uses, first[p], first[p + 1]);
            }
        }
        for (int i = 0; i < uses.length; i++) {
            faces[i] = (int) (uses[i] & Integer.MAX_VALUE);
        }
    }

    private interface Walk {
        void use(int low, int high, int backwards, int face);
    }

    private static void walk(Mesh mesh, int[] places, Walk each) {
        int[] corners = mesh.corners();
        int[] sizes = mesh.faceSizes();
        int start = 0;
        for (int face = 0; face < sizes.length; face++) {
            int from = places[corners[start + sizes[face] - 1]];
            for (int i = 0; i < sizes[face]; i++) {
                int to = places[corners[start + i]];
                if (from < to) {
                    each.use(from, to, 0, face);
                } else if (to < from) {
                    each.use(to, from, 1, face);
                }
                from = to;
            }
            start += sizes[face];
        }
    }

    /** Visits each edge once. */
    void forEach(Visitor visitor) {
        for (int p = 0; p + 1 < first.length; p++) {
            for (int i = first[p]; i < first[p + 1]; ) {
                int high = high(i);
                int from = i;
                while (i < first[p + 1] && high(i) == high) {
                    i++;
                }
                visitor.edge(p, high, from, i);
            }
        }
    }

    private int high(int use) {
        return (int) (uses[use] >>> 32);
    }

    /** The face of a use. */
    int face(int use) {
        return faces[use];
    }

    /** Whether the face of a use passes the edge from its higher point to its lower one. */
    boolean isBackwards(int use) {
        return (uses[use] >>> 31 & 1) == 1;
    }
}
