package pantry.usd.compose;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;

/**
 * A layer with everything that it brings in, composed.
 *
 * <p>Prims are composed when they are first asked for. A stage shows its layers as they were when it was opened; after
 * an edit, open it again (layers are shared, so that costs composition only). To be used by one thread at a time.
 */
public final class Stage {
    private final Layers layers;
    private final Predicate<SdfPath> loads;
    private final LayerStack rootStack;
    private final Map<Layer, LayerStack> stacks = new IdentityHashMap<>();
    private final Map<Path, Optional<UsdException>> unreadable = new HashMap<>();
    private final Map<List<Object>, Prim> prototypes = new LinkedHashMap<>();
    private final List<CompositionProblem> problems = new ArrayList<>();
    private final Prim root;

    private Stage(Layer layer, Layers layers, Predicate<SdfPath> loads) {
        this.layers = layers;
        this.loads = loads;
        this.rootStack = stackOf(layer, SdfPath.ROOT, List.of());
        this.root = new Prim(this, null, SdfPath.ROOT, SdfPath.ROOT, PrimIndex.ofRoot(rootStack));
    }

    /** A stage with all payloads loaded. */
    public static Stage open(Layer layer, Layers layers) {
        return new Stage(layer, layers, path -> true);
    }

    /** @param loads whether the payloads of a prim are to be loaded */
    public static Stage open(Layer layer, Layers layers, Predicate<SdfPath> loads) {
        return new Stage(layer, layers, loads);
    }

    public Layer rootLayer() {
        return rootStack.root();
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
        return rootLayer().defaultPrim().flatMap(name -> root.child(name));
    }

    /** All prims below the root in depth-first order; instances are leaves. */
    public Stream<Prim> prims() {
        return root.children().stream().flatMap(Stage::withDescendants);
    }

    private static Stream<Prim> withDescendants(Prim prim) {
        return Stream.concat(
                Stream.of(prim),
                prim.isInstance() ? Stream.empty() : prim.children().stream().flatMap(Stage::withDescendants));
    }

    /** The shared prims below instances met so far. */
    public List<Prim> prototypes() {
        return List.copyOf(prototypes.values());
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

    boolean loads(SdfPath path) {
        return loads.test(path);
    }

    void problem(CompositionProblem problem) {
        if (!problems.contains(problem)) {
            problems.add(problem);
        }
    }

    Prim prototype(Prim instance) {
        return prototypes.computeIfAbsent(instance.index().instanceKey(), key -> {
            SdfPath path = SdfPath.ROOT.child("__Prototype_" + (prototypes.size() + 1));
            return new Prim(
                    this, null, path, instance.indexPath(), instance.index().prototype());
        });
    }

    Optional<LayerStack> stack(Layer anchor, String asset, SdfPath prim, List<String> chain) {
        return opener(prim, chain).open(anchor, asset).map(layer -> stackOf(layer, prim, chain));
    }

    private LayerStack stackOf(Layer layer, SdfPath prim, List<String> chain) {
        LayerStack known = stacks.get(layer);
        if (known == null) {
            known = LayerStack.of(layer, opener(prim, chain));
            stacks.put(layer, known);
        }
        return known;
    }

    private LayerOpener opener(SdfPath prim, List<String> chain) {
        return new LayerOpener() {
            @Override
            public Optional<Layer> open(Layer anchor, String asset) {
                Path file = AssetPaths.resolve(anchor, asset);
                Optional<UsdException> failure = unreadable.get(file);
                if (failure == null) {
                    try {
                        return Optional.of(layers.open(file));
                    } catch (UsdException e) {
                        failure = Optional.of(e);
                        unreadable.put(file, failure);
                    }
                }
                UsdException e = failure.orElseThrow();
                boolean missing = e.getCause() instanceof java.nio.file.NoSuchFileException;
                problem(
                        missing ? CompositionProblem.Kind.MISSING_LAYER : CompositionProblem.Kind.BROKEN_LAYER,
                        asset,
                        e.line());
                return Optional.empty();
            }

            @Override
            public void problem(CompositionProblem.Kind kind, String asset, String message) {
                Stage.this.problem(new CompositionProblem(kind, prim, asset, message, chain));
            }
        };
    }
}
