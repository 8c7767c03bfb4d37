package pantry.base.math;

import java.util.Arrays;

/**
 * A 4×4 matrix for row vectors: {@code p' = p * M}, the translation in the last row, as in OpenUSD.
 *
 * <p>{@code a.times(b)} applies {@code a} first. Immutable.
 */
public final class Matrix4 {
    public static final Matrix4 IDENTITY = new Matrix4(new double[] {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1});

    private final double[] m;

    private Matrix4(double[] m) {
        this.m = m;
    }

    /**
     * @param rows 16 numbers, row by row; copied
     * @throws IllegalArgumentException where there are not 16 numbers
     */
    public static Matrix4 ofRows(double... rows) {
        if (rows.length != 16) {
            throw new IllegalArgumentException("a 4×4 matrix has 16 numbers, not " + rows.length);
        }
        return new Matrix4(rows.clone());
    }

    public static Matrix4 translation(Vec3 t) {
        return new Matrix4(new double[] {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, t.x(), t.y(), t.z(), 1});
    }

    public static Matrix4 scale(Vec3 s) {
        return new Matrix4(new double[] {s.x(), 0, 0, 0, 0, s.y(), 0, 0, 0, 0, s.z(), 0, 0, 0, 0, 1});
    }

    /** Rotation about one axis (0 x, 1 y, 2 z) by an angle in degrees, counter-clockwise seen from its tip. */
    public static Matrix4 rotation(int axis, double degrees) {
        double[] m = IDENTITY.m.clone();
        double s = sine(degrees);
        double c = sine(degrees + 90);
        int a = (axis + 1) % 3;
        int b = (axis + 2) % 3;
        m[a * 4 + a] = c;
        m[a * 4 + b] = s;
        m[b * 4 + a] = -s;
        m[b * 4 + b] = c;
        return new Matrix4(m);
    }

    /** Rotations about x, then y, then z, in degrees (OpenUSD's {@code rotateXYZ}). */
    public static Matrix4 rotationXyz(Vec3 degrees) {
        return rotation(0, degrees.x()).times(rotation(1, degrees.y())).times(rotation(2, degrees.z()));
    }

    /** Rotation of a unit quaternion. */
    public static Matrix4 quaternion(double w, double x, double y, double z) {
        double n = w * w + x * x + y * y + z * z;
        if (n == 0) {
            return IDENTITY;
        }
        double s = 2 / n;
        return new Matrix4(new double[] {
            1 - s * (y * y + z * z),
            s * (x * y + z * w),
            s * (x * z - y * w),
            0,
            s * (x * y - z * w),
            1 - s * (x * x + z * z),
            s * (y * z + x * w),
            0,
            s * (x * z + y * w),
            s * (y * z - x * w),
            1 - s * (x * x + y * y),
            0,
            0,
            0,
            0,
            1
        });
    }

    /** Exact at multiples of 90°, so that a quarter turn leaves no dust in files. */
    private static double sine(double degrees) {
        double turn = Math.IEEEremainder(degrees, 360);
        if (turn == 0 || Math.abs(turn) == 180) {
            return 0;
        }
        if (Math.abs(turn) == 90) {
            return Math.signum(turn);
        }
        return Math.sin(Math.toRadians(turn));
    }

    public double get(int row, int column) {
        return m[row * 4 + column];
    }

    /** 16 numbers, row by row; a copy. */
    public double[] rows() {
        return m.clone();
    }

    /** This transform, then the other. */
    public Matrix4 times(Matrix4 o) {
        if (this == IDENTITY) {
            return o;
        }
        if (o == IDENTITY) {
            return this;
        }
        double[] r = new double[16];
        for (int i = 0; i < 4; i++) {
            for (int j = 0; j < 4; j++) {
                r[i * 4 + j] = m[i * 4] * o.m[j]
                        + m[i * 4 + 1] * o.m[4 + j]
                        + m[i * 4 + 2] * o.m[8 + j]
                        + m[i * 4 + 3] * o.m[12 + j];
            }
        }
        return new Matrix4(r);
    }

    public Vec3 point(Vec3 p) {
        return point(p.x(), p.y(), p.z());
    }

    public Vec3 point(double x, double y, double z) {
        return new Vec3(
                x * m[0] + y * m[4] + z * m[8] + m[12],
                x * m[1] + y * m[5] + z * m[9] + m[13],
                x * m[2] + y * m[6] + z * m[10] + m[14]);
    }

    /** Transforms a difference of points: no translation. */
    public Vec3 direction(Vec3 d) {
        return new Vec3(
                d.x() * m[0] + d.y() * m[4] + d.z() * m[8],
                d.x() * m[1] + d.y() * m[5] + d.z() * m[9],
                d.x() * m[2] + d.y() * m[6] + d.z() * m[10]);
    }

    public Vec3 translationPart() {
        return new Vec3(m[12], m[13], m[14]);
    }

    /** The determinant of the upper 3×3 part: negative where the transform mirrors. */
    public double determinant3() {
        return m[0] * (m[5] * m[10] - m[6] * m[9])
                - m[1] * (m[4] * m[10] - m[6] * m[8])
                + m[2] * (m[4] * m[9] - m[5] * m[8]);
    }

    /**
     * The inverse of an affine transform.
     *
     * @throws ArithmeticException where the matrix flattens space and has none
     */
    public Matrix4 inverse() {
        double det = determinant3();
        if (det == 0 || !Double.isFinite(det)) {
            throw new ArithmeticException("the matrix has no inverse");
        }
        double i = 1 / det;
        double[] r = new double[16];
        r[0] = (m[5] * m[10] - m[6] * m[9]) * i;
        r[1] = (m[2] * m[9] - m[1] * m[10]) * i;
        r[2] = (m[1] * m[6] - m[2] * m[5]) * i;
        r[4] = (m[6] * m[8] - m[4] * m[10]) * i;
        r[5] = (m[0] * m[10] - m[2] * m[8]) * i;
        r[6] = (m[2] * m[4] - m[0] * m[6]) * i;
        r[8] = (m[4] * m[9] - m[5] * m[8]) * i;
        r[9] = (m[1] * m[8] - m[0] * m[9]) * i;
        r[10] = (m[0] * m[5] - m[1] * m[4]) * i;
        for (int c = 0; c < 3; c++) {
            r[12 + c] = -(m[12] * r[c] + m[13] * r[4 + c] + m[14] * r[8 + c]);
        }
        r[15] = 1;
        return new Matrix4(r);
    }

    /** Whether each number is that of another within a share of it, or of one where it is smaller. */
    public boolean isNear(Matrix4 other, double share) {
        for (int i = 0; i < m.length; i++) {
            if (!(Math.abs(m[i] - other.m[i]) <= share * Math.max(1, Math.abs(m[i])))) {
                return false;
            }
        }
        return true;
    }

    public boolean isFinite() {
        return Arrays.stream(m).allMatch(Double::isFinite);
    }

    @Override
    public boolean equals(Object o) {
        return o instanceof Matrix4 other && Arrays.equals(m, other.m);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(m);
    }

    @Override
    public String toString() {
        return Arrays.toString(m);
    }
}
