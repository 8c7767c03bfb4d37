package pantry.scene;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.UsdObjectMotion;
import pantry.mesh.Mesh;
import pantry.model.Model;
import pantry.motion.BlendShapes;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;
import pantry.usd.compose.Prim;

/**
 * A scene as one model that moves: one skeleton with the joints of everything that moves in it, each placement's its own, and one
 * motion that is what all of them do, told frame by frame. For formats that know no placements with a time of their own.
 */
public final class RiggedScene {
    /** More would be numbered by no format, and played by nothing. */
    private static final int MOST_JOINTS = 10_000;

    private static final double MOST_FRAMES_PER_SECOND = 60;

    private final SceneMotion scene;
    private final List<Skeleton.Joint> joints = new ArrayList<>();
    private final List<Filler> fillers = new ArrayList<>();
    private final List<String> shapes = new ArrayList<>();
    private final Set<String> takenShapes = new HashSet<>();
    private final Map<List<Model.Node>, Boolean> moving = new IdentityHashMap<>();

    /** Tells some joints and shapes of a frame. */
    @FunctionalInterface
    private interface Filler {
        void fill(double seconds, JointTransform[] pose, float[] weights);
    }

    /**
     * Where nodes are that are gone through.
     *
     * @param joint that they hang on, or {@link Skeleton#NONE}
     * @param within from their parent's space to the joint's, or the model's where there is none
     * @param world from their parent's space to the model's, at rest
     */
    private record Above(int joint, Matrix4 within, Matrix4 world) {
        Above below(Matrix4 local) {
            return new Above(joint, local.times(within), local.times(world));
        }
    }

    private RiggedScene(SceneMotion scene) {
        this.scene = scene;
    }

    /**
     * A scene that moves, in its own unit and axes.
     *
     * @param framesPerSecond at most {@value #MOST_FRAMES_PER_SECOND} are told
     * @return empty where it has more than {@value #MOST_JOINTS} joints
     */
    public static Optional<Model> of(SceneMotion scene, double framesPerSecond) {
        RiggedScene made = new RiggedScene(scene);
        Model model = scene.model();
        List<Model.Node> roots =
                made.nodes(model.roots(), new Above(Skeleton.NONE, Matrix4.IDENTITY, Matrix4.IDENTITY));
        if (made.joints.size() > MOST_JOINTS) {
            return Optional.empty();
        }
        Motion motion = made.motion(model.name(), Math.min(MOST_FRAMES_PER_SECOND, framesPerSecond));
        Skeleton skeleton = new Skeleton(made.joints, List.of(motion));
        return Optional.of(new Model(model.name(), roots, told(model.extras()).with(Optional.of(skeleton))));
    }

    /** Skeletons are part of the model now; so are the motions that are done. */
    private static Model.Extras told(Model.Extras extras) {
        List<String> left = extras.foreign().stream()
                .filter(kind -> !kind.startsWith("Skel"))
                .toList();
        return new Model.Extras(extras.fixtures(), extras.hidden(), left, Optional.empty(), extras.custom())
                .telling(List.of("motions that placements could do besides"));
    }

    private Motion motion(String name, double framesPerSecond) {
        double length = scene.end() - scene.start();
        long most = Math.max(2, Motion.MOST_KEYS / Math.max(1, joints.size() + shapes.size()));
        int frames = (int) Math.min(most - 1, Math.ceil(length * framesPerSecond)) + 1;
        float[] times = new float[frames];
        float[] weights = new float[frames * shapes.size()];
        for (int i = 0; i < frames; i++) {
            times[i] = (float) (scene.start() + (frames == 1 ? 0 : length * i / (frames - 1)));
        }
        Motion told = Motion.of(name, times, joints.size(), key -> {
            JointTransform[] pose = new JointTransform[joints.size()];
            float[] now = new float[shapes.size()];
            fillers.forEach(filler -> filler.fill(times[key], pose, now));
            System.arraycopy(now, 0, weights, key * now.length, now.length);
            return pose;
        });
        return shapes.isEmpty() ? told : told.withShapes(shapes, weights);
    }

    private boolean moves(List<Model.Node> nodes) {
        Boolean known = moving.get(nodes);
        if (known == null) {
            known = nodes.stream()
                    .anyMatch(node ->
                            scene.rig(node).isPresent() || scene.mover(node).isPresent() || moves(node.children()));
            moving.put(nodes, known);
        }
        return known;
    }

    private List<Model.Node> nodes(List<Model.Node> nodes, Above above) {
        List<Model.Node> all = new ArrayList<>(nodes.size());
        for (Model.Node node : nodes) {
            Optional<SceneMotion.Rig> rig = scene.rig(node);
            Optional<Prim> mover = scene.mover(node);
            if (joints.size() > MOST_JOINTS) {
                all.add(node);
            } else if (rig.isPresent()) {
                all.add(rigged(node, rig.get(), above.below(node.local())));
            } else if (mover.isPresent()) {
                all.add(moved(node, mover.get(), above));
            } else if (above.joint() == Skeleton.NONE && !moves(node.children())) {
                all.add(node);
            } else {
                all.add(with(
                        node, hung(node.parts(), above.joint()), nodes(node.children(), above.below(node.local()))));
            }
        }
        return all;
    }

    private static Model.Node with(Model.Node node, List<Model.Part> parts, List<Model.Node> children) {
        return new Model.Node(node.name(), node.path(), node.local(), parts, children, false);
    }

    private static List<Model.Part> hung(List<Model.Part> parts, int joint) {
        return joint == Skeleton.NONE
                ? parts
                : parts.stream()
                        .map(part -> new Model.Part(Skin.rigid(part.mesh(), joint), part.material(), part.looks()))
                        .toList();
    }

    /** An object whose own transform changes is a joint itself. */
    private Model.Node moved(Model.Node node, Prim prim, Above above) {
        Above here = above.below(node.local());
        int joint = joints.size();
        joints.add(new Skeleton.Joint(node.name(), above.joint(), here.within(), here.world()));
        fillers.add((seconds, pose, weights) -> pose[joint] = JointTransform.of(
                UsdObjectMotion.place(prim, seconds * scene.rate()).times(above.within())));
        Above below = new Above(joint, Matrix4.IDENTITY, here.world());
        return with(node, hung(node.parts(), joint), nodes(node.children(), below));
    }

    private Model.Node rigged(Model.Node node, SceneMotion.Rig rig, Above here) {
        Skeleton own = rig.posing().skeleton();
        int first = joints.size();
        List<JointTransform> rest = new ArrayList<>();
        for (Skeleton.Joint joint : own.joints()) {
            boolean root = joint.parent() == Skeleton.NONE;
            joints.add(new Skeleton.Joint(
                    joint.name(),
                    root ? here.joint() : first + joint.parent(),
                    root ? joint.rest().times(here.within()) : joint.rest(),
                    joint.bind().times(here.world())));
            rest.add(JointTransform.of(joint.rest()));
        }
        Map<String, String> names = new LinkedHashMap<>();
        int firstShape = shapes.size();
        for (String shape : rig.posing().shapes()) {
            String free = Names.free(shape, takenShapes::contains);
            takenShapes.add(free);
            shapes.add(free);
            names.put(shape, free);
        }
        List<String> told = List.copyOf(names.keySet());
        fillers.add((seconds, pose, weights) -> {
            JointTransform[] now =
                    rig.motion().map(motion -> motion.at(seconds)).orElseGet(() -> rest.toArray(JointTransform[]::new));
            for (int i = 0; i < now.length; i++) {
                boolean root = own.joints().get(i).parent() == Skeleton.NONE;
                pose[first + i] = root ? JointTransform.of(now[i].matrix().times(here.within())) : now[i];
            }
            Map<String, Double> reached =
                    rig.motion().map(motion -> motion.weightsAt(seconds)).orElse(Map.of());
            for (int i = 0; i < told.size(); i++) {
                weights[firstShape + i] = reached.getOrDefault(told.get(i), 0.0).floatValue();
            }
        });
        Model.Node shown = rig.posing()
                .model()
                .withMeshes(mesh -> renumbered(mesh, first, names))
                .roots()
                .getFirst();
        return with(node, shown.parts(), shown.children());
    }

    private static Mesh renumbered(Mesh mesh, int first, Map<String, String> names) {
        Mesh changed = mesh;
        Map<String, BlendShapes.Shape> shapes = BlendShapes.of(mesh);
        if (!shapes.isEmpty()) {
            Map<String, BlendShapes.Shape> renamed = new LinkedHashMap<>();
            shapes.forEach((name, shape) -> renamed.put(names.getOrDefault(name, name), shape));
            changed = BlendShapes.on(BlendShapes.without(mesh), renamed);
        }
        Optional<Skin> skin = Skin.of(changed);
        if (skin.isEmpty()) {
            return changed;
        }
        float[] numbers = Arrays.copyOf(skin.get().joints(), skin.get().joints().length);
        for (int i = 0; i < numbers.length; i++) {
            // What hangs on nothing goes on doing so.
            numbers[i] = numbers[i] < 0 ? numbers[i] : numbers[i] + first;
        }
        return skin.get()
                .with(skin.get().width(), numbers, skin.get().weights())
                .on(changed);
    }
}
