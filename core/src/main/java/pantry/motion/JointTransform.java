package pantry.motion;

import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * A place within a joint's parent, in the components that are interpolated: scaled first, then turned, then moved, as
 * {@code UsdSkelAnimation} and glTF have it.
 *
 * @param move in the skeleton's unit
 * @param w of the turn's unit quaternion, the real part
 */
public record JointTransform(Vec3 move, double w, double x, double y, double z, Vec3 scale) {
    public static final JointTransform IDENTITY = new JointTransform(Vec3.ZERO, 1, 0, 0, 0, Vec3.ONE);

    /** Axes that are shorter are taken for none. */
    private static final double SHORTEST = 1e-12;

    /** As a transform, for row vectors. */
    public Matrix4 matrix() {
        return Matrix4.scale(scale).times(Matrix4.quaternion(w, x, y, z)).times(Matrix4.translation(move));
    }

    /**
     * The components of a transform. What is sheared keeps the directions of its first axis and of its first two axes' plane; a
     * mirroring one has a negative scale along x; an axis of no length gets the direction that the others leave.
     */
    public static JointTransform of(Matrix4 matrix) {
        Vec3 first = row(matrix, 0);
        Vec3 second = row(matrix, 1);
        Vec3 third = row(matrix, 2);
        Vec3 scale = new Vec3(first.length(), second.length(), third.length());
        Vec3 a = scale.x() > SHORTEST ? first.times(1 / scale.x()) : across(second, third);
        Vec3 b = second.minus(a.times(second.dot(a)));
        b = b.length() > SHORTEST ? b.times(1 / b.length()) : across(third, a);
        Vec3 c = a.cross(b);
        if (matrix.determinant3() < 0) {
            // Mirrored along x: the turn is that of the other way round.
            a = a.times(-1);
            c = c.times(-1);
            scale = new Vec3(-scale.x(), scale.y(), scale.z());
        }
        return turned(a, b, c, matrix.translationPart(), scale);
    }

    private static Vec3 row(Matrix4 matrix, int row) {
        return new Vec3(matrix.get(row, 0), matrix.get(row, 1), matrix.get(row, 2));
    }

    /** A unit vector at right angles to two, or to one of them. */
    private static Vec3 across(Vec3 one, Vec3 other) {
        Vec3 both = one.cross(other);
        if (both.length() > SHORTEST) {
            return both.times(1 / both.length());
        }
        Vec3 given = one.length() > SHORTEST ? one : other;
        Vec3 aside = Math.abs(given.x()) <= Math.abs(given.y()) ? new Vec3(1, 0, 0) : new Vec3(0, 1, 0);
        Vec3 found = given.cross(aside);
        return found.length() > SHORTEST ? found.times(1 / found.length()) : aside;
    }

    /**
     * K. Shoemake, Quaternions (1985): the largest of the four components is taken from the trace, so that no digits are lost.
     *
     * @param a b c the rows of a rotation for row vectors
     */
    private static JointTransform turned(Vec3 a, Vec3 b, Vec3 c, Vec3 move, Vec3 scale) {
        double trace = a.x() + b.y() + c.z();
        double w;
        double x;
        double y;
        double z;
        if (trace > 0) {
            double s = 2 * Math.sqrt(1 + trace);
            w = s / 4;
            x = (b.z() - c.y()) / s;
            y = (c.x() - a.z()) / s;
            z = (a.y() - b.x()) / s;
        } else if (a.x() >= b.y() && a.x() >= c.z()) {
            double s = 2 * Math.sqrt(Math.max(0, 1 + a.x() - b.y() - c.z()));
            w = (b.z() - c.y()) / s;
            x = s / 4;
            y = (a.y() + b.x()) / s;
            z = (a.z() + c.x()) / s;
        } else if (b.y() >= c.z()) {
            double s = 2 * Math.sqrt(Math.max(0, 1 + b.y() - a.x() - c.z()));
            w = (c.x() - a.z()) / s;
            x = (a.y() + b.x()) / s;
            y = s / 4;
            z = (b.z() + c.y()) / s;
        } else {
            double s = 2 * Math.sqrt(Math.max(0, 1 + c.z() - a.x() - b.y()));
            w = (a.y() - b.x()) / s;
            x = (a.z() + c.x()) / s;
            y = (b.z() + c.y()) / s;
            z = s / 4;
        }
        return new JointTransform(move, w, x, y, z, scale);
    }

    /** Between this and another: moves and scales by component, turns along the shorter arc at even speed. */
    public JointTransform towards(JointTransform other, double share) {
        double dot = w * other.w + x * other.x + y * other.y + z * other.z;
        double angle = Math.acos(Math.min(1, Math.abs(dot)));
        double ofThis = 1 - share;
        double ofOther = share;
        if (angle > 1e-6) {
            ofThis = Math.sin((1 - share) * angle) / Math.sin(angle);
            ofOther = Math.sin(share * angle) / Math.sin(angle);
        }
        ofOther = dot < 0 ? -ofOther : ofOther;
        return new JointTransform(
                move.times(1 - share).plus(other.move.times(share)),
                w * ofThis + other.w * ofOther,
                x * ofThis + other.x * ofOther,
                y * ofThis + other.y * ofOther,
                z * ofThis + other.z * ofOther,
                scale.times(1 - share).plus(other.scale.times(share)));
    }
}
