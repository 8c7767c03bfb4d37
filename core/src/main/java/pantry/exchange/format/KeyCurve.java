package pantry.exchange.format;

import java.util.Optional;
import java.util.TreeSet;
import pantry.base.math.Vec3;
import pantry.motion.JointTransform;
import pantry.motion.KeySpan;

/**
 * Numbers that change over time, as formats tell them.
 *
 * @param times of the keys, seconds, rising
 * @param values key by key; of splines each key between its two tangents
 * @param width numbers of a value
 * @param isTurn whether values are turns, x, y, z, w, which go along the shorter arc
 */
public record KeyCurve(float[] times, float[] values, int width, boolean isTurn, Way way) {
    /** Between keys of a curved channel, seconds, and at most so many of them. */
    private static final double CURVED = 1 / 60.0;

    private static final int MOST_CURVED = 600;
    private static final double STEP = 1e-4;

    /** What holds between keys; see glTF 2.0, appendix C. */
    public enum Way {
        LINEAR,
        STEP,
        CUBICSPLINE;

        /** Values for each key. */
        public int perKey() {
            return this == CUBICSPLINE ? 3 : 1;
        }
    }

    /** The value at a time; before the first key and after the last those hold. */
    public double[] at(double time) {
        KeySpan keys = KeySpan.at(times, time);
        double share = keys.share();
        double[] one = value(keys.before(), 1);
        if (share == 0 || way == Way.STEP) {
            return one;
        }
        double[] other = value(keys.after(), 1);
        if (way == Way.CUBICSPLINE) {
            return curved(one, value(keys.before(), 2), other, value(keys.after(), 0), share, keys.seconds());
        }
        if (isTurn) {
            JointTransform turned = turn(one).towards(turn(other), share);
            return new double[] {turned.x(), turned.y(), turned.z(), turned.w()};
        }
        double[] mixed = new double[one.length];
        for (int i = 0; i < mixed.length; i++) {
            mixed[i] = one[i] * (1 - share) + other[i] * share;
        }
        return mixed;
    }

    private static JointTransform turn(double[] q) {
        return new JointTransform(Vec3.ZERO, q[3], q[0], q[1], q[2], Vec3.ONE);
    }

    /** Cubic Hermite splines, glTF 2.0, appendix C.4. */
    private static double[] curved(double[] one, double[] out, double[] other, double[] in, double t, double span) {
        double[] mixed = new double[one.length];
        for (int i = 0; i < mixed.length; i++) {
            mixed[i] = (2 * t * t * t - 3 * t * t + 1) * one[i]
                    + span * (t * t * t - 2 * t * t + t) * out[i]
                    + (-2 * t * t * t + 3 * t * t) * other[i]
                    + span * (t * t * t - t * t) * in[i];
        }
        return mixed;
    }

    /** The value at one of its keys. */
    public double[] key(int key) {
        return value(key, 1);
    }

    /** @param which 0 the tangent before a key, 1 the key, 2 the tangent behind it; the key alone but for splines */
    private double[] value(int key, int which) {
        int at = way == Way.CUBICSPLINE ? (3 * key + which) * width : key * width;
        double[] value = new double[width];
        for (int i = 0; i < width; i++) {
            value[i] = values[at + i];
        }
        return value;
    }

    /** Adds the times at which a motion has to have keys so that, between them, even change is what this says. */
    public void addTimes(TreeSet<Float> into) {
        for (int i = 0; i < times.length; i++) {
            float time = times[i];
            into.add(time);
            if (i == 0) {
                continue;
            }
            float before = times[i - 1];
            if (way == Way.STEP && time - before > 2 * STEP) {
                into.add((float) (time - STEP));
            } else if (way == Way.CUBICSPLINE) {
                int steps = (int) Math.min(MOST_CURVED, Math.ceil((time - before) / CURVED));
                for (int step = 1; step < steps; step++) {
                    into.add(before + (time - before) * step / steps);
                }
            }
        }
    }

    /**
     * What is wrong with the numbers, with the key's; empty where nothing is.
     *
     * @return such as {@code key 3 is not a number or infinite}
     */
    public Optional<String> fault() {
        if (times.length == 0 || values.length != times.length * width * way.perKey()) {
            return Optional.of("has " + times.length + " times and " + values.length / width
                    + " values, which do not go together");
        }
        for (int i = 0; i < times.length; i++) {
            if (!Float.isFinite(times[i]) || i > 0 && times[i] <= times[i - 1]) {
                return Optional.of("key " + i + " has a time that does not follow the one before");
            }
        }
        for (int i = 0; i < values.length; i++) {
            if (!Float.isFinite(values[i])) {
                return Optional.of("key " + i / width + " is not a number or infinite");
            }
        }
        return Optional.empty();
    }
}
