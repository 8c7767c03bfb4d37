package pantry.scene;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.UsdSkelReader;
import pantry.mesh.Mesh;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.BlendShapes;
import pantry.motion.Motion;
import pantry.motion.Skin;
import pantry.usd.compose.Stage;

/**
 * What moves in a scene, as it is drawn at a moment: whatever stands below the root of a skeleton, also in instances, with the
 * motion that is bound to it there. Placements of one thing that do the same at the same time are posed once and stay shared.
 */
public final class SceneMotion {
    private final Model model;

    /** By the node of the skeleton's root. */
    private final Map<Model.Node, Rig> rigs;

    private record Rig(Posing posing, Optional<Motion> motion) {}

    private SceneMotion(Model model, Map<Model.Node, Rig> rigs) {
        this.model = model;
        this.rigs = rigs;
    }

    /**
     * Reads what moves; may take long.
     *
     * @param model as it was read of the scene
     * @return empty where nothing does, or where the scene is in another unit or upright axis than Pantry's
     */
    public static Optional<SceneMotion> of(Scene scene, Model model) {
        return scene.toMetres().equals(Matrix4.IDENTITY)
                ? Optional.of(new Reading(scene.stage()).read(model)).filter(read -> !read.rigs.isEmpty())
                : Optional.empty();
    }

    /** A scene as its motions begin; as it was read where nothing moves. */
    public static Model begun(Scene scene, Model model) {
        return of(scene, model).map(motion -> motion.at(motion.start())).orElse(model);
    }

    /** Finds skeletons' roots among the nodes; what has no surface that hangs on joints is passed over, each list once. */
    private static final class Reading {
        private final Stage stage;
        private final Map<Model.Node, Rig> rigs = new IdentityHashMap<>();
        private final Map<List<Model.Node>, Boolean> hanging = new IdentityHashMap<>();
        private final Map<List<Model.Node>, Map<String, Optional<Rig>>> known = new IdentityHashMap<>();

        Reading(Stage stage) {
            this.stage = stage;
        }

        SceneMotion read(Model model) {
            find(model.roots());
            return new SceneMotion(model, rigs);
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
        return rigs.values().stream()
                .flatMap(rig -> rig.motion().stream())
                .mapToDouble(motion -> motion.times()[0])
                .filter(first -> first < 0)
                .min()
                .orElse(0);
    }

    /** When the last motion ends, seconds; 0 where nothing is bound to anything. */
    public double end() {
        return rigs.values().stream()
                .flatMap(rig -> rig.motion().stream())
                .mapToDouble(motion -> motion.times()[motion.times().length - 1])
                .max()
                .orElse(0);
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
                now = children == node.children()
                        ? node
                        : new Model.Node(node.name(), node.path(), node.local(), node.parts(), children, node.shared());
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
