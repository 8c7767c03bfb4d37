package pantry.mesh;

import earcut4j.Earcut;
import java.util.List;

/**
 * Cuts faces into triangles.
 *
 * <p>Triangles as they are; quadrilaterals by the diagonal that stays inside; larger faces, where they are not convex,
 * by cutting ears (G. H. Meisters, Polygons have ears, American Mathematical Monthly 82, 1975) in the face's own
 * plane. Outlines may touch themselves: a face with holes is told as one outline, with a bridge there and back to each
 * hole. The cutting is earcut4j's, which finds ears by a curve that fills the plane: about O(n log n) for n corners.
 */
public final class Triangulation {
    private final float[] points;
    private final int[] corners;
    private final int[] out;
    private int written;

    private Triangulation(Mesh mesh) {
        this.points = mesh.points();
        this.corners = mesh.corners();
        this.out = new int[3 * mesh.triangleCount()];
    }

    /** Three corner numbers per triangle, face by face, in the faces' own winding. */
    public static int[] corners(Mesh mesh) {
        if (mesh.corners().length == 3 * mesh.faceCount()) {
            // Triangles only: each corner in its place.
            int[] own = new int[mesh.corners().length];
            for (int i = 0; i < own.length; i++) {
                own[i] = i;
            }
            return own;
        }
        Triangulation triangulation = new Triangulation(mesh);
        int start = 0;
        for (int size : mesh.faceSizes()) {
            triangulation.face(start, size);
            start += size;
        }
        return triangulation.out;
    }

    /** The face of each triangle of {@link #corners}. */
    public static int[] faces(Mesh mesh) {
        int[] faces = new int[mesh.triangleCount()];
        int at = 0;
        int[] sizes = mesh.faceSizes();
        for (int face = 0; face < sizes.length; face++) {
            for (int i = 2; i < sizes[face]; i++) {
                faces[at++] = face;
            }
        }
        return faces;
    }

    private void emit(int a, int b, int c) {
        out[written++] = a;
        out[written++] = b;
        out[written++] = c;
    }

    private void face(int start, int size) {
        if (size == 3) {
            emit(start, start + 1, start + 2);
            return;
        }
        double[] flat = flattened(start, size);
        int reflex = -1;
        int reflexCount = 0;
        for (int i = 0; i < size; i++) {
            if (turn(flat, (i + size - 1) % size, i, (i + 1) % size) < 0) {
                reflex = i;
                reflexCount++;
            }
        }
        if (reflexCount <= 1) {
            // A fan from the only inward corner (or from any, where there is none) stays inside.
            int hub = Math.max(reflex, 0);
            if (reflexCount == 0 || size == 4) {
                for (int i = 1; i < size - 1; i++) {
                    emit(start + hub, start + (hub + i) % size, start + (hub + i + 1) % size);
                }
                return;
            }
        }
        ears(start, size, flat);
    }

    /** The face's corners in the plane of its normal (Newell's), two numbers each, counter-clockwise. */
    private double[] flattened(int start, int size) {
        double nx = 0;
        double ny = 0;
        double nz = 0;
        for (int i = 0; i < size; i++) {
            int p = 3 * corners[start + i];
            int q = 3 * corners[start + (i + 1) % size];
            nx += (points[p + 1] - (double) points[q + 1]) * (points[p + 2] + (double) points[q + 2]);
            ny += (points[p + 2] - (double) points[q + 2]) * (points[p] + (double) points[q]);
            nz += (points[p] - (double) points[q]) * (points[p + 1] + (double) points[q + 1]);
        }
        int drop =
                Math.abs(nx) > Math.abs(ny) ? Math.abs(nx) > Math.abs(nz) ? 0 : 2 : Math.abs(ny) > Math.abs(nz) ? 1 : 2;
        double sign = (drop == 0 ? nx : drop == 1 ? ny : nz) < 0 ? -1 : 1;
        int u = (drop + 1) % 3;
        int v = (drop + 2) % 3;
        double[] flat = new double[2 * size];
        for (int i = 0; i < size; i++) {
            int p = 3 * corners[start + i];
            flat[2 * i] = points[p + u] * sign;
            flat[2 * i + 1] = points[p + v];
        }
        return flat;
    }

    private static double turn(double[] flat, int a, int b, int c) {
        return (flat[2 * b] - flat[2 * a]) * (flat[2 * c + 1] - flat[2 * a + 1])
                - (flat[2 * b + 1] - flat[2 * a + 1]) * (flat[2 * c] - flat[2 * a]);
    }

    /**
     * Cuts ears. Corners that are in line with their neighbours, or in one place with them, span no triangle: what is
     * missing up to the face's count is made up with triangles without area.
     */
    private void ears(int start, int size, double[] flat) {
        List<Integer> triangles = Earcut.earcut(flat, null, 2);
        int cut = Math.min(triangles.size() / 3, size - 2);
        for (int t = 0; t < cut; t++) {
            emit(start + triangles.get(3 * t), start + triangles.get(3 * t + 1), start + triangles.get(3 * t + 2));
        }
        for (int t = cut; t < size - 2; t++) {
            emit(start, start, start + 1);
        }
    }
}
