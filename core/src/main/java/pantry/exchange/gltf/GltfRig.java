package pantry.exchange.gltf;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.exchange.format.KeyCurve;
import pantry.exchange.format.MotionTrack;
import pantry.exchange.format.Rig;
import pantry.exchange.format.ShapeTrack;
import pantry.mesh.Mesh;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;
import tools.jackson.databind.JsonNode;

/** Reads the skins and animations of a glTF file: glTF 2.0, 3.7.3 and 3.11. */
final class GltfRig {
    private static final int PER_SET = 4;
    private static final int MOST_SETS = 8;

    private final GltfDocument document;
    private final GltfAccessors accessors;
    private final GltfShapes shapes;
    private final Rig rig;
    private final List<Rig.Binding> skins = new ArrayList<>();

    /** @param local the place of a node within its parent */
    GltfRig(GltfDocument document, GltfAccessors accessors, GltfShapes shapes, IntFunction<Matrix4> local) {
        this.document = document;
        this.accessors = accessors;
        this.shapes = shapes;
        int[] parents = parents();
        try {
            this.rig = new Rig(
                    parents,
                    local,
                    node -> document.element("nodes", node).path("name").asString(""),
                    moving(parents.length));
        } catch (IllegalArgumentException e) {
            throw document.wrong("nodes", e.getMessage());
        }
        for (int skin = 0; skin < document.root().path("skins").size(); skin++) {
            skins.add(read(skin));
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

    private Set<Integer> moving(int nodes) {
        Set<Integer> moving = new HashSet<>();
        for (JsonNode skin : document.root().path("skins")) {
            skin.path("joints").forEach(joint -> moving.add(joint.asInt(-1)));
        }
        for (JsonNode animation : document.root().path("animations")) {
            for (JsonNode channel : animation.path("channels")) {
                if (part(channel) != null) {
                    moving.add(channel.path("target").path("node").asInt(-1));
                }
            }
        }
        moving.removeIf(node -> node < 0 || node >= nodes);
        // Shapes belong to a skeleton: what has some and hangs on none is a joint itself.
        for (int node = 0; node < nodes; node++) {
            if (!shapes.names(node).isEmpty()
                    && !document.root().path("nodes").path(node).has("skin")) {
                moving.add(node);
            }
        }
        return moving;
    }

    /** Whether nothing moves. */
    boolean isEmpty() {
        return rig.isEmpty();
    }

    boolean isJoint(int node) {
        return rig.isJoint(node);
    }

    /** A mesh as it hangs on what moves its node; the same for the same joint. */
    Mesh moved(Mesh mesh, int node) {
        return rig.moved(mesh, node);
    }

    /** From the space of what hangs on a skin to the model's. */
    Matrix4 place(int skin) {
        return skin(skin, "skins").place();
    }

    private Rig.Binding skin(int skin, String place) {
        if (skin < 0 || skin >= skins.size()) {
            throw document.wrong(place, "names skin " + skin + " of " + skins.size());
        }
        return skins.get(skin);
    }

    private Rig.Binding read(int index) {
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
        int[] nodes = new int[names.size()];
        Matrix4[] unbind = new Matrix4[nodes.length];
        for (int i = 0; i < nodes.length; i++) {
            nodes[i] = names.path(i).asInt(-1);
            if (!rig.isJoint(nodes[i])) {
                throw document.wrong(place + ".joints[" + i + "]", "is no node");
            }
            unbind[i] = inverse == null ? Matrix4.IDENTITY : matrix(inverse, i);
            if (!unbind[i].isFinite() || unbind[i].determinant3() == 0) {
                throw document.wrong(place, "the matrix of joint " + i + " is no place that could be undone");
            }
        }
        return rig.bind(nodes, unbind);
    }

    private static Matrix4 matrix(float[] numbers, int at) {
        double[] rows = new double[16];
        for (int i = 0; i < 16; i++) {
            rows[i] = numbers[16 * at + i];
        }
        return Matrix4.ofRows(rows);
    }

    /** A mesh that hangs on a skin by the joints and weights of its primitive. */
    Mesh skinned(Mesh mesh, JsonNode attributes, int skin, String place) {
        int[] numbers = skin(skin, place).joints();
        int points = mesh.pointCount();
        int sets = 0;
        while (sets < MOST_SETS && attributes.has("JOINTS_" + sets)) {
            sets++;
        }
        int width = PER_SET * sets;
        if (width == 0) {
            throw document.wrong(place, "hangs on a skin and has no joints");
        }
        float[] allJoints = new float[points * width];
        float[] allWeights = new float[points * width];
        for (int set = 0; set < sets; set++) {
            float[] joints = accessors.floats(attributes.path("JOINTS_" + set).asInt(-1), PER_SET);
            float[] weights = accessors.floats(attributes.path("WEIGHTS_" + set).asInt(-1), PER_SET);
            if (joints.length != points * PER_SET || weights.length != points * PER_SET) {
                throw document.wrong(place, "has not as many joints or weights as points");
            }
            for (int i = 0; i < points * PER_SET; i++) {
                int joint = (int) joints[i];
                if (!Float.isFinite(weights[i]) || weights[i] < 0) {
                    throw document.wrong(place, "point " + i / PER_SET + " has a weight that is no number or negative");
                }
                if (joint < 0 || joint >= numbers.length) {
                    throw document.wrong(
                            place, "point " + i / PER_SET + " hangs on joint " + joint + " of " + numbers.length);
                }
                int at = i / PER_SET * width + set * PER_SET + i % PER_SET;
                allJoints[at] = weights[i] > 0 ? numbers[joint] : numbers[0];
                allWeights[at] = weights[i];
            }
        }
        return new Skin(width, allJoints, allWeights).on(mesh);
    }

    /** The skeleton with all motions; none where nothing moves. To be asked for once all meshes are read. */
    Optional<Skeleton> skeleton() {
        Optional<Skeleton> skeleton = rig.skeleton();
        if (skeleton.isEmpty()) {
            return skeleton;
        }
        List<Motion> motions = new ArrayList<>();
        for (int i = 0; i < document.root().path("animations").size(); i++) {
            motion(i).ifPresent(motions::add);
        }
        return skeleton.map(bones -> bones.with(motions));
    }

    private Optional<Motion> motion(int index) {
        JsonNode json = document.element("animations", index);
        String place = "animations[" + index + "]";
        List<MotionTrack> tracks = new ArrayList<>();
        List<ShapeTrack> weights = new ArrayList<>();
        int number = 0;
        for (JsonNode channel : json.path("channels")) {
            String at = place + ".channels[" + number++ + "]";
            track(json, channel, at).ifPresent(tracks::add);
            weights(json, channel, at).ifPresent(weights::add);
        }
        String name = json.path("name").asString("");
        try {
            return rig.motion(name.isBlank() ? "Motion " + (index + 1) : name, tracks, weights);
        } catch (IllegalArgumentException e) {
            throw document.wrong(place, e.getMessage());
        }
    }

    private static MotionTrack.@Nullable Part part(JsonNode channel) {
        return switch (channel.path("target").path("path").asString("")) {
            case "translation" -> MotionTrack.Part.MOVE;
            case "rotation" -> MotionTrack.Part.TURN;
            case "scale" -> MotionTrack.Part.SCALE;
            default -> null;
        };
    }

    private Optional<MotionTrack> track(JsonNode animation, JsonNode channel, String place) {
        int node = channel.path("target").path("node").asInt(-1);
        MotionTrack.Part part = part(channel);
        if (part == null || !rig.isJoint(node)) {
            return Optional.empty();
        }
        return Optional.of(new MotionTrack(node, part, curve(animation, channel, place, part.width())));
    }

    /** The weights of a node's shapes, counted from what they usually are. */
    private Optional<ShapeTrack> weights(JsonNode animation, JsonNode channel, String place) {
        JsonNode target = channel.path("target");
        int node = target.path("node").asInt(-1);
        List<String> names = shapes.names(node);
        if (!target.path("path").asString("").equals("weights") || names.isEmpty()) {
            return Optional.empty();
        }
        KeyCurve curve = curve(animation, channel, place, names.size());
        float[] usual = shapes.usual(node);
        float[] values = curve.values().clone();
        int perKey = curve.way().perKey();
        for (int i = 0; i < values.length; i++) {
            // Tangents are the same wherever weights are counted from.
            boolean isKey = perKey == 1 || i / names.size() % perKey == 1;
            values[i] -= isKey ? usual[i % names.size()] : 0;
        }
        return Optional.of(
                new ShapeTrack(names, new KeyCurve(curve.times(), values, names.size(), false, curve.way())));
    }

    private KeyCurve curve(JsonNode animation, JsonNode channel, String place, int width) {
        String path = channel.path("target").path("path").asString("");
        JsonNode sampler =
                animation.path("samplers").path(channel.path("sampler").asInt(-1));
        KeyCurve.Way way =
                switch (sampler.path("interpolation").asString("LINEAR")) {
                    case "STEP" -> KeyCurve.Way.STEP;
                    case "CUBICSPLINE" -> KeyCurve.Way.CUBICSPLINE;
                    default -> KeyCurve.Way.LINEAR;
                };
        KeyCurve curve = new KeyCurve(
                accessors.floats(sampler.path("input").asInt(-1), 1),
                // Weights are stored one by one.
                accessors.floats(sampler.path("output").asInt(-1), path.equals("weights") ? 1 : width),
                width,
                path.equals("rotation"),
                way);
        curve.fault().ifPresent(fault -> {
            throw document.wrong(place, fault);
        });
        return curve;
    }
}
