package pantry.scene;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import pantry.exchange.usd.UsdMotionReader;
import pantry.exchange.usd.UsdObjectMotion;
import pantry.exchange.usd.UsdSkelReader;
import pantry.library.Asset;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.Values;

/**
 * What placements do: each the motion that is bound to it ({@code skel:animationSource}), from a time of the scene on and at a
 * speed of its own (the layer offset of its reference). Placements that differ in nothing but these share their surfaces.
 */
public final class PlacedMotions {
    /** What that is called which objects do without a skeleton. */
    public static final String BY_ITSELF = "moves by itself";

    private static final String BORROWED_KEY = "motion";

    /** Told of a reference that a placement has for what it does. */
    private static final Value.Dictionary BORROWED =
            new Value.Dictionary(Map.of(BORROWED_KEY, new Value.Dictionary.Entry("bool", new Value.Bool(true))));

    private final SceneLayer scene;

    PlacedMotions(SceneLayer scene) {
        this.scene = scene;
    }

    /**
     * A motion that a placement has.
     *
     * @param path of it within the placement, names between slashes
     * @param seconds as long as it is at its own speed
     */
    public record Motion(String name, String path, double seconds) {}

    /**
     * What a placement does.
     *
     * @param motions those that it has
     * @param bound the one that it does; empty where it stands at rest
     * @param start when the time of what it refers to begins, seconds of the scene
     * @param speed seconds of the motion for each second of the scene
     */
    public record Playing(List<Motion> motions, Optional<Motion> bound, double start, double speed) {
        public Playing {
            motions = List.copyOf(motions);
        }

        /** Whether its objects move without a skeleton, so that it can do nothing else, nor stand at rest. */
        public boolean isByItself() {
            return bound.filter(motion -> motion.path().isEmpty()).isPresent();
        }
    }

    /** What a placement does; empty where nothing of it can move. */
    public Optional<Playing> of(SdfPath placement) {
        Optional<Prim> prim = scene.stage().prim(placement).flatMap(PlacedMotions::skeletonRoot);
        if (prim.isEmpty()) {
            return byItself(placement);
        }
        LayerOffset offset = offset(placement).orElse(LayerOffset.NONE);
        List<Motion> motions = new ArrayList<>();
        String within = within(scene.stage().prim(placement).orElseThrow(), prim.get());
        collect(prim.get(), within.isEmpty() ? "" : within + "/", offset.scale(), motions);
        Set<String> borrowed = borrowed(placement);
        motions.sort(Comparator.comparing(motion -> borrowed.contains(top(motion))));
        Optional<SdfPath> source = source(prim.get())
                .flatMap(at -> at.targets(UsdSkelReader.ANIMATION).stream().findFirst());
        Optional<Motion> bound = motions.stream()
                .filter(motion -> source.filter(path -> path.toString().endsWith("/" + motion.path()))
                        .isPresent())
                .findFirst();
        return Optional.of(new Playing(motions, bound, offset.offset() / rate(), 1 / offset.scale()));
    }

    /** What a placement does whose objects have transforms that change over time, which nothing else can be bound to. */
    private Optional<Playing> byItself(SdfPath placement) {
        TreeSet<Double> codes = new TreeSet<>();
        scene.stage().prim(placement).ifPresent(prim -> collectTimes(prim, codes));
        if (codes.isEmpty()) {
            return Optional.empty();
        }
        LayerOffset offset = offset(placement).orElse(LayerOffset.NONE);
        Motion motion = new Motion(BY_ITSELF, "", (codes.last() - codes.first()) / offset.scale() / rate());
        return Optional.of(
                new Playing(List.of(motion), Optional.of(motion), offset.offset() / rate(), 1 / offset.scale()));
    }

    private static void collectTimes(Prim prim, Set<Double> codes) {
        for (Prim child : prim.children()) {
            if (child.isActive()) {
                codes.addAll(UsdObjectMotion.times(child));
                collectTimes(child, codes);
            }
        }
    }

    private static boolean moves(Prim prim) {
        Set<Double> codes = new TreeSet<>();
        if (skeletonRoot(prim).isEmpty()) {
            collectTimes(prim, codes);
        }
        return skeletonRoot(prim).isPresent() || !codes.isEmpty();
    }

    /**
     * What several placements do, in their order; those that cannot move are left out.
     *
     * @param most of them that are looked at
     */
    public List<Playing> of(Collection<SdfPath> placements, int most) {
        Map<SdfPath, Boolean> able = new HashMap<>();
        return placements.stream()
                .filter(path -> scene.stage()
                        .prim(path)
                        .filter(prim -> !UsdSkelReader.isRoot(prim))
                        .flatMap(Prim::prototype)
                        // Looked through once for all that show it.
                        .map(shown -> able.computeIfAbsent(shown.path(), each -> moves(shown)))
                        .orElse(true))
                .flatMap(path -> of(path).stream())
                .limit(most)
                .toList();
    }

    /** The root of a skeleton that a placement is, or the first one that is within. */
    private static Optional<Prim> skeletonRoot(Prim prim) {
        if (UsdSkelReader.isRoot(prim)) {
            return Optional.of(prim);
        }
        for (Prim child : prim.children()) {
            Optional<Prim> below = child.isActive() ? skeletonRoot(child) : Optional.empty();
            if (below.isPresent()) {
                return below;
            }
        }
        return Optional.empty();
    }

    private void collect(Prim prim, String above, double scale, List<Motion> motions) {
        for (Prim child : prim.children()) {
            String path = above + child.name();
            if (child.typeName().equals(UsdSkelReader.ANIMATION_TYPE) && child.isActive()) {
                TreeSet<Double> times = new TreeSet<>();
                child.propertyNames()
                        .forEach(name -> child.attribute(name).ifPresent(attribute -> times.addAll(attribute.times())));
                double codes = times.isEmpty() ? 0 : (times.last() - times.first()) / scale;
                motions.add(new Motion(child.text("displayName").orElse(child.name()), path, codes / rate()));
            }
            collect(child, path + "/", scale, motions);
        }
    }

    /** The prim at or below the root of a skeleton that says what it does. */
    private static Optional<Prim> source(Prim root) {
        if (root.propertyNames().contains(UsdSkelReader.ANIMATION)) {
            return Optional.of(root);
        }
        for (Prim child : root.children()) {
            Optional<Prim> below = source(child);
            if (below.isPresent()) {
                return below;
            }
        }
        return Optional.empty();
    }

    private Optional<LayerOffset> offset(SdfPath placement) {
        return scene.spec(placement).stream()
                .flatMap(spec -> spec.references().stream())
                .findFirst()
                .map(Reference::offset)
                .filter(offset -> offset.scale() > 0);
    }

    private double rate() {
        return UsdMotionReader.codesPerSecond(scene.layer());
    }

    /** The names of all motions of some placements, each once. */
    public List<String> names(Collection<SdfPath> placements) {
        Set<String> names = new LinkedHashSet<>();
        placements.forEach(path -> of(path).ifPresent(
                        playing -> playing.motions().stream().map(Motion::name).forEach(names::add)));
        return List.copyOf(names);
    }

    /**
     * Lets placements do a motion of theirs, or stand at rest; those that have none of that name stay as they are.
     *
     * @param motion its name; empty to stand at rest
     * @throws SceneException where none of them has it
     */
    public void bind(Collection<SdfPath> placements, Optional<String> motion) {
        List<SdfPath> able = placements.stream()
                .filter(path -> of(path).filter(playing -> !playing.isByItself())
                        .filter(playing ->
                                motion.isEmpty() || find(playing, motion.get()).isPresent())
                        .isPresent())
                .toList();
        if (able.isEmpty()) {
            throw new SceneException(
                    scene.file(),
                    SceneLayer.named(placements) + " "
                            + motion.map(name -> "has no motion \"" + name + "\"")
                                    .orElse("cannot move otherwise"));
        }
        String what = motion.map(name -> " does " + name).orElse(" stands at rest");
        scene.editor()
                .changeAll(
                        SceneLayer.named(able) + what,
                        edits -> able.forEach(path -> {
                            Optional<Motion> own = motion.flatMap(name -> find(of(path).orElseThrow(), name));
                            Set<String> borrowed = borrowed(path);
                            boolean kept = own.filter(each -> borrowed.contains(top(each)))
                                    .isPresent();
                            bind(edits, path, own);
                            if (!borrowed.isEmpty() && !kept) {
                                edits.change(
                                        path,
                                        spec -> spec.setReferences(shown(spec).toArray(Reference[]::new)));
                            }
                        }));
    }

    /**
     * Lets placements do a motion of the library, which each refers to beside what it shows, in the time of that; what they
     * had of the library before is given back.
     *
     * @param motion an asset with a motion; its ready version is followed
     * @param name of the motion, where the asset has several; its first one where empty
     * @return what does not fit, for a person
     * @throws SceneException where none of them has joints that it moves, or the asset has no such motion
     */
    public List<String> borrow(Collection<SdfPath> placements, Asset motion, Optional<String> name) {
        if (motion.ready().isEmpty()) {
            throw new SceneException(scene.file(), "\"" + motion.card().name() + "\" has no ready version to follow");
        }
        Path layer = motion.readyLayer();
        Found found = found(layer, name)
                .orElseThrow(() -> new SceneException(
                        scene.file(),
                        motion.card().name() + " has no motion"
                                + name.map(each -> " \"" + each + "\"").orElse("")));
        Map<SdfPath, List<String>> missing = new LinkedHashMap<>();
        for (SdfPath path : placements) {
            Set<String> joints = joints(path);
            List<String> lacking = found.moving().stream()
                    .filter(joint -> !joints.contains(joint))
                    .toList();
            boolean refers = scene.spec(path)
                    .filter(spec -> !spec.references().isEmpty())
                    .isPresent();
            if (refers
                    && of(path).filter(playing -> !playing.isByItself()).isPresent()
                    && lacking.size() < Math.max(1, found.moving().size())) {
                missing.put(path, lacking);
            }
        }
        if (missing.isEmpty()) {
            throw new SceneException(
                    scene.file(),
                    SceneLayer.named(placements) + " has no joint that "
                            + motion.card().name() + " moves");
        }
        Reference reference =
                Reference.to(AssetPaths.relative(scene.folder(), layer)).told(BORROWED);
        scene.editor()
                .changeAll(
                        SceneLayer.named(missing.keySet()) + " does "
                                + motion.card().name(),
                        edits -> missing.keySet().forEach(path -> {
                            LayerOffset own = offset(path).orElse(LayerOffset.NONE);
                            edits.change(
                                    path,
                                    spec -> spec.setReferences(
                                            Stream.concat(shown(spec).stream(), Stream.of(reference.timedAs(own)))
                                                    .toArray(Reference[]::new)));
                            bind(edits, path, Optional.of(found.motion()));
                        }));
        return missing.entrySet().stream()
                .filter(entry -> !entry.getValue().isEmpty())
                .map(entry -> entry.getKey().name() + " has no " + String.join(", ", entry.getValue()))
                .toList();
    }

    /** A motion of an asset, and the joints that it moves. */
    private record Found(Motion motion, List<String> moving) {}

    private Optional<Found> found(Path layer, Optional<String> name) {
        Stage stage = Stage.open(scene.layers().open(layer), scene.layers());
        List<Motion> motions = new ArrayList<>();
        stage.defaultPrim().ifPresent(root -> collect(root, "", 1, motions));
        return motions.stream()
                .filter(each -> name.isEmpty() || each.name().equalsIgnoreCase(name.get()))
                .findFirst()
                .map(each -> new Found(
                        each,
                        UsdMotionReader.moving(stage.prim(
                                        below(stage.defaultPrim().orElseThrow().path(), each.path()))
                                .orElseThrow())));
    }

    /** The joints of all skeletons that a placement shows by itself, each with those above it. */
    public Set<String> joints(SdfPath placement) {
        return joints(scene.stage(), placement, borrowed(placement));
    }

    private static Set<String> joints(Stage stage, SdfPath placement, Set<String> borrowed) {
        Set<String> joints = new LinkedHashSet<>();
        stage.prim(placement).ifPresent(prim -> prim.children().stream()
                .filter(child -> !borrowed.contains(child.name()))
                .forEach(child -> collectJoints(child, joints)));
        return joints;
    }

    private static void collectJoints(Prim prim, Set<String> joints) {
        if (prim.typeName().equals("Skeleton")) {
            joints.addAll(Values.strings(prim, "joints"));
        }
        prim.children().forEach(child -> collectJoints(child, joints));
    }

    /** The prims below a placement that are there for a motion of the library. */
    private Set<String> borrowed(SdfPath placement) {
        Set<String> names = new LinkedHashSet<>();
        for (Reference reference :
                scene.spec(placement).map(PrimSpec::references).orElse(List.of())) {
            if (isBorrowed(reference)) {
                Layer layer = scene.layers().open(scene.layers().resolve(scene.layer(), reference.asset()));
                Stage.open(layer, scene.layers()).defaultPrim().ifPresent(root -> root.children().stream()
                        .map(Prim::name)
                        .forEach(names::add));
            }
        }
        return names;
    }

    /** The name of the prim below its placement that a motion is in. */
    private static String top(Motion motion) {
        return motion.path().split("/")[0];
    }

    /** Whether a reference is to a motion of the library that a placement does, rather than to what it shows. */
    private static boolean isBorrowed(Reference reference) {
        return reference.customData().entries().containsKey(BORROWED_KEY);
    }

    /** Lets a placement show something else, in the time of what it showed, and do what it did of the library. */
    static void replaceShown(PrimSpec spec, Reference reference) {
        List<Reference> motions =
                spec.references().stream().filter(PlacedMotions::isBorrowed).toList();
        spec.replaceReferences(reference);
        spec.setReferences(
                Stream.concat(spec.references().stream(), motions.stream()).toArray(Reference[]::new));
    }

    private static List<Reference> shown(PrimSpec spec) {
        return spec.references().stream().filter(each -> !isBorrowed(each)).toList();
    }

    private static Optional<Motion> find(Playing playing, String name) {
        return playing.motions().stream()
                .filter(motion -> motion.name().equals(name))
                .findFirst();
    }

    private void bind(Transaction edits, SdfPath placement, Optional<Motion> motion) {
        Prim prim = edits.stage().prim(placement).orElseThrow();
        Prim root = skeletonRoot(prim).orElseThrow();
        String within = within(prim, source(root).orElse(root));
        edits.override(placement);
        SdfPath at = below(placement, within);
        if (!within.isEmpty()) {
            // What is said within counts before what is said of the whole, and an instance's insides cannot be told
            // apart.
            edits.change(placement, spec -> spec.metadata().put("instanceable", new Value.Bool(false)));
            edits.override(at);
        }
        edits.change(at, spec -> spec.applyApiSchema("SkelBindingAPI", true));
        edits.changeRelationship(
                at.property(UsdSkelReader.ANIMATION),
                source -> source.setTargets(ListEdit.explicit(motion.map(each -> List.of(below(placement, each.path())))
                        .orElse(List.of()))));
    }

    /** The path of a prim within a placement, which in an instance is that within its prototype. */
    private static String within(Prim placement, Prim at) {
        if (at.path().equals(placement.path())) {
            return "";
        }
        List<String> names = at.path().names();
        int skipped = names.getFirst().startsWith(Stage.PROTOTYPE)
                ? 1
                : placement.path().depth();
        return String.join("/", names.subList(skipped, names.size()));
    }

    private static SdfPath below(SdfPath placement, String within) {
        SdfPath path = placement;
        for (String name : within.isEmpty() ? new String[0] : within.split("/")) {
            path = path.child(name);
        }
        return path;
    }

    /**
     * Takes away what a placement says of a motion that what it shows does not have, or has no joints for.
     *
     * @return the name of the motion, where it was taken away
     */
    Optional<String> dropLost(Transaction edits, SdfPath placement) {
        Stage stage = edits.stage();
        Set<String> borrowed = borrowed(placement);
        Optional<SdfPath> bound = stage.prim(placement)
                .map(prim -> prim.targets(UsdSkelReader.ANIMATION))
                .flatMap(targets -> targets.stream().findFirst())
                .filter(target -> stage.prim(target).isEmpty()
                        || borrowed.contains(target.parent().name()) && !fits(stage, placement, target, borrowed));
        bound.ifPresent(lost -> edits.change(placement, spec -> {
            spec.removeProperty(UsdSkelReader.ANIMATION);
            spec.setReferences(shown(spec).toArray(Reference[]::new));
        }));
        return bound.map(SdfPath::name);
    }

    private static boolean fits(Stage stage, SdfPath placement, SdfPath motion, Set<String> borrowed) {
        Set<String> joints = joints(stage, placement, borrowed);
        return UsdMotionReader.moving(stage.prim(motion).orElseThrow()).stream().anyMatch(joints::contains);
    }

    /**
     * Lets what placements refer to begin at a time of the scene, and go by faster or slower.
     *
     * @param start seconds of the scene
     * @param speed seconds of what is referred to for each second of the scene, above 0
     * @throws SceneException where a figure is none, or none of them refers to anything that moves
     */
    public void time(Collection<SdfPath> placements, double start, double speed) {
        time(placements, Optional.of(start), Optional.of(speed));
    }

    /** As above; what is not given stays each placement's own. */
    public void time(Collection<SdfPath> placements, Optional<Double> start, Optional<Double> speed) {
        if (start.filter(each -> !Double.isFinite(each)).isPresent()
                || speed.filter(each -> !(each > 0) || !Double.isFinite(each)).isPresent()) {
            throw new SceneException(scene.file(), "a motion starts at a second and has a speed above 0");
        }
        List<SdfPath> able = placements.stream()
                .filter(path -> of(path).isPresent()
                        && scene.spec(path)
                                .filter(spec -> !spec.references().isEmpty())
                                .isPresent())
                .toList();
        if (able.isEmpty()) {
            throw new SceneException(scene.file(), SceneLayer.named(placements) + " cannot move");
        }
        scene.editor()
                .changeAll(
                        "timed " + SceneLayer.named(able),
                        edits -> able.forEach(path -> {
                            LayerOffset own = offset(path).orElse(LayerOffset.NONE);
                            LayerOffset offset = new LayerOffset(
                                    start.map(each -> each * rate()).orElse(own.offset()),
                                    speed.map(each -> 1 / each).orElse(own.scale()));
                            edits.change(
                                    path,
                                    spec -> spec.setReferences(spec.references().stream()
                                            .map(each -> each.timedAs(offset))
                                            .toArray(Reference[]::new)));
                        }));
    }
}
