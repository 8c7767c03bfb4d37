package pantry.scene;

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
import pantry.exchange.usd.UsdMotionReader;
import pantry.exchange.usd.UsdObjectMotion;
import pantry.exchange.usd.UsdSkelReader;
import pantry.library.Asset;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.edit.Transaction;

/**
 * What placements do: each the motion that is bound to it ({@code skel:animationSource}), from a time of the scene on and at a
 * speed of its own (the layer offset of its reference). Placements that differ in nothing but these share their surfaces.
 */
public final class PlacedMotions {
    /** What that is called which objects do without a skeleton. */
    public static final String BY_ITSELF = "moves by itself";

    private final SceneLayer scene;
    private final BorrowedMotions borrowed;

    PlacedMotions(SceneLayer scene) {
        this.scene = scene;
        this.borrowed = new BorrowedMotions(scene);
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
        Set<String> brought = borrowed.brought(placement);
        motions.sort(Comparator.comparing(motion -> brought.contains(top(motion))));
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
        return skeletonRoot(prim).isPresent() || hasTimes(prim);
    }

    private static boolean hasTimes(Prim prim) {
        return prim.children().stream()
                .anyMatch(child ->
                        child.isActive() && (!UsdObjectMotion.times(child).isEmpty() || hasTimes(child)));
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
                            Set<String> brought = borrowed.brought(path);
                            boolean kept = own.filter(each -> brought.contains(top(each)))
                                    .isPresent();
                            bind(edits, path, own);
                            if (!kept) {
                                edits.change(path, BorrowedMotions::giveBack);
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
        BorrowedMotions.Offered offered = borrowed.offered(motion, name);
        Map<SdfPath, List<String>> missing = new LinkedHashMap<>();
        for (SdfPath path : placements) {
            Set<String> joints = joints(path);
            List<String> lacking = offered.moving().stream()
                    .filter(joint -> !joints.contains(joint))
                    .toList();
            boolean refers = scene.spec(path)
                    .filter(spec -> !spec.references().isEmpty())
                    .isPresent();
            if (refers
                    && of(path).filter(playing -> !playing.isByItself()).isPresent()
                    && lacking.size() < Math.max(1, offered.moving().size())) {
                missing.put(path, lacking);
            }
        }
        if (missing.isEmpty()) {
            throw new SceneException(
                    scene.file(),
                    SceneLayer.named(placements) + " has no joint that "
                            + motion.card().name() + " moves");
        }
        Motion done = new Motion(name.orElse(""), offered.path(), 0);
        scene.editor()
                .changeAll(
                        SceneLayer.named(missing.keySet()) + " does "
                                + motion.card().name(),
                        edits -> missing.keySet().forEach(path -> {
                            LayerOffset own = offset(path).orElse(LayerOffset.NONE);
                            edits.change(path, spec -> borrowed.refer(spec, motion, own));
                            bind(edits, path, Optional.of(done));
                        }));
        return missing.entrySet().stream()
                .filter(entry -> !entry.getValue().isEmpty())
                .map(entry -> entry.getKey().name() + " has no " + String.join(", ", entry.getValue()))
                .toList();
    }

    /** The joints of all skeletons that a placement shows by itself, each with those above it. */
    public Set<String> joints(SdfPath placement) {
        return BorrowedMotions.joints(scene.stage(), placement, borrowed.brought(placement));
    }

    /** The name of the prim below its placement that a motion is in. */
    private static String top(Motion motion) {
        return motion.path().split("/")[0];
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
        Set<String> brought = borrowed.brought(placement);
        Optional<SdfPath> bound = stage.prim(placement)
                .map(prim -> prim.targets(UsdSkelReader.ANIMATION))
                .flatMap(targets -> targets.stream().findFirst())
                .filter(target -> stage.prim(target).isEmpty()
                        || brought.contains(target.parent().name())
                                && !BorrowedMotions.fits(stage, placement, target, brought));
        bound.ifPresent(lost -> edits.change(placement, spec -> {
            spec.removeProperty(UsdSkelReader.ANIMATION);
            BorrowedMotions.giveBack(spec);
        }));
        return bound.map(SdfPath::name);
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
