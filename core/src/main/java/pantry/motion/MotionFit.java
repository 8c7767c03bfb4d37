package pantry.motion;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import pantry.base.Names;
import pantry.base.math.Vec3;

/**
 * A motion of one skeleton as another does it, joint by joint by their names with those above them, as a
 * {@code UsdSkelAnimation} is bound: joints that it does not tell of are at rest.
 *
 * @param motion of the other skeleton
 * @param moving how many joints the motion moves
 * @param missing those of them that the other skeleton does not have
 * @param longest how many times as long as the other skeleton's own its longest bone becomes, or how many times shorter; 1
 *     where none changes
 */
public record MotionFit(Motion motion, int moving, List<String> missing, double longest) {
    /** Bones that differ by less are told as the same. */
    private static final double NEARLY = 1.02;

    private static final int MOST_NAMED = 4;

    public MotionFit {
        missing = List.copyOf(missing);
    }

    /** @param motion of {@code own} */
    public static MotionFit of(Skeleton own, Motion motion, Skeleton onto) {
        List<String> told = own.tokens();
        Map<String, Integer> numbers = HashMap.newHashMap(told.size());
        for (int i = 0; i < told.size(); i++) {
            numbers.put(told.get(i), i);
        }
        List<String> names = onto.tokens();
        int[] places =
                names.stream().mapToInt(name -> numbers.getOrDefault(name, -1)).toArray();
        JointTransform[] rest = onto.joints().stream()
                .map(joint -> JointTransform.of(joint.rest()))
                .toArray(JointTransform[]::new);
        Motion fitted = Motion.of(motion.name(), motion.times(), places.length, key -> {
            JointTransform[] pose = rest.clone();
            for (int joint = 0; joint < places.length; joint++) {
                if (places[joint] >= 0) {
                    pose[joint] = motion.key(key, places[joint]);
                }
            }
            return pose;
        });
        if (!motion.shapes().isEmpty()) {
            fitted = fitted.withShapes(motion.shapes(), motion.weights());
        }
        names.forEach(numbers::remove);
        List<String> missing = new ArrayList<>();
        int moving = 0;
        for (int joint = 0; joint < told.size(); joint++) {
            if (moves(motion, joint)) {
                moving++;
                if (numbers.containsKey(told.get(joint))) {
                    missing.add(told.get(joint));
                }
            }
        }
        return new MotionFit(fitted, moving, missing, longest(motion, places, onto, rest));
    }

    private static boolean moves(Motion motion, int joint) {
        JointTransform first = motion.key(0, joint);
        for (int key = 1; key < motion.times().length; key++) {
            if (!motion.key(key, joint).equals(first)) {
                return true;
            }
        }
        return false;
    }

    private static double longest(Motion motion, int[] places, Skeleton onto, JointTransform[] rest) {
        double longest = 1;
        for (int joint = 0; joint < places.length; joint++) {
            double told =
                    places[joint] < 0 ? 0 : length(motion.key(0, places[joint]).move());
            double own = length(rest[joint].move());
            if (told > 0 && own > 0 && onto.joints().get(joint).parent() != Skeleton.NONE) {
                longest = Math.max(longest, Math.max(told / own, own / told));
            }
        }
        return longest;
    }

    /** Of what is shorter than a tenth of a millimetre the length says nothing. */
    private static double length(Vec3 move) {
        return move.length() < 1e-4 ? 0 : move.length();
    }

    /** Whether the other skeleton has any of the joints that it moves. */
    public boolean fits() {
        return !motion.shapes().isEmpty() || missing.size() < moving;
    }

    /** What does not fit, for a person; empty where all does. */
    public Optional<String> misfit() {
        List<String> told = new ArrayList<>();
        if (!missing.isEmpty()) {
            int more = missing.size() - MOST_NAMED;
            told.add("it has no " + missing.stream().limit(MOST_NAMED).collect(Collectors.joining(", "))
                    + (more > 0 ? " and " + Names.counted(more, "more joint") : ""));
        }
        if (longest > NEARLY) {
            told.add(String.format(Locale.ROOT, "bones change their length, by up to × %.2f", longest));
        }
        return told.isEmpty() ? Optional.empty() : Optional.of(String.join("; ", told));
    }
}
