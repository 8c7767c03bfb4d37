package pantry.prep.inspect;

import static pantry.prep.inspect.Rule.Group.MOTIONS;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import pantry.exchange.usd.UsdSkelReader;
import pantry.motion.Skin;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Values;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.Subject;

/** What is wrong with skeletons, with what hangs on them, and with their motions. */
final class MotionRules {
    /** Sums of weights that differ from one by less are told apart by no picture. */
    private static final double EVEN = 1e-3;

    private static final int MOST_TOLD = 5;

    /** So many pairs of points are compared at most. */
    private static final long MOST_COMPARED = 200_000_000;

    static final List<Rule> ALL = List.of(
            Rule.of(
                    "uneven-weight",
                    MOTIONS,
                    Severity.CAUTION,
                    "Weights that do not add to one",
                    "Some programs take them by their sum, others shrink the surface there.",
                    (subject, limits, found) -> skins(subject, (item, skin) -> {
                        long uneven = points(skin)
                                .filter(point -> sum(skin, point) > 0 && Math.abs(sum(skin, point) - 1) > EVEN)
                                .count();
                        if (uneven > 0) {
                            found.add(
                                    item.path(),
                                    item.title() + " has " + DisplayText.count(uneven, "point")
                                            + " whose weights do not add to one",
                                    fix(subject, item, "Make them one", evened(skin)));
                        }
                    })),
            Rule.of(
                    "unheld-point",
                    MOTIONS,
                    Severity.CAUTION,
                    "Point that hangs on no joint",
                    "It stays where it is while all around it moves, and tears the surface.",
                    (subject, limits, found) -> skins(subject, (item, skin) -> {
                        long loose = points(skin)
                                .filter(point -> !(sum(skin, point) > 0))
                                .count();
                        if (loose > 0) {
                            long held = skin.weights().length / skin.width() - loose;
                            found.add(
                                    item.path(),
                                    item.title() + " has " + DisplayText.count(loose, "point")
                                            + " that hang on no joint",
                                    held == 0 || loose * held > MOST_COMPARED
                                            ? null
                                            : fix(subject, item, "Hang them as the nearest", held(item, skin)));
                        }
                    })),
            Rule.of(
                            "many-influences",
                            MOTIONS,
                            Severity.INFORMATION,
                            "Point that hangs on many joints",
                            "Formats and programs that take fewer leave some out, each its own.",
                            (subject, limits, found) -> skins(subject, (item, skin) -> {
                                int most = (int) limits.number("most");
                                long many = points(skin)
                                        .filter(point -> influences(skin, point) > most)
                                        .count();
                                if (many > 0) {
                                    found.add(
                                            item.path(),
                                            item.title() + " has " + DisplayText.count(many, "point")
                                                    + " that hang on more than " + most + " joints",
                                            fix(
                                                    subject,
                                                    item,
                                                    "Keep those that count most",
                                                    fewer(skin, Math.max(1, most))));
                                }
                            }))
                    .limit("most", 4, "joints of a point"),
            Rule.of(
                    "idle-joint",
                    MOTIONS,
                    Severity.INFORMATION,
                    "Joint that nothing hangs on",
                    "It is stored in every key of every motion; the ends of limbs are often such.",
                    MotionRules::idleJoints),
            Rule.of(
                    "still-motion",
                    MOTIONS,
                    Severity.INFORMATION,
                    "Motion that moves nothing",
                    "It stands in every list of motions, and shows nothing.",
                    MotionRules::stillMotions));

    private MotionRules() {}

    /** A mesh and its skin. */
    @FunctionalInterface
    private interface Asked {
        void ask(InspectedPrim item, Skin skin);
    }

    private static void skins(Subject subject, Asked asked) {
        subject.objects()
                .filter(item -> item.prim().typeName().equals("Mesh"))
                .forEach(item -> UsdSkelReader.skin(item.prim()).ifPresent(skin -> asked.ask(item, skin)));
    }

    private static @Nullable Fix fix(Subject subject, InspectedPrim item, String what, Skin skin) {
        return subject.isSkinEditable(item) ? Fix.of(what, tidying -> tidying.setSkin(item.path(), skin)) : null;
    }

    private static IntStream points(Skin skin) {
        return IntStream.range(0, skin.weights().length / skin.width());
    }

    private static double sum(Skin skin, int point) {
        double sum = 0;
        for (int i = 0; i < skin.width(); i++) {
            float weight = skin.weights()[point * skin.width() + i];
            sum += weight > 0 ? weight : 0;
        }
        return sum;
    }

    private static int influences(Skin skin, int point) {
        int count = 0;
        for (int i = 0; i < skin.width(); i++) {
            count += skin.weights()[point * skin.width() + i] > 0 ? 1 : 0;
        }
        return count;
    }

    private static Skin evened(Skin skin) {
        float[] weights = skin.weights().clone();
        points(skin).forEach(point -> {
            double sum = sum(skin, point);
            for (int i = 0; i < skin.width() && sum > 0; i++) {
                int at = point * skin.width() + i;
                weights[at] = (float) (Math.max(0, weights[at]) / sum);
            }
        });
        return skin.with(skin.width(), skin.joints(), weights);
    }

    /** With the joints and weights of the nearest point that hangs on some. */
    private static Skin held(InspectedPrim item, Skin skin) {
        float[] places = Values.floats(item.prim(), "points", 3);
        float[] joints = skin.joints().clone();
        float[] weights = skin.weights().clone();
        int[] held = points(skin).filter(point -> sum(skin, point) > 0).toArray();
        points(skin).filter(point -> !(sum(skin, point) > 0)).forEach(point -> {
            int nearest = held[0];
            double least = Double.POSITIVE_INFINITY;
            for (int other : held) {
                double far = places == null ? 0 : apart(places, point, other);
                if (far < least) {
                    least = far;
                    nearest = other;
                }
            }
            System.arraycopy(skin.joints(), nearest * skin.width(), joints, point * skin.width(), skin.width());
            System.arraycopy(skin.weights(), nearest * skin.width(), weights, point * skin.width(), skin.width());
        });
        return skin.with(skin.width(), joints, weights);
    }

    private static double apart(float[] places, int one, int other) {
        double sum = 0;
        for (int axis = 0; axis < 3; axis++) {
            double d = places[3 * one + axis] - places[3 * other + axis];
            sum += d * d;
        }
        return sum;
    }

    private static Skin fewer(Skin skin, int most) {
        int count = skin.weights().length / skin.width();
        float[] joints = new float[count * most];
        float[] weights = new float[count * most];
        points(skin).forEach(point -> {
            List<Integer> used = new ArrayList<>();
            for (int i = 0; i < skin.width(); i++) {
                if (skin.weights()[point * skin.width() + i] > 0) {
                    used.add(point * skin.width() + i);
                }
            }
            used.sort((a, b) -> Float.compare(skin.weights()[b], skin.weights()[a]));
            double sum = used.stream()
                    .limit(most)
                    .mapToDouble(at -> skin.weights()[at])
                    .sum();
            for (int i = 0; i < Math.min(most, used.size()); i++) {
                joints[point * most + i] = skin.joints()[used.get(i)];
                weights[point * most + i] = (float) (skin.weights()[used.get(i)] / sum);
            }
        });
        return skin.with(most, joints, weights);
    }

    private static void idleJoints(Subject subject, Limits limits, Findings found) {
        for (Prim skeleton : prims(subject, "Skeleton")) {
            List<String> joints = Values.strings(skeleton, "joints");
            Set<String> needed = new HashSet<>();
            skins(subject, (item, skin) -> {
                if (UsdSkelReader.skeletonOf(item.prim())
                        .filter(skeleton.path()::equals)
                        .isPresent()) {
                    needed.addAll(used(joints, UsdSkelReader.jointsOf(item.prim()), skin));
                }
            });
            List<String> idle = joints.stream()
                    .filter(joint ->
                            needed.stream().noneMatch(other -> other.equals(joint) || other.startsWith(joint + "/")))
                    .map(joint -> joint.substring(joint.lastIndexOf('/') + 1))
                    .toList();
            if (!idle.isEmpty() && !needed.isEmpty()) {
                found.add(
                        skeleton.path(),
                        skeleton.name() + " has " + DisplayText.count(idle.size(), "joint")
                                + " that nothing hangs on: "
                                + idle.stream().limit(MOST_TOLD).collect(Collectors.joining(", "))
                                + (idle.size() > MOST_TOLD ? " and others" : ""),
                        null);
            }
        }
    }

    /** The joints that some point hangs on. */
    private static Set<String> used(List<String> joints, List<String> own, Skin skin) {
        List<String> names = own.isEmpty() ? joints : own;
        Set<String> used = new HashSet<>();
        for (int i = 0; i < skin.joints().length; i++) {
            int joint = (int) skin.joints()[i];
            if (skin.weights()[i] > 0 && joint >= 0 && joint < names.size()) {
                used.add(names.get(joint));
            }
        }
        return used;
    }

    private static void stillMotions(Subject subject, Limits limits, Findings found) {
        for (Prim motion : prims(subject, UsdSkelReader.ANIMATION_TYPE)) {
            boolean moves = motion.propertyNames().stream()
                    .flatMap(name -> motion.attribute(name).stream())
                    .anyMatch(MotionRules::changes);
            boolean timed = motion.propertyNames().stream()
                    .flatMap(name -> motion.attribute(name).stream())
                    .anyMatch(attribute -> attribute.times().size() > 1);
            if (timed && !moves) {
                found.add(
                        motion.path(),
                        String.format(
                                Locale.ROOT,
                                "the motion %s has keys, and all of them are the same",
                                motion.text("displayName").orElse(motion.name())),
                        Fix.of("Remove it", tidying -> tidying.remove(motion.path())));
            }
        }
    }

    /** Whether an attribute is not always what it is at its first time. */
    private static boolean changes(Attribute attribute) {
        Optional<Value> first = Optional.empty();
        for (double time : attribute.times()) {
            Optional<Value> now = attribute.valueAt(time);
            if (first.isPresent() && !same(first.get(), now.orElse(null))) {
                return true;
            }
            first = first.isPresent() ? first : now;
        }
        return false;
    }

    private static boolean same(Value one, @Nullable Value other) {
        return one instanceof Value.Floats(float[] a, int width)
                        && other instanceof Value.Floats(float[] b, int otherWidth)
                ? width == otherWidth && Arrays.equals(a, b)
                : one.equals(other);
    }

    private static List<Prim> prims(Subject subject, String type) {
        return subject.items()
                .map(InspectedPrim::prim)
                .filter(prim -> prim.typeName().equals(type))
                .toList();
    }
}
