package pantry.scene;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.UsdMotionReader;
import pantry.exchange.usd.UsdObjectMotion;
import pantry.exchange.usd.UsdSkelReader;
import pantry.mesh.Mesh;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.BlendShapes;
import pantry.motion.Motion;
import pantry.motion.Skin;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/**
 * What moves in a scene, as it is drawn at a moment: whatever stands below the root of a skeleton, also in instances, with the
 * motion that is bound to it there, and objects whose transforms have time samples. Placements of one thing that do the same at the same time are posed once and stay shared.
 */
public final class SceneMotion {
    private final Model model;

    /** By the node of the skeleton's root. */
    private final Map<Model.Node, Rig> rigs;

    /** What hangs on a skeleton, with what it does; told once for all that show and do the same. */
    record Rig(Posing posing, Optional<Motion> motion) {}

    /** The prims of objects whose own transforms change over time. */
    private final Map<Model.Node, Prim> moving;

    /** Time codes of the scene in a second. */
    private final double rate;

    private SceneMotion(Model model, Map<Model.Node, Rig> rigs, Map<Model.Node, Prim> moving, double rate) {
        this.model = model;
        this.rigs = rigs;
        this.moving = moving;
        this.rate = rate;
    }

    /**
     * Reads what moves; may take long.
     *
     * @param model as it was read of the scene
     * @return empty where nothing does, or where the scene is in another unit or upright axis than Pantry's
     */
    public static Optional<SceneMotion> of(Scene scene, Model model) {
        return scene.toMetres().equals(Matrix4.IDENTITY)
                ? Optional.of(new Reading(scene.stage()).read(model))
                        .filter(read -> !read.rigs.isEmpty() || !read.moving.isEmpty())
                : Optional.empty();
    }

    /** The scene as it was read. */
    Model model() {
        return model;
    }

    /** Time codes in a second. */
    double rate() {
        return rate;
    }

    Optional<Rig> rig(Model.Node node) {
        return Optional.ofNullable(rigs.get(node));
    }

    /** The prim of an object whose own transform changes. */
    Optional<Prim> mover(Model.Node node) {
        return Optional.ofNullable(moving.get(node));
    }

    /** A scene as its motions begin; as it was read where nothing moves. */
    public static Model begun(Scene scene, Model model) {
        return of(scene, model).map(motion -> motion.at(motion.start())).orElse(model);
    }

    /** Finds skeletons' roots among the nodes; what has no surface that hangs on joints is passed over, each list once. */
    private static final class Reading {
        private final Stage stage;
        private final Map<Model.Node, Rig> rigs = new IdentityHashMap<>();
        private final Map<Model.Node, Prim> moving = new IdentityHashMap<>();
        private final Set<List<Model.Node>> seen = Collections.newSetFromMap(new IdentityHashMap<>());
        private final Map<List<Model.Node>, Boolean> hanging = new IdentityHashMap<>();
        private final Map<List<Model.Node>, Map<String, Optional<Rig>>> known = new IdentityHashMap<>();

        Reading(Stage stage) {
            this.stage = stage;
        }

        SceneMotion read(Model model) {
            find(model.roots());
            findMoving(model.roots());
            return new SceneMotion(model, rigs, moving, UsdMotionReader.codesPerSecond(stage.rootLayer()));
        }

        /** Uses of something shared stand where the scene says; within, each list is looked through once. */
        private void findMoving(List<Model.Node> nodes) {
            if (!seen.add(nodes)) {
                return;
            }
            for (Model.Node node : nodes) {
                if (!node.shared() && !rigs.containsKey(node)) {
                    UsdObjectMotion.mover(stage, node).ifPresent(prim -> moving.put(node, prim));
                }
                findMoving(node.children());
            }
        }

        private void find(List<Model.Node> nodes) {
            for (Model.Node node : nodes) {
                if (!hangs(node.children())) {
                    continue;
                }
                Optional<Rig> rig = UsdSkelReader.isRoot(stage, node) ? rig(node) : Optional.empty();
                rig.ifPresentOrElse(found -> rigs.put(node, found), () -> find(node.children()));
            }
        }

        private boolean hangs(List<Model.Node> nodes) {
            Boolean told = hanging.get(nodes);
            if (told == null) {
                told = nodes.stream()
                        .anyMatch(node ->
                                node.parts().stream().anyMatch(part -> hangs(part.mesh())) || hangs(node.children()));
                hanging.put(nodes, told);
            }
            return told;
        }

        private static boolean hangs(Mesh mesh) {
            return Skin.of(mesh).isPresent() || !BlendShapes.of(mesh).isEmpty();
        }

        /** The same one for all that show the same and do the same: a crowd is read once for each thing that it does. */
        private Optional<Rig> rig(Model.Node node) {
            return known.computeIfAbsent(node.children(), children -> new HashMap<>())
                    .computeIfAbsent(UsdSkelReader.ownBinding(stage, node), binding -> UsdSkelReader.placed(stage, node)
                            .flatMap(Posing::of)
                            .map(posing -> new Rig(
                                    posing, posing.skeleton().motions().stream().findFirst())));
        }
    }

    /** When the scene begins, seconds: at 0, or with the first motion where that begins before. */
    public double start() {
        return Stream.concat(
                        rigs.values().stream()
                                .flatMap(rig -> rig.motion().stream())
                                .map(motion -> (double) motion.times()[0]),
                        codes().map(code -> code / rate))
                .mapToDouble(first -> first)
                .filter(first -> first < 0)
                .min()
                .orElse(0);
    }

    /** When the last motion ends, seconds; 0 where nothing is bound to anything. */
    public double end() {
        return Stream.concat(
                        rigs.values().stream()
                                .flatMap(rig -> rig.motion().stream())
                                .map(motion -> (double) motion.times()[motion.times().length - 1]),
                        codes().map(code -> code / rate))
                .mapToDouble(last -> last)
                .max()
                .orElse(0);
    }

    /** All time codes at which transforms are told. */
    private Stream<Double> codes() {
        return moving.values().stream().flatMap(prim -> UsdObjectMotion.times(prim).stream());
    }

    /** The scene at a time; before a motion begins and after it ends its first and last key hold. */
    public Model at(double seconds) {
        Map<Rig, Model.Node> posed = new HashMap<>();
        return new Model(model.name(), nodes(model.roots(), posed, seconds, new IdentityHashMap<>()), model.extras());
    }

    private List<Model.Node> nodes(
            List<Model.Node> nodes,
            Map<Rig, Model.Node> posed,
            double seconds,
            Map<List<Model.Node>, List<Model.Node>> done) {
        List<Model.Node> before = done.get(nodes);
        if (before != null) {
            return before;
        }
        List<Model.Node> all = new ArrayList<>(nodes.size());
        boolean same = true;
        for (Model.Node node : nodes) {
            Rig rig = rigs.get(node);
            Model.Node now;
            if (rig != null) {
                Model.Node pose = posed.computeIfAbsent(rig, each -> pose(each, seconds));
                now = new Model.Node(
                        node.name(), node.path(), node.local(), pose.parts(), pose.children(), node.shared());
            } else {
                List<Model.Node> children = nodes(node.children(), posed, seconds, done);
                Prim prim = moving.get(node);
                Matrix4 local = prim == null ? node.local() : UsdObjectMotion.place(prim, seconds * rate);
                now = children == node.children() && prim == null
                        ? node
                        : new Model.Node(node.name(), node.path(), local, node.parts(), children, node.shared());
            }
            same &= now == node;
            all.add(now);
        }
        List<Model.Node> result = same ? nodes : List.copyOf(all);
        done.put(nodes, result);
        return result;
    }

    private static Model.Node pose(Rig rig, double seconds) {
        Model model = rig.motion()
                .map(motion -> rig.posing().at(motion, seconds))
                .orElseGet(() -> rig.posing().atRest());
        return model.roots().getFirst();
    }
}
