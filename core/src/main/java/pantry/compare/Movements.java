package pantry.compare;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import pantry.base.math.Matrix4;
import pantry.model.Model;
import pantry.motion.BlendShapes;
import pantry.motion.Motion;
import pantry.motion.Skeleton;

/** Compares what moves two states of a model: the joints, the blend shapes, and the motions, by their names. */
final class Movements {
    /** Times at even distances at which two motions of one name are held against each other. */
    private static final int LOOKS = 24;

    /** Of a second, and of a shape's weight: less is rounding. */
    private static final double SMALL = 1e-3;

    private final Skeleton old;
    private final Skeleton now;
    private final List<Comparison.Named> changes = new ArrayList<>();

    private Movements(Skeleton old, Skeleton now) {
        this.old = old;
        this.now = now;
    }

    /** What moves the later state otherwise than the earlier one. */
    static List<Comparison.Named> changes(Model before, Model after) {
        Movements movements = new Movements(skeleton(before), skeleton(after));
        movements.names("bone", movements.old.paths(), movements.now.paths());
        movements.names("shape", shapes(before), shapes(after));
        Map<String, Motion> earlier = byName(movements.old);
        Map<String, Motion> later = byName(movements.now);
        movements.names("motion", List.copyOf(earlier.keySet()), List.copyOf(later.keySet()));
        earlier.forEach((name, motion) -> Optional.ofNullable(later.get(name))
                .map(other -> movements.difference(motion, other))
                .filter(difference -> !difference.isEmpty())
                .ifPresent(difference -> movements.changes.add(
                        new Comparison.Named(Comparison.ChangeKind.REANIMATED, "motion " + name, difference))));
        return movements.changes;
    }

    private static Skeleton skeleton(Model model) {
        return model.extras().skeleton().orElseGet(() -> new Skeleton(List.of(), List.of()));
    }

    private static List<String> shapes(Model model) {
        return model.meshes().stream()
                .flatMap(mesh -> BlendShapes.of(mesh).keySet().stream())
                .distinct()
                .toList();
    }

    private static Map<String, Motion> byName(Skeleton skeleton) {
        return skeleton.motions().stream()
                .collect(Collectors.toMap(Motion::name, motion -> motion, (first, other) -> first, LinkedHashMap::new));
    }

    private void names(String kind, List<String> before, List<String> after) {
        without(kind, before, after, Comparison.ChangeKind.REMOVED);
        without(kind, after, before, Comparison.ChangeKind.ADDED);
    }

    private void without(String kind, List<String> all, List<String> known, Comparison.ChangeKind what) {
        Set<String> rest = new LinkedHashSet<>(all);
        rest.removeAll(Set.copyOf(known));
        rest.forEach(name -> changes.add(new Comparison.Named(what, kind + " " + name, "")));
    }

    /** In words; empty where there is none. */
    private String difference(Motion before, Motion after) {
        List<String> differences = new ArrayList<>();
        if (Math.abs(before.seconds() - after.seconds()) > SMALL) {
            differences.add(String.format(Locale.ROOT, "%.2f s \u2192 %.2f s", before.seconds(), after.seconds()));
        }
        double joints = 0;
        double weights = 0;
        boolean comparable = old.paths().equals(now.paths());
        for (int look = 0; look <= LOOKS; look++) {
            double then = before.times()[0] + before.seconds() * look / LOOKS;
            double since = after.times()[0] + after.seconds() * look / LOOKS;
            if (comparable) {
                joints = Math.max(joints, apart(old.posed(before, then), now.posed(after, since)));
            }
            weights = Math.max(weights, apart(before.weightsAt(then), after.weightsAt(since)));
        }
        if (joints > Skeleton.SAME_PLACE) {
            differences.add(String.format(Locale.ROOT, "joints up to %.4g m elsewhere", joints));
        }
        if (weights > SMALL) {
            differences.add("shapes up to " + Math.round(100 * weights) + " % otherwise");
        }
        return String.join(", ", differences);
    }

    /** How far a joint of one pose is, at most, from where it is in the other. */
    private static double apart(Matrix4[] pose, Matrix4[] other) {
        double most = 0;
        for (int joint = 0; joint < pose.length; joint++) {
            most = Math.max(
                    most,
                    pose[joint]
                            .translationPart()
                            .minus(other[joint].translationPart())
                            .length());
        }
        return most;
    }

    private static double apart(Map<String, Double> weights, Map<String, Double> others) {
        Set<String> names = new LinkedHashSet<>(weights.keySet());
        names.addAll(others.keySet());
        return names.stream()
                .mapToDouble(name -> Math.abs(weights.getOrDefault(name, 0.0) - others.getOrDefault(name, 0.0)))
                .max()
                .orElse(0);
    }
}
