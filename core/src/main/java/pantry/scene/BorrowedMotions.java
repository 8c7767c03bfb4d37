package pantry.scene;

import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.UsdMotionReader;
import pantry.exchange.usd.UsdSkelReader;
import pantry.library.Asset;
import pantry.usd.AssetPaths;
import pantry.usd.LayerOffset;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Values;

/**
 * References of placements to motions of the library, which stand behind the one to what a placement shows and are told apart by
 * their custom data. They bring prims below the placement, of which one is the {@code SkelAnimation} that it is bound to.
 */
final class BorrowedMotions {
    private static final String KEY = "motion";

    private static final Value.Dictionary TOLD =
            new Value.Dictionary(Map.of(KEY, new Value.Dictionary.Entry("bool", new Value.Bool(true))));

    private final SceneLayer scene;

    BorrowedMotions(SceneLayer scene) {
        this.scene = scene;
    }

    /**
     * A motion of an asset.
     *
     * @param path of it within the asset, names between slashes
     * @param moving the joints that it moves, each with those above it
     */
    record Offered(String path, List<String> moving) {}

    /**
     * The motion that an asset offers.
     *
     * @param name of one of several; the first one where empty
     * @throws SceneException where it has no ready version, no such motion, or a surface, which would be drawn beside what a
     *     placement shows
     */
    Offered offered(Asset motion, Optional<String> name) {
        String title = "\"" + motion.card().name() + "\"";
        if (motion.ready().isEmpty()) {
            throw new SceneException(scene.file(), title + " has no ready version to follow");
        }
        Stage stage = Stage.open(scene.layers().open(motion.readyLayer()), scene.layers());
        if (!UsdModelReader.read(stage, new MeshCache()).model().meshes().isEmpty()) {
            throw new SceneException(
                    scene.file(),
                    title + " has a surface, so that only it does its motions; what others do is an asset of the kind"
                            + " motion, made of a file without a surface");
        }
        return stage.prims()
                .filter(prim -> prim.typeName().equals(UsdSkelReader.ANIMATION_TYPE) && prim.isActive())
                .filter(prim -> name.isEmpty()
                        || prim.text("displayName").orElse(prim.name()).equalsIgnoreCase(name.get()))
                .findFirst()
                .map(prim -> new Offered(
                        String.join(
                                "/", prim.path().names().subList(1, prim.path().depth())),
                        UsdMotionReader.moving(prim)))
                .orElseThrow(() -> new SceneException(
                        scene.file(),
                        title + " has no motion"
                                + name.map(each -> " \"" + each + "\"").orElse("")));
    }

    /** Lets a placement refer to a motion, in its own time and instead of those that it referred to. */
    void refer(PrimSpec placement, Asset motion, LayerOffset time) {
        Path layer = motion.readyLayer();
        Reference reference = Reference.to(AssetPaths.relative(scene.folder(), layer))
                .told(TOLD)
                .timedAs(time);
        set(placement, shown(placement), List.of(reference));
    }

    /** Takes the references to motions away. */
    static void giveBack(PrimSpec placement) {
        if (placement.references().stream().anyMatch(BorrowedMotions::isBorrowed)) {
            set(placement, shown(placement), List.of());
        }
    }

    /** Lets a placement show something else, in the time of what it showed, and do what it did of the library. */
    static void replaceShown(PrimSpec placement, Reference reference) {
        List<Reference> motions = placement.references().stream()
                .filter(BorrowedMotions::isBorrowed)
                .toList();
        placement.replaceReferences(reference);
        set(placement, placement.references(), motions);
    }

    private static void set(PrimSpec placement, List<Reference> shown, List<Reference> motions) {
        placement.setReferences(Stream.concat(shown.stream(), motions.stream()).toArray(Reference[]::new));
    }

    private static List<Reference> shown(PrimSpec placement) {
        return placement.references().stream().filter(each -> !isBorrowed(each)).toList();
    }

    private static boolean isBorrowed(Reference reference) {
        return reference.customData().entries().containsKey(KEY);
    }

    /** The names of the prims below a placement that are there for a motion of the library; none of one that is away. */
    Set<String> brought(SdfPath placement) {
        Set<String> names = new LinkedHashSet<>();
        for (Reference reference :
                scene.spec(placement).map(PrimSpec::references).orElse(List.of())) {
            if (isBorrowed(reference)) {
                opened(reference).flatMap(Stage::defaultPrim).ifPresent(root -> root.children().stream()
                        .map(Prim::name)
                        .forEach(names::add));
            }
        }
        return names;
    }

    private Optional<Stage> opened(Reference reference) {
        try {
            return Optional.of(Stage.open(
                    scene.layers().open(scene.layers().resolve(scene.layer(), reference.asset())), scene.layers()));
        } catch (UsdException e) {
            // That is told of the scene as a whole.
            return Optional.empty();
        }
    }

    /** The joints of all skeletons that a placement shows by itself, each with those above it. */
    static Set<String> joints(Stage stage, SdfPath placement, Set<String> brought) {
        Set<String> joints = new LinkedHashSet<>();
        stage.prim(placement).ifPresent(prim -> prim.children().stream()
                .filter(child -> !brought.contains(child.name()))
                .forEach(child -> collectJoints(child, joints)));
        return joints;
    }

    private static void collectJoints(Prim prim, Set<String> joints) {
        if (prim.typeName().equals("Skeleton")) {
            joints.addAll(Values.strings(prim, "joints"));
        }
        prim.children().forEach(child -> collectJoints(child, joints));
    }

    /** Whether a placement has a joint that the motion moves that it is bound to. */
    static boolean fits(Stage stage, SdfPath placement, SdfPath motion, Set<String> brought) {
        Set<String> joints = joints(stage, placement, brought);
        return UsdMotionReader.moving(stage.prim(motion).orElseThrow()).stream().anyMatch(joints::contains);
    }
}
