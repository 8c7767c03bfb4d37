package pantry.mesh;

import java.util.Arrays;

/**
 * Joins points that stand in exactly one place, so that faces that share a place share a point. What is told per point
 * is told per corner afterwards, unless all corners at a point agree.
 */
public final class Welding {
    private Welding() {}

    /** The mesh with each place once; the points keep the order of their first use. The same mesh where none is doubled. */
    public static Mesh exact(Mesh mesh) {
        int[] first = firstAtPlace(mesh.points());
        int[] newIndex = new int[first.length];
        int count = 0;
        for (int i = 0; i < first.length; i++) {
            newIndex[i] = first[i] == i ? count++ : newIndex[first[i]];
        }
        if (count == first.length) {
            return mesh;
        }
        float[] points = new float[3 * count];
        for (int i = 0; i < first.length; i++) {
            if (first[i] == i) {
                System.arraycopy(mesh.points(), 3 * i, points, 3 * newIndex[i], 3);
            }
        }
        int[] corners = new int[mesh.corners().length];
        for (int c = 0; c < corners.length; c++) {
            corners[c] = newIndex[mesh.corners()[c]];
        }
        int places = count;
        return mesh.withChannels(
                points, mesh.faceSizes(), corners, channel -> rebound(channel, mesh.corners(), corners, places));
    }

    private static Channel rebound(Channel channel, int[] oldCorners, int[] newCorners, int count) {
        if (channel.per() != Channel.Per.POINT) {
            return channel;
        }
        int width = channel.width();
        float[] perPoint = new float[count * width];
        boolean[] seen = new boolean[count];
        boolean agree = true;
        float[] perCorner = new float[newCorners.length * width];
        for (int c = 0; c < newCorners.length; c++) {
            int from = oldCorners[c] * width;
            int to = newCorners[c] * width;
            System.arraycopy(channel.data(), from, perCorner, c * width, width);
            if (!seen[newCorners[c]]) {
                seen[newCorners[c]] = true;
                System.arraycopy(channel.data(), from, perPoint, to, width);
            } else {
                agree &= Arrays.equals(channel.data(), from, from + width, perPoint, to, to + width);
            }
        }
        return agree
                ? new Channel(perPoint, width, Channel.Per.POINT)
                : new Channel(perCorner, width, Channel.Per.CORNER);
    }

    /**
     * Triangles that name each corner by its place.
     *
     * @param corners of nine numbers a triangle, x y z of each corner; they are overwritten
     * @return the triangles with each place once, in the order of their first use
     */
    public static Mesh ofTriangles(float[] corners) {
        int[] places = new int[corners.length / 3];
        Places table = new Places(corners, places.length / 4);
        int count = 0;
        for (int c = 0; c < places.length; c++) {
            // The places found so far stand at the front, which no corner that is still to come occupies.
            System.arraycopy(corners, 3 * c, corners, 3 * count, 3);
            places[c] = table.first(count);
            count += places[c] == count ? 1 : 0;
        }
        int[] sizes = new int[places.length / 3];
        Arrays.fill(sizes, 3);
        return new Mesh(Arrays.copyOf(corners, 3 * count), sizes, places, null, null);
    }

    /** For each point the first one at the same place. */
    public static int[] firstAtPlace(float[] points) {
        int count = points.length / 3;
        int[] first = new int[count];
        Places table = new Places(points, count);
        for (int i = 0; i < count; i++) {
            first[i] = table.first(i);
        }
        return first;
    }

    /** Points by their place: open addressing over the bits of the coordinates. */
    private static final class Places {
        private final float[] points;
        private int[] table;
        private int count;

        /** @param expected the number of places; the table grows where there are more */
        Places(float[] points, int expected) {
            this.points = points;
            this.table = empty(Integer.highestOneBit(Math.max(8, expected * 2)) * 2);
        }

        private static int[] empty(int capacity) {
            int[] table = new int[capacity];
            Arrays.fill(table, -1);
            return table;
        }

        /** The point at this one's place that was asked for first; itself if none was. */
        int first(int point) {
            int slot = slot(point);
            if (table[slot] >= 0) {
                return table[slot];
            }
            table[slot] = point;
            count++;
            if (count > table.length / 2) {
                grow();
            }
            return point;
        }

        private int slot(int point) {
            int mask = table.length - 1;
            int slot = hash(points, 3 * point) & mask;
            while (table[slot] >= 0 && !same(points, 3 * table[slot], 3 * point)) {
                slot = (slot + 1) & mask;
            }
            return slot;
        }

        private void grow() {
            int[] old = table;
            table = empty(2 * old.length);
            for (int point : old) {
                if (point >= 0) {
                    table[slot(point)] = point;
                }
            }
        }
    }

    private static boolean same(float[] points, int a, int b) {
        return points[a] == points[b] && points[a + 1] == points[b + 1] && points[a + 2] == points[b + 2];
    }

    private static int hash(float[] points, int at) {
        // Adding zero makes -0 and 0 one.
        int h = Float.floatToIntBits(points[at] + 0f);
        h = h * 0x9E3779B1 + Float.floatToIntBits(points[at + 1] + 0f);
        h = h * 0x9E3779B1 + Float.floatToIntBits(points[at + 2] + 0f);
        h ^= h >>> 15;
        h *= 0x85EBCA6B;
        return h ^ h >>> 13;
    }
}
