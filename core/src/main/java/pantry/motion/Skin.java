package pantry.motion;

import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;

/**
 * Which joints move the points of a mesh, and how much. It is kept as two channels of the mesh, by OpenUSD's names, so that it
 * goes with the points whatever is done to them.
 *
 * @param width influences per point
 * @param joints for each point the numbers of its joints; shared
 * @param weights for each point how much each of them counts; shared
 */
public record Skin(int width, float[] joints, float[] weights) {
    /** The primvar with the numbers of joints. */
    public static final String JOINTS = "skel:jointIndices";

    /** The primvar with the weights. */
    public static final String WEIGHTS = "skel:jointWeights";

    /** The skin of a mesh; empty where it has none, or one that is not told by point. */
    public static Optional<Skin> of(Mesh mesh) {
        Channel joints = mesh.primvars().get(JOINTS);
        Channel weights = mesh.primvars().get(WEIGHTS);
        if (joints == null
                || weights == null
                || joints.width() != weights.width()
                || joints.per() != Channel.Per.POINT
                || weights.per() != Channel.Per.POINT) {
            return Optional.empty();
        }
        return Optional.of(new Skin(joints.width(), joints.data(), weights.data()));
    }

    /** A mesh that hangs on this skin instead of its own. */
    public Mesh on(Mesh mesh) {
        return mesh.withPrimvar(JOINTS, new Channel(joints, width, Channel.Per.POINT))
                .withPrimvar(WEIGHTS, new Channel(weights, width, Channel.Per.POINT));
    }

    /** A mesh all of whose points go with one joint. */
    public static Mesh rigid(Mesh mesh, int joint) {
        float[] joints = new float[mesh.pointCount()];
        float[] weights = new float[mesh.pointCount()];
        java.util.Arrays.fill(joints, joint);
        java.util.Arrays.fill(weights, 1);
        return new Skin(1, joints, weights).on(mesh);
    }

    /**
     * Linear blend skinning: each point goes where its joints take it, by their weights (N. Magnenat-Thalmann et al.,
     * Joint-dependent local deformations, 1988; glTF 2.0, 3.7.3.3). Weights are taken by their sum; a point without any stays.
     *
     * @param points x, y, z of each, where they were bound, in the model
     * @param changes by joint, see {@link Skeleton#skinning}
     * @return x, y, z of each, in the model
     */
    public float[] deformed(float[] points, Matrix4[] changes) {
        float[] moved = new float[points.length];
        double[][] rows = rows(changes);
        double[] sum = new double[12];
        for (int point = 0; point < points.length / 3; point++) {
            if (!blend(point, rows, sum)) {
                System.arraycopy(points, 3 * point, moved, 3 * point, 3);
                continue;
            }
            double x = points[3 * point];
            double y = points[3 * point + 1];
            double z = points[3 * point + 2];
            moved[3 * point] = (float) (x * sum[0] + y * sum[3] + z * sum[6] + sum[9]);
            moved[3 * point + 1] = (float) (x * sum[1] + y * sum[4] + z * sum[7] + sum[10]);
            moved[3 * point + 2] = (float) (x * sum[2] + y * sum[5] + z * sum[8] + sum[11]);
        }
        return moved;
    }

    /**
     * Normals as their points are turned; unit vectors.
     *
     * @param normals x, y, z of each, where they were bound, in the model
     * @param points which point each of them belongs to
     */
    public float[] turned(float[] normals, int[] points, Matrix4[] changes) {
        float[] turned = new float[normals.length];
        double[][] rows = rows(changes);
        double[] m = new double[12];
        for (int i = 0; i < points.length; i++) {
            double x = normals[3 * i];
            double y = normals[3 * i + 1];
            double z = normals[3 * i + 2];
            if (blend(points[i], rows, m)) {
                // The transpose of the inverse, but for its size: the rows' cross products.
                double nx = x * (m[4] * m[8] - m[5] * m[7])
                        + y * (m[7] * m[2] - m[8] * m[1])
                        + z * (m[1] * m[5] - m[2] * m[4]);
                double ny = x * (m[5] * m[6] - m[3] * m[8])
                        + y * (m[8] * m[0] - m[6] * m[2])
                        + z * (m[2] * m[3] - m[0] * m[5]);
                double nz = x * (m[3] * m[7] - m[4] * m[6])
                        + y * (m[6] * m[1] - m[7] * m[0])
                        + z * (m[0] * m[4] - m[1] * m[3]);
                double length = Math.sqrt(nx * nx + ny * ny + nz * nz);
                if (length > 0) {
                    x = nx / length;
                    y = ny / length;
                    z = nz / length;
                }
            }
            turned[3 * i] = (float) x;
            turned[3 * i + 1] = (float) y;
            turned[3 * i + 2] = (float) z;
        }
        return turned;
    }

    private static double[][] rows(Matrix4[] changes) {
        double[][] rows = new double[changes.length][];
        for (int i = 0; i < rows.length; i++) {
            double[] m = changes[i].rows();
            rows[i] = new double[] {m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10], m[12], m[13], m[14]};
        }
        return rows;
    }

    /** The mean of what takes a point somewhere; false where nothing does. */
    private boolean blend(int point, double[][] rows, double[] sum) {
        java.util.Arrays.fill(sum, 0);
        double all = 0;
        for (int i = 0; i < width; i++) {
            double weight = weights[point * width + i];
            int joint = (int) joints[point * width + i];
            if (weight > 0 && joint >= 0 && joint < rows.length) {
                all += weight;
                double[] m = rows[joint];
                for (int k = 0; k < 12; k++) {
                    sum[k] += weight * m[k];
                }
            }
        }
        if (all <= 0) {
            return false;
        }
        if (all != 1) {
            for (int k = 0; k < 12; k++) {
                sum[k] /= all;
            }
        }
        return true;
    }
}
