package pantry.exchange.usd;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.usd.Layer;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Values;

/** Reads what the joints and shapes of a stage do over time (UsdSkelAnimation). */
public final class UsdMotionReader {
    private static final double USUAL_RATE = 24;

    /**
     * A skeleton as it stands in the stage.
     *
     * @param numbers of the joints, by their paths
     * @param said what joints are called
     */
    record Bones(
            Map<String, Integer> numbers,
            List<String> names,
            List<String> said,
            Matrix4[] bind,
            Matrix4[] rest,
            Matrix4 place) {}

    /**
     * A skeleton's joints among all, as meshes hang on them that were bound alike.
     *
     * @param bound from the space that the joints were bound in to the model's
     */
    record Block(Bones bones, Matrix4 bound, int from) {}

    private final Stage stage;
    private final List<Skeleton.Joint> joints;
    private final List<Block> blocks;
    private final Set<String> shapes;
    private final List<String> problems;

    /**
     * @param joints all joints that there are
     * @param blocks of them, each of a skeleton of the stage
     * @param shapes the names of all shapes
     * @param problems is told what cannot be read
     */
    UsdMotionReader(
            Stage stage, List<Skeleton.Joint> joints, List<Block> blocks, Set<String> shapes, List<String> problems) {
        this.stage = stage;
        this.joints = joints;
        this.blocks = blocks;
        this.shapes = shapes;
        this.problems = problems;
    }

    /** A motion of all joints: those that it does not tell of are at rest. */
    Optional<Motion> read(Prim prim) {
        List<String> names = Values.strings(prim, "joints");
        TreeSet<Double> codes = new TreeSet<>();
        for (String name : List.of("translations", "rotations", "scales", "blendShapeWeights")) {
            prim.attribute(name).ifPresent(attribute -> codes.addAll(attribute.times()));
        }
        if (codes.isEmpty()) {
            codes.add(0.0);
        }
        if ((long) codes.size()
                        * (joints.size() + Values.strings(prim, "blendShapes").size())
                > Motion.MOST_KEYS) {
            problems.add("<" + prim.path() + "> has more than " + Motion.MOST_KEYS + " keys, and is left out");
            return Optional.empty();
        }
        double rate = codesPerSecond(stage.rootLayer());
        float[] times = new float[codes.size()];
        double[] at = new double[codes.size()];
        int number = 0;
        for (double code : codes) {
            at[number] = code;
            times[number++] = (float) (code / rate);
        }
        Map<String, Integer> told = numbers(names);
        int[][] places = new int[blocks.size()][];
        boolean fits = false;
        for (int b = 0; b < places.length; b++) {
            List<String> known = blocks.get(b).bones().names();
            places[b] =
                    known.stream().mapToInt(name -> told.getOrDefault(name, -1)).toArray();
            fits |= Arrays.stream(places[b]).anyMatch(place -> place >= 0);
        }
        List<String> shaped = Values.strings(prim, "blendShapes");
        List<String> kept = shaped.stream().distinct().filter(shapes::contains).toList();
        if (!fits && kept.isEmpty()) {
            problems.add("<" + prim.path() + "> moves joints and shapes that nothing here has");
            return Optional.empty();
        }
        try {
            Motion moved = Motion.of(
                    prim.text("displayName").orElse(prim.name()),
                    times,
                    joints.size(),
                    key -> pose(prim, at[key], places));
            return Optional.of(kept.isEmpty() ? moved : moved.withShapes(kept, weights(prim, at, shaped, kept)));
        } catch (IllegalArgumentException e) {
            problems.add("<" + prim.path() + ">: " + e.getMessage());
            return Optional.empty();
        }
    }

    /** The weights of some of the shapes that an animation tells of, at each of the times. */
    private static float[] weights(Prim prim, double[] codes, List<String> told, List<String> kept) {
        float[] weights = new float[codes.length * kept.size()];
        for (int key = 0; key < codes.length; key++) {
            float[] all = floats(prim, "blendShapeWeights", codes[key], 1);
            for (int i = 0; i < kept.size(); i++) {
                int at = told.indexOf(kept.get(i));
                weights[key * kept.size() + i] = at < all.length ? all[at] : 0;
            }
        }
        return weights;
    }

    /** The joints that a motion moves; those that it tells the same of at all times are not among them. */
    public static List<String> moving(Prim prim) {
        List<String> names = Values.strings(prim, "joints");
        Set<Integer> moved = new TreeSet<>();
        Map.of("translations", 3, "rotations", 4, "scales", 3)
                .forEach((name, width) -> prim.attribute(name).ifPresent(attribute -> {
                    float[] first = new float[0];
                    for (double code : attribute.times()) {
                        float[] now = floats(prim, name, code, width);
                        first = first.length == 0 ? now : first;
                        int there = Math.min(names.size(), Math.min(first.length, now.length) / width);
                        for (int i = 0; i < there; i++) {
                            if (!Arrays.equals(first, i * width, (i + 1) * width, now, i * width, (i + 1) * width)) {
                                moved.add(i);
                            }
                        }
                    }
                }));
        return moved.stream().map(names::get).toList();
    }

    /** The joints that a motion tells of, at rest as its first key has them; empty where it tells of none. */
    static Optional<Bones> bones(Prim prim) {
        List<String> names = Values.strings(prim, "joints").stream().distinct().toList();
        double first = prim.attribute("translations")
                .flatMap(attribute -> attribute.times().stream().findFirst())
                .orElse(0.0);
        float[] moves = floats(prim, "translations", first, 3);
        float[] turns = floats(prim, "rotations", first, 4);
        if (names.isEmpty() || moves.length < 3 * names.size() || turns.length < 4 * names.size()) {
            return Optional.empty();
        }
        Map<String, Integer> numbers = numbers(names);
        Matrix4[] rest = new Matrix4[names.size()];
        Matrix4[] bind = new Matrix4[rest.length];
        for (int i = 0; i < rest.length; i++) {
            rest[i] = told(moves, turns, new float[0], i).matrix();
            int parent = parent(names, numbers, i);
            bind[i] = parent < 0 ? rest[i] : rest[i].times(bind[parent]);
        }
        return Optional.of(new Bones(numbers, names, last(names), bind, rest, Matrix4.IDENTITY));
    }

    private JointTransform[] pose(Prim prim, double code, int[][] places) {
        float[] moves = floats(prim, "translations", code, 3);
        float[] turns = floats(prim, "rotations", code, 4);
        float[] scales = floats(prim, "scales", code, 3);
        JointTransform[] pose = new JointTransform[joints.size()];
        for (int b = 0; b < places.length; b++) {
            Block block = blocks.get(b);
            for (int i = 0; i < places[b].length; i++) {
                int joint = block.from() + i;
                int at = places[b][i];
                if (at < 0 || 3 * at + 2 >= moves.length || 4 * at + 3 >= turns.length) {
                    pose[joint] = JointTransform.of(joints.get(joint).rest());
                    continue;
                }
                JointTransform told = told(moves, turns, scales, at);
                boolean root = joints.get(joint).parent() == Skeleton.NONE;
                pose[joint] = root && !block.bones().place().equals(Matrix4.IDENTITY)
                        ? JointTransform.of(told.matrix().times(block.bones().place()))
                        : told;
            }
        }
        return pose;
    }

    /** What a motion tells of a joint; where it tells of no scales, it is as large as it is. */
    private static JointTransform told(float[] moves, float[] turns, float[] scales, int joint) {
        return new JointTransform(
                new Vec3(moves[3 * joint], moves[3 * joint + 1], moves[3 * joint + 2]),
                turns[4 * joint],
                turns[4 * joint + 1],
                turns[4 * joint + 2],
                turns[4 * joint + 3],
                3 * joint + 2 < scales.length
                        ? new Vec3(scales[3 * joint], scales[3 * joint + 1], scales[3 * joint + 2])
                        : Vec3.ONE);
    }

    /** What joints are called without those above them. */
    static List<String> last(List<String> paths) {
        return paths.stream()
                .map(path -> path.substring(path.lastIndexOf('/') + 1))
                .toList();
    }

    private static float[] floats(Prim prim, String name, double code, int width) {
        Optional<Value> value = prim.attribute(name).flatMap(attribute -> attribute.valueAt(code));
        return value.orElse(null) instanceof Value.Floats(float[] data, int given) && given == width
                ? data
                : new float[0];
    }

    /** The nearest of a joint's parents that is a joint as well, and stands before it. */
    static int parent(List<String> names, Map<String, Integer> numbers, int joint) {
        String path = names.get(joint);
        for (int cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1)) {
            int parent = numbers.getOrDefault(path.substring(0, cut), -1);
            if (parent >= 0 && parent < joint) {
                return parent;
            }
        }
        return -1;
    }

    /** The first of each name. */
    static Map<String, Integer> numbers(List<String> names) {
        Map<String, Integer> numbers = HashMap.newHashMap(names.size());
        for (int i = 0; i < names.size(); i++) {
            numbers.putIfAbsent(names.get(i), i);
        }
        return numbers;
    }

    /** How many time codes of a layer make a second; the standard's own rate where it does not say so. */
    public static double codesPerSecond(Layer layer) {
        return layer.number("timeCodesPerSecond")
                .or(() -> layer.number("framesPerSecond"))
                .filter(each -> each > 0)
                .orElse(USUAL_RATE);
    }
}
