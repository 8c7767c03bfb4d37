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
        if (size == 4) {
            quadrilateral(start);
            return;
        }
        double[] flat = flattened(start, size);
        if (isConvex(flat)) {
            for (int i = 1; i < size - 1; i++) {
                emit(start, start + i, start + i + 1);
            }
        } else {
            ears(start, size, flat);
        }
    }

    private static boolean isConvex(double[] flat) {
        int size = flat.length / 2;
        for (int i = 0; i < size; i++) {
            if (turn(flat, (i + size - 1) % size, i, (i + 1) % size) < 0) {
                return false;
            }
        }
        return true;
    }

    /**
     * By the diagonal from the only inward corner, or from the first, where there is none. Most large models are of such
     * faces, so this makes no arrays.
     */
    private void quadrilateral(int start) {
        int a = 3 * corners[start];
        int b = 3 * corners[start + 1];
        int c = 3 * corners[start + 2];
        int d = 3 * corners[start + 3];
        // Newell's normal is half the product of the diagonals.
        double px = (double) points[c] - points[a];
        double py = (double) points[c + 1] - points[a + 1];
        double pz = (double) points[c + 2] - points[a + 2];
        double qx = (double) points[d] - points[b];
        double qy = (double) points[d + 1] - points[b + 1];
        double qz = (double) points[d + 2] - points[b + 2];
        double nx = py * qz - pz * qy;
        double ny = pz * qx - px * qz;
        double nz = px * qy - py * qx;
        int drop = dropped(nx, ny, nz);
        int u = (drop + 1) % 3;
        int v = (drop + 2) % 3;
        double sign = (drop == 0 ? nx : drop == 1 ? ny : nz) < 0 ? -1 : 1;
        // From the first corner, in the plane.
        double bu = (double) points[b + u] - points[a + u];
        double bv = (double) points[b + v] - points[a + v];
        double cu = (double) points[c + u] - points[a + u];
        double cv = (double) points[c + v] - points[a + v];
        double du = (double) points[d + u] - points[a + u];
        double dv = (double) points[d + v] - points[a + v];
        double atA = sign * (bu * dv - bv * du);
        double atB = sign * (bu * cv - bv * cu);
        double atD = sign * (cu * dv - cv * du);
        double atC = atB + atD - atA;
        int inward = (atA < 0 ? 1 : 0) + (atB < 0 ? 1 : 0) + (atC < 0 ? 1 : 0) + (atD < 0 ? 1 : 0);
        if (inward > 1) {
            ears(start, 4, flattened(start, 4));
            return;
        }
        // The diagonal from the second corner is that from the fourth.
        int hub = atB < 0 || atD < 0 ? 1 : 0;
        emit(start + hub, start + hub + 1, start + hub + 2);
        emit(start + hub, start + hub + 2, start + (hub + 3) % 4);
    }

    /** The axis along which a face is looked at. */
    private static int dropped(double nx, double ny, double nz) {
        double x = Math.abs(nx);
        double y = Math.abs(ny);
        double z = Math.abs(nz);
        return x > y ? x > z ? 0 : 2 : y > z ? 1 : 2;
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
        int drop = dropped(nx, ny, nz);
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
