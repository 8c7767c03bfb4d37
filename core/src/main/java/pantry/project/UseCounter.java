package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import pantry.library.LayerRole;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.Layers;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Arc;
import pantry.usd.compose.Opinion;
import pantry.usd.compose.Population;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.PointInstancer;

/**
 * Counts what is used in files as they compose, without composing each.
 *
 * <p>What a prim uses that references one thing and says nothing of what is in it, is what that thing uses. So the counts
 * of things are multiplied up through the files, each thing being counted once however many files use it. Where a prim
 * says more (it changes what is below, it has variants, it inherits, it has several arcs, it is an instancer), that
 * prim is composed and looked at; so the counts are those of the composed stage in every case.
 *
 * <p>Inactive prims, classes, and what nothing defines are not counted; each point of an instancer that is shown is.
 * Safe for use by several threads.
 */
final class UseCounter {
    private static final String USE = "use";

    private static final Set<String> CLASS_ARCS = Set.of("inherits", "specializes");

    private final Layers layers;
    private final Map<Key, Content> known = new ConcurrentHashMap<>();
    private final Map<Path, Optional<LayerRole>> roles = new ConcurrentHashMap<>();

    /** Something that is referenced, with the variants that are chosen of it from outside. */
    private record Key(AssetLocation layer, Optional<SdfPath> prim, Map<String, String> selections) {}

    /**
     * What a prim uses.
     *
     * @param self what it is itself a use of
     * @param inner what is used below it, and how often
     * @param classes the root prims of classes that are inherited within it, which a layer further out may change
     * @param instancer whether it is one, which it no longer is where a prim of another type references it
     */
    private record Content(Set<Use> self, Map<Use, Long> inner, Set<String> classes, boolean instancer) {
        /** Of a prim that is there and uses nothing. */
        static final Content NOTHING = new Content(Set.of(), Map.of(), Set.of(), false);

        /** Of a prim that is not there, or inactive, so that what references it is no use of anything. */
        static final Content GONE = new Content(Set.of(), Map.of(), Set.of(), false);

        static Content sum(List<Content> contents) {
            if (contents.isEmpty()) {
                return NOTHING;
            }
            Map<Use, Long> inner = new HashMap<>();
            Set<String> classes = new HashSet<>();
            for (Content content : contents) {
                content.addTo(inner);
                classes.addAll(content.classes);
            }
            return new Content(Set.of(), inner, classes, false);
        }

        void addTo(Map<Use, Long> counts) {
            self.forEach(use -> add(counts, use, 1));
            inner.forEach((use, count) -> add(counts, use, count));
        }
    }

    private static void add(Map<Use, Long> counts, Use use, long times) {
        counts.merge(use, times, UseCounter::sum);
    }

    /** Counts that are larger than can be told stay the largest that can. */
    private static long sum(long one, long other) {
        return one > Long.MAX_VALUE - other ? Long.MAX_VALUE : one + other;
    }

    private static long product(long one, long other) {
        return one != 0 && other > Long.MAX_VALUE / one ? Long.MAX_VALUE : one * other;
    }

    /** A file leads back to itself: who asked composes, which knows how to end that. */
    private static final class Circle extends RuntimeException {
        Circle() {
            super("a file leads back to itself", null, false, false);
        }
    }

    /** @param layers opens what is referenced; the counts hold as long as that stays as it is */
    UseCounter(Layers layers) {
        this.layers = layers;
    }

    /** What is used in a file, as a stage of its own. */
    Map<Use, Long> count(Layer root) {
        Stage stage = Stage.open(root, layers);
        try {
            return new Walk(stage, new LinkedHashSet<>()).whole();
        } catch (Circle circle) {
            Composed composed = new Composed(stage);
            Map<Use, Long> counts = new HashMap<>();
            stage.root().children().forEach(prim -> composed.add(prim, 1, counts));
            return counts;
        }
    }

    private Optional<LayerRole> role(Path file) {
        return roles.computeIfAbsent(file, LayerRole::of);
    }

    /** What a file that is referenced stands for, where the prim that references it is a use of that. */
    private Optional<Use> use(Path file) {
        Optional<LayerRole> role = role(file);
        if (role.isEmpty()) {
            return Optional.of(Use.ofFile(file));
        }
        return role.filter(each -> each.kind() == LayerRole.Kind.ENTRY)
                .map(each -> new Use(each.folder(), each.version(), false));
    }

    private Optional<Path> followed(Path file) {
        return role(file).filter(each -> each.kind() == LayerRole.Kind.READY).map(LayerRole::folder);
    }

    /** What a composed prim is a use of, by the arcs that are found at it. */
    private Set<Use> uses(Prim prim) {
        Set<Use> found = new LinkedHashSet<>();
        Set<Path> followed = new HashSet<>();
        for (List<Opinion.Site> chain : prim.arcChains()) {
            Opinion.Site site = chain.getLast();
            boolean external = site.arc() == Arc.REFERENCE || site.arc() == Arc.PAYLOAD;
            if (external && site.layer() != chain.get(chain.size() - 2).layer()) {
                Optional<Path> file = site.layer().file();
                file.flatMap(this::use).ifPresent(found::add);
                file.flatMap(this::followed).ifPresent(followed::add);
            }
        }
        return marked(found, followed);
    }

    private static Set<Use> marked(Set<Use> uses, Set<Path> followed) {
        if (followed.isEmpty()) {
            return uses;
        }
        Set<Use> marked = new LinkedHashSet<>();
        for (Use use : uses) {
            marked.add(followed.contains(use.target()) ? new Use(use.target(), use.version(), true) : use);
        }
        return marked;
    }

    /** What something uses that is referenced with some variants chosen. */
    private Content content(Key key, Set<Key> underway) {
        Content content = known.get(key);
        if (content == null) {
            if (!underway.add(key)) {
                throw new Circle();
            }
            content = withUse(key.layer().file(), found(key, underway));
            underway.remove(key);
            known.put(key, content);
        }
        return content;
    }

    private Content withUse(Path file, Content content) {
        if (content == Content.GONE) {
            return content;
        }
        Set<Use> self = new LinkedHashSet<>();
        use(file).ifPresent(self::add);
        self.addAll(content.self());
        return new Content(
                marked(self, followed(file).map(Set::of).orElse(Set.of())),
                content.inner(),
                content.classes(),
                content.instancer());
    }

    private Content found(Key key, Set<Key> underway) {
        Optional<Layer> layer = opened(key.layer());
        Optional<SdfPath> prim = key.prim().or(() -> layer.flatMap(Layer::defaultPrimPath));
        if (layer.isEmpty() || prim.isEmpty()) {
            return Content.GONE;
        }
        if (prim.get().isRootPrim() && key.selections().isEmpty()) {
            return new Walk(Stage.open(layer.get(), layers), underway).referenced(prim.get());
        }
        Layer user = Layer.anonymous();
        PrimSpec use = user.root().define("", USE);
        use.setReferences(new Reference(key.layer().toString(), prim, LayerOffset.NONE));
        key.selections().forEach(use::select);
        Stage stage = Stage.open(user, layers);
        Prim composed = stage.prim(SdfPath.ROOT.child(USE)).orElseThrow();
        if (composed.arcChains().isEmpty() || !composed.isActive()) {
            return Content.GONE;
        }
        Content content = new Composed(stage).content(composed);
        Set<Use> self = new LinkedHashSet<>(content.self());
        self.remove(Use.ofFile(key.layer().file()));
        return new Content(self, content.inner(), content.classes(), content.instancer());
    }

    /** What cannot be opened brings nothing in. */
    private Optional<Layer> opened(AssetLocation location) {
        try {
            return Optional.of(layers.open(location));
        } catch (UsdException e) {
            return Optional.empty();
        }
    }

    /** Goes through a stage's layers where that suffices, and composes where it does not. */
    private final class Walk {
        private final Stage stage;
        private final List<Layer> stack;
        private final Set<Key> underway;
        private final Set<String> rootNames = new HashSet<>();

        Walk(Stage stage, Set<Key> underway) {
            this.stage = stage;
            this.stack = stage.layerStack();
            this.underway = underway;
            stack.forEach(layer -> layer.rootPrims().forEach(prim -> rootNames.add(prim.name())));
        }

        Map<Use, Long> whole() {
            Map<Use, Long> counts = new HashMap<>();
            for (String name : rootNames) {
                content(SdfPath.ROOT.child(name)).addTo(counts);
            }
            return counts;
        }

        Content content(SdfPath path) {
            return content(path, specs(path));
        }

        private List<PrimSpec> specs(SdfPath path) {
            List<PrimSpec> specs = new ArrayList<>(stack.size());
            for (Layer layer : stack) {
                layer.prim(path).ifPresent(specs::add);
            }
            return specs;
        }

        /** Of a root prim that is referenced, which is as defined as the prim that does. */
        Content referenced(SdfPath path) {
            List<PrimSpec> specs = specs(path);
            return specs.isEmpty() || active(specs).equals(Optional.of(false))
                    ? Content.GONE
                    : content(path, specs, Optional.of(Specifier.DEF));
        }

        private static Optional<Boolean> active(List<PrimSpec> specs) {
            return specs.stream().flatMap(spec -> spec.flag("active").stream()).findFirst();
        }

        private Content content(SdfPath path, List<PrimSpec> specs) {
            return active(specs).equals(Optional.of(false))
                    ? Content.NOTHING
                    : content(
                            path,
                            specs,
                            specs.stream()
                                    .map(PrimSpec::specifier)
                                    .filter(specifier -> specifier != Specifier.OVER)
                                    .findFirst());
        }

        private Content content(SdfPath path, List<PrimSpec> specs, Optional<Specifier> defined) {
            boolean arcs = false;
            boolean children = false;
            for (PrimSpec spec : specs) {
                children |= !spec.children().isEmpty();
                arcs |= spec.metadata().containsKey("references")
                        || spec.metadata().containsKey("payload");
                if (!spec.variantSets().isEmpty()
                        || spec.metadata().keySet().stream().anyMatch(CLASS_ARCS::contains)
                        || spec.typeName().equals(PointInstancer.TYPE)) {
                    return composed(path);
                }
            }
            if (!arcs) {
                return defined.filter(Specifier.DEF::equals).isPresent() ? below(path, specs) : Content.NOTHING;
            }
            if (children
                    || defined.isEmpty()
                    || instances(specs)
                    || active(specs).isPresent()) {
                return composed(path);
            }
            if (defined.get() == Specifier.CLASS) {
                return Content.NOTHING;
            }
            return arc(path, specs);
        }

        /** Whether something is said of an instancer's points, although it is defined elsewhere. */
        private static boolean instances(List<PrimSpec> specs) {
            return specs.stream()
                    .anyMatch(spec -> spec.property("protoIndices").isPresent()
                            || spec.property("prototypes").isPresent()
                            || spec.property("invisibleIds").isPresent()
                            || spec.metadata().containsKey("inactiveIds"));
        }

        private Content below(SdfPath path, List<PrimSpec> specs) {
            Set<String> names = new LinkedHashSet<>();
            specs.forEach(spec -> names.addAll(spec.childNames()));
            List<Content> contents = new ArrayList<>(names.size());
            for (String name : names) {
                Content content = specs.size() == 1
                        ? content(
                                path.child(name),
                                List.of(specs.getFirst().child(name).orElseThrow()))
                        : content(path.child(name));
                if (content != Content.NOTHING) {
                    contents.add(content);
                }
            }
            return Content.sum(contents);
        }

        private Content arc(SdfPath path, List<PrimSpec> specs) {
            List<Key> keys = new ArrayList<>();
            Map<String, String> selections = selections(specs);
            for (String field : List.of("references", "payload")) {
                List<Reference> found = List.of();
                for (int i = stack.size() - 1; i >= 0; i--) {
                    Layer layer = stack.get(i);
                    ListEdit<Reference> edit = layer.prim(path)
                            .map(spec -> edit(spec.metadata().get(field), layer))
                            .orElse(ListEdit.none());
                    found = edit.applyTo(found);
                }
                for (Reference reference : found) {
                    if (reference.isInternal()) {
                        return composed(path);
                    }
                    keys.add(new Key(AssetLocation.parse(reference.asset()), reference.prim(), selections));
                }
            }
            if (keys.size() != 1) {
                return keys.isEmpty() ? Content.NOTHING : composed(path);
            }
            Content content = UseCounter.this.content(keys.getFirst(), underway);
            if (content == Content.GONE) {
                return Content.NOTHING;
            }
            boolean changed = content.classes().stream().anyMatch(rootNames::contains)
                    || content.instancer()
                            && specs.stream().anyMatch(spec -> !spec.typeName().isEmpty());
            return changed ? composed(path) : content;
        }

        private static Map<String, String> selections(List<PrimSpec> specs) {
            Map<String, String> selections = new HashMap<>();
            for (PrimSpec spec : specs) {
                if (spec.metadata().get("variants") instanceof Value.Selections chosen) {
                    chosen.bySet().forEach(selections::putIfAbsent);
                }
            }
            return selections;
        }

        private ListEdit<Reference> edit(@Nullable Value value, Layer layer) {
            return value instanceof Value.ReferenceEdit(ListEdit<Reference> edit)
                    ? edit.map(reference -> reference.isInternal()
                            ? reference
                            : new Reference(
                                    layers.resolve(layer, reference.asset()).toString(),
                                    reference.prim(),
                                    LayerOffset.NONE))
                    : ListEdit.none();
        }

        /** A prim that is more than its references: the engine itself composes it. */
        private Content composed(SdfPath path) {
            // An instancer may use what stands anywhere.
            boolean whole = specs(path).stream().anyMatch(this::holdsInstancer);
            Stage part = whole ? stage : Stage.open(stage.rootLayer(), layers, Population.ALL.withMask(List.of(path)));
            return part.prim(path)
                    .filter(Composed::counts)
                    .map(new Composed(part)::content)
                    .orElse(Content.NOTHING);
        }

        private boolean holdsInstancer(PrimSpec spec) {
            return spec.typeName().equals(PointInstancer.TYPE)
                    || spec.property("prototypes").isPresent()
                    || spec.children().stream().anyMatch(this::holdsInstancer)
                    || spec.variantSets().values().stream()
                            .flatMap(variants -> variants.values().stream())
                            .anyMatch(variant -> holdsInstancer(variant.contents()));
        }
    }

    /** Counts in what is composed; what is shared once for all that share it. */
    private final class Composed {
        private final Stage stage;
        private final Map<Prim, Map<Use, Long>> prototypes = new IdentityHashMap<>();
        private final Map<Prim, Map<Use, Long>> pointed = new IdentityHashMap<>();
        private final Set<SdfPath> instancersUnderway = new HashSet<>();
        private final Set<String> classes = new HashSet<>();

        Composed(Stage stage) {
            this.stage = stage;
        }

        static boolean counts(Prim prim) {
            return prim.isActive() && prim.isDefined() && !prim.isAbstract();
        }

        Content content(Prim prim) {
            Map<Use, Long> inner = new HashMap<>();
            addBelow(prim, 1, inner);
            return new Content(uses(prim), inner, classes, prim.typeName().equals(PointInstancer.TYPE));
        }

        void add(Prim prim, long times, Map<Use, Long> counts) {
            if (counts(prim)) {
                addPrototype(prim, times, counts);
            }
        }

        /** Of an instancer's prototype, which may be a class or stand where it is not counted itself. */
        private void addPrototype(Prim prim, long times, Map<Use, Long> counts) {
            uses(prim).forEach(use -> UseCounter.add(counts, use, times));
            addBelow(prim, times, counts);
        }

        private void addBelow(Prim prim, long times, Map<Use, Long> counts) {
            for (List<Opinion.Site> chain : prim.arcChains()) {
                Opinion.Site site = chain.getLast();
                if (site.arc() == Arc.INHERIT || site.arc() == Arc.SPECIALIZE) {
                    classes.add(site.path().names().getFirst());
                }
            }
            Optional<Prim> prototype = prim.prototype();
            if (prim.typeName().equals(PointInstancer.TYPE)) {
                if (instancersUnderway.add(prim.path())) {
                    addPoints(prim, times, counts);
                    instancersUnderway.remove(prim.path());
                }
            } else if (prototype.isPresent()) {
                addShared(prototypes, prototype.get(), times, counts, all -> addChildren(prototype.get(), 1, all));
            } else {
                addChildren(prim, times, counts);
            }
        }

        private static void addShared(
                Map<Prim, Map<Use, Long>> counted,
                Prim shared,
                long times,
                Map<Use, Long> counts,
                Consumer<Map<Use, Long>> counting) {
            Map<Use, Long> once = counted.get(shared);
            if (once == null) {
                once = new HashMap<>();
                counting.accept(once);
                counted.put(shared, once);
            }
            once.forEach((use, count) -> UseCounter.add(counts, use, product(times, count)));
        }

        private void addChildren(Prim prim, long times, Map<Use, Long> counts) {
            prim.children().forEach(child -> add(child, times, counts));
        }

        /** What stands below an instancer is drawn at its points alone. */
        private void addPoints(Prim instancer, long times, Map<Use, Long> counts) {
            PointInstancer points;
            try {
                points = PointInstancer.of(instancer);
            } catch (UsdException e) {
                // It is not drawn either.
                return;
            }
            long[] shown = new long[points.prototypes().size()];
            for (int i = 0; i < points.count(); i++) {
                if (points.isShown(i)) {
                    shown[points.prototype(i)]++;
                }
            }
            for (int i = 0; i < shown.length; i++) {
                long many = product(shown[i], times);
                if (many > 0) {
                    stage.prim(points.prototypes().get(i))
                            .ifPresent(
                                    used -> addShared(pointed, used, many, counts, all -> addPrototype(used, 1, all)));
                }
            }
        }
    }
}
