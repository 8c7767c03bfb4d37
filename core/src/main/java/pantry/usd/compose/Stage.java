package pantry.usd.compose;

import java.nio.file.NoSuchFileException;
import java.util.ArrayDeque;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.Spliterators;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.jspecify.annotations.Nullable;
import pantry.base.FileGate;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;

/**
 * A layer with everything that it brings in, composed.
 *
 * <p>Prims are composed when they are first asked for, and kept. After an edit of a layer, {@link #update} composes
 * anew what it concerns and leaves the rest. To be used by one thread at a time.
 */
public final class Stage {
    private static final Budget.Limits USUAL = Budget.Limits.ofEnvironment(System.getenv());

    /** What the names of prototypes begin with, which stand beside the root prims. */
    public static final String PROTOTYPE = "__Prototype_";

    private final Layers layers;
    private final Budget budget;
    private final Population population;
    private final LayerStack rootStack;
    private final Map<Layer, LayerStack> stacks = new IdentityHashMap<>();
    private final Map<String, Optional<LayerStack>> stacksByPlace = new HashMap<>();
    private final Map<Layer, Map<String, AssetLocation>> places = new IdentityHashMap<>();
    private final Map<LayerStack, Map<SdfPath, PrimIndex>> indices = new IdentityHashMap<>();
    private final Set<List<Object>> underway = new HashSet<>();
    private final Map<List<Object>, Prim> prototypes = new LinkedHashMap<>();

    /** The prototypes whose instances stand in a prototype. */
    private final Map<Prim, Set<Prim>> nested = new IdentityHashMap<>();

    private final Set<CompositionProblem> problems = new LinkedHashSet<>();
    private final Dependencies dependencies = new Dependencies();
    private int prototypesMade;
    private final Prim root;

    private Stage(Layer layer, Layers layers, Population population, Budget budget) {
        this.budget = budget;
        this.layers = layers;
        this.population = population;
        this.rootStack = stackOf(layer, SdfPath.ROOT, null);
        this.root = new Prim(this, null, SdfPath.ROOT, SdfPath.ROOT, PrimIndex.ofRoot(rootStack));
    }

    /** A stage with all payloads loaded. */
    public static Stage open(Layer layer, Layers layers) {
        return open(layer, layers, Population.ALL);
    }

    /** @param loads whether the payloads of a prim are to be loaded */
    public static Stage open(Layer layer, Layers layers, Predicate<SdfPath> loads) {
        return open(layer, layers, Population.ALL.withLoads(loads));
    }

    /** A stage of which not everything may be composed. */
    public static Stage open(Layer layer, Layers layers, Population population) {
        return new Stage(layer, layers, population, Budget.of(USUAL));
    }

    /** A stage whose composition may not cost more than a budget has. */
    public static Stage open(Layer layer, Layers layers, Budget budget) {
        return new Stage(layer, layers, Population.ALL, budget);
    }

    /** What composing it may cost. */
    public Budget budget() {
        return budget;
    }

    public Layer rootLayer() {
        return rootStack.root();
    }

    /** The root layer with its sublayers, strongest first. */
    public List<Layer> layerStack() {
        return rootStack.layers();
    }

    /** The nameless prim above all others. */
    public Prim root() {
        return root;
    }

    /** The prim at a path; within an instance, the prototype's prim that stands for it. */
    public Optional<Prim> prim(SdfPath path) {
        Prim prim = root;
        for (String name : path.names()) {
            Optional<Prim> next = prim.child(name);
            if (next.isEmpty() && prim == root) {
                next = prototypes.values().stream()
                        .filter(prototype -> prototype.name().equals(name))
                        .findFirst();
            }
            if (next.isEmpty()) {
                return Optional.empty();
            }
            prim = next.get();
        }
        return Optional.of(prim);
    }

    public Optional<Prim> defaultPrim() {
        return rootLayer().defaultPrimPath().flatMap(this::prim);
    }

    /** All prims below the root in depth-first order; instances are leaves. */
    public Stream<Prim> prims() {
        return StreamSupport.stream(new DepthFirst(root), false);
    }

    /** Walks prims as they are asked for, which composes them. */
    private static final class DepthFirst extends Spliterators.AbstractSpliterator<Prim> {
        private final Deque<Iterator<Prim>> levels = new ArrayDeque<>();

        DepthFirst(Prim root) {
            super(Long.MAX_VALUE, ORDERED | DISTINCT | NONNULL);
            levels.push(root.children().iterator());
        }

        @Override
        public boolean tryAdvance(Consumer<? super Prim> action) {
            while (!levels.isEmpty()) {
                Iterator<Prim> level = levels.element();
                if (level.hasNext()) {
                    Prim prim = level.next();
                    if (!prim.isInstance()) {
                        levels.push(prim.children().iterator());
                    }
                    action.accept(prim);
                    return true;
                }
                levels.pop();
            }
            return false;
        }
    }

    /** The shared prims below instances met so far. */
    public List<Prim> prototypes() {
        return List.copyOf(prototypes.values());
    }

    /** Goes through all prims, and then through the shared prims of all instances met on the way, those in classes left out. */
    public void forEachPrim(Consumer<? super Prim> action) {
        // A prototype is composed when it is first asked for.
        Consumer<Prim> withPrototype = prim -> {
            if (!prim.isAbstract()) {
                prim.prototype();
            }
            action.accept(prim);
        };
        prims().forEach(withPrototype);
        int done = 0;
        for (List<Prim> known = prototypes(); done < known.size(); known = prototypes()) {
            for (; done < known.size(); done++) {
                action.accept(known.get(done));
                new DepthFirst(known.get(done)).forEachRemaining(withPrototype);
            }
        }
    }

    /** What could not be composed, of the prims asked for so far. */
    public List<CompositionProblem> problems() {
        return List.copyOf(problems);
    }

    /** Every layer that contributes to the prims asked for so far. */
    public List<Layer> usedLayers() {
        return stacks.values().stream()
                .flatMap(stack -> stack.layers().stream())
                .distinct()
                .toList();
    }

    /**
     * Takes in edits of layers: what they concern is composed anew when it is next asked for.
     *
     * @param edited the layer that was edited, which may be used anywhere in the stage
     * @param paths of the prim specs that were added, removed or changed otherwise than in the values of properties
     * @param properties of the properties that were changed
     * @return what has to be looked at again
     */
    public StageChange update(Layer edited, Set<SdfPath> paths, Set<SdfPath> properties) {
        Set<SdfPath> resynced = new LinkedHashSet<>();
        Set<SdfPath> changed = new LinkedHashSet<>();
        for (Map.Entry<Layer, LayerStack> entry : stacks.entrySet()) {
            LayerStack stack = entry.getValue();
            if (stack.layers().stream().noneMatch(layer -> layer == edited)) {
                continue;
            }
            for (SdfPath path : paths) {
                resynced.addAll(dependencies.structure(stack, path.withoutVariants(), stack == rootStack));
            }
            for (SdfPath path : properties) {
                changed.addAll(dependencies.below(stack, path.withoutVariants(), stack == rootStack));
            }
        }
        if (!resynced.isEmpty()) {
            indices.clear();
            stacks.values().forEach(LayerStack::edited);
            resynced.addAll(sharedThrough(resynced));
            problems.removeIf(problem -> problem.prim().startsWithAny(resynced));
            forget(resynced);
        }
        return new StageChange(resynced, changed);
    }

    /** The prototypes whose targets outside of them are those of an instance at or below some paths, which may be gone. */
    private List<SdfPath> sharedThrough(Set<SdfPath> paths) {
        return prototypes.values().stream()
                .filter(prototype -> prototype.indexPath().startsWithAny(paths))
                .map(Prim::path)
                .toList();
    }

    /** Lets the nearest composed prims above paths compose their children anew. */
    private void forget(Set<SdfPath> paths) {
        if (paths.contains(SdfPath.ROOT)) {
            root.refresh(PrimIndex.ofRoot(rootStack));
        }
        Set<SdfPath> ofPrototypes = new HashSet<>();
        prototypes.values().removeIf(prototype -> {
            boolean gone = paths.contains(prototype.path());
            if (gone) {
                nested.remove(prototype);
                ofPrototypes.add(prototype.path());
            }
            return gone;
        });
        Map<SdfPath, Set<String>> children = new LinkedHashMap<>();
        for (SdfPath path : paths) {
            if (!path.equals(SdfPath.ROOT) && !ofPrototypes.contains(path)) {
                children.computeIfAbsent(path.parent(), parent -> new HashSet<>())
                        .add(path.name());
            }
        }
        children.forEach((parent, names) -> prim(parent).ifPresent(prim -> prim.forgetChildren(names)));
    }

    boolean loads(SdfPath path) {
        return population.loads().test(path);
    }

    boolean includes(SdfPath path) {
        return population.includes(path);
    }

    List<String> fallbacks(String variantSet) {
        return population.fallbacks().getOrDefault(variantSet, List.of());
    }

    void problem(CompositionProblem problem) {
        problems.add(problem);
    }

    Prim prototype(Prim instance) {
        Prim prototype = prototypes.computeIfAbsent(instance.index().instanceKey(), key -> {
            SdfPath path = SdfPath.ROOT.child(PROTOTYPE + ++prototypesMade);
            return new Prim(
                    this, null, path, instance.indexPath(), instance.index().prototype());
        });
        Optional<Prim> outer = instance.prototypeAround();
        if (outer.isPresent()) {
            Set<Prim> within = nested.computeIfAbsent(outer.get(), prim -> identitySet());
            if (!within.contains(prototype)) {
                if (isWithin(outer.get(), prototype, identitySet())) {
                    problem(new CompositionProblem(
                            CompositionProblem.Kind.CYCLE,
                            instance.path(),
                            "",
                            "what <" + instance.path() + "> is an instance of holds that instance itself",
                            List.of()));
                    return nothing();
                }
                within.add(prototype);
            }
        }
        return prototype;
    }

    /** Whether a prototype is or holds another one, however deep; arcs alone do not tell, since prototypes are shared. */
    private boolean isWithin(Prim sought, Prim prototype, Set<Prim> seen) {
        return prototype == sought
                || seen.add(prototype)
                        && nested.getOrDefault(prototype, Set.of()).stream()
                                .anyMatch(inner -> isWithin(sought, inner, seen));
    }

    private static Set<Prim> identitySet() {
        return Collections.newSetFromMap(new IdentityHashMap<>());
    }

    /** A prototype without contents. */
    private Prim nothing() {
        SdfPath path = SdfPath.ROOT.child(PROTOTYPE + "0");
        return new Prim(this, null, path, path, PrimIndex.ofNothing(rootStack, path));
    }

    /** The place that an asset path names; each is looked up once. */
    AssetLocation resolve(Layer anchor, String asset) {
        return places.computeIfAbsent(anchor, layer -> new HashMap<>())
                .computeIfAbsent(asset, written -> layers.resolve(anchor, written));
    }

    /** Which files may be read because the stage's layers name them; what was refused is remembered there. */
    public FileGate gate() {
        return layers.gate();
    }

    /** The layer stack at a place; each is opened once. */
    Optional<LayerStack> stack(String place, SdfPath prim, IndexNode from) {
        Optional<LayerStack> known = stacksByPlace.get(place);
        if (known == null) {
            known = opener(prim, from).open(AssetLocation.parse(place), place).map(layer -> stackOf(layer, prim, from));
            stacksByPlace.put(place, known);
        } else if (known.isEmpty()) {
            opener(prim, from).open(AssetLocation.parse(place), place);
        }
        return known;
    }

    /** The finished index of a path in a layer stack; empty while that is being composed. */
    Optional<PrimIndex> indexOf(LayerStack stack, SdfPath path, SdfPath stagePath) {
        Map<SdfPath, PrimIndex> known = indices.computeIfAbsent(stack, s -> new HashMap<>());
        PrimIndex index = known.get(path);
        if (index != null) {
            return Optional.of(index);
        }
        if (path.equals(SdfPath.ROOT)) {
            return Optional.of(PrimIndex.ofRoot(stack));
        }
        List<Object> key = List.of(stack, path);
        if (!underway.add(key)) {
            return Optional.empty();
        }
        try {
            Optional<PrimIndex> above = indexOf(stack, path.parent(), stagePath);
            if (above.isEmpty()) {
                return Optional.empty();
            }
            index = new IndexBuilder(above.get().root().descend(path), stagePath, this, true).build();
            indices.computeIfAbsent(stack, s -> new HashMap<>()).put(path, index);
            return Optional.of(index);
        } finally {
            underway.remove(key);
        }
    }

    /** Takes note of what a prim is made of, for {@link #update}. */
    void composed(SdfPath path, PrimIndex index) {
        dependencies.add(path, index);
    }

    /** Takes note that a prim refers to what is not there. */
    void awaits(SdfPath path, LayerStack stack, SdfPath missing) {
        dependencies.add(path, stack, missing);
    }

    private LayerStack stackOf(Layer layer, SdfPath prim, @Nullable IndexNode from) {
        LayerStack known = stacks.get(layer);
        if (known == null) {
            known = LayerStack.of(layer, opener(prim, from));
            stacks.put(layer, known);
        }
        return known;
    }

    private LayerOpener opener(SdfPath prim, @Nullable IndexNode from) {
        return new LayerOpener() {
            @Override
            public Budget budget() {
                return budget;
            }

            @Override
            public AssetLocation resolve(Layer anchor, String asset) {
                return Stage.this.resolve(anchor, asset);
            }

            @Override
            public Optional<Layer> open(AssetLocation place, String asset) {
                try {
                    return Optional.of(layers.open(place));
                } catch (UsdException e) {
                    boolean missing = e.getCause() instanceof NoSuchFileException;
                    problem(
                            missing ? CompositionProblem.Kind.MISSING_LAYER : CompositionProblem.Kind.BROKEN_LAYER,
                            asset,
                            e.line());
                    return Optional.empty();
                }
            }

            @Override
            public void problem(CompositionProblem.Kind kind, String asset, String message) {
                List<String> chain = from == null
                        ? List.of()
                        : from.chain().stream().map(Opinion.Site::toString).toList();
                Stage.this.problem(new CompositionProblem(kind, prim, asset, message, chain));
            }
        };
    }
}
