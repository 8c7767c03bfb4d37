package pantry.demo;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.model.Model;
import pantry.motion.BlendShapes;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;

/** Gives the parts of a model joints to hang on, and motions. Joints stand upright at rest. */
final class Rigging {
    /** So near to its joint, a part goes half with the joint above; metres. */
    private static final double SOFT = 0.1;

    private static final double CENTIMETRES = 100;

    private final List<String> names = new ArrayList<>();
    private final List<Integer> parents = new ArrayList<>();
    private final List<Vec3> places = new ArrayList<>();
    private final Map<String, String> jointOf = new LinkedHashMap<>();
    private final Map<Integer, Vec3> ends = new HashMap<>();
    private final List<Motion> motions = new ArrayList<>();
    private final Map<String, Map.Entry<String, Bulge>> shapes = new LinkedHashMap<>();

    /** Where a joint is at a moment of a motion. */
    @FunctionalInterface
    interface Pose {
        /**
         * @param share of the motion that has gone by, 0 to 1
         * @return the joint's turn and move besides its place at rest
         */
        Matrix4 at(String joint, double share);
    }

    /**
     * Adds a joint; parts of its name hang on it.
     *
     * @param parent the joint above it, or an empty name
     */
    Rigging joint(String name, String parent, double x, double y, double z) {
        names.add(name);
        parents.add(parent.isEmpty() ? Skeleton.NONE : names.indexOf(parent));
        places.add(new Vec3(x, y, z));
        jointOf.put(name, name);
        return this;
    }

    /** Adds a motion, to be called once all joints are there. */
    Rigging motion(String name, double seconds, int keys, Pose pose) {
        float[] times = new float[keys + 1];
        for (int key = 0; key <= keys; key++) {
            times[key] = (float) (seconds * key / keys);
        }
        motions.add(Motion.of(name, times, names.size(), key -> {
            JointTransform[] all = new JointTransform[names.size()];
            for (int i = 0; i < all.length; i++) {
                all[i] = JointTransform.of(
                        pose.at(names.get(i), (double) key / keys).times(local(i)));
            }
            return all;
        }));
        return this;
    }

    /** Where a point is moved to from where it is, at the most. */
    @FunctionalInterface
    interface Bulge {
        Vec3 at(Vec3 point);
    }

    /** Adds a shape of a part, which the motion that was added last reaches and leaves again, so many times. */
    Rigging shape(String name, String part, int times, Bulge bulge) {
        shapes.put(part, Map.entry(name, bulge));
        Motion motion = motions.removeLast();
        float[] weights = new float[motion.times().length];
        for (int key = 0; key < weights.length; key++) {
            weights[key] = (float) (0.5 - 0.5 * Math.cos(2 * Math.PI * times * key / (weights.length - 1)));
        }
        motions.add(motion.withShapes(List.of(name), weights));
        return this;
    }

    /** Where the last bone of a joint ends, for motion capture. */
    Rigging end(String joint, double x, double y, double z) {
        ends.put(names.indexOf(joint), new Vec3(x, y, z));
        return this;
    }

    /** A motion of the joints alone as motion capture writes it (BVH), in centimetres. */
    String capture(double seconds, int keys, Pose pose) {
        StringBuilder text = new StringBuilder("HIERARCHY\n");
        List<Integer> order = new ArrayList<>();
        for (int joint = 0; joint < names.size(); joint++) {
            if (parents.get(joint) == Skeleton.NONE) {
                hierarchy(joint, "", text, order);
            }
        }
        text.append(String.format(Locale.ROOT, "MOTION%nFrames: %d%nFrame Time: %.6f%n", keys + 1, seconds / keys));
        for (int key = 0; key <= keys; key++) {
            for (int joint : order) {
                Matrix4 place = pose.at(names.get(joint), (double) key / keys).times(local(joint));
                if (parents.get(joint) == Skeleton.NONE) {
                    text.append(triple(place.translationPart().times(CENTIMETRES)));
                }
                text.append(triple(turns(place)));
            }
            text.append('\n');
        }
        return text.toString();
    }

    private void hierarchy(int joint, String indent, StringBuilder text, List<Integer> order) {
        order.add(joint);
        boolean root = parents.get(joint) == Skeleton.NONE;
        text.append(indent)
                .append(root ? "ROOT " : "JOINT ")
                .append(Names.identifier(names.get(joint)))
                .append('\n')
                .append(indent)
                .append("{\n")
                .append(offset(indent, root ? Vec3.ZERO : local(joint).translationPart()))
                .append(indent)
                .append(root ? "  CHANNELS 6 Xposition Yposition Zposition " : "  CHANNELS 3 ")
                .append("Zrotation Xrotation Yrotation\n");
        for (int child = 0; child < names.size(); child++) {
            if (parents.get(child) == joint) {
                hierarchy(child, indent + "  ", text, order);
            }
        }
        if (ends.containsKey(joint)) {
            Vec3 end = ends.get(joint).minus(places.get(joint));
            text.append(indent).append("  End Site\n").append(indent).append("  {\n");
            text.append(offset(indent + "  ", end)).append(indent).append("  }\n");
        }
        text.append(indent).append("}\n");
    }

    private static String offset(String indent, Vec3 place) {
        return indent + "  OFFSET " + triple(place.times(CENTIMETRES)) + "\n";
    }

    private static String triple(Vec3 v) {
        return String.format(Locale.ROOT, "%.4f %.4f %.4f ", v.x(), v.y(), v.z());
    }

    /** Degrees about z, x and y, which are turned about in the reverse order. */
    private static Vec3 turns(Matrix4 place) {
        double x = Math.asin(Math.clamp(place.get(1, 2), -1, 1));
        double y = Math.atan2(-place.get(0, 2), place.get(2, 2));
        double z = Math.atan2(-place.get(1, 0), place.get(1, 1));
        return new Vec3(Math.toDegrees(z), Math.toDegrees(x), Math.toDegrees(y));
    }

    private Matrix4 local(int joint) {
        Vec3 above = parents.get(joint) == Skeleton.NONE ? Vec3.ZERO : places.get(parents.get(joint));
        return Matrix4.translation(places.get(joint).minus(above));
    }

    /** The model with its joints; parts without one of their name stand still. */
    Model on(Model model) {
        List<Skeleton.Joint> joints = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            joints.add(new Skeleton.Joint(names.get(i), parents.get(i), local(i), Matrix4.translation(places.get(i))));
        }
        List<Model.Node> nodes = model.roots().stream()
                .map(node -> jointOf.containsKey(node.name()) ? hung(node) : node)
                .toList();
        return new Model(
                model.name(), nodes, model.extras().with(Optional.of(new Skeleton(joints, List.copyOf(motions)))));
    }

    private Model.Node hung(Model.Node node) {
        int joint = names.indexOf(jointOf.get(node.name()));
        List<Model.Part> parts = node.parts().stream()
                .map(part ->
                        new Model.Part(hung(shaped(part.mesh(), node.name()), joint), part.material(), part.looks()))
                .toList();
        return Model.Node.of(node.name(), node.local(), parts, node.children());
    }

    private Mesh shaped(Mesh mesh, String part) {
        Map.Entry<String, Bulge> shape = shapes.get(part);
        if (shape == null) {
            return mesh;
        }
        float[] offsets = new float[3 * mesh.pointCount()];
        for (int i = 0; i < mesh.pointCount(); i++) {
            Vec3 offset = shape.getValue().at(mesh.point(i));
            for (int axis = 0; axis < 3; axis++) {
                offsets[3 * i + axis] = (float) offset.get(axis);
            }
        }
        return BlendShapes.on(mesh, Map.of(shape.getKey(), new BlendShapes.Shape(offsets, null, Map.of())));
    }

    private Mesh hung(Mesh mesh, int joint) {
        int parent = parents.get(joint);
        if (parent == Skeleton.NONE) {
            return Skin.rigid(mesh, joint);
        }
        float[] numbers = new float[2 * mesh.pointCount()];
        float[] weights = new float[2 * mesh.pointCount()];
        for (int i = 0; i < mesh.pointCount(); i++) {
            double far = mesh.point(i).minus(places.get(joint)).length();
            float above = (float) (0.5 * Math.clamp(1 - far / SOFT, 0, 1));
            numbers[2 * i] = joint;
            numbers[2 * i + 1] = parent;
            weights[2 * i] = 1 - above;
            weights[2 * i + 1] = above;
        }
        return new Skin(2, numbers, weights).on(mesh);
    }
}
