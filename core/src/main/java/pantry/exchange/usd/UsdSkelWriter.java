package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.motion.BlendShapes;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;

/** Writes a model's skeleton as UsdSkel: a Skeleton prim with its motions below a SkelRoot, and the bindings of meshes. */
final class UsdSkelWriter {
    static final String ROOT_TYPE = "SkelRoot";

    /** The name of the skeleton's prim. */
    static final String SKELETON = "Skeleton";

    static final String SHAPE_TYPE = "BlendShape";

    static final String BINDING = "SkelBindingAPI";

    /** The standard's own rate, which no layer has to tell. */
    private static final double CODES_PER_SECOND = 24;

    private UsdSkelWriter() {}

    /**
     * Writes the skeleton below the root prim of a layer, which everything that hangs on it stands below as well.
     *
     * @param name of its prim
     */
    static void write(Layer layer, PrimSpec root, SdfPath path, Skeleton skeleton, String name) {
        root.setTypeName(ROOT_TYPE);
        root.applyApiSchema(BINDING, true);
        SdfPath bones = path.child(name);
        root.relate("skel:skeleton", bones);
        PrimSpec prim = root.define("Skeleton", name);
        prim.applyApiSchema(BINDING, true);
        Value.Strings joints = new Value.Strings(skeleton.tokens());
        prim.set("token[]", "joints", joints).setUniform(true);
        prim.set(
                        "token[]",
                        "jointNames",
                        new Value.Strings(skeleton.joints().stream()
                                .map(Skeleton.Joint::name)
                                .toList()))
                .setUniform(true);
        prim.set("matrix4d[]", "bindTransforms", matrices(skeleton, true)).setUniform(true);
        prim.set("matrix4d[]", "restTransforms", matrices(skeleton, false)).setUniform(true);
        double from = Double.POSITIVE_INFINITY;
        double to = Double.NEGATIVE_INFINITY;
        for (Motion motion : skeleton.motions()) {
            String known = Names.free(
                    Names.identifier(motion.name()), taken -> prim.child(taken).isPresent());
            PrimSpec animation = prim.define(UsdSkelReader.ANIMATION_TYPE, known);
            if (!known.equals(motion.name())) {
                animation.metadata().put("displayName", new Value.Text(motion.name()));
            }
            animation.set("token[]", "joints", joints).setUniform(true);
            samples(animation, motion);
            if (prim.children().size() == 1) {
                // At the root, where what places the model can bind another one.
                root.relate(UsdSkelReader.ANIMATION, bones.child(known));
            }
            from = Math.min(from, motion.times()[0]);
            to = Math.max(to, motion.times()[motion.times().length - 1]);
        }
        if (from < to) {
            layer.metadata().put("startTimeCode", new Value.Real(from * CODES_PER_SECOND));
            layer.metadata().put("endTimeCode", new Value.Real(to * CODES_PER_SECOND));
        }
    }

    private static Value.Doubles matrices(Skeleton skeleton, boolean bind) {
        double[] numbers = new double[16 * skeleton.joints().size()];
        for (int i = 0; i < skeleton.joints().size(); i++) {
            Skeleton.Joint joint = skeleton.joints().get(i);
            System.arraycopy((bind ? joint.bind() : joint.rest()).rows(), 0, numbers, 16 * i, 16);
        }
        return new Value.Doubles(numbers, 16);
    }

    private static void samples(PrimSpec animation, Motion motion) {
        boolean turns = samples(animation, motion, "quatf[]", "rotations", 4, motion::turns, false);
        boolean scales = samples(animation, motion, "half3[]", "scales", 3, motion::scales, false);
        boolean shapes = false;
        if (!motion.shapes().isEmpty()) {
            animation
                    .set("token[]", "blendShapes", new Value.Strings(motion.shapes()))
                    .setUniform(true);
            shapes = samples(animation, motion, "float[]", "blendShapeWeights", 1, motion::weights, false);
        }
        // Something has to tell how long it takes.
        samples(animation, motion, "float3[]", "translations", 3, motion::moves, !turns && !scales && !shapes);
    }

    /**
     * Writes a component of all joints: once where it is always the same, and at each key otherwise.
     *
     * @param always whether it is written at each key all the same
     * @return whether it is
     */
    private static boolean samples(
            PrimSpec animation,
            Motion motion,
            String type,
            String name,
            int width,
            IntFunction<float[]> values,
            boolean always) {
        AttributeSpec attribute = new AttributeSpec(name, type);
        animation.put(attribute);
        float[] first = values.apply(0);
        float[] times = motion.times();
        boolean changes = always;
        for (int key = 1; key < times.length && !changes; key++) {
            changes = !Arrays.equals(first, values.apply(key));
        }
        if (!changes) {
            attribute.setValue(new Value.Floats(first, width));
            return false;
        }
        for (int key = 0; key < times.length; key++) {
            attribute.timeSamples().put(times[key] * CODES_PER_SECOND, new Value.Floats(values.apply(key), width));
        }
        return true;
    }

    /**
     * Binds a mesh's prim to the skeleton of its model.
     *
     * @param path of the prim
     * @param place of the mesh in the model
     */
    static void bind(PrimSpec prim, SdfPath path, Mesh mesh, Matrix4 place) {
        Map<String, BlendShapes.Shape> shapes = BlendShapes.of(mesh);
        if (Skin.of(mesh).isPresent() || !shapes.isEmpty()) {
            prim.applyApiSchema(BINDING, true);
        }
        if (!shapes.isEmpty()) {
            shapes(prim, path, shapes);
        }
        if (Skin.of(mesh).isPresent()) {
            prim.set("matrix4d", "primvars:skel:geomBindTransform", new Value.Tuple(place.rows()));
        }
    }

    /** Writes each shape as a child of its mesh. */
    private static void shapes(PrimSpec prim, SdfPath path, Map<String, BlendShapes.Shape> shapes) {
        List<SdfPath> targets = new ArrayList<>();
        shapes.forEach((name, shape) -> {
            String child = Names.free(
                    Names.identifier(name), taken -> prim.child(taken).isPresent());
            shape(prim.define(SHAPE_TYPE, child), shape);
            targets.add(path.child(child));
        });
        prim.set("token[]", "skel:blendShapes", new Value.Strings(List.copyOf(shapes.keySet())))
                .setUniform(true);
        prim.relate("skel:blendShapeTargets", targets.toArray(SdfPath[]::new));
    }

    /** Writes a shape to a prim of its type, with the offsets of those points that it moves. */
    static void shape(PrimSpec prim, BlendShapes.Shape shape) {
        List.copyOf(prim.propertyNames()).stream()
                .filter(name -> name.startsWith("inbetweens:"))
                .forEach(prim::removeProperty);
        int[] points = moved(shape);
        float[] normals = shape.normals() == null ? new float[3 * points.length] : picked(shape.normals(), points);
        vectors(prim, "offsets", picked(shape.offsets(), points));
        vectors(prim, "normalOffsets", normals);
        prim.set("int[]", "pointIndices", new Value.Ints(points, 1)).setUniform(true);
        shape.between().forEach((weight, offsets) -> vectors(
                        prim, "inbetweens:" + Names.identifier("at" + weight), picked(offsets, points))
                .metadata()
                .put("weight", new Value.Real(weight)));
    }

    private static AttributeSpec vectors(PrimSpec prim, String name, float[] triples) {
        AttributeSpec attribute = prim.set("vector3f[]", name, new Value.Floats(triples, 3));
        attribute.setUniform(true);
        return attribute;
    }

    /** The points that a shape moves, or whose normals it turns. */
    private static int[] moved(BlendShapes.Shape shape) {
        return IntStream.range(0, shape.offsets().length / 3)
                .filter(point -> isMoved(shape.offsets(), point)
                        || shape.normals() != null && isMoved(shape.normals(), point)
                        || shape.between().values().stream().anyMatch(offsets -> isMoved(offsets, point)))
                .toArray();
    }

    private static boolean isMoved(float[] offsets, int point) {
        return offsets[3 * point] != 0 || offsets[3 * point + 1] != 0 || offsets[3 * point + 2] != 0;
    }

    private static float[] picked(float[] triples, int[] points) {
        float[] picked = new float[3 * points.length];
        for (int i = 0; i < points.length; i++) {
            System.arraycopy(triples, 3 * points[i], picked, 3 * i, 3);
        }
        return picked;
    }

    /** Writes which joints the points of a mesh hang on, and how much. */
    static void skin(PrimSpec prim, Map<String, Channel> channels) {
        Optional<Channel> joints = byPoint(channels.get(Skin.JOINTS));
        Optional<Channel> weights = byPoint(channels.get(Skin.WEIGHTS));
        if (joints.isEmpty() || weights.isEmpty()) {
            return;
        }
        int[] numbers = new int[joints.get().data().length];
        for (int i = 0; i < numbers.length; i++) {
            numbers[i] = (int) joints.get().data()[i];
        }
        int width = joints.get().width();
        describe(prim.set("int[]", "primvars:" + Skin.JOINTS, new Value.Ints(numbers, 1)), width);
        describe(
                prim.set(
                        "float[]",
                        "primvars:" + Skin.WEIGHTS,
                        new Value.Floats(weights.get().data(), 1)),
                width);
        if (Skin.isDual(channels)) {
            prim.set("token", "primvars:" + Skin.METHOD, new Value.Token(Skin.DUAL))
                    .setUniform(true);
        }
    }

    private static Optional<Channel> byPoint(@Nullable Channel channel) {
        return Optional.ofNullable(channel).filter(each -> each.per() == Channel.Per.POINT);
    }

    private static void describe(AttributeSpec attribute, int width) {
        attribute.metadata().put("interpolation", new Value.Token(Channel.Per.POINT.interpolation()));
        attribute.metadata().put("elementSize", new Value.Int(width));
    }
}
