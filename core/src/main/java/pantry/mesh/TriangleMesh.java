package pantry.mesh;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * A mesh as graphics programs want it: triangles over vertices, each with one position, normal and texture coordinate.
 *
 * @param positions x, y, z per vertex
 * @param normals unit vectors, per vertex
 * @param uvs u, v per vertex, v upwards; null where the mesh has none
 * @param colours red, green, blue per vertex, linear; null where the surface has no colours of its own
 * @param indices three vertices per triangle, counter-clockwise seen from outside
 */
public record TriangleMesh(
        float[] positions, float[] normals, float @Nullable [] uvs, float @Nullable [] colours, int[] indices) {
    public int vertexCount() {
        return positions.length / 3;
    }

    public int triangleCount() {
        return indices.length / 3;
    }

    /** Triangulates a mesh and splits its points where their normals or texture coordinates differ between faces. */
    public static TriangleMesh of(Mesh mesh) {
        int[] triangleCorners = Triangulation.corners(mesh);
        int[] cornerFace = cornerFaces(mesh);
        Channel normals = mesh.normals().orElseGet(() -> SmoothNormals.of(mesh, cornerFace));
        Channel uvs = mesh.uvs().orElse(null);
        Channel colours = mesh.primvars().get(Mesh.COLOUR);
        if (perPoint(normals) && (uvs == null || perPoint(uvs)) && (colours == null || perPoint(colours))) {
            return new TriangleMesh(
                    mesh.points(),
                    normals.data(),
                    uvs == null ? null : uvs.data(),
                    colours == null ? null : colours.data(),
                    indices(mesh, triangleCorners, mesh.corners()));
        }
        Corners corners = new Corners(
                mesh.corners(),
                perCorner(normals, mesh.corners(), cornerFace),
                uvs == null ? null : perCorner(uvs, mesh.corners(), cornerFace),
                colours == null ? null : perCorner(colours, mesh.corners(), cornerFace));
        int[] vertexOfCorner = new int[mesh.corners().length];
        int[] cornerOfVertex = corners.unify(vertexOfCorner);
        float[] positions = new float[3 * cornerOfVertex.length];
        for (int v = 0; v < cornerOfVertex.length; v++) {
            System.arraycopy(mesh.points(), 3 * mesh.corners()[cornerOfVertex[v]], positions, 3 * v, 3);
        }
        return new TriangleMesh(
                positions,
                picked(corners.normals, 3, cornerOfVertex),
                corners.uvs == null ? null : picked(corners.uvs, 2, cornerOfVertex),
                corners.colours == null ? null : picked(corners.colours, 3, cornerOfVertex),
                indices(mesh, triangleCorners, vertexOfCorner));
    }

    /** Whether a channel says one thing for each point, so that no point has to be split for its sake. */
    private static boolean perPoint(Channel channel) {
        return channel.per() == Channel.Per.POINT;
    }

    /** One normal for each corner: the mesh's own, or what a rounded surface would have. */
    static float[] cornerNormals(Mesh mesh) {
        int[] cornerFace = cornerFaces(mesh);
        return perCorner(
                mesh.normals().orElseGet(() -> SmoothNormals.of(mesh, cornerFace)), mesh.corners(), cornerFace);
    }

    static float[] picked(float[] data, int width, int[] elements) {
        float[] picked = new float[elements.length * width];
        for (int i = 0; i < elements.length; i++) {
            System.arraycopy(data, width * elements[i], picked, width * i, width);
        }
        return picked;
    }

    private static int[] indices(Mesh mesh, int[] triangleCorners, int[] vertexOfCorner) {
        int[] indices = new int[triangleCorners.length];
        for (int t = 0; t < indices.length; t += 3) {
            indices[t] = vertexOfCorner[triangleCorners[t]];
            indices[t + 1] = vertexOfCorner[triangleCorners[t + (mesh.leftHanded() ? 2 : 1)]];
            indices[t + 2] = vertexOfCorner[triangleCorners[t + (mesh.leftHanded() ? 1 : 2)]];
        }
        return indices;
    }

    static int[] cornerFaces(Mesh mesh) {
        int[] faces = new int[mesh.corners().length];
        int at = 0;
        int[] sizes = mesh.faceSizes();
        for (int face = 0; face < sizes.length; face++) {
            Arrays.fill(faces, at, at + sizes[face], face);
            at += sizes[face];
        }
        return faces;
    }

    static float[] perCorner(Channel channel, int[] corners, int[] cornerFace) {
        int width = channel.width();
        float[] data = new float[corners.length * width];
        for (int c = 0; c < corners.length; c++) {
            System.arraycopy(
                    channel.data(), width * channel.element(cornerFace[c], c, corners[c]), data, width * c, width);
        }
        return data;
    }

    /** What each corner of a mesh says; the arrays are in the order of the corners. */
    private record Corners(int[] points, float[] normals, float @Nullable [] uvs, float @Nullable [] colours) {
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
            for (int i = 0; i < 3; i++) {
                h = h * 31 + Float.floatToIntBits(normals[3 * c + i]);
            }
            if (uvs != null) {
                h = (h * 31 + Float.floatToIntBits(uvs[2 * c])) * 31 + Float.floatToIntBits(uvs[2 * c + 1]);
            }
            return h * 0x85EBCA6B;
        }

        private boolean same(int a, int b) {
            return points[a] == points[b]
                    && equal(normals, 3, a, b)
                    && (uvs == null || equal(uvs, 2, a, b))
                    && (colours == null || equal(colours, 3, a, b));
        }

        private static boolean equal(float[] data, int width, int a, int b) {
            return Arrays.equals(data, width * a, width * a + width, data, width * b, width * b + width);
        }
    }
}
