package pantry.project;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.index.strtree.STRtree;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.Penetration;
import pantry.model.Model;
import pantry.model.WorldPoints;
import pantry.usd.SdfPath;
import pantry.usd.compose.Stage;

/**
 * What would newly stand in something else: by what solids enclose, not by their boxes. Things are the outermost prims that
 * show an asset of a library, and meshes besides; what is within one asset may overlap as it likes.
 */
final class Overlaps {
    /** What is less deep touches, metres. */
    private static final double TOUCHES = 1e-3;

    /** So many pairs whose boxes overlap are looked at in a file. */
    private static final int MOST_PAIRS = 500;

    private final Stage stage;
    private final Map<String, Thing> things = new LinkedHashMap<>();
    private final Map<String, Integer> counts = new HashMap<>();

    /**
     * Something that may stand in something else.
     *
     * @param path the prim's; with a number behind it where several have one
     * @param node with the transform that leads to the world
     * @param box in the world, metres
     */
    private record Thing(String path, Model.Node node, Box3 box) {
        double[] triangles() {
            return WorldPoints.triangles(model(node));
        }

        boolean isSame(Thing other) {
            return Overlaps.isSame(node, other.node);
        }
    }

    private Overlaps(Stage stage, Model model) {
        this.stage = stage;
        model.roots().forEach(root -> find(root, Matrix4.IDENTITY));
    }

    /**
     * What stands deeper in something else than before, the deepest first.
     *
     * @param was what the stage before shows, metres
     * @param is what the one afterwards shows, metres
     */
    static List<Overlap> of(Stage before, Model was, Stage after, Model is, Progress progress) {
        return between(new Overlaps(before, was).things, new Overlaps(after, is).things, progress);
    }

    private static List<Overlap> between(Map<String, Thing> before, Map<String, Thing> after, Progress progress) {
        STRtree tree = new STRtree();
        after.values().forEach(thing -> tree.insert(envelope(thing.box()), thing));
        Map<String, double[]> triangles = new HashMap<>();
        List<Overlap> overlaps = new ArrayList<>();
        int pairs = 0;
        for (Thing changed : after.values()) {
            Thing stood = before.get(changed.path());
            if (stood != null && stood.isSame(changed)) {
                continue;
            }
            for (Object near : tree.query(envelope(changed.box()))) {
                Thing other = (Thing) near;
                Thing otherStood = before.get(other.path());
                boolean bothChanged = otherStood == null || !otherStood.isSame(other);
                // Of two that change, the pair is looked at once.
                boolean first = !bothChanged || changed.path().compareTo(other.path()) < 0;
                if (other != changed && first && meet(changed.box(), other.box()) && pairs++ < MOST_PAIRS) {
                    progress.check();
                    double depth = Penetration.depth(
                            triangles.computeIfAbsent(changed.path(), path -> changed.triangles()),
                            triangles.computeIfAbsent(other.path(), path -> other.triangles()));
                    if (depth > TOUCHES
                            && depth
                                    > TOUCHES
                                            + depthBefore(
                                                    Optional.ofNullable(stood), Optional.ofNullable(otherStood))) {
                        overlaps.add(new Overlap(changed.path(), other.path(), depth));
                    }
                }
            }
        }
        overlaps.sort(Comparator.comparingDouble(Overlap::depth).reversed().thenComparing(Overlap::thing));
        return overlaps;
    }

    private static double depthBefore(Optional<Thing> one, Optional<Thing> other) {
        return one.isEmpty()
                        || other.isEmpty()
                        || !meet(one.get().box(), other.get().box())
                ? 0
                : Penetration.depth(one.get().triangles(), other.get().triangles());
    }

    private static Envelope envelope(Box3 box) {
        return new Envelope(
                box.min().x(), box.max().x(), box.min().z(), box.max().z());
    }

    private static boolean meet(Box3 one, Box3 other) {
        Vec3 size = one.intersection(other).size();
        return Math.min(size.x(), Math.min(size.y(), size.z())) > TOUCHES;
    }

    private void find(Model.Node node, Matrix4 above) {
        Matrix4 world = node.local().times(above);
        if (node.shared() || isAsset(node)) {
            add(node.path(), new Model.Node(node.name(), node.path(), world, node.parts(), node.children(), false));
            return;
        }
        if (!node.parts().isEmpty()) {
            add(node.path(), new Model.Node(node.name(), node.path(), world, node.parts(), List.of(), false));
        }
        node.children().forEach(child -> find(child, world));
    }

    private void add(String path, Model.Node node) {
        Box3 box = model(node).bounds();
        if (!box.isEmpty()) {
            // What is shared has one path wherever it stands.
            int number = counts.merge(path, 1, Integer::sum);
            String own = number == 1 ? path : path + " " + number;
            things.put(own, new Thing(own, node, box));
        }
    }

    private boolean isAsset(Model.Node node) {
        return SdfPath.isWellFormed(node.path())
                && stage.prim(SdfPath.of(node.path()))
                        .filter(prim -> prim.arcs().stream().anyMatch(site -> site.layer()
                                .file()
                                .filter(Library::isWithin)
                                .isPresent()))
                        .isPresent();
    }

    private static Model model(Model.Node node) {
        return new Model("", List.of(node), Model.Extras.NONE);
    }

    private static boolean isSame(Model.Node one, Model.Node other) {
        if (one == other) {
            return true;
        }
        if (!one.local().equals(other.local())
                || one.parts().size() != other.parts().size()
                || one.children().size() != other.children().size()) {
            return false;
        }
        for (int i = 0; i < one.parts().size(); i++) {
            if (!isSame(one.parts().get(i).mesh(), other.parts().get(i).mesh())) {
                return false;
            }
        }
        for (int i = 0; i < one.children().size(); i++) {
            if (!isSame(one.children().get(i), other.children().get(i))) {
                return false;
            }
        }
        return true;
    }

    private static boolean isSame(Mesh one, Mesh other) {
        return one == other
                || Arrays.equals(one.points(), other.points()) && Arrays.equals(one.corners(), other.corners());
    }
}
