package pantry.exchange.gltf;

import de.javagl.jgltf.impl.v2.Animation;
import de.javagl.jgltf.impl.v2.GlTF;
import de.javagl.jgltf.impl.v2.Node;
import de.javagl.jgltf.impl.v2.Skin;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.exchange.format.ExportNotes;
import pantry.mesh.Channel;
import pantry.mesh.TriangleMesh;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;

/** Writes a skeleton as glTF has it: a node for each joint, one skin, an animation for each motion. */
final class GltfRigWriter {
    /** What glTF has at most in one set, which is all that most programs read. */
    private static final int MOST_INFLUENCES = 4;

    private static final double STILL = 1e-7;

    private final Skeleton skeleton;
    private final GltfBuffer buffer;
    private final GltfShapeWriter shapes;
    private final ExportNotes notes;
    private final int first;
    private boolean needsStill;
    private boolean told;

    /**
     * @param shapes those of the meshes
     * @param nodes takes a node for each joint
     */
    GltfRigWriter(
            Skeleton skeleton,
            GltfBuffer buffer,
            GltfShapeWriter shapes,
            ExportNotes notes,
            List<Node> nodes,
            List<Integer> roots) {
        this.skeleton = skeleton;
        this.buffer = buffer;
        this.shapes = shapes;
        this.notes = notes;
        this.first = nodes.size();
        List<Skeleton.Joint> joints = skeleton.joints();
        List<List<Integer>> below = new ArrayList<>();
        for (int i = 0; i < joints.size(); i++) {
            below.add(new ArrayList<>());
            Node node = new Node();
            node.setName(joints.get(i).name());
            place(node, JointTransform.of(joints.get(i).rest()));
            nodes.add(node);
            if (joints.get(i).parent() == Skeleton.NONE) {
                roots.add(first + i);
            } else {
                below.get(joints.get(i).parent()).add(first + i);
            }
        }
        for (int i = 0; i < joints.size(); i++) {
            if (!below.get(i).isEmpty()) {
                nodes.get(first + i).setChildren(below.get(i));
            }
        }
    }

    private static void place(Node node, JointTransform place) {
        node.setTranslation(move(place));
        node.setRotation(turn(place));
        node.setScale(scale(place));
    }

    private static float[] move(JointTransform place) {
        return new float[] {
            (float) place.move().x(),
            (float) place.move().y(),
            (float) place.move().z()
        };
    }

    private static float[] scale(JointTransform place) {
        return new float[] {
            (float) place.scale().x(),
            (float) place.scale().y(),
            (float) place.scale().z()
        };
    }

    private static float[] turn(JointTransform place) {
        double length = Math.sqrt(
                place.w() * place.w() + place.x() * place.x() + place.y() * place.y() + place.z() * place.z());
        return length > 0
                ? new float[] {
                    (float) (place.x() / length),
                    (float) (place.y() / length),
                    (float) (place.z() / length),
                    (float) (place.w() / length)
                }
                : new float[] {0, 0, 0, 1};
    }

    /** Adds the joints and weights of a mesh to its attributes, the four that count most of each vertex. */
    void addTo(Map<String, Integer> attributes, String name, TriangleMesh flat) {
        Channel joints = flat.more().get(pantry.motion.Skin.JOINTS);
        Channel weights = flat.more().get(pantry.motion.Skin.WEIGHTS);
        if (joints == null || weights == null || joints.width() != weights.width()) {
            return;
        }
        if (pantry.motion.Skin.isDual(flat.more())) {
            notes.left(
                    "object " + name + ": its joints are blended as dual quaternions, and glTF blends them linearly");
        }
        int count = flat.vertexCount();
        short[] numbers = new short[MOST_INFLUENCES * count];
        float[] shares = new float[MOST_INFLUENCES * count];
        double worst = 0;
        for (int vertex = 0; vertex < count; vertex++) {
            worst = Math.max(worst, influences(joints, weights, vertex, numbers, shares));
        }
        if (worst > 0 && !told) {
            told = true;
            notes.left(String.format(
                    Locale.ROOT,
                    "object %s: points hang on more than four joints, of which glTF has the four that count most; what is"
                            + " left out is at most %.1f %% of a point",
                    name,
                    100 * worst));
        }
        attributes.put("JOINTS_0", buffer.shorts(numbers, MOST_INFLUENCES));
        attributes.put("WEIGHTS_0", buffer.floats(shares, MOST_INFLUENCES, false));
    }

    /** @return the share of the vertex that is left out */
    private double influences(Channel joints, Channel weights, int vertex, short[] numbers, float[] shares) {
        int width = joints.width();
        List<Integer> used = new ArrayList<>();
        double all = 0;
        for (int i = 0; i < width; i++) {
            float weight = weights.data()[vertex * width + i];
            int joint = (int) joints.data()[vertex * width + i];
            if (weight > 0 && joint >= 0 && joint < skeleton.joints().size()) {
                used.add(vertex * width + i);
                all += weight;
            }
        }
        if (used.isEmpty()) {
            // What hangs on nothing stays where it is, which glTF has to be told.
            needsStill = true;
            numbers[MOST_INFLUENCES * vertex] = (short) skeleton.joints().size();
            shares[MOST_INFLUENCES * vertex] = 1;
            return 0;
        }
        used.sort((a, b) -> Float.compare(weights.data()[b], weights.data()[a]));
        double kept = 0;
        int most = Math.min(MOST_INFLUENCES, used.size());
        for (int i = 0; i < most; i++) {
            kept += weights.data()[used.get(i)];
        }
        for (int i = 0; i < most; i++) {
            numbers[MOST_INFLUENCES * vertex + i] = (short) joints.data()[used.get(i)];
            shares[MOST_INFLUENCES * vertex + i] = (float) (weights.data()[used.get(i)] / kept);
        }
        return 1 - kept / all;
    }

    /** Adds the skin and the animations; to be called once all meshes are written. */
    void finish(GlTF gltf, List<Node> nodes, List<Integer> roots) {
        List<Skeleton.Joint> joints = skeleton.joints();
        List<Integer> numbers = new ArrayList<>();
        List<Matrix4> inverse = new ArrayList<>();
        for (int i = 0; i < joints.size(); i++) {
            numbers.add(first + i);
            Matrix4 bind = joints.get(i).bind();
            inverse.add(bind.determinant3() == 0 ? Matrix4.IDENTITY : bind.inverse());
        }
        if (needsStill) {
            Node still = new Node();
            still.setName("Still");
            nodes.add(still);
            roots.add(nodes.size() - 1);
            numbers.add(nodes.size() - 1);
            inverse.add(Matrix4.IDENTITY);
        }
        float[] matrices = new float[16 * inverse.size()];
        for (int i = 0; i < inverse.size(); i++) {
            double[] rows = inverse.get(i).rows();
            for (int k = 0; k < 16; k++) {
                matrices[16 * i + k] = k % 4 == 3 ? (k == 15 ? 1 : 0) : (float) rows[k];
            }
        }
        Skin skin = new Skin();
        skin.setJoints(numbers);
        skin.setInverseBindMatrices(buffer.data(matrices, 16, false));
        gltf.setSkins(List.of(skin));
        List<Animation> animations = new ArrayList<>();
        for (Motion motion : skeleton.motions()) {
            Animation animation = animation(motion);
            if (animation != null) {
                animations.add(animation);
            }
        }
        if (!animations.isEmpty()) {
            gltf.setAnimations(animations);
        }
    }

    private @Nullable Animation animation(Motion motion) {
        GltfChannels channels = new GltfChannels();
        // glTF's times begin at zero or later.
        float[] times = motion.times().clone();
        for (int i = 0; i < times.length; i++) {
            times[i] = Math.max(0, motion.times()[i] - Math.min(0, motion.times()[0]));
        }
        int input = buffer.data(times, 1, true);
        for (int joint = 0; joint < motion.joints(); joint++) {
            JointTransform rest = JointTransform.of(skeleton.joints().get(joint).rest());
            float[][] values = {new float[3 * times.length], new float[4 * times.length], new float[3 * times.length]};
            for (int key = 0; key < times.length; key++) {
                JointTransform at = motion.key(key, joint);
                System.arraycopy(move(at), 0, values[0], 3 * key, 3);
                System.arraycopy(turn(at), 0, values[1], 4 * key, 4);
                System.arraycopy(scale(at), 0, values[2], 3 * key, 3);
            }
            float[][] still = {move(rest), turn(rest), scale(rest)};
            String[] paths = {"translation", "rotation", "scale"};
            for (int i = 0; i < paths.length; i++) {
                if (differs(values[i], still[i])) {
                    channels.add(first + joint, paths[i], input, buffer.data(values[i], still[i].length, false));
                }
            }
        }
        shapes.animate(channels, motion, input);
        if (channels.isEmpty()) {
            notes.left("motion " + motion.name() + " moves nothing");
            return null;
        }
        return channels.animation(motion.name());
    }

    private static boolean differs(float[] values, float[] rest) {
        for (int i = 0; i < values.length; i++) {
            if (Math.abs(values[i] - rest[i % rest.length]) > STILL) {
                return true;
            }
        }
        return false;
    }
}
