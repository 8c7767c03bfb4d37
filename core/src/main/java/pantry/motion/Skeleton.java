package pantry.motion;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * Joints in a forest, and the motions that they have: a {@code UsdSkelSkeleton} that stands in the space of its model.
 *
 * @param joints each behind its parent
 * @param motions each of as many joints
 */
public record Skeleton(List<Joint> joints, List<Motion> motions) {
    /** Places that differ by no more in any number are the same binding, as exporters round. */
    public static final double SAME_PLACE = 1e-4;

    /** The parent of a joint that has none. */
    public static final int NONE = -1;

    /**
     * A joint.
     *
     * @param name without those of its parents
     * @param parent the number of the joint it hangs on, or {@link #NONE}
     * @param rest its place within its parent where nothing moves it
     * @param bind its place in the model when the points were bound to it
     */
    public record Joint(String name, int parent, Matrix4 rest, Matrix4 bind) {}

    /** @throws IllegalArgumentException where joints do not follow their parents, or a motion is one of other joints */
    public Skeleton {
        joints = List.copyOf(joints);
        motions = List.copyOf(motions);
        for (int i = 0; i < joints.size(); i++) {
            if (joints.get(i).parent() >= i || joints.get(i).parent() < NONE) {
                throw new IllegalArgumentException(
                        "joint " + i + ", \"" + joints.get(i).name() + "\", does not follow its parent");
            }
        }
        for (Motion motion : motions) {
            if (motion.joints() != joints.size()) {
                throw new IllegalArgumentException("the motion \"" + motion.name() + "\" is one of " + motion.joints()
                        + " joints, and there are " + joints.size());
            }
        }
    }

    /** The names of each joint and of those above it, between slashes, each path once: the tokens of {@code joints}. */
    public List<String> paths() {
        List<String> paths = new ArrayList<>(joints.size());
        Set<String> taken = new HashSet<>();
        // Where the numbers of a name go on, so that a thousand of one name are not counted through each time.
        Map<String, Integer> next = new HashMap<>();
        for (Joint joint : joints) {
            String above = joint.parent() == NONE ? "" : paths.get(joint.parent()) + "/";
            String plain = above + joint.name();
            String path = plain;
            while (!taken.add(path)) {
                path = plain + "_" + next.merge(plain, 2, (number, first) -> number + 1);
            }
            paths.add(path);
        }
        return paths;
    }

    /** The joints as the standard names them: identifiers between slashes, by which motions know them. */
    public List<String> tokens() {
        return new Skeleton(
                        joints.stream()
                                .map(joint -> new Joint(
                                        Names.identifier(joint.name()), joint.parent(), joint.rest(), joint.bind()))
                                .toList(),
                        List.of())
                .paths();
    }

    /** The joints' places in the model where nothing moves them. */
    public Matrix4[] rest() {
        Matrix4[] places = new Matrix4[joints.size()];
        for (int i = 0; i < places.length; i++) {
            places[i] = joints.get(i).rest();
        }
        return inModel(places);
    }

    /** The joints' places in the model at a time of a motion. */
    public Matrix4[] posed(Motion motion, double seconds) {
        JointTransform[] pose = motion.at(seconds);
        Matrix4[] places = new Matrix4[joints.size()];
        for (int i = 0; i < places.length; i++) {
            places[i] = pose[i].matrix();
        }
        return inModel(places);
    }

    private Matrix4[] inModel(Matrix4[] local) {
        for (int i = 0; i < local.length; i++) {
            int parent = joints.get(i).parent();
            if (parent != NONE) {
                local[i] = local[i].times(local[parent]);
            }
        }
        return local;
    }

    /** What takes points from where they were bound to where joints stand, by joint. */
    public Matrix4[] skinning(Matrix4[] places) {
        Matrix4[] changes = new Matrix4[places.length];
        for (int i = 0; i < changes.length; i++) {
            Matrix4 bind = joints.get(i).bind();
            changes[i] =
                    bind.determinant3() == 0 ? Matrix4.IDENTITY : bind.inverse().times(places[i]);
        }
        return changes;
    }

    /** This skeleton in a model that is moved as a whole. */
    public Skeleton moved(Matrix4 move) {
        List<Joint> moved = new ArrayList<>();
        for (Joint joint : joints) {
            moved.add(new Joint(
                    joint.name(),
                    joint.parent(),
                    joint.parent() == NONE ? joint.rest().times(move) : joint.rest(),
                    joint.bind().times(move)));
        }
        return new Skeleton(
                moved,
                motions.stream()
                        .map(motion ->
                                motion.mapped((joint, key) -> joints.get(joint).parent() == NONE
                                        ? JointTransform.of(key.matrix().times(move))
                                        : key))
                        .toList());
    }

    /**
     * This skeleton in another frame: lengths scaled, axes turned, no joint with a leftover scale or turn.
     *
     * @param change a rotation and uniform scale
     */
    public Skeleton reframed(Matrix4 change) {
        Matrix4 back = change.inverse();
        List<Joint> changed = new ArrayList<>();
        for (Joint joint : joints) {
            changed.add(new Joint(
                    joint.name(),
                    joint.parent(),
                    back.times(joint.rest()).times(change),
                    back.times(joint.bind()).times(change)));
        }
        return new Skeleton(
                changed,
                motions.stream()
                        .map(motion -> motion.mapped((joint, key) ->
                                JointTransform.of(back.times(key.matrix()).times(change))))
                        .toList());
    }

    /** This skeleton with other motions. */
    public Skeleton with(List<Motion> others) {
        return new Skeleton(joints, others);
    }

    /** How long a joint is in the model at rest: to the nearest of those that hang on it; 0 where none does. */
    public double length(int joint) {
        Matrix4[] places = rest();
        Vec3 here = places[joint].translationPart();
        double nearest = Double.POSITIVE_INFINITY;
        for (int i = joint + 1; i < places.length; i++) {
            if (joints.get(i).parent() == joint) {
                nearest = Math.min(
                        nearest, places[i].translationPart().minus(here).length());
            }
        }
        return Double.isInfinite(nearest) ? 0 : nearest;
    }
}
