package pantry.mesh;

/**
 * Cuts faces into triangles.
 *
 * <p>Triangles as they are; quadrilaterals by the diagonal that stays inside; larger faces, where they are not convex,
 * by cutting ears (G. H. Meisters, Polygons have ears, American Mathematical Monthly 82, 1975) in the face's own
 * plane. O(corners), for a face of n corners O(n²) at worst.
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

    private void ears(int start, int size, double[] flat) {
        int[] ring = new int[size];
        for (int i = 0; i < size; i++) {
            ring[i] = i;
        }
        int left = size;
        while (left > 3) {
            int ear = 0;
            for (int i = 0; i < left; i++) {
                if (isEar(ring, left, i, flat)) {
                    ear = i;
                    break;
                }
            }
            emit(start + ring[(ear + left - 1) % left], start + ring[ear], start + ring[(ear + 1) % left]);
            System.arraycopy(ring, ear + 1, ring, ear, left - ear - 1);
            left--;
        }
        emit(start + ring[0], start + ring[1], start + ring[2]);
    }

    private static boolean isEar(int[] ring, int left, int i, double[] flat) {
        int a = ring[(i + left - 1) % left];
        int b = ring[i];
        int c = ring[(i + 1) % left];
        if (turn(flat, a, b, c) <= 0) {
            return false;
        }
        for (int k = 0; k < left; k++) {
            int p = ring[k];
            if (p != a
                    && p != b
                    && p != c
                    && turn(flat, a, b, p) >= 0
                    && turn(flat, b, c, p) >= 0
                    && turn(flat, c, a, p) >= 0) {
                return false;
            }
        }
        return true;
    }
}
