package pantry.usd.compose;

import java.util.Arrays;
import pantry.usd.Value;
import pantry.usd.ValueType;

/**
 * Values between two time samples: linear for numbers, vectors and matrices by component, spherical for quaternions;
 * held for everything else and for arrays of unequal length.
 *
 * <p>Source: AOUSD Core Specification 1.0, value resolution, interpolation; slerp after K. Shoemake, Animating rotation
 * with quaternion curves, SIGGRAPH 1985.
 */
final class Interpolation {
    private Interpolation() {}

    /** @param share 0 for the earlier value, 1 for the later */
    static Value between(Value earlier, Value later, double share, String typeName) {
        boolean quaternion = typeName.startsWith("quat");
        boolean timeOrWhole = ValueType.of(typeName)
                .map(type -> switch (type.scalar()) {
                    case HALF, FLOAT, DOUBLE, TIMECODE -> false;
                    default -> true;
                })
                .orElse(true);
        if (timeOrWhole) {
            return earlier;
        }
        if (earlier instanceof Value.Real(double a) && later instanceof Value.Real(double b)) {
            return new Value.Real(mix(a, b, share));
        }
        if (earlier instanceof Value.Tuple(double[] a)
                && later instanceof Value.Tuple(double[] b)
                && a.length == b.length) {
            return new Value.Tuple(mixed(a, b, share, quaternion));
        }
        if (earlier instanceof Value.Floats(float[] a, int width)
                && later instanceof Value.Floats(float[] b, int otherWidth)
                && a.length == b.length
                && width == otherWidth) {
            return new Value.Floats(mixed(a, b, share, width, quaternion), width);
        }
        if (earlier instanceof Value.Doubles(double[] a, int width)
                && later instanceof Value.Doubles(double[] b, int otherWidth)
                && a.length == b.length
                && width == otherWidth) {
            double[] mixed = new double[a.length];
            for (int i = 0; i < a.length; i += width) {
                double[] one = mixed(
                        Arrays.copyOfRange(a, i, i + width), Arrays.copyOfRange(b, i, i + width), share, quaternion);
                System.arraycopy(one, 0, mixed, i, width);
            }
            return new Value.Doubles(mixed, width);
        }
        return earlier;
    }

    private static double mix(double a, double b, double share) {
        return a * (1 - share) + b * share;
    }

    private static float[] mixed(float[] a, float[] b, double share, int width, boolean quaternion) {
        float[] mixed = new float[a.length];
        if (!quaternion) {
            for (int i = 0; i < a.length; i++) {
                mixed[i] = (float) mix(a[i], b[i], share);
            }
            return mixed;
        }
        double[] one = new double[width];
        double[] other = new double[width];
        for (int i = 0; i < a.length; i += width) {
            for (int k = 0; k < width; k++) {
                one[k] = a[i + k];
                other[k] = b[i + k];
            }
            double[] result = mixed(one, other, share, true);
            for (int k = 0; k < width; k++) {
                mixed[i + k] = (float) result[k];
            }
        }
        return mixed;
    }

    /** Two tuples between each other; quaternions along the shorter arc. */
    private static double[] mixed(double[] a, double[] b, double share, boolean quaternion) {
        double ofA = 1 - share;
        double ofB = share;
        if (quaternion) {
            double dot = 0;
            for (int i = 0; i < a.length; i++) {
                dot += a[i] * b[i];
            }
            double angle = Math.acos(Math.min(1, Math.abs(dot)));
            if (angle > 1e-6) {
                ofA = Math.sin((1 - share) * angle) / Math.sin(angle);
                ofB = Math.sin(share * angle) / Math.sin(angle);
            }
            ofB = dot < 0 ? -ofB : ofB;
        }
        double[] mixed = new double[a.length];
        for (int i = 0; i < a.length; i++) {
            mixed[i] = a[i] * ofA + b[i] * ofB;
        }
        return mixed;
    }
}
