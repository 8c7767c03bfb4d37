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

    /** For each point the first one at the same place; open addressing over the bits of the coordinates. */
    public static int[] firstAtPlace(float[] points) {
        int count = points.length / 3;
        int capacity = Integer.highestOneBit(Math.max(8, count * 2)) * 2;
        int[] table = new int[capacity];
        Arrays.fill(table, -1);
        int[] first = new int[count];
        for (int i = 0; i < count; i++) {
            int slot = hash(points, 3 * i) & (capacity - 1);
            while (table[slot] >= 0 && !same(points, 3 * table[slot], 3 * i)) {
                slot = (slot + 1) & (capacity - 1);
            }
            if (table[slot] < 0) {
                table[slot] = i;
            }
            first[i] = table[slot];
        }
        return first;
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
