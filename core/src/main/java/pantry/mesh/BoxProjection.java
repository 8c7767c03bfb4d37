package pantry.mesh;

/**
 * Texture coordinates for surfaces that have none: each face is seen from that side of a box which it looks to most
 * (common practice).
 */
public final class BoxProjection {
    private BoxProjection() {}

    /**
     * @param repeat the length after which an image repeats, in the mesh's unit
     * @return u and v for each corner; v grows upwards on the four sides
     */
    public static Channel of(Mesh mesh, double repeat) {
        float[] uvs = new float[2 * mesh.corners().length];
        float[] p = mesh.points();
        int corner = 0;
        for (int size : mesh.faceSizes()) {
            double[] normal = normal(p, mesh.corners(), corner, size);
            int axis = 0;
            for (int i = 1; i < 3; i++) {
                if (Math.abs(normal[i]) > Math.abs(normal[axis])) {
                    axis = i;
                }
            }
            double side = normal[axis] < 0 ? -1 : 1;
            for (int i = 0; i < size; i++, corner++) {
                int at = 3 * mesh.corners()[corner];
                double u = axis == 0 ? -side * p[at + 2] : axis == 1 ? p[at] : side * p[at];
                double v = axis == 1 ? -side * p[at + 2] : p[at + 1];
                uvs[2 * corner] = (float) (u / repeat);
                uvs[2 * corner + 1] = (float) (v / repeat);
            }
        }
        return new Channel(uvs, 2, Channel.Per.CORNER);
    }

    private static double[] normal(float[] p, int[] corners, int start, int size) {
        double[] normal = new double[3];
        int a = 3 * corners[start + size - 1];
        for (int i = 0; i < size; i++) {
            int b = 3 * corners[start + i];
            normal[0] += (p[a + 1] - p[b + 1]) * (double) (p[a + 2] + p[b + 2]);
            normal[1] += (p[a + 2] - p[b + 2]) * (double) (p[a] + p[b]);
            normal[2] += (p[a] - p[b]) * (double) (p[a + 1] + p[b + 1]);
            a = b;
        }
        return normal;
    }
}
