package pantry.mesh;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A mesh's points, split where what is said of them differs between the faces that meet there: so that each has one
 * normal, one pair of texture coordinates and so on, as most formats want it.
 *
 * @param positions x, y, z of each vertex; shared with the mesh where nothing had to be split
 * @param channels in the order in which they were given, one element for each vertex
 * @param corners the vertex at each of the mesh's corners
 */
public record VertexSplit(float[] positions, List<Channel> channels, int[] corners) {
    /** @param channels of the mesh, which each vertex is to have one element of */
    public static VertexSplit of(Mesh mesh, List<Channel> channels) {
        if (channels.stream().allMatch(channel -> channel.per() == Channel.Per.POINT)) {
            return new VertexSplit(mesh.points(), List.copyOf(channels), mesh.corners());
        }
        int[] cornerFace = CornerData.cornerFaces(mesh);
        Corners corners = new Corners(
                mesh.corners(),
                channels.stream()
                        .map(channel -> CornerData.perCorner(channel, mesh.corners(), cornerFace))
                        .toArray(float[][]::new),
                channels.stream().mapToInt(Channel::width).toArray());
        int[] vertexOfCorner = new int[mesh.corners().length];
        int[] cornerOfVertex = corners.unify(vertexOfCorner);
        float[] positions = new float[3 * cornerOfVertex.length];
        for (int v = 0; v < cornerOfVertex.length; v++) {
            System.arraycopy(mesh.points(), 3 * mesh.corners()[cornerOfVertex[v]], positions, 3 * v, 3);
        }
        List<Channel> split = new ArrayList<>();
        for (int i = 0; i < channels.size(); i++) {
            int width = corners.widths[i];
            split.add(new Channel(CornerData.picked(corners.data[i], width, cornerOfVertex), width, Channel.Per.POINT));
        }
        return new VertexSplit(positions, List.copyOf(split), vertexOfCorner);
    }

    /** What each corner of a mesh says; the arrays are in the order of the corners. */
    private record Corners(int[] points, float[][] data, int[] widths) {
        /** Gives equal corners one vertex; returns, for each vertex, one of its corners. */
        int[] unify(int[] vertexOfCorner) {
            int capacity = Integer.highestOneBit(Math.max(8, points.length)) * 2;
            int[] table = new int[capacity];
            Arrays.fill(table, -1);
            int[] cornerOfVertex = new int[points.length];
            int vertices = 0;
            for (int c = 0; c < points.length; c++) {
                int h = hash(c);
                int slot = (h ^ h >>> 15) & (capacity - 1);
                while (table[slot] >= 0 && !same(cornerOfVertex[table[slot]], c)) {
                    slot = (slot + 1) & (capacity - 1);
                }
                if (table[slot] < 0) {
                    table[slot] = vertices;
                    cornerOfVertex[vertices++] = c;
                }
                vertexOfCorner[c] = table[slot];
            }
            return Arrays.copyOf(cornerOfVertex, vertices);
        }

        private int hash(int c) {
            int h = points[c] * 0x9E3779B1;
            for (int channel = 0; channel < widths.length; channel++) {
                int width = widths[channel];
                float[] numbers = data[channel];
                for (int i = width * c; i < width * c + width; i++) {
                    h = h * 31 + Float.floatToIntBits(numbers[i]);
                }
            }
            return h * 0x85EBCA6B;
        }

        private boolean same(int a, int b) {
            if (points[a] != points[b]) {
                return false;
            }
            for (int channel = 0; channel < widths.length; channel++) {
                int width = widths[channel];
                float[] numbers = data[channel];
                if (!Arrays.equals(numbers, width * a, width * a + width, numbers, width * b, width * b + width)) {
                    return false;
                }
            }
            return true;
        }
    }
}
