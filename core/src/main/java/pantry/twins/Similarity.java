package pantry.twins;

import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.SingularValueDecomposition;
import pantry.base.math.Matrix4;

/**
 * The similarity that brings points onto others best: a rotation, a translation, and where wanted one scale for all
 * axes and a mirroring.
 *
 * <p>The least sum of squared distances in closed form (S. Umeyama, Least-squares estimation of transformation
 * parameters between two point patterns, IEEE PAMI 13, 1991, equations 40 to 43).
 */
public final class Similarity {
    private Similarity() {}

    /** What may be done to the points. */
    public enum Freedom {
        /** Turned and moved. */
        RIGID,
        /** Turned, moved and scaled. */
        SCALED
    }

    /**
     * The best transform of {@code from} onto {@code to}.
     *
     * @param from x, y and z of each point
     * @param to the point that each is to come to, in the same order
     * @param mirrored whether the transform turns left hands into right ones
     * @return for row vectors; always finite where the points are
     * @throws IllegalArgumentException where the numbers of points differ, or there are none
     */
    public static Matrix4 of(double[] from, double[] to, Freedom freedom, boolean mirrored) {
        if (from.length != to.length || from.length < 3 || from.length % 3 != 0) {
            throw new IllegalArgumentException("points of three numbers are needed, as many as there are others: "
                    + from.length + " and " + to.length + " numbers");
        }
        int count = from.length / 3;
        double[] a = mean(from);
        double[] b = mean(to);
        double[][] covariance = new double[3][3];
        double spread = 0;
        for (int i = 0; i < from.length; i += 3) {
            double x = from[i] - a[0];
            double y = from[i + 1] - a[1];
            double z = from[i + 2] - a[2];
            spread += x * x + y * y + z * z;
            for (int row = 0; row < 3; row++) {
                double t = to[i + row] - b[row];
                covariance[row][0] += t * x;
                covariance[row][1] += t * y;
                covariance[row][2] += t * z;
            }
        }
        for (double[] row : covariance) {
            for (int column = 0; column < 3; column++) {
                row[column] /= count;
            }
        }
        spread /= count;
        SingularValueDecomposition svd = new SingularValueDecomposition(new Array2DRowRealMatrix(covariance, false));
        RealMatrix u = svd.getU();
        RealMatrix v = svd.getV();
        double[] d = svd.getSingularValues();
        double hand = Math.signum(determinant(u) * determinant(v)) * (mirrored ? -1 : 1);
        double[] s = {1, 1, hand < 0 ? -1 : 1};
        double scale = freedom == Freedom.RIGID || spread == 0 ? 1 : (d[0] * s[0] + d[1] * s[1] + d[2] * s[2]) / spread;
        double[][] turn = new double[3][3];
        for (int row = 0; row < 3; row++) {
            for (int column = 0; column < 3; column++) {
                for (int k = 0; k < 3; k++) {
                    turn[row][column] += scale * u.getEntry(row, k) * s[k] * v.getEntry(column, k);
                }
            }
        }
        double[] move = new double[3];
        for (int row = 0; row < 3; row++) {
            move[row] = b[row] - turn[row][0] * a[0] - turn[row][1] * a[1] - turn[row][2] * a[2];
        }
        return Matrix4.ofRows(
                turn[0][0],
                turn[1][0],
                turn[2][0],
                0,
                turn[0][1],
                turn[1][1],
                turn[2][1],
                0,
                turn[0][2],
                turn[1][2],
                turn[2][2],
                0,
                move[0],
                move[1],
                move[2],
                1);
    }

    private static double[] mean(double[] points) {
        double[] mean = new double[3];
        for (int i = 0; i < points.length; i++) {
            mean[i % 3] += points[i];
        }
        for (int axis = 0; axis < 3; axis++) {
            mean[axis] /= points.length / 3;
        }
        return mean;
    }

    private static double determinant(RealMatrix m) {
        return m.getEntry(0, 0) * (m.getEntry(1, 1) * m.getEntry(2, 2) - m.getEntry(1, 2) * m.getEntry(2, 1))
                - m.getEntry(0, 1) * (m.getEntry(1, 0) * m.getEntry(2, 2) - m.getEntry(1, 2) * m.getEntry(2, 0))
                + m.getEntry(0, 2) * (m.getEntry(1, 0) * m.getEntry(2, 1) - m.getEntry(1, 1) * m.getEntry(2, 0));
    }
}
