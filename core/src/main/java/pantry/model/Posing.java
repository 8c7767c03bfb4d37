package pantry.model;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.motion.BlendShapes;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;

/** A model as its skeleton stands: parts that hang on joints are where those take them. */
public final class Posing {
    /** So many times are looked at to find the pose that tells most. */
    private static final int LOOKS = 24;

    private final Model model;
    private final Skeleton skeleton;

    private Posing(Model model, Skeleton skeleton) {
        this.model = model;
        this.skeleton = skeleton;
    }

    /** Of a model that has a skeleton; empty otherwise. */
    public static Optional<Posing> of(Model model) {
        return model.extras().skeleton().map(skeleton -> new Posing(model, skeleton));
    }

    /** The model as it was bound. */
    public Model model() {
        return model;
    }

    public Skeleton skeleton() {
        return skeleton;
    }

    /** The names of the shapes of all meshes, each once. */
    public List<String> shapes() {
        return model.meshes().stream()
                .flatMap(mesh -> BlendShapes.of(mesh).keySet().stream())
                .distinct()
                .toList();
    }

    /** The model at a time of a motion, seconds. */
    public Model at(Motion motion, double seconds) {
        return at(motion, seconds, Map.of());
    }

    /**
     * The model at a time of a motion, seconds.
     *
     * @param held weights of shapes that count instead of those that the motion says
     */
    public Model at(Motion motion, double seconds, Map<String, Double> held) {
        Map<String, Double> weights = new HashMap<>(motion.weightsAt(seconds));
        weights.putAll(held);
        return posed(skeleton.posed(motion, seconds), weights);
    }

    /** The model where nothing moves its joints. */
    public Model atRest() {
        return atRest(Map.of());
    }

    /** The model where nothing moves its joints, with shapes at these weights. */
    public Model atRest(Map<String, Double> weights) {
        return posed(skeleton.rest(), weights);
    }

    private Model posed(Matrix4[] places, Map<String, Double> weights) {
        Matrix4[] changes = skeleton.skinning(places);
        return new Model(model.name(), nodes(model.roots(), Matrix4.IDENTITY, changes, weights), model.extras());
    }

    private static List<Model.Node> nodes(
            List<Model.Node> nodes, Matrix4 above, Matrix4[] changes, Map<String, Double> weights) {
        List<Model.Node> posed = new ArrayList<>(nodes.size());
        boolean same = true;
        for (Model.Node node : nodes) {
            Matrix4 world = node.local().times(above);
            List<Model.Part> parts = node.parts().stream()
                    .map(part -> {
                        Mesh shaped = weights.isEmpty()
                                ? part.mesh()
                                : BlendShapes.without(
                                        BlendShapes.applied(part.mesh(), name -> weights.getOrDefault(name, 0.0)));
                        Mesh mesh = deformed(shaped, world, changes);
                        return mesh == part.mesh() ? part : new Model.Part(mesh, part.material(), part.looks());
                    })
                    .toList();
            List<Model.Node> children = nodes(node.children(), world, changes, weights);
            boolean kept = children == node.children() && parts.equals(node.parts());
            same &= kept;
            posed.add(
                    kept
                            ? node
                            : new Model.Node(node.name(), node.path(), node.local(), parts, children, node.shared()));
        }
        // What nothing moves stays the very same, so that it is drawn once for all its uses.
        return same ? nodes : posed;
    }

    private static Mesh deformed(Mesh mesh, Matrix4 world, Matrix4[] changes) {
        Optional<Skin> skin = Skin.of(mesh);
        if (skin.isEmpty() || world.determinant3() == 0) {
            return mesh;
        }
        Mesh inModel = mesh.transformed(world);
        Optional<Channel> given = inModel.normals();
        boolean byPoint =
                given.filter(channel -> channel.per() == Channel.Per.POINT).isPresent();
        Skin.Deformed deformed =
                skin.get().deformed(inModel.points(), byPoint ? given.get().data() : new float[0], changes);
        Channel normals = byPoint
                ? new Channel(deformed.normals(), 3, Channel.Per.POINT)
                : given.filter(channel -> channel.per() == Channel.Per.CORNER)
                        .map(channel -> new Channel(
                                skin.get().turned(channel.data(), inModel.corners(), changes), 3, channel.per()))
                        .orElse(null);
        return inModel.withPoints(deformed.points(), normals).transformed(world.inverse());
    }

    /** The box around the model over a whole motion, as seen at times at even distances. */
    public Box3 reach(Motion motion) {
        Box3 all = Box3.EMPTY;
        for (int look = 0; look <= LOOKS; look++) {
            all = all.union(at(motion, motion.times()[0] + motion.seconds() * look / LOOKS)
                    .bounds());
        }
        return all;
    }

    /** The box around the model over all its motions, and at rest. */
    public Box3 reach() {
        Box3 all = atRest().bounds();
        for (Motion motion : skeleton.motions()) {
            all = all.union(reach(motion));
        }
        return all;
    }

    /**
     * The model in the pose that tells most: of some looks at even distances into each motion, the one whose joints are
     * farthest from their places at rest; at rest where it has no motion.
     */
    public Model telling() {
        Matrix4[] rest = skeleton.rest();
        Matrix4[] told = rest;
        Map<String, Double> shapes = Map.of();
        double farthest = -1;
        for (Motion motion : skeleton.motions()) {
            for (int look = 0; look < LOOKS; look++) {
                double seconds = motion.times()[0] + motion.seconds() * look / LOOKS;
                Matrix4[] places = skeleton.posed(motion, seconds);
                Map<String, Double> weights = motion.weightsAt(seconds);
                // A shape that is reached counts as much as a joint that moves by a metre.
                double far = apart(places, rest)
                        + weights.values().stream().mapToDouble(w -> w * w).sum();
                if (far > farthest) {
                    farthest = far;
                    told = places;
                    shapes = weights;
                }
            }
        }
        return posed(told, shapes);
    }

    private static double apart(Matrix4[] places, Matrix4[] others) {
        double apart = 0;
        for (int joint = 0; joint < places.length; joint++) {
            double[] here = places[joint].rows();
            double[] there = others[joint].rows();
            for (int i = 0; i < here.length; i++) {
                apart += (here[i] - there[i]) * (here[i] - there[i]);
            }
        }
        return apart;
    }
}
