package pantry.twins;

import java.util.Arrays;

/** Finds faces by their points, from whichever corner they begin. */
final class FaceTable {
    final int[] starts;
    private final int[] sizes;
    private final int[] corners;
    private final int mask;
    private final int[] first;
    private final int[] next;

    /** @param corners the point at each corner, face by face */
    FaceTable(int[] sizes, int[] corners) {
        this.sizes = sizes;
        this.corners = corners;
        this.starts = new int[sizes.length];
        int capacity = Integer.highestOneBit(Math.max(4, sizes.length)) * 2;
        this.mask = capacity - 1;
        this.first = new int[capacity];
        this.next = new int[sizes.length];
        Arrays.fill(first, -1);
        int start = 0;
        for (int face = 0; face < sizes.length; face++) {
            starts[face] = start;
            int slot = slot(corners, start, sizes[face]);
            next[face] = first[slot];
            first[slot] = face;
            start += sizes[face];
        }
    }

    /** The same whatever the order. */
    private int slot(int[] ring, int from, int size) {
        int sum = size;
        int product = 1;
        for (int i = from; i < from + size; i++) {
            sum += ring[i] * 0x9E3779B1;
            product *= 2 * ring[i] + 1;
        }
        int h = sum ^ product * 0x85EBCA6B;
        return (h ^ h >>> 15) & mask;
    }

    /**
     * A face with these points, in this order or, where reversed, in the opposite one, that was not taken yet.
     *
     * @param ring its points from {@code from} on
     * @param taken faces that do not count; the one found is added
     * @param offset is given, at 0, the corner of the face at which the ring's first point stands
     * @return -1 where there is none
     */
    int find(int[] ring, int from, int size, boolean reversed, boolean[] taken, int[] offset) {
        for (int face = first[slot(ring, from, size)]; face >= 0; face = next[face]) {
            if (sizes[face] == size && !taken[face]) {
                for (int turn = 0; turn < size; turn++) {
                    if (matches(face, ring, from, size, turn, reversed)) {
                        taken[face] = true;
                        offset[0] = turn;
                        return face;
                    }
                }
            }
        }
        return -1;
    }

    private boolean matches(int face, int[] ring, int from, int size, int turn, boolean reversed) {
        for (int i = 0; i < size; i++) {
            if (corners[starts[face] + at(i, turn, size, reversed)] != ring[from + i]) {
                return false;
            }
        }
        return true;
    }

    /** Where a ring's corner stands in a face that was found. */
    static int at(int corner, int turn, int size, boolean reversed) {
        return reversed ? (turn - corner + size) % size : (turn + corner) % size;
    }
}
