package pantry.mesh;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Vec3;

/**
 * A mesh as graphics programs want it: triangles over vertices, each with one position, normal and texture coordinate.
 *
 * @param positions x, y, z per vertex
 * @param normals unit vectors, per vertex
 * @param uvs u, v per vertex, v upwards; null where the mesh has none
 * @param indices three vertices per triangle, counter-clockwise seen from outside
 */
public record TriangleMesh(float[] positions, float[] normals, float @Nullable [] uvs, int[] indices) {
    /** Faces that meet at less than this angle look as one rounded surface where the mesh itself does not say. */
    private static final double CREASE_COSINE = Math.cos(Math.toRadians(40));

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
        Channel normals = mesh.normals().orElse(null);
        float[] cornerNormals =
                normals == null ? smoothNormals(mesh, cornerFace) : perCorner(normals, mesh.corners(), cornerFace);
        float[] cornerUvs = mesh.uvs().isEmpty() ? null : perCorner(mesh.uvs().get(), mesh.corners(), cornerFace);
        int[] vertexOfCorner = new int[mesh.corners().length];
        int[] cornerOfVertex = new int[mesh.corners().length];
        int vertices = unify(mesh.corners(), cornerNormals, cornerUvs, vertexOfCorner, cornerOfVertex);
        float[] positions = new float[3 * vertices];
        float[] vertexNormals = new float[3 * vertices];
        float[] uvs = cornerUvs == null ? null : new float[2 * vertices];
        for (int v = 0; v < vertices; v++) {
            int corner = cornerOfVertex[v];
            System.arraycopy(mesh.points(), 3 * mesh.corners()[corner], positions, 3 * v, 3);
            System.arraycopy(cornerNormals, 3 * corner, vertexNormals, 3 * v, 3);
            if (uvs != null && cornerUvs != null) {
                System.arraycopy(cornerUvs, 2 * corner, uvs, 2 * v, 2);
            }
        }
        int[] indices = new int[triangleCorners.length];
        for (int t = 0; t < indices.length; t += 3) {
            indices[t] = vertexOfCorner[triangleCorners[t]];
            indices[t + 1] = vertexOfCorner[triangleCorners[t + (mesh.leftHanded() ? 2 : 1)]];
            indices[t + 2] = vertexOfCorner[triangleCorners[t + (mesh.leftHanded() ? 1 : 2)]];
        }
        return new TriangleMesh(positions, vertexNormals, uvs, indices);
    }

    private static int[] cornerFaces(Mesh mesh) {
        int[] faces = new int[mesh.corners().length];
        int at = 0;
        int[] sizes = mesh.faceSizes();
        for (int face = 0; face < sizes.length; face++) {
            Arrays.fill(faces, at, at + sizes[face], face);
            at += sizes[face];
        }
        return faces;
    }

    private static float[] perCorner(Channel channel, int[] corners, int[] cornerFace) {
        int width = channel.width();
        float[] data = new float[corners.length * width];
        for (int c = 0; c < corners.length; c++) {
            System.arraycopy(
                    channel.data(), width * channel.element(cornerFace[c], c, corners[c]), data, width * c, width);
        }
        return data;
    }

    /** Per corner, the mean of the normals of the faces around its point that lie within the crease angle. */
    private static float[] smoothNormals(Mesh mesh, int[] cornerFace) {
        double[] faceNormals = faceNormals(mesh);
        int[] corners = mesh.corners();
        int[] first = new int[mesh.pointCount() + 1];
        for (int point : corners) {
            first[point + 1]++;
        }
        for (int p = 0; p < mesh.pointCount(); p++) {
            first[p + 1] += first[p];
        }
        int[] around = new int[corners.length];
        int[] filled = Arrays.copyOf(first, first.length);
        for (int c = 0; c < corners.length; c++) {
            around[filled[corners[c]]++] = cornerFace[c];
        }
        float[] normals = new float[3 * corners.length];
        for (int c = 0; c < corners.length; c++) {
            int own = 3 * cornerFace[c];
            double ownLength = length(faceNormals, own);
            double x = 0;
            double y = 0;
            double z = 0;
            for (int i = first[corners[c]]; i < first[corners[c] + 1]; i++) {
                int other = 3 * around[i];
                double dot = faceNormals[own] * faceNormals[other]
                        + faceNormals[own + 1] * faceNormals[other + 1]
                        + faceNormals[own + 2] * faceNormals[other + 2];
                if (dot >= CREASE_COSINE * ownLength * length(faceNormals, other)) {
                    x += faceNormals[other];
                    y += faceNormals[other + 1];
                    z += faceNormals[other + 2];
                }
            }
            double length = Math.sqrt(x * x + y * y + z * z);
            normals[3 * c] = (float) (length == 0 ? 0 : x / length);
            normals[3 * c + 1] = (float) (length == 0 ? 1 : y / length);
            normals[3 * c + 2] = (float) (length == 0 ? 0 : z / length);
        }
        return normals;
    }

    private static double length(double[] triples, int at) {
        return Math.sqrt(
                triples[at] * triples[at] + triples[at + 1] * triples[at + 1] + triples[at + 2] * triples[at + 2]);
    }

    /** Newell's normals, as long as twice the face's area, so that larger faces count for more. */
    private static double[] faceNormals(Mesh mesh) {
        double[] normals = new double[3 * mesh.faceCount()];
        float[] points = mesh.points();
        int start = 0;
        int[] sizes = mesh.faceSizes();
        double sign = mesh.leftHanded() ? -1 : 1;
        for (int face = 0; face < sizes.length; face++) {
            Vec3 origin = mesh.point(mesh.corners()[start]);
            for (int i = 0; i < sizes[face]; i++) {
                int p = 3 * mesh.corners()[start + i];
                int q = 3 * mesh.corners()[start + (i + 1) % sizes[face]];
                double px = points[p] - origin.x();
                double py = points[p + 1] - origin.y();
                double pz = points[p + 2] - origin.z();
                double qx = points[q] - origin.x();
                double qy = points[q + 1] - origin.y();
                double qz = points[q + 2] - origin.z();
                normals[3 * face] += sign * (py * qz - pz * qy);
                normals[3 * face + 1] += sign * (pz * qx - px * qz);
                normals[3 * face + 2] += sign * (px * qy - py * qx);
            }
            start += sizes[face];
        }
        return normals;
    }

    /** Gives equal corners one vertex; returns the number of vertices. */
    private static int unify(
            int[] corners, float[] normals, float @Nullable [] uvs, int[] vertexOfCorner, int[] cornerOfVertex) {
        int capacity = Integer.highestOneBit(Math.max(8, corners.length)) * 2;
        int[] table = new int[capacity];
        Arrays.fill(table, -1);
        int vertices = 0;
        for (int c = 0; c < corners.length; c++) {
            int h = corners[c] * 0x9E3779B1;
            for (int i = 0; i < 3; i++) {
                h = h * 31 + Float.floatToIntBits(normals[3 * c + i]);
            }
            if (uvs != null) {
                h = (h * 31 + Float.floatToIntBits(uvs[2 * c])) * 31 + Float.floatToIntBits(uvs[2 * c + 1]);
            }
            h *= 0x85EBCA6B;
            int slot = (h ^ h >>> 15) & (capacity - 1);
            while (table[slot] >= 0 && !same(corners, normals, uvs, cornerOfVertex[table[slot]], c)) {
                slot = (slot + 1) & (capacity - 1);
            }
            if (table[slot] < 0) {
                table[slot] = vertices;
                cornerOfVertex[vertices++] = c;
            }
            vertexOfCorner[c] = table[slot];
        }
        return vertices;
    }

    private static boolean same(int[] corners, float[] normals, float @Nullable [] uvs, int a, int b) {
        return corners[a] == corners[b]
                && Arrays.equals(normals, 3 * a, 3 * a + 3, normals, 3 * b, 3 * b + 3)
                && (uvs == null || Arrays.equals(uvs, 2 * a, 2 * a + 2, uvs, 2 * b, 2 * b + 2));
    }
}
