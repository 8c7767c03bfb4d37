package pantry.scene;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.math.Matrix4;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/**
 * Groups of a scene that are used more than once: what they hold stands once, in a scope that is not drawn itself, and
 * each use refers to it (an internal reference, {@code instanceable}). What is changed there is changed in all uses.
 */
public final class Instancing {
    /** The scope with shared contents below the root. */
    static final String SHAPES = "Shapes";

    private final SceneLayer scene;

    Instancing(SceneLayer scene) {
        this.scene = scene;
    }

    /** Where the contents of a use stand; empty where it shares none of the scene's own. */
    public Optional<SdfPath> contents(SdfPath path) {
        return scene.spec(path).flatMap(Instancing::contents);
    }

    private static Optional<SdfPath> contents(PrimSpec prim) {
        if (prim.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
            return edit.applyTo(List.of()).stream()
                    .filter(Reference::isInternal)
                    .findFirst()
                    .flatMap(Reference::prim);
        }
        return Optional.empty();
    }

    /** Lets a group's contents be shared, where it holds some and does not share them yet; as a part of a change. */
    void share(Transaction edits, SdfPath path) {
        PrimSpec prim = scene.spec(path).orElseThrow();
        boolean group = prim.typeName().equals("Xform")
                && !prim.metadata().containsKey("references")
                && !prim.children().isEmpty();
        if (!group) {
            return;
        }
        SdfPath scope = scene.root().child(SHAPES);
        if (edits.stage().prim(scope).isEmpty()) {
            edits.add(scene.root(), new PrimSpec(Specifier.CLASS, "Scope", SHAPES));
        }
        SdfPath shape = scope.child(ChildNames.free(edits, scope, path.name()));
        edits.add(scope, new PrimSpec(Specifier.DEF, "Xform", shape.name()));
        Map<SdfPath, SdfPath> moves = new LinkedHashMap<>();
        prim.childNames().forEach(child -> moves.put(path.child(child), shape.child(child)));
        edits.moveAll(moves);
        edits.change(path, spec -> {
            spec.setReferences(Reference.internal(shape));
            spec.metadata().put("instanceable", new Value.Bool(true));
        });
    }

    /** Gives uses contents of their own; as a part of a change. */
    void own(Transaction edits, Collection<SdfPath> paths) {
        Map<SdfPath, SdfPath> sources = new LinkedHashMap<>();
        for (SdfPath path : paths) {
            SdfPath shape = contents(path).orElseThrow();
            scene.spec(shape)
                    .orElseThrow()
                    .childNames()
                    .forEach(child -> sources.put(path.child(child), shape.child(child)));
        }
        paths.forEach(path -> edits.change(path, spec -> {
            spec.metadata().remove("references");
            spec.metadata().remove("instanceable");
        }));
        edits.copyAll(sources);
    }

    /** The shared contents that some objects of a layer refer to, directly or through others. */
    static Set<SdfPath> needed(Layer layer, Collection<SdfPath> paths) {
        Set<SdfPath> needed = new LinkedHashSet<>();
        paths.forEach(path -> layer.prim(path).ifPresent(prim -> collectNeeded(layer, prim, needed)));
        return needed;
    }

    private static void collectNeeded(Layer layer, PrimSpec prim, Set<SdfPath> needed) {
        contents(prim).filter(needed::add).flatMap(layer::prim).ifPresent(shape -> collectNeeded(layer, shape, needed));
        prim.children().forEach(child -> collectNeeded(layer, child, needed));
    }

    /**
     * How often something is drawn: once by itself, or, within shared contents, as often as all uses of these come to,
     * through all levels.
     */
    public long uses(SdfPath path) {
        SdfPath scope = scene.root().child(SHAPES);
        if (!path.startsWith(scope) || path.equals(scope)) {
            return 1;
        }
        Map<SdfPath, List<SdfPath>> users = new HashMap<>();
        collect(SdfPath.ROOT, scene.layer().root(), users);
        return uses(scope.child(path.names().get(scope.depth())), users, new ArrayList<>());
    }

    private static void collect(SdfPath at, PrimSpec prim, Map<SdfPath, List<SdfPath>> users) {
        contents(prim).ifPresent(shape -> users.computeIfAbsent(shape, key -> new ArrayList<>())
                .add(at));
        prim.children().forEach(child -> collect(at.child(child.name()), child, users));
    }

    private long uses(SdfPath shape, Map<SdfPath, List<SdfPath>> users, List<SdfPath> above) {
        if (above.contains(shape)) {
            throw new SceneException(scene.file(), "<" + shape + "> holds itself, through " + above);
        }
        above.add(shape);
        SdfPath scope = scene.root().child(SHAPES);
        long sum = 0;
        for (SdfPath user : users.getOrDefault(shape, List.of())) {
            boolean nested = user.startsWith(scope);
            sum += nested ? uses(scope.child(user.names().get(scope.depth())), users, above) : 1;
        }
        above.removeLast();
        return sum;
    }

    /** Whether something is, or is within, contents that are shared. */
    public boolean isShared(SdfPath path) {
        SdfPath scope = scene.root().child(SHAPES);
        return path.startsWith(scope) && path.depth() > scope.depth() + 1;
    }

    /** All places at which something is drawn: one for itself; within shared contents, one for each way of uses there. */
    public List<Occurrence> occurrences(SdfPath path) {
        Stage stage = scene.stage();
        if (!isShared(path)) {
            Matrix4 parent = stage.prim(path.parent()).map(Xforms::world).orElse(Matrix4.IDENTITY);
            return List.of(new Occurrence(List.of(), path, parent));
        }
        Map<SdfPath, List<SdfPath>> users = new HashMap<>();
        collect(SdfPath.ROOT, scene.layer().root(), users);
        List<Occurrence> found = new ArrayList<>();
        for (List<SdfPath> way : ways(shapeOf(path), users, new ArrayList<>())) {
            occurrence(way, path).ifPresent(found::add);
        }
        return found;
    }

    private SdfPath shapeOf(SdfPath path) {
        SdfPath scope = scene.root().child(SHAPES);
        return scope.child(path.names().get(scope.depth()));
    }

    /** Each way to shared contents, by the uses on it. */
    private List<List<SdfPath>> ways(SdfPath shape, Map<SdfPath, List<SdfPath>> users, List<SdfPath> above) {
        if (above.contains(shape)) {
            return List.of();
        }
        above.add(shape);
        List<List<SdfPath>> ways = new ArrayList<>();
        for (SdfPath user : users.getOrDefault(shape, List.of())) {
            List<List<SdfPath>> outer = isShared(user) ? ways(shapeOf(user), users, above) : List.of(List.of());
            for (List<SdfPath> way : outer) {
                List<SdfPath> longer = new ArrayList<>(way);
                longer.add(user);
                ways.add(longer);
            }
        }
        above.removeLast();
        return ways;
    }

    /** Goes down from the outermost use, through prototypes; empty where something on the way is switched off. */
    private Optional<Occurrence> occurrence(List<SdfPath> way, SdfPath path) {
        Stage stage = scene.stage();
        Optional<Prim> at = stage.prim(way.getFirst());
        Matrix4 space = at.map(Xforms::world).orElse(Matrix4.IDENTITY);
        for (int i = 0; i < way.size() && at.isPresent(); i++) {
            SdfPath next = i + 1 < way.size() ? way.get(i + 1) : path;
            SdfPath shape = shapeOf(next);
            Matrix4 inside = Matrix4.IDENTITY;
            for (SdfPath step = shape; !step.equals(next) && at.isPresent(); ) {
                if (!step.equals(shape)) {
                    inside = Xforms.local(at.get()).times(inside);
                }
                step = step.child(next.names().get(step.depth()));
                at = at.get().child(step.name());
            }
            // The last step is the thing itself, whose own place is not of its parent's space.
            space = inside.times(space);
            if (i + 1 < way.size() && at.isPresent()) {
                space = Xforms.local(at.get()).times(space);
            }
        }
        Matrix4 parent = space;
        return at.map(prim -> new Occurrence(way, prim.path(), parent));
    }

    /** Whether hanging something on another would put shared contents into themselves. */
    boolean wouldHoldItself(Collection<SdfPath> paths, SdfPath parent) {
        SdfPath scope = scene.root().child(SHAPES);
        if (!parent.startsWith(scope) || parent.equals(scope)) {
            return false;
        }
        SdfPath shape = scope.child(parent.names().get(scope.depth()));
        return paths.stream().anyMatch(path -> holds(scene.spec(path).orElseThrow(), shape));
    }

    private boolean holds(PrimSpec prim, SdfPath shape) {
        Optional<SdfPath> contents = contents(prim);
        return contents.filter(shape::equals).isPresent()
                || contents.flatMap(scene.layer()::prim)
                        .filter(inner -> holds(inner, shape))
                        .isPresent()
                || prim.children().stream().anyMatch(child -> holds(child, shape));
    }

    /**
     * One more use of an object, wherever it hangs. What a placement shows is shared as it is; what a group holds is
     * shared from then on.
     *
     * @param under an existing prim; beside the object where empty
     * @throws SceneException where there is nothing there, or it would stand within itself
     */
    public SdfPath instance(SdfPath path, String name, TransformComponents placing, Optional<SdfPath> under) {
        if (scene.spec(path).isEmpty()) {
            throw new SceneException(scene.file(), "there is no <" + path + "> of the scene's own to use once more");
        }
        SdfPath parent = under.orElse(path.parent());
        if (parent.startsWith(path)) {
            throw new SceneException(scene.file(), "<" + path + "> cannot be used within itself");
        }
        if (wouldHoldItself(List.of(path), parent)) {
            throw new SceneException(scene.file(), "<" + path + "> would hold itself");
        }
        return scene.editor().change("used " + path.name() + " once more", edits -> use(
                        edits, List.of(new FurtherUse(path, parent, name, placing)))
                .getFirst());
    }

    /** One more use of something, below a prim, with the name that it would like to have. */
    private record FurtherUse(SdfPath of, SdfPath parent, String name, TransformComponents placing) {}

    private List<SdfPath> use(Transaction edits, List<FurtherUse> uses) {
        uses.forEach(use -> share(edits, use.of()));
        Map<SdfPath, ChildNames> names = new HashMap<>();
        Map<SdfPath, SdfPath> sources = new LinkedHashMap<>();
        List<SdfPath> made = new ArrayList<>();
        for (FurtherUse use : uses) {
            SdfPath copy = use.parent()
                    .child(names.computeIfAbsent(use.parent(), key -> ChildNames.below(edits, key))
                            .take(use.name()));
            made.add(copy);
            sources.put(copy, use.of());
        }
        List<Matrix4> before = uses.stream()
                .map(use -> Xforms.local(edits.stage().prim(use.of()).orElseThrow()))
                .toList();
        edits.copyAll(sources);
        for (int i = 0; i < made.size(); i++) {
            Matrix4 own = before.get(i);
            Matrix4 wanted = uses.get(i).placing().matrix();
            edits.change(made.get(i), prim -> {
                Matrix4 further = TransformComponents.isUsual(prim)
                        ? own.times(TransformComponents.read(prim).matrix().inverse())
                        : Matrix4.IDENTITY;
                TransformOps.write(prim, own, further.times(wanted));
            });
        }
        return made;
    }

    /**
     * More uses of objects beside them, as {@link #instance} makes each.
     *
     * @param count of each object
     * @return the new uses, object by object in turn: all first ones, then all second ones
     */
    public List<SdfPath> instances(List<SdfPath> paths, int count) {
        return scene.editor().change("used " + SceneLayer.named(paths) + " more often", edits -> {
            List<FurtherUse> each = new ArrayList<>();
            for (SdfPath path : paths) {
                PrimSpec spec = scene.spec(path)
                        .orElseThrow(() -> new SceneException(
                                scene.file(), "there is no <" + path + "> of the scene's own to use once more"));
                String stem = path.name().replaceAll("_\\d+$", "");
                each.add(new FurtherUse(path, path.parent(), stem, TransformComponents.read(spec)));
            }
            List<FurtherUse> all = new ArrayList<>();
            for (int i = 0; i < count; i++) {
                all.addAll(each);
            }
            return use(edits, all);
        });
    }
}
