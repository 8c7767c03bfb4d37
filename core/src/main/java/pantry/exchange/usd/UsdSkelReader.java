package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.mesh.Mesh;
import pantry.model.Model;
import pantry.motion.BlendShapes;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Values;
import pantry.usd.schema.Xforms;

/**
 * Reads the skeletons of a stage, with their motions, and hangs a model's meshes on them (UsdSkel). All skeletons make one, of
 * as many roots; what stands in instances is left as it was bound.
 */
public final class UsdSkelReader {
    /** The relationship to what moves the skeletons at and below a prim. */
    public static final String ANIMATION = "skel:animationSource";

    /** The type of prims that say what joints and shapes do. */
    public static final String ANIMATION_TYPE = "SkelAnimation";

    private final Stage stage;
    private final List<String> problems = new ArrayList<>();
    private final List<Skeleton.Joint> joints = new ArrayList<>();
    private final List<UsdMotionReader.Block> blocks = new ArrayList<>();
    private final List<Prim> skeletons = new ArrayList<>();
    private final Set<String> shapes = new HashSet<>();
    private final Map<SdfPath, Optional<UsdMotionReader.Bones>> read = new HashMap<>();

    /** The instance whose prototype is read; null where a stage is read as a whole. */
    private final @Nullable Prim placed;

    /** From the stage's space to the one that the model is read in. */
    private final Matrix4 base;

    private UsdSkelReader(Stage stage, @Nullable Prim placed) {
        this.stage = stage;
        this.placed = placed;
        this.base = placed == null ? Matrix4.IDENTITY : Xforms.world(placed).inverse();
    }

    /**
     * A model with its skeleton, or with joints where its objects move; the same where nothing hangs on one. What cannot be read of it is told among what is foreign.
     *
     * @param model as it was read of the stage, in its unit and axes
     */
    public static Model rigged(Stage stage, Model model) {
        return UsdObjectMotion.moved(stage, hung(stage, model));
    }

    private static Model hung(Stage stage, Model model) {
        boolean hangs = model.meshes().stream()
                .anyMatch(mesh -> Skin.of(mesh).isPresent()
                        || mesh.primvars().keySet().stream().anyMatch(BlendShapes::isChannel));
        if (hangs || model.meshes().isEmpty()) {
            UsdSkelReader reader = new UsdSkelReader(stage, null);
            if (!hangs) {
                reader.addSkeletons();
            }
            return reader.rigged(model);
        }
        return model;
    }

    /** Whether a prim is one below which skeletons move what hangs on them. */
    public static boolean isRoot(Prim prim) {
        return prim.typeName().equals(UsdSkelWriter.ROOT_TYPE);
    }

    /** As above, of what was read of a stage. */
    public static boolean isRoot(Stage stage, Model.Node node) {
        return node.path().startsWith("/")
                && stage.prim(SdfPath.of(node.path()))
                        .filter(UsdSkelReader::isRoot)
                        .isPresent();
    }

    /** What the root of a skeleton itself says of what moves it, told from the root; of several that show the same, what differs. */
    public static String ownBinding(Stage stage, Model.Node node) {
        return stage.prim(SdfPath.of(node.path()))
                .filter(prim -> prim.propertyNames().contains(ANIMATION))
                .map(prim -> prim.targets(ANIMATION).toString().replace(prim.path() + "/", "./"))
                .orElse("");
    }

    /**
     * What stands below a skeleton's root, in the space of that root, with the motion that is bound to it; empty where nothing
     * of it hangs on a skeleton.
     *
     * @param node of the root's prim, as it was read of the stage in its own unit and axes
     */
    public static Optional<Model> placed(Stage stage, Model.Node node) {
        Optional<Prim> root = stage.prim(SdfPath.of(node.path()));
        if (root.isEmpty() || Xforms.world(root.get()).determinant3() == 0) {
            return Optional.empty();
        }
        return new UsdSkelReader(stage, root.get()).below(node);
    }

    private Optional<Model> below(Model.Node node) {
        List<Model.Node> children = nodes(node.children(), Matrix4.IDENTITY);
        Model.Node root =
                new Model.Node(node.name(), node.path(), Matrix4.IDENTITY, node.parts(), children, node.shared());
        Model model = new Model(node.name(), List.of(root), Model.Extras.NONE);
        model.meshes().forEach(mesh -> shapes.addAll(BlendShapes.of(mesh).keySet()));
        if (blocks.isEmpty() && shapes.isEmpty()) {
            return Optional.empty();
        }
        List<Motion> motions = new ArrayList<>();
        skeletons.stream()
                .flatMap(prim -> bound(prim).stream())
                .distinct()
                .limit(1)
                .flatMap(path -> stage.prim(path).stream())
                .filter(prim -> prim.typeName().equals(ANIMATION_TYPE))
                .forEach(prim -> motionReader().read(prim).ifPresent(motions::add));
        return Optional.of(model.with(Model.Extras.NONE.with(Optional.of(new Skeleton(joints, motions)))));
    }

    /** What moves a skeleton: the nearest binding counts, also where it says that nothing does. */
    private Optional<SdfPath> bound(Prim skeleton) {
        Optional<Prim> at = Optional.of(skeleton);
        while (at.isPresent()) {
            if (at.get().propertyNames().contains(ANIMATION)) {
                return at.get().targets(ANIMATION).stream().findFirst();
            }
            at = above(at.get());
        }
        return Optional.empty();
    }

    /** The prim above another; above what an instance shows stands the instance. */
    private Optional<Prim> above(Prim prim) {
        if (placed != null && prim.path().equals(placed.path())) {
            // What is bound above the root of a skeleton is not meant for it.
            return Optional.empty();
        }
        return prim.parent()
                .map(parent -> placed != null && parent.path().depth() == 1 && isShared(parent) ? placed : parent);
    }

    private static boolean isShared(Prim prim) {
        return prim.path().names().getFirst().startsWith(Stage.PROTOTYPE);
    }

    /** The skin of a mesh's prim, its joints numbered as it numbers them itself; empty where it has none. */
    public static Optional<Skin> skin(Prim prim) {
        float[] points = Values.floats(prim, "points", 3);
        int[] joints = Values.ints(prim, "primvars:" + Skin.JOINTS);
        float[] weights = Values.floats(prim, "primvars:" + Skin.WEIGHTS, 1);
        if (points == null || joints == null || weights == null || joints.length != weights.length) {
            return Optional.empty();
        }
        boolean whole = prim.attribute("primvars:" + Skin.JOINTS)
                .flatMap(attribute -> attribute.text("interpolation"))
                .filter("constant"::equals)
                .isPresent();
        int count = points.length / 3;
        int width = whole ? joints.length : count == 0 ? 0 : joints.length / count;
        if (width == 0 || !whole && joints.length != width * count) {
            return Optional.empty();
        }
        float[] numbers = new float[width * count];
        float[] shares = new float[width * count];
        for (int i = 0; i < numbers.length; i++) {
            numbers[i] = joints[whole ? i % width : i];
            shares[i] = weights[whole ? i % width : i];
        }
        boolean dual = Values.token(prim, "primvars:" + Skin.METHOD)
                .filter(Skin.DUAL::equals)
                .isPresent();
        return Optional.of(new Skin(width, numbers, shares, dual));
    }

    /** The skeleton that a prim hangs on, by itself or by what is above it. */
    public static Optional<SdfPath> skeletonOf(Prim prim) {
        return inherited(prim, "skel:skeleton", Prim::parent);
    }

    /** The joints that a mesh counts, where it does not count them as its skeleton does. */
    public static List<String> jointsOf(Prim prim) {
        return inheritedTokens(prim, "skel:joints");
    }

    /** Takes the skeletons of a stage without surfaces; where it has none, one that its first motion tells of. */
    private void addSkeletons() {
        List<Prim> there = new ArrayList<>();
        gather(stage.root(), "Skeleton", there);
        there.stream().flatMap(prim -> bones(prim.path()).stream()).forEach(bones -> block(bones, bones.place()));
        if (there.isEmpty()) {
            List<Prim> animations = new ArrayList<>();
            gather(stage.root(), ANIMATION_TYPE, animations);
            animations.stream()
                    .flatMap(prim -> UsdMotionReader.bones(prim).stream())
                    .findFirst()
                    .ifPresent(bones -> block(bones, Matrix4.IDENTITY));
        }
    }

    private Model rigged(Model model) {
        List<Model.Node> roots = nodes(model.roots(), Matrix4.IDENTITY);
        List<Prim> animations = new ArrayList<>();
        gather(stage.root(), ANIMATION_TYPE, animations);
        for (Mesh mesh : model.meshes()) {
            shapes.addAll(BlendShapes.of(mesh).keySet());
        }
        boolean moves = !blocks.isEmpty() || !shapes.isEmpty();
        List<Motion> motions = new ArrayList<>();
        UsdMotionReader reader = motionReader();
        for (Prim animation : moves ? animations : List.<Prim>of()) {
            reader.read(animation).ifPresent(motions::add);
        }
        List<String> foreign = new ArrayList<>(model.extras().foreign());
        foreign.removeIf(kind -> moves && kind.startsWith("Skel"));
        foreign.addAll(problems);
        Model.Extras extras = new Model.Extras(
                model.extras().fixtures(),
                model.extras().hidden(),
                foreign,
                moves ? Optional.of(new Skeleton(joints, motions)) : Optional.empty(),
                model.extras().custom());
        return new Model(model.name(), moves ? roots : model.roots(), extras);
    }

    /** To be asked for once all meshes are hung. */
    private UsdMotionReader motionReader() {
        return new UsdMotionReader(stage, joints, blocks, shapes, problems);
    }

    private static void gather(Prim prim, String type, List<Prim> found) {
        for (Prim child : prim.children()) {
            if (child.isActive() && !child.isAbstract() && child.isDefined()) {
                if (child.typeName().equals(type)) {
                    found.add(child);
                }
                gather(child, type, found);
            }
        }
    }

    private List<Model.Node> nodes(List<Model.Node> nodes, Matrix4 above) {
        List<Model.Node> hung = new ArrayList<>(nodes.size());
        boolean same = true;
        for (Model.Node node : nodes) {
            Matrix4 world = node.local().times(above);
            List<Model.Part> parts = node.parts();
            if (parts.stream().anyMatch(part -> Skin.of(part.mesh()).isPresent())) {
                parts = stage.prim(SdfPath.of(node.path()))
                        .map(prim -> hung(prim, node.parts(), world))
                        .orElse(parts);
            }
            List<Model.Node> children = node.shared() ? node.children() : nodes(node.children(), world);
            boolean kept = parts == node.parts() && children == node.children();
            same &= kept;
            hung.add(
                    kept
                            ? node
                            : new Model.Node(node.name(), node.path(), node.local(), parts, children, node.shared()));
        }
        return same ? nodes : hung;
    }

    /** Parts whose joints are numbered among all joints of the stage. */
    private List<Model.Part> hung(Prim prim, List<Model.Part> parts, Matrix4 world) {
        Optional<UsdMotionReader.Bones> bones = inherited(prim, "skel:skeleton").flatMap(this::bones);
        if (bones.isEmpty()) {
            return parts;
        }
        Matrix4 bind = matrix(prim.value("primvars:skel:geomBindTransform").orElse(null));
        if (bind.determinant3() == 0) {
            problems.add("<" + prim.path() + "> was bound flattened, and cannot be moved by its joints");
            return parts;
        }
        List<String> own = jointsOf(prim);
        UsdMotionReader.Block block = block(bones.get(), bind.inverse().times(world));
        return parts.stream()
                .map(part -> new Model.Part(renumbered(prim, part.mesh(), own, block), part.material(), part.looks()))
                .toList();
    }

    private Mesh renumbered(Prim prim, Mesh mesh, List<String> own, UsdMotionReader.Block block) {
        Optional<Skin> skin = Skin.of(mesh);
        if (skin.isEmpty()) {
            return mesh;
        }
        List<String> names = block.bones().names();
        float[] numbers = new float[skin.get().joints().length];
        boolean lost = false;
        for (int i = 0; i < numbers.length; i++) {
            int number = (int) skin.get().joints()[i];
            if (!own.isEmpty()) {
                number = number >= 0 && number < own.size()
                        ? block.bones().numbers().getOrDefault(own.get(number), -1)
                        : -1;
            }
            boolean there = number >= 0 && number < names.size();
            lost |= !there && skin.get().weights()[i] > 0;
            numbers[i] = there ? block.from() + number : -1;
        }
        if (lost) {
            problems.add("<" + prim.path() + "> hangs on joints that its skeleton does not have");
        }
        return skin.get()
                .with(skin.get().width(), numbers, skin.get().weights())
                .on(mesh);
    }

    private UsdMotionReader.Block block(UsdMotionReader.Bones bones, Matrix4 bound) {
        for (UsdMotionReader.Block block : blocks) {
            if (block.bones() == bones && block.bound().isNear(bound, Skeleton.SAME_PLACE)) {
                return block;
            }
        }
        UsdMotionReader.Block made = new UsdMotionReader.Block(bones, bound, joints.size());
        blocks.add(made);
        for (int i = 0; i < bones.names().size(); i++) {
            int parent = UsdMotionReader.parent(bones.names(), bones.numbers(), i);
            joints.add(new Skeleton.Joint(
                    bones.said().get(i),
                    parent < 0 ? Skeleton.NONE : made.from() + parent,
                    parent < 0 ? bones.rest()[i].times(bones.place()) : bones.rest()[i],
                    bones.bind()[i].times(bound)));
        }
        return made;
    }

    private Optional<UsdMotionReader.Bones> bones(SdfPath path) {
        return read.computeIfAbsent(path, target -> stage.prim(target)
                .filter(prim -> prim.typeName().equals("Skeleton"))
                .flatMap(this::bones));
    }

    private Optional<UsdMotionReader.Bones> bones(Prim prim) {
        List<String> names = Values.strings(prim, "joints");
        List<String> said = Values.strings(prim, "jointNames");
        Matrix4[] bind = matrices(prim, "bindTransforms", names.size());
        Matrix4[] rest = matrices(prim, "restTransforms", names.size());
        if (names.isEmpty() || bind.length == 0) {
            problems.add("<" + prim.path() + "> has no joints, or not as many places where they were bound");
            return Optional.empty();
        }
        Map<String, Integer> numbers = UsdMotionReader.numbers(names);
        if (rest.length == 0) {
            rest = new Matrix4[bind.length];
            for (int i = 0; i < rest.length; i++) {
                int parent = UsdMotionReader.parent(names, numbers, i);
                rest[i] = parent < 0 || bind[parent].determinant3() == 0
                        ? bind[i]
                        : bind[i].times(bind[parent].inverse());
            }
        }
        List<String> shown = said.size() == names.size() ? said : UsdMotionReader.last(names);
        skeletons.add(prim);
        // What an instance shows is in the space of the instance already.
        boolean beside = placed == null || prim.path().startsWith(placed.path());
        Matrix4 place = beside ? Xforms.world(prim).times(base) : Xforms.world(prim);
        return Optional.of(new UsdMotionReader.Bones(numbers, names, shown, bind, rest, place));
    }

    private static Matrix4[] matrices(Prim prim, String attribute, int count) {
        double[] numbers =
                switch (prim.value(attribute).orElse(null)) {
                    case Value.Doubles(double[] data, int width) when width == 16 -> data;
                    case null, default -> new double[0];
                };
        if (numbers.length != 16 * count) {
            return new Matrix4[0];
        }
        Matrix4[] matrices = new Matrix4[count];
        for (int i = 0; i < count; i++) {
            matrices[i] = Matrix4.ofRows(Arrays.copyOfRange(numbers, 16 * i, 16 * i + 16));
            if (!matrices[i].isFinite()) {
                return new Matrix4[0];
            }
        }
        return matrices;
    }

    private static Matrix4 matrix(@Nullable Value value) {
        if (value instanceof Value.Tuple(double[] numbers) && numbers.length == 16) {
            Matrix4 matrix = Matrix4.ofRows(numbers);
            return matrix.isFinite() ? matrix : Matrix4.IDENTITY;
        }
        return Matrix4.IDENTITY;
    }

    private Optional<SdfPath> inherited(Prim prim, String relationship) {
        return inherited(prim, relationship, this::above);
    }

    /** What a prim or the nearest above it relates to. */
    private static Optional<SdfPath> inherited(Prim prim, String relationship, Function<Prim, Optional<Prim>> above) {
        Optional<Prim> at = Optional.of(prim);
        while (at.isPresent()) {
            List<SdfPath> targets = at.get().targets(relationship);
            if (!targets.isEmpty()) {
                return Optional.of(targets.getFirst());
            }
            at = above.apply(at.get());
        }
        return Optional.empty();
    }

    private static List<String> inheritedTokens(Prim prim, String attribute) {
        Optional<Prim> at = Optional.of(prim);
        while (at.isPresent()) {
            List<String> tokens = Values.strings(at.get(), attribute);
            if (!tokens.isEmpty()) {
                return tokens;
            }
            at = at.get().parent();
        }
        return List.of();
    }
}
