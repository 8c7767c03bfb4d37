package pantry.mesh;

import java.util.Arrays;
import pantry.base.math.Vec3;

/**
 * Normals where a mesh does not say any: at each corner the mean of the normals of those faces around its point that
 * lie within the crease angle of its own face, larger faces counting for more.
 */
public final class SmoothNormals {
    /** Faces that meet at less than this angle look as one rounded surface. */
    private static final double CREASE_DEGREES = 40;

    private static final double CREASE_COSINE = Math.cos(Math.toRadians(CREASE_DEGREES));

    /** Faces that are all so near their mean are all within the crease angle of each other. */
    private static final double CONE_COSINE = Math.cos(Math.toRadians(CREASE_DEGREES / 2));

    private final int[] corners;
    private final int[] cornerFace;
    private final double[] faceNormals;
    private final double[] lengths;
    private final int[] first;
    private final int[] around;

    private SmoothNormals(Mesh mesh, int[] cornerFace) {
        this.corners = mesh.corners();
        this.cornerFace = cornerFace;
        this.faceNormals = faceNormals(mesh);
        this.lengths = new double[mesh.faceCount()];
        for (int face = 0; face < lengths.length; face++) {
            lengths[face] = length(faceNormals, 3 * face);
        }
        this.first = new int[mesh.pointCount() + 1];
        for (int point : corners) {
            first[point + 1]++;
        }
        for (int p = 0; p < mesh.pointCount(); p++) {
            first[p + 1] += first[p];
        }
        this.around = new int[corners.length];
        int[] filled = Arrays.copyOf(first, first.length);
        for (int c = 0; c < corners.length; c++) {
            around[filled[corners[c]]++] = cornerFace[c];
        }
    }

    /** The normals of a mesh, whatever it says of its own. */
    public static Channel of(Mesh mesh) {
        return of(mesh, CornerData.cornerFaces(mesh));
    }

    /** The normals: one for each point where the surface is creased nowhere, else one for each corner. */
    static Channel of(Mesh mesh, int[] cornerFace) {
        SmoothNormals smooth = new SmoothNormals(mesh, cornerFace);
        int points = mesh.pointCount();
        float[] perPoint = new float[3 * points];
        boolean[] creased = new boolean[points];
        boolean anyCreased = false;
        for (int p = 0; p < points; p++) {
            creased[p] = smooth.isCreased(p, perPoint);
            anyCreased |= creased[p];
        }
        return anyCreased
                ? new Channel(smooth.perCorner(perPoint, creased), 3, Channel.Per.CORNER)
                : new Channel(perPoint, 3, Channel.Per.POINT);
    }

    /** Sets a point's normal as if there were no crease, and tells whether there may be one. */
    private boolean isCreased(int point, float[] normals) {
        double x = 0;
        double y = 0;
        double z = 0;
        for (int i = first[point]; i < first[point + 1]; i++) {
            x += faceNormals[3 * around[i]];
            y += faceNormals[3 * around[i] + 1];
            z += faceNormals[3 * around[i] + 2];
        }
        put(normals, point, x, y, z);
        double least = CONE_COSINE * Math.sqrt(x * x + y * y + z * z);
        for (int i = first[point]; i < first[point + 1]; i++) {
            int f = 3 * around[i];
            double dot = faceNormals[f] * x + faceNormals[f + 1] * y + faceNormals[f + 2] * z;
            if (dot < least * lengths[around[i]]) {
                return true;
            }
        }
        return false;
    }

    private float[] perCorner(float[] perPoint, boolean[] creased) {
        float[] normals = new float[3 * corners.length];
        for (int c = 0; c < corners.length; c++) {
            if (creased[corners[c]]) {
                atCrease(c, normals);
            } else {
                System.arraycopy(perPoint, 3 * corners[c], normals, 3 * c, 3);
            }
        }
        return normals;
    }

    private void atCrease(int c, float[] normals) {
        int own = 3 * cornerFace[c];
        double ownLength = lengths[cornerFace[c]];
        double x = 0;
        double y = 0;
        double z = 0;
        for (int i = first[corners[c]]; i < first[corners[c] + 1]; i++) {
            int other = 3 * around[i];
            double dot = faceNormals[own] * faceNormals[other]
                    + faceNormals[own + 1] * faceNormals[other + 1]
                    + faceNormals[own + 2] * faceNormals[other + 2];
            if (dot >= CREASE_COSINE * ownLength * lengths[around[i]]) {
                x += faceNormals[other];
                y += faceNormals[other + 1];
                z += faceNormals[other + 2];
            }
        }
        put(normals, c, x, y, z);
    }

    private static void put(float[] normals, int element, double x, double y, double z) {
        double length = Math.sqrt(x * x + y * y + z * z);
        normals[3 * element] = (float) (length == 0 ? 0 : x / length);
        normals[3 * element + 1] = (float) (length == 0 ? 1 : y / length);
        normals[3 * element + 2] = (float) (length == 0 ? 0 : z / length);
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
}
