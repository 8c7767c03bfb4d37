package pantry.exchange.format;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import pantry.base.math.Matrix4;
import pantry.mesh.Mesh;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;

/**
 * What moves in a file whose joints are objects among others, made into one skeleton: the objects that surfaces hang on by
 * weights, and those that have motions. What stands on one of the latter without weights goes with it as a whole.
 */
public final class Rig {

    private final int[] parents;
    private final IntFunction<Matrix4> local;
    private final IntFunction<String> names;
    private final Set<Integer> moving;
    private final List<Bone> bones = new ArrayList<>();

    /** The first joint of each object. */
    private final Map<Integer, Integer> byNode = new HashMap<>();

    /** The joints of each object, one for each way in which it was bound. */
    private final Map<Integer, List<Integer>> bindings = new HashMap<>();

    /** Joints whose binding has been told. */
    private final Set<Integer> told = new HashSet<>();

    private final Map<Map.Entry<Mesh, Integer>, Mesh> rigid = new HashMap<>();

    /**
     * A joint.
     *
     * @param between from the joint's parent object to the joint above it
     * @param rest its place in the model where nothing moves it
     */
    private record Bone(int node, int parent, Matrix4 between, Matrix4 rest, Matrix4 bind) {
        Bone boundAt(Matrix4 place) {
            return new Bone(node, parent, between, rest, place);
        }
    }

    /**
     * Joints that a surface was bound to.
     *
     * @param joints their numbers in the skeleton, in the order in which they were told
     * @param place from the surface's space to the model's: where it stands at rest
     */
    public record Binding(int[] joints, Matrix4 place) {}

    /**
     * @param parents of each object, {@link Skeleton#NONE} where there is none
     * @param local the place of an object within its parent
     * @param names of objects, for a person
     * @param moving the objects that are joints
     * @throws IllegalArgumentException naming an object that is below itself
     */
    public Rig(int[] parents, IntFunction<Matrix4> local, IntFunction<String> names, Set<Integer> moving) {
        this.parents = parents;
        this.local = local;
        this.names = names;
        this.moving = moving;
        for (int node = 0; node < parents.length && !moving.isEmpty(); node++) {
            bone(node, 0);
        }
    }

    /** The joint of an object, made behind those above it; none where the object does not move. */
    private int bone(int node, int depth) {
        if (depth > Imported.DEEPEST) {
            throw new IllegalArgumentException("has joints that are nested more than " + Imported.DEEPEST
                    + " deep, or in a circle, at object " + node);
        }
        if (!moving.contains(node)) {
            return Skeleton.NONE;
        }
        Integer known = byNode.get(node);
        if (known != null) {
            return known;
        }
        Matrix4 between = Matrix4.IDENTITY;
        int above = parents[node];
        int steps = 0;
        while (above != Skeleton.NONE && !moving.contains(above)) {
            between = between.times(local.apply(above));
            above = parents[above];
            if (++steps > parents.length) {
                throw new IllegalArgumentException("is the child of one of its own children: object " + node);
            }
        }
        int parent = above == Skeleton.NONE ? Skeleton.NONE : bone(above, depth + 1);
        byNode.put(node, bones.size());
        Matrix4 place = local.apply(node).times(between);
        Matrix4 rest =
                parent == Skeleton.NONE ? place : place.times(bones.get(parent).rest());
        return add(new Bone(node, parent, between, rest, rest));
    }

    private int add(Bone bone) {
        bones.add(bone);
        bindings.computeIfAbsent(bone.node(), node -> new ArrayList<>()).add(bones.size() - 1);
        return bones.size() - 1;
    }

    /** Whether nothing moves. */
    public boolean isEmpty() {
        return bones.isEmpty();
    }

    /** Whether an object is a joint. */
    public boolean isJoint(int node) {
        return byNode.containsKey(node);
    }

    /** The joint that an object goes with: its own, or the nearest above it. */
    private Optional<Integer> above(int node) {
        int at = node;
        for (int steps = 0; at != Skeleton.NONE && steps <= parents.length; steps++) {
            if (byNode.containsKey(at)) {
                return Optional.of(byNode.get(at));
            }
            at = parents[at];
        }
        return Optional.empty();
    }

    /** A mesh as it hangs on what moves its object; the same for the same joint. To be asked for once all are bound. */
    public Mesh moved(Mesh mesh, int node) {
        return above(node)
                .map(joint -> bound(joint, bones.get(joint).rest(), false))
                .map(joint -> rigid.computeIfAbsent(Map.entry(mesh, joint), key -> Skin.rigid(mesh, joint)))
                .orElse(mesh);
    }

    /**
     * The joints that a surface was bound to; those that were bound otherwise for another surface are joints of their own. It
     * stands as its first joint has it at rest: most stand at rest as they were bound.
     *
     * @param nodes objects that are joints
     * @param unbind for each of them, from the surface's space to the joint's when it was bound; invertible
     */
    public Binding bind(int[] nodes, Matrix4[] unbind) {
        int[] joints = new int[nodes.length];
        Matrix4 stands = unbind[0].times(bones.get(byNode.get(nodes[0])).rest());
        Set<Integer> met = new HashSet<>();
        for (int i = 0; i < joints.length; i++) {
            int joint = byNode.get(nodes[i]);
            joints[i] = bound(joint, unbind[i].inverse().times(stands), met.add(joint));
        }
        return new Binding(joints, stands);
    }

    /** The joint of that binding: the object's first one, where it was not bound otherwise before. */
    private int bound(int joint, Matrix4 bind, boolean first) {
        Bone bone = bones.get(joint);
        if (first && told.add(joint)) {
            bones.set(joint, bone.boundAt(bind));
            return joint;
        }
        for (int known : bindings.getOrDefault(bone.node(), List.of())) {
            if (bones.get(known).bind().isNear(bind, Skeleton.SAME_PLACE)) {
                return known;
            }
        }
        return add(bone.boundAt(bind));
    }

    /**
     * A motion of all joints; those that no track tells of are at rest.
     *
     * @return empty where no track tells of a joint or of a shape
     * @throws IllegalArgumentException where there are too many keys
     */
    public Optional<Motion> motion(String name, List<MotionTrack> tracks, List<ShapeTrack> shapes) {
        Map<Integer, List<MotionTrack>> byJoint = new HashMap<>();
        TreeSet<Float> times = new TreeSet<>();
        float[] before = {};
        for (MotionTrack track : tracks) {
            if (byNode.containsKey(track.node())) {
                byJoint.computeIfAbsent(track.node(), node -> new ArrayList<>()).add(track);
                boolean told = track.curve().way() == KeyCurve.Way.LINEAR
                        && Arrays.equals(track.curve().times(), before);
                if (!told) {
                    track.curve().addTimes(times);
                    checkKeys(times.size(), bones.size());
                }
                before = track.curve().times();
            }
        }
        List<String> names = new ArrayList<>();
        for (ShapeTrack track : shapes) {
            track.curve().addTimes(times);
            names.addAll(track.shapes());
            checkKeys(times.size(), bones.size() + names.size());
        }
        if (times.isEmpty()) {
            return Optional.empty();
        }
        float[] all = new float[times.size()];
        int at = 0;
        for (float time : times) {
            all[at++] = time;
        }
        Moved[] joints = new Moved[bones.size()];
        for (int i = 0; i < joints.length; i++) {
            joints[i] = Moved.of(
                    JointTransform.of(local.apply(bones.get(i).node())),
                    byJoint.getOrDefault(bones.get(i).node(), List.of()),
                    all,
                    bones.get(i).between());
        }
        Motion moved = Motion.ofAtOnce(name, all, joints.length, key -> {
            JointTransform[] pose = new JointTransform[joints.length];
            for (int i = 0; i < pose.length; i++) {
                pose[i] = joints[i].at(key, all[key]);
            }
            return pose;
        });
        return Optional.of(names.isEmpty() ? moved : moved.withShapes(names, weights(shapes, all, names.size())));
    }

    /**
     * A joint and what moves it.
     *
     * @param whole tracks that have the keys of all others, as most do: those need not be looked for
     */
    private record Moved(
            JointTransform still, List<MotionTrack> whole, List<MotionTrack> others, Optional<Matrix4> between) {
        static Moved of(JointTransform still, List<MotionTrack> tracks, float[] times, Matrix4 between) {
            Map<Boolean, List<MotionTrack>> parted = tracks.stream()
                    .collect(Collectors.partitioningBy(
                            track -> Arrays.equals(track.curve().times(), times)));
            return new Moved(
                    still,
                    parted.get(true),
                    parted.get(false),
                    Optional.of(between).filter(each -> !each.equals(Matrix4.IDENTITY)));
        }

        JointTransform at(int key, double time) {
            JointTransform place = still;
            for (MotionTrack track : whole) {
                place = track.appliedKey(place, key);
            }
            for (MotionTrack track : others) {
                place = track.applied(place, time);
            }
            return between.isPresent() ? JointTransform.of(place.matrix().times(between.get())) : place;
        }
    }

    private static void checkKeys(long keys, int each) {
        if (keys * each > Motion.MOST_KEYS) {
            throw new IllegalArgumentException(
                    "has more than " + Motion.MOST_KEYS + " keys, over " + each + " joints and shapes");
        }
    }

    /** All shapes' weights at each of the times. */
    private static float[] weights(List<ShapeTrack> tracks, float[] times, int shapes) {
        float[] weights = new float[times.length * shapes];
        for (int key = 0; key < times.length; key++) {
            int at = key * shapes;
            for (ShapeTrack track : tracks) {
                for (double weight : track.curve().at(times[key])) {
                    weights[at++] = (float) weight;
                }
            }
        }
        return weights;
    }

    /** The skeleton; none where nothing moves. To be asked for once all surfaces hang on it and before its motions. */
    public Optional<Skeleton> skeleton() {
        if (bones.isEmpty()) {
            return Optional.empty();
        }
        List<Skeleton.Joint> joints = new ArrayList<>();
        for (Bone bone : bones) {
            String name = names.apply(bone.node());
            joints.add(new Skeleton.Joint(
                    name.isBlank() ? "Joint_" + (bone.node() + 1) : name,
                    bone.parent(),
                    local.apply(bone.node()).times(bone.between()),
                    bone.bind()));
        }
        return Optional.of(new Skeleton(joints, List.of()));
    }
}
