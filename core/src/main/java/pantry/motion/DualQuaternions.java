package pantry.motion;

import java.util.Arrays;

/**
 * Blends placements of joints as unit dual quaternions (L. Kavan et al., Geometric skinning with approximate dual quaternion
 * blending, 2008): turns stay turns, so that twisted limbs do not grow thin. What is not rigid in them is taken off first and
 * blended linearly, as OpenUSD's UsdSkel does.
 */
final class DualQuaternions {
    private static final int STEPS = 20;

    /** For each joint what it does to points before it turns them: three rows of three numbers. */
    private final double[][] stretches;

    /** For each joint the turn (x, y, z, w) and the dual part that moves. */
    private final double[][] turns;

    private final double[] stretch = new double[9];
    private final double[] sum = new double[8];

    /** @param rows of each joint's affine map of row vectors: nine numbers, and where it moves the origin */
    DualQuaternions(double[][] rows) {
        stretches = new double[rows.length][];
        turns = new double[rows.length][];
        for (int i = 0; i < rows.length; i++) {
            double[] m = rows[i];
            double[] turn = turn(m);
            double[] kept = new double[9];
            // Turned back: the transpose of a turn is its inverse.
            for (int r = 0; r < 3; r++) {
                for (int c = 0; c < 3; c++) {
                    kept[3 * r + c] =
                            m[3 * r] * turn[3 * c] + m[3 * r + 1] * turn[3 * c + 1] + m[3 * r + 2] * turn[3 * c + 2];
                }
            }
            stretches[i] = kept;
            turns[i] = dual(quaternion(turn), m[9], m[10], m[11]);
        }
    }

    /** Begins with the mean of some joints. */
    void clear() {
        Arrays.fill(stretch, 0);
        Arrays.fill(sum, 0);
    }

    /** Adds a joint by its weight. */
    void add(int joint, double weight) {
        double[] turn = turns[joint];
        // Two opposite quaternions are the same turn: the near one counts.
        double side = sum[0] * turn[0] + sum[1] * turn[1] + sum[2] * turn[2] + sum[3] * turn[3] < 0 ? -weight : weight;
        for (int k = 0; k < 8; k++) {
            sum[k] += side * turn[k];
        }
        for (int k = 0; k < 9; k++) {
            stretch[k] += weight * stretches[joint][k];
        }
    }

    /**
     * The affine map that the mean is, as rows.
     *
     * @param all the sum of the weights
     */
    void mean(double all, double[] rows) {
        double length = Math.sqrt(sum[0] * sum[0] + sum[1] * sum[1] + sum[2] * sum[2] + sum[3] * sum[3]);
        if (length == 0) {
            return;
        }
        double x = sum[0] / length;
        double y = sum[1] / length;
        double z = sum[2] / length;
        double w = sum[3] / length;
        double dx = sum[4] / length;
        double dy = sum[5] / length;
        double dz = sum[6] / length;
        double dw = sum[7] / length;
        double[] turn = {
            1 - 2 * (y * y + z * z),
            2 * (x * y + w * z),
            2 * (x * z - w * y),
            2 * (x * y - w * z),
            1 - 2 * (x * x + z * z),
            2 * (y * z + w * x),
            2 * (x * z + w * y),
            2 * (y * z - w * x),
            1 - 2 * (x * x + y * y)
        };
        for (int r = 0; r < 3; r++) {
            for (int c = 0; c < 3; c++) {
                rows[3 * r + c] =
                        (stretch[3 * r] * turn[c] + stretch[3 * r + 1] * turn[3 + c] + stretch[3 * r + 2] * turn[6 + c])
                                / all;
            }
        }
        // Twice the dual part by the conjugate of the turn.
        rows[9] = 2 * (-dw * x + dx * w - dy * z + dz * y);
        rows[10] = 2 * (-dw * y + dx * z + dy * w - dz * x);
        rows[11] = 2 * (-dw * z - dx * y + dy * x + dz * w);
    }

    /** The turn nearest to a map, by the polar decomposition (N. Higham, 1986); none where the map is flat. */
    private static double[] turn(double[] m) {
        double[] r = {m[0], m[1], m[2], m[3], m[4], m[5], m[6], m[7], m[8]};
        for (int step = 0; step < STEPS; step++) {
            double[] cofactors = {
                r[4] * r[8] - r[5] * r[7], r[5] * r[6] - r[3] * r[8], r[3] * r[7] - r[4] * r[6],
                r[2] * r[7] - r[1] * r[8], r[0] * r[8] - r[2] * r[6], r[1] * r[6] - r[0] * r[7],
                r[1] * r[5] - r[2] * r[4], r[2] * r[3] - r[0] * r[5], r[0] * r[4] - r[1] * r[3]
            };
            double determinant = r[0] * cofactors[0] + r[1] * cofactors[1] + r[2] * cofactors[2];
            if (Math.abs(determinant) < 1e-12) {
                return new double[] {1, 0, 0, 0, 1, 0, 0, 0, 1};
            }
            for (int k = 0; k < 9; k++) {
                // The transpose of the inverse is the cofactors by the determinant.
                r[k] = (r[k] + cofactors[k] / determinant) / 2;
            }
        }
        double handed = r[0] * (r[4] * r[8] - r[5] * r[7])
                - r[1] * (r[3] * r[8] - r[5] * r[6])
                + r[2] * (r[3] * r[7] - r[4] * r[6]);
        if (handed < 0) {
            for (int k = 0; k < 9; k++) {
                r[k] = -r[k];
            }
        }
        return r;
    }

    /** The unit quaternion x, y, z, w of a turn of row vectors. */
    private static double[] quaternion(double[] r) {
        double trace = r[0] + r[4] + r[8];
        double[] q = new double[4];
        if (trace > 0) {
            double s = 2 * Math.sqrt(trace + 1);
            q[3] = s / 4;
            q[0] = (r[5] - r[7]) / s;
            q[1] = (r[6] - r[2]) / s;
            q[2] = (r[1] - r[3]) / s;
        } else {
            int i = r[0] > r[4] ? r[0] > r[8] ? 0 : 2 : r[4] > r[8] ? 1 : 2;
            int j = (i + 1) % 3;
            int k = (i + 2) % 3;
            double s = 2 * Math.sqrt(Math.max(0, 1 + r[4 * i] - r[4 * j] - r[4 * k]));
            q[i] = s / 4;
            q[j] = (r[3 * i + j] + r[3 * j + i]) / s;
            q[k] = (r[3 * i + k] + r[3 * k + i]) / s;
            q[3] = (r[3 * j + k] - r[3 * k + j]) / s;
        }
        return q;
    }

    /** A turn, then a move: half the move by the turn is the dual part. */
    private static double[] dual(double[] q, double x, double y, double z) {
        return new double[] {
            q[0],
            q[1],
            q[2],
            q[3],
            (x * q[3] + y * q[2] - z * q[1]) / 2,
            (-x * q[2] + y * q[3] + z * q[0]) / 2,
            (x * q[1] - y * q[0] + z * q[3]) / 2,
            (-x * q[0] - y * q[1] - z * q[2]) / 2
        };
    }
}
