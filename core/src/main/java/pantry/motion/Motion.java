package pantry.motion;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import pantry.base.Parallel;
import pantry.base.math.Vec3;

/**
 * What the joints of a skeleton and the shapes of its meshes do over time: a {@code UsdSkelAnimation}. Immutable: arrays are shared, not copied, and must
 * not be changed.
 */
public final class Motion {
    /** Keys times joints and shapes of a motion that is read from a file: more are damaged, or were never thinned out. */
    public static final long MOST_KEYS = 8_000_000;

    private static final int MOVE = 3;
    private static final int TURN = 4;

    private final String name;
    private final float[] times;
    private final int joints;
    private final float[] moves;
    private final float[] turns;
    private final float[] scales;
    private final List<String> shapes;
    private final float[] weights;

    /**
     * A motion of joints alone.
     *
     * @param name for a person
     * @param times of the keys, seconds, rising, at least one
     * @param joints the number of joints of the skeleton
     * @param moves for each key all joints' x, y, z
     * @param turns for each key all joints' w, x, y, z
     * @param scales for each key all joints' x, y, z
     * @throws IllegalArgumentException where the arrays do not agree, or hold what is no number
     */
    public Motion(String name, float[] times, int joints, float[] moves, float[] turns, float[] scales) {
        this.name = name;
        this.times = times;
        this.joints = joints;
        this.moves = moves;
        this.turns = turns;
        this.scales = scales;
        this.shapes = List.of();
        this.weights = new float[0];
        int keys = times.length * joints;
        if (times.length == 0) {
            throw new IllegalArgumentException("the motion \"" + name + "\" has no keys");
        }
        if (moves.length != MOVE * keys || turns.length != TURN * keys || scales.length != MOVE * keys) {
            throw new IllegalArgumentException("the motion \"" + name + "\" has not as many keys as its " + times.length
                    + " times and " + joints + " joints need");
        }
        for (int i = 0; i < times.length; i++) {
            if (!Float.isFinite(times[i]) || i > 0 && times[i] <= times[i - 1]) {
                throw new IllegalArgumentException(
                        "the motion \"" + name + "\": key " + i + " has a time that does not follow the one before");
            }
        }
        for (float[] numbers : new float[][] {moves, turns, scales}) {
            for (float number : numbers) {
                if (!Float.isFinite(number)) {
                    throw new IllegalArgumentException("the motion \"" + name + "\" has a key that is no number");
                }
            }
        }
    }

    private Motion(Motion joints, List<String> shapes, float[] weights) {
        this.name = joints.name;
        this.times = joints.times;
        this.joints = joints.joints;
        this.moves = joints.moves;
        this.turns = joints.turns;
        this.scales = joints.scales;
        this.shapes = List.copyOf(shapes);
        this.weights = weights;
        if (weights.length != times.length * shapes.size()) {
            throw new IllegalArgumentException("the motion \"" + name + "\" has not as many weights as its "
                    + times.length + " times and " + shapes.size() + " shapes need");
        }
        for (float weight : weights) {
            if (!Float.isFinite(weight)) {
                throw new IllegalArgumentException("the motion \"" + name + "\" has a weight that is no number");
            }
        }
    }

    /**
     * This motion with shapes that change along.
     *
     * @param names of {@link BlendShapes}
     * @param keys for each key all shapes' weights
     */
    public Motion withShapes(List<String> names, float[] keys) {
        return new Motion(this, names, keys);
    }

    /** The shapes that it changes; {@code blendShapes}. */
    public List<String> shapes() {
        return shapes;
    }

    /** All shapes' weights at a key; {@code blendShapeWeights}. */
    public float[] weights(int key) {
        return Arrays.copyOfRange(weights, key * shapes.size(), (key + 1) * shapes.size());
    }

    /** For each key all shapes' weights; shared. */
    float[] weights() {
        return weights;
    }

    /** The shapes' weights at a time, by name; as {@link #at} otherwise. */
    public Map<String, Double> weightsAt(double seconds) {
        if (shapes.isEmpty()) {
            return Map.of();
        }
        KeySpan keys = KeySpan.at(times, seconds);
        Map<String, Double> now = new LinkedHashMap<>();
        for (int i = 0; i < shapes.size(); i++) {
            double before = weights[keys.before() * shapes.size() + i];
            double after = weights[keys.after() * shapes.size() + i];
            now.put(shapes.get(i), before + (after - before) * keys.share());
        }
        return now;
    }

    /** A motion whose joints are told one by one. */
    public static Motion of(String name, float[] times, int joints, Function<Integer, JointTransform[]> keys) {
        Filling filling = new Filling(times.length, joints);
        for (int key = 0; key < times.length; key++) {
            filling.put(key, keys.apply(key));
        }
        return filling.motion(name, times);
    }

    /** As above, on all cores; what tells one key must not hinder what tells another. */
    public static Motion ofAtOnce(String name, float[] times, int joints, IntFunction<JointTransform[]> keys) {
        Filling filling = new Filling(times.length, joints);
        Parallel.forEach(times.length, () -> filling, (same, key) -> same.put(key, keys.apply(key)));
        return filling.motion(name, times);
    }

    /** The numbers of a motion that is being told. */
    private static final class Filling {
        private final int joints;
        private final float[] moves;
        private final float[] turns;
        private final float[] scales;

        Filling(int keys, int joints) {
            this.joints = joints;
            this.moves = new float[keys * joints * MOVE];
            this.turns = new float[keys * joints * TURN];
            this.scales = new float[keys * joints * MOVE];
        }

        void put(int key, JointTransform[] pose) {
            for (int joint = 0; joint < joints; joint++) {
                put(pose[joint], key * joints + joint);
            }
        }

        private void put(JointTransform place, int at) {
            for (int axis = 0; axis < MOVE; axis++) {
                moves[MOVE * at + axis] = (float) place.move().get(axis);
                scales[MOVE * at + axis] = (float) place.scale().get(axis);
            }
            turns[TURN * at] = (float) place.w();
            turns[TURN * at + 1] = (float) place.x();
            turns[TURN * at + 2] = (float) place.y();
            turns[TURN * at + 3] = (float) place.z();
        }

        Motion motion(String name, float[] times) {
            return new Motion(name, times, joints, moves, turns, scales);
        }
    }

    public String name() {
        return name;
    }

    /** Of the keys, seconds; shared. */
    public float[] times() {
        return times;
    }

    public int joints() {
        return joints;
    }

    /** This motion under another name. */
    public Motion named(String other) {
        return new Motion(other, times, joints, moves, turns, scales).withShapes(shapes, weights);
    }

    /** From the first key to the last, seconds. */
    public double seconds() {
        return times[times.length - 1] - times[0];
    }

    /** What a joint does at a key. */
    public JointTransform key(int key, int joint) {
        int at = key * joints + joint;
        return new JointTransform(
                new Vec3(moves[MOVE * at], moves[MOVE * at + 1], moves[MOVE * at + 2]),
                turns[TURN * at],
                turns[TURN * at + 1],
                turns[TURN * at + 2],
                turns[TURN * at + 3],
                new Vec3(scales[MOVE * at], scales[MOVE * at + 1], scales[MOVE * at + 2]));
    }

    /** All joints' x, y, z at a key, as {@code translations} of a SkelAnimation holds them. */
    public float[] moves(int key) {
        return Arrays.copyOfRange(moves, key * joints * MOVE, (key + 1) * joints * MOVE);
    }

    /** All joints' w, x, y, z at a key. */
    public float[] turns(int key) {
        return Arrays.copyOfRange(turns, key * joints * TURN, (key + 1) * joints * TURN);
    }

    /** All joints' scales at a key. */
    public float[] scales(int key) {
        return Arrays.copyOfRange(scales, key * joints * MOVE, (key + 1) * joints * MOVE);
    }

    /**
     * The joints at a time; before the first key and after the last those hold.
     *
     * @param seconds as the times of the keys
     */
    public JointTransform[] at(double seconds) {
        KeySpan keys = KeySpan.at(times, seconds);
        JointTransform[] pose = new JointTransform[joints];
        for (int joint = 0; joint < joints; joint++) {
            JointTransform one = key(keys.before(), joint);
            pose[joint] = keys.share() == 0 ? one : one.towards(key(keys.after(), joint), keys.share());
        }
        return pose;
    }

    /** This motion with each key of some joints changed. */
    public Motion mapped(KeyChange change) {
        Motion changed = of(name, times, joints, key -> IntStream.range(0, joints)
                .mapToObj(joint -> change.changed(joint, key(key, joint)))
                .toArray(JointTransform[]::new));
        return changed.withShapes(shapes, weights);
    }

    /** What becomes of a joint's key. */
    @FunctionalInterface
    public interface KeyChange {
        JointTransform changed(int joint, JointTransform key);
    }

    @Override
    public boolean equals(Object o) {
        return o instanceof Motion other
                && name.equals(other.name)
                && joints == other.joints
                && Arrays.equals(times, other.times)
                && Arrays.equals(moves, other.moves)
                && Arrays.equals(turns, other.turns)
                && Arrays.equals(scales, other.scales)
                && shapes.equals(other.shapes)
                && Arrays.equals(weights, other.weights);
    }

    @Override
    public int hashCode() {
        return 31 * name.hashCode() + Arrays.hashCode(times);
    }

    @Override
    public String toString() {
        return name + ", " + times.length + " keys of " + joints + " joints";
    }
}
