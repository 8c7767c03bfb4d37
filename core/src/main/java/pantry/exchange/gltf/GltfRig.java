package pantry.exchange.gltf;

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
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;
import tools.jackson.databind.JsonNode;

/**
 * The joints of a glTF file, as one skeleton: the joints of its skins, and the nodes that its animations move. What is skinned
 * hangs on the former by its weights; what is below one of the latter goes with it as a whole.
 *
 * <p>glTF 2.0, 3.7.3 (skins), 3.11 and appendix C (animations).
 */
final class GltfRig {
    private static final int PER_SET = 4;
    private static final int MOST_SETS = 8;

    /** Keys times joints of one animation. */
    private static final long MOST_KEYS = 8_000_000;

    /** Between keys of a curved or stepped channel, seconds. */
    private static final double CURVED = 1 / 60.0;

    private static final double STEP = 1e-4;
    private static final double SAME = 1e-4;

    private final GltfDocument document;
    private final GltfAccessors accessors;
    private final IntFunction<Matrix4> local;
    private final int[] parents;
    private final List<Bone> bones = new ArrayList<>();

    /** The first joint of each node. */
    private final Map<Integer, Integer> byNode = new HashMap<>();

    private final List<Hung> skins = new ArrayList<>();

    /** Joints whose binding a skin has told. */
    private final Set<Integer> taken = new HashSet<>();

    private final Map<Map.Entry<Mesh, Integer>, Mesh> rigid = new HashMap<>();

    /**
     * A joint.
     *
     * @param between from the joint's parent node to the joint above it
     * @param rest its place in the model where nothing moves it
     */
    private record Bone(int node, int parent, Matrix4 between, Matrix4 rest, Matrix4 bind) {
        Bone boundAt(Matrix4 place) {
            return new Bone(node, parent, between, rest, place);
        }
    }

    /**
     * A skin.
     *
     * @param joints by their numbers in the skin, those in the skeleton
     * @param place from the space of what hangs on it to the model's
     */
    private record Hung(int[] joints, Matrix4 place) {}

    /** @param local the place of a node within its parent */
    GltfRig(GltfDocument document, GltfAccessors accessors, IntFunction<Matrix4> local) {
        this.document = document;
        this.accessors = accessors;
        this.local = local;
        this.parents = parents();
        Set<Integer> moving = moving();
        if (!moving.isEmpty()) {
            for (int node = 0; node < parents.length; node++) {
                bone(node, moving, 0);
            }
            for (int skin = 0; skin < document.root().path("skins").size(); skin++) {
                skins.add(hung(skin));
            }
        }
    }

    private int[] parents() {
        JsonNode nodes = document.root().path("nodes");
        int[] above = new int[nodes.size()];
        Arrays.fill(above, Skeleton.NONE);
        for (int i = 0; i < above.length; i++) {
            for (JsonNode child : nodes.path(i).path("children")) {
                int number = child.asInt(-1);
                if (number >= 0 && number < above.length) {
                    above[number] = i;
                }
            }
        }
        return above;
    }

    private Set<Integer> moving() {
        Set<Integer> moving = new HashSet<>();
        for (JsonNode skin : document.root().path("skins")) {
            skin.path("joints").forEach(joint -> moving.add(joint.asInt(-1)));
        }
        for (JsonNode animation : document.root().path("animations")) {
            for (JsonNode channel : animation.path("channels")) {
                if (!channel.path("target").path("path").asString("").equals("weights")) {
                    moving.add(channel.path("target").path("node").asInt(-1));
                }
            }
        }
        moving.removeIf(node -> node < 0 || node >= parents.length);
        return moving;
    }

    /** The joint of a node, made behind those above it; none where the node does not move. */
    private int bone(int node, Set<Integer> moving, int depth) {
        if (depth > parents.length) {
            throw document.wrong("nodes[" + node + "]", "is the child of one of its own children");
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
                throw document.wrong("nodes[" + node + "]", "is the child of one of its own children");
            }
        }
        int parent = above == Skeleton.NONE ? Skeleton.NONE : bone(above, moving, depth + 1);
        byNode.put(node, bones.size());
        Matrix4 place = local.apply(node).times(between);
        Matrix4 rest =
                parent == Skeleton.NONE ? place : place.times(bones.get(parent).rest());
        bones.add(new Bone(node, parent, between, rest, rest));
        return bones.size() - 1;
    }

    /** Whether nothing moves. */
    boolean isEmpty() {
        return bones.isEmpty();
    }

    boolean isJoint(int node) {
        return byNode.containsKey(node);
    }

    /** The joint that a node goes with: its own, or the nearest above it. */
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

    /** A mesh as it hangs on what moves its node; the same for the same joint. */
    Mesh moved(Mesh mesh, int node) {
        return above(node)
                .map(joint -> bound(joint, bones.get(joint).rest(), false))
                .map(joint -> rigid.computeIfAbsent(Map.entry(mesh, joint), key -> Skin.rigid(mesh, joint)))
                .orElse(mesh);
    }

    /** From the space of what hangs on a skin to the model's. */
    Matrix4 place(int skin) {
        return hung(skin, "skins").place();
    }

    private Hung hung(int skin, String place) {
        if (skin < 0 || skin >= skins.size()) {
            throw document.wrong(place, "names skin " + skin + " of " + skins.size());
        }
        return skins.get(skin);
    }

    /** A skin with its joints; those whose binding differs from that of another skin are joints of their own. */
    private Hung hung(int index) {
        JsonNode json = document.element("skins", index);
        String place = "skins[" + index + "]";
        JsonNode names = json.path("joints");
        if (names.isEmpty()) {
            throw document.wrong(place, "has no joints");
        }
        float[] inverse = json.has("inverseBindMatrices")
                ? accessors.floats(json.path("inverseBindMatrices").asInt(-1), 16)
                : null;
        if (inverse != null && inverse.length < 16 * names.size()) {
            throw document.wrong(
                    place, "has " + names.size() + " joints, and matrices for " + inverse.length / 16 + " of them");
        }
        int[] joints = new int[names.size()];
        Matrix4[] unbind = new Matrix4[joints.length];
        for (int i = 0; i < joints.length; i++) {
            Integer joint = byNode.get(names.path(i).asInt(-1));
            if (joint == null) {
                throw document.wrong(place + ".joints[" + i + "]", "is no node");
            }
            joints[i] = joint;
            unbind[i] = inverse == null ? Matrix4.IDENTITY : matrix(inverse, i);
            if (!unbind[i].isFinite() || unbind[i].determinant3() == 0) {
                throw document.wrong(place, "the matrix of joint " + i + " is no place that could be undone");
            }
        }
        // What hangs on the skin stands as its first joint has it at rest; most stand at rest as they were bound.
        Matrix4 stands = unbind[0].times(bones.get(joints[0]).rest());
        Set<Integer> bound = new HashSet<>();
        for (int i = 0; i < joints.length; i++) {
            joints[i] = bound(joints[i], unbind[i].inverse().times(stands), bound.add(joints[i]));
        }
        return new Hung(joints, stands);
    }

    private static Matrix4 matrix(float[] numbers, int at) {
        double[] rows = new double[16];
        for (int i = 0; i < 16; i++) {
            rows[i] = numbers[16 * at + i];
        }
        return Matrix4.ofRows(rows);
    }

    /** The joint of that binding: the node's first one, where no other skin has bound it otherwise. */
    private int bound(int joint, Matrix4 bind, boolean first) {
        Bone bone = bones.get(joint);
        if (first && taken.add(joint)) {
            bones.set(joint, bone.boundAt(bind));
            return joint;
        }
        for (int i = 0; i < bones.size(); i++) {
            if (bones.get(i).node() == bone.node() && isNear(bones.get(i).bind(), bind)) {
                return i;
            }
        }
        bones.add(bone.boundAt(bind));
        return bones.size() - 1;
    }

    private static boolean isNear(Matrix4 one, Matrix4 other) {
        double[] a = one.rows();
        double[] b = other.rows();
        for (int i = 0; i < a.length; i++) {
            if (Math.abs(a[i] - b[i]) > SAME * Math.max(1, Math.abs(a[i]))) {
                return false;
            }
        }
        return true;
    }

    /** A mesh that hangs on a skin by the joints and weights of its primitive. */
    Mesh skinned(Mesh mesh, JsonNode attributes, int skin, String place) {
        Hung hung = hung(skin, place);
        List<float[]> joints = new ArrayList<>();
        List<float[]> weights = new ArrayList<>();
        for (int set = 0; set < MOST_SETS && attributes.has("JOINTS_" + set); set++) {
            joints.add(accessors.floats(attributes.path("JOINTS_" + set).asInt(-1), PER_SET));
            weights.add(accessors.floats(attributes.path("WEIGHTS_" + set).asInt(-1), PER_SET));
        }
        int points = mesh.pointCount();
        int width = PER_SET * joints.size();
        if (width == 0) {
            throw document.wrong(place, "hangs on a skin and has no joints");
        }
        float[] allJoints = new float[points * width];
        float[] allWeights = new float[points * width];
        for (int set = 0; set < joints.size(); set++) {
            if (joints.get(set).length != points * PER_SET || weights.get(set).length != points * PER_SET) {
                throw document.wrong(place, "has not as many joints or weights as points");
            }
            for (int i = 0; i < points * PER_SET; i++) {
                float weight = weights.get(set)[i];
                int joint = (int) joints.get(set)[i];
                if (!Float.isFinite(weight) || weight < 0) {
                    throw document.wrong(place, "point " + i / PER_SET + " has a weight that is no number or negative");
                }
                if (joint < 0 || joint >= hung.joints().length) {
                    throw document.wrong(
                            place, "point " + i / PER_SET + " hangs on joint " + joint + " of " + hung.joints().length);
                }
                int at = i / PER_SET * width + set * PER_SET + i % PER_SET;
                allJoints[at] = weight > 0 ? hung.joints()[joint] : hung.joints()[0];
                allWeights[at] = weight;
            }
        }
        return new Skin(width, allJoints, allWeights).on(mesh);
    }

    /** The skeleton with all motions; none where nothing moves. To be asked for once all meshes are read. */
    Optional<Skeleton> skeleton() {
        if (bones.isEmpty()) {
            return Optional.empty();
        }
        List<Skeleton.Joint> joints = new ArrayList<>();
        for (Bone bone : bones) {
            String name = document.element("nodes", bone.node()).path("name").asString("");
            joints.add(new Skeleton.Joint(
                    name.isBlank() ? "Joint_" + (bone.node() + 1) : name,
                    bone.parent(),
                    local.apply(bone.node()).times(bone.between()),
                    bone.bind()));
        }
        List<Motion> motions = new ArrayList<>();
        for (int i = 0; i < document.root().path("animations").size(); i++) {
            motion(i).ifPresent(motions::add);
        }
        return Optional.of(new Skeleton(joints, motions));
    }

    /** The values of one component of a node over time. */
    private record Track(int node, String path, float[] times, float[] values, int width, String way) {
        /** The values at a time; before the first key and after the last those hold. */
        double[] at(double time) {
            int found = Arrays.binarySearch(times, (float) time);
            int before = Math.clamp(found >= 0 ? found : -found - 2, 0, times.length - 1);
            int after = Math.min(before + 1, times.length - 1);
            double span = times[after] - times[before];
            double share = span > 0 ? Math.clamp((time - times[before]) / span, 0, 1) : 0;
            double[] one = value(before, 1);
            if (share == 0 || way.equals("STEP")) {
                return one;
            }
            double[] other = value(after, 1);
            if (way.equals("CUBICSPLINE")) {
                return curved(one, value(before, 2), other, value(after, 0), share, span);
            }
            if (width == PER_SET) {
                JointTransform turned = turn(one).towards(turn(other), share);
                return new double[] {turned.x(), turned.y(), turned.z(), turned.w()};
            }
            double[] mixed = new double[width];
            for (int i = 0; i < width; i++) {
                mixed[i] = one[i] * (1 - share) + other[i] * share;
            }
            return mixed;
        }

        /** Cubic Hermite splines, glTF 2.0, appendix C.4. */
        private double[] curved(double[] one, double[] out, double[] other, double[] in, double t, double span) {
            double[] mixed = new double[width];
            for (int i = 0; i < width; i++) {
                mixed[i] = (2 * t * t * t - 3 * t * t + 1) * one[i]
                        + span * (t * t * t - 2 * t * t + t) * out[i]
                        + (-2 * t * t * t + 3 * t * t) * other[i]
                        + span * (t * t * t - t * t) * in[i];
            }
            return mixed;
        }

        /** @param part 0 the tangent before a key, 1 the key, 2 the tangent behind it; the key alone but for splines */
        private double[] value(int key, int part) {
            int at = way.equals("CUBICSPLINE") ? (3 * key + part) * width : key * width;
            double[] value = new double[width];
            for (int i = 0; i < width; i++) {
                value[i] = values[at + i];
            }
            return value;
        }
    }

    private static JointTransform turn(double[] q) {
        return new JointTransform(Vec3.ZERO, q[3], q[0], q[1], q[2], Vec3.ONE);
    }

    private Optional<Motion> motion(int index) {
        JsonNode json = document.element("animations", index);
        String place = "animations[" + index + "]";
        Map<Integer, List<Track>> tracks = new HashMap<>();
        TreeSet<Float> times = new TreeSet<>();
        int number = 0;
        for (JsonNode channel : json.path("channels")) {
            Track track = track(json, channel, place + ".channels[" + number++ + "]");
            if (track != null) {
                tracks.computeIfAbsent(track.node(), node -> new ArrayList<>()).add(track);
                addTimes(track, times);
                if ((long) times.size() * bones.size() > MOST_KEYS) {
                    throw document.wrong(
                            place, "has more than " + MOST_KEYS + " keys, over " + bones.size() + " joints");
                }
            }
        }
        if (times.isEmpty()) {
            return Optional.empty();
        }
        float[] all = new float[times.size()];
        int at = 0;
        for (float time : times) {
            all[at++] = time;
        }
        String name = json.path("name").asString("");
        try {
            return Optional.of(Motion.of(name.isBlank() ? "Motion " + (index + 1) : name, all, bones.size(), key -> {
                JointTransform[] pose = new JointTransform[bones.size()];
                for (int i = 0; i < pose.length; i++) {
                    pose[i] =
                            posed(bones.get(i), tracks.getOrDefault(bones.get(i).node(), List.of()), all[key]);
                }
                return pose;
            }));
        } catch (IllegalArgumentException e) {
            throw document.wrong(place, e.getMessage());
        }
    }

    private JointTransform posed(Bone bone, List<Track> tracks, double time) {
        JointTransform place = JointTransform.of(local.apply(bone.node()));
        for (Track track : tracks) {
            double[] v = track.at(time);
            place = switch (track.path()) {
                case "translation" ->
                    new JointTransform(
                            new Vec3(v[0], v[1], v[2]), place.w(), place.x(), place.y(), place.z(), place.scale());
                case "rotation" -> new JointTransform(place.move(), v[3], v[0], v[1], v[2], place.scale());
                default ->
                    new JointTransform(
                            place.move(), place.w(), place.x(), place.y(), place.z(), new Vec3(v[0], v[1], v[2]));
            };
        }
        return bone.between().equals(Matrix4.IDENTITY)
                ? place
                : JointTransform.of(place.matrix().times(bone.between()));
    }

    private @Nullable Track track(JsonNode animation, JsonNode channel, String place) {
        int node = channel.path("target").path("node").asInt(-1);
        String path = channel.path("target").path("path").asString("");
        if (!byNode.containsKey(node) || path.equals("weights")) {
            return null;
        }
        JsonNode sampler =
                animation.path("samplers").path(channel.path("sampler").asInt(-1));
        String way = sampler.path("interpolation").asString("LINEAR");
        int width = path.equals("rotation") ? PER_SET : 3;
        float[] times = accessors.floats(sampler.path("input").asInt(-1), 1);
        float[] values = accessors.floats(sampler.path("output").asInt(-1), width);
        int needed = times.length * width * (way.equals("CUBICSPLINE") ? 3 : 1);
        if (times.length == 0 || values.length != needed) {
            throw document.wrong(
                    place,
                    "has " + times.length + " times and " + values.length / width
                            + " values, which do not go together");
        }
        for (int i = 0; i < times.length; i++) {
            if (!Float.isFinite(times[i]) || i > 0 && times[i] <= times[i - 1]) {
                throw document.wrong(place, "key " + i + " has a time that does not follow the one before");
            }
        }
        for (int i = 0; i < values.length; i++) {
            if (!Float.isFinite(values[i])) {
                throw document.wrong(place, "key " + i / width + " is not a number or infinite");
            }
        }
        return new Track(node, path, times, values, width, way);
    }

    /** The times at which a motion has keys so that, between them, even change is what the channel says. */
    private static void addTimes(Track track, TreeSet<Float> into) {
        for (int i = 0; i < track.times().length; i++) {
            float time = track.times()[i];
            into.add(time);
            if (i == 0) {
                continue;
            }
            float before = track.times()[i - 1];
            if (track.way().equals("STEP") && time - before > 2 * STEP) {
                into.add((float) (time - STEP));
            } else if (track.way().equals("CUBICSPLINE")) {
                int steps = (int) Math.min(600, Math.ceil((time - before) / CURVED));
                for (int step = 1; step < steps; step++) {
                    into.add(before + (time - before) * step / steps);
                }
            }
        }
    }
}
