package pantry.scene;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.TreeMap;
import pantry.base.Names;
import pantry.base.NaturalOrder;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.Bounds;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/**
 * How a scene's objects hang together. Whatever is regrouped keeps its place in the world; each step is one change.
 * Paths are of the scene's own layer.
 */
public final class Structure {
    private final SceneLayer scene;

    Structure(SceneLayer scene) {
        this.scene = scene;
    }

    /**
     * Puts objects under an anchor of their own, which stands at the middle of their base.
     *
     * @return the anchor's path
     */
    public SdfPath group(Collection<SdfPath> paths, String name) {
        return scene.editor().change("grouped " + SceneLayer.named(paths), edits -> group(edits, paths, name));
    }

    /** As above, as a part of another change. */
    SdfPath group(Transaction edits, Collection<SdfPath> paths, String name) {
        List<SdfPath> some = outermost(paths);
        if (some.isEmpty()) {
            throw new SceneException(scene.file(), "nothing is chosen to be grouped");
        }
        SdfPath owner = some.getFirst().parent();
        for (SdfPath path : some) {
            while (!path.parent().startsWith(owner)) {
                owner = owner.parent();
            }
        }
        if (owner.equals(SdfPath.ROOT)) {
            throw new SceneException(scene.file(), "the scene's root cannot be grouped");
        }
        Vec3 base = base(some);
        SdfPath group = owner.child(ChildNames.free(edits, owner, name));
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Xform", group.name());
        prim.metadata().put("kind", new Value.Token("group"));
        if (!Names.identifier(name).equals(name)) {
            prim.metadata().put("displayName", new Value.Text(name));
        }
        TransformComponents.ORIGIN
                .withMove(world(edits, owner).inverse().point(base))
                .write(prim);
        edits.add(owner, prim);
        Map<SdfPath, SdfPath> parents = new LinkedHashMap<>();
        some.forEach(path -> parents.put(path, group));
        hang(edits, parents);
        return group;
    }

    private Vec3 base(List<SdfPath> paths) {
        Bounds bounds = new Bounds(scene.stage(), Bounds.DRAWN);
        Box3 box = Box3.EMPTY;
        for (SdfPath path : paths) {
            box = box.union(scene.stage().prim(path).map(bounds::world).orElse(Box3.EMPTY));
        }
        return box.isEmpty()
                ? Vec3.ZERO
                : new Vec3(box.centre().x(), box.min().y(), box.centre().z());
    }

    /**
     * Takes what hangs on anchors off them, and removes these. Returns what was freed.
     *
     * @throws SceneException where one is no group
     */
    public List<SdfPath> ungroup(Collection<SdfPath> groups) {
        return scene.editor().change("ungrouped " + SceneLayer.named(groups), edits -> {
            List<SdfPath> freed = new ArrayList<>();
            // What hangs on a group within another one is freed of both.
            NavigableMap<Integer, List<SdfPath>> byDepth = new TreeMap<>(Comparator.reverseOrder());
            Set.copyOf(groups).forEach(group -> byDepth.computeIfAbsent(group.depth(), depth -> new ArrayList<>())
                    .add(group));
            for (List<SdfPath> level : byDepth.values()) {
                Map<SdfPath, SdfPath> parents = new LinkedHashMap<>();
                level.forEach(group -> held(group).forEach(child -> parents.put(child, group.parent())));
                Map<SdfPath, SdfPath> moved = hang(edits, parents);
                edits.removeAll(level);
                freed.removeAll(moved.keySet());
                freed.addAll(moved.values());
            }
            freed.removeIf(groups::contains);
            return freed;
        });
    }

    /** What hangs on a group, but for its mark. */
    private List<SdfPath> held(SdfPath group) {
        PrimSpec prim = own(group);
        if (prim.metadata().containsKey("references") || !prim.typeName().equals("Xform")) {
            throw new SceneException(scene.file(), "<" + group + "> is no group; break it out first");
        }
        boolean marked = Anchors.mark(prim).isPresent();
        return prim.childNames().stream()
                .filter(name -> !marked || !name.equals(Anchors.MARK))
                .map(group::child)
                .toList();
    }

    /**
     * Hangs objects on another one, as its last children. Returns their new paths.
     *
     * @throws SceneException where something would hang on itself or hold itself, or the parent shows another file
     */
    public List<SdfPath> reparent(Collection<SdfPath> paths, SdfPath parent) {
        List<SdfPath> some = outermost(paths);
        for (SdfPath path : some) {
            if (parent.startsWith(path)) {
                throw new SceneException(scene.file(), "<" + path + "> cannot hang on itself or on what hangs on it");
            }
        }
        if (new Instancing(scene).wouldHoldItself(some, parent)) {
            throw new SceneException(scene.file(), "what is used in " + parent.name() + " would hold itself");
        }
        if (own(parent).metadata().containsKey("references")) {
            throw new SceneException(
                    scene.file(), "<" + parent + "> shows another file; hang things on an anchor beside it");
        }
        return scene.editor().change("hung " + SceneLayer.named(some) + " on " + parent.name(), edits -> {
            Map<SdfPath, SdfPath> parents = new LinkedHashMap<>();
            some.forEach(path -> parents.put(path, parent));
            return List.copyOf(hang(edits, parents).values());
        });
    }

    /**
     * Moves prims below others so that they stay where they are.
     *
     * @param parents the new parents by the prims' paths, none of which is below another
     * @return the new paths by those
     */
    private static Map<SdfPath, SdfPath> hang(Transaction edits, Map<SdfPath, SdfPath> parents) {
        Map<SdfPath, ChildNames> names = new HashMap<>();
        Map<SdfPath, Matrix4> spaces = new HashMap<>();
        Map<SdfPath, SdfPath> places = new LinkedHashMap<>();
        Map<SdfPath, Hung> hung = new LinkedHashMap<>();
        parents.forEach((path, parent) -> {
            if (path.parent().equals(parent)) {
                places.put(path, path);
                return;
            }
            SdfPath to = parent.child(names.computeIfAbsent(parent, key -> ChildNames.below(edits, key))
                    .take(path.name()));
            places.put(path, to);
            edits.stage().prim(path).filter(Structure::isPlaced).ifPresent(prim -> {
                Matrix4 space =
                        spaces.computeIfAbsent(parent, key -> world(edits, key).inverse());
                hung.put(to, new Hung(Xforms.local(prim), Xforms.world(prim).times(space)));
            });
        });
        Map<SdfPath, SdfPath> moves = new LinkedHashMap<>(places);
        moves.entrySet().removeIf(move -> move.getKey().equals(move.getValue()));
        edits.moveAll(moves);
        hung.forEach((to, each) -> edits.change(to, prim -> TransformOps.write(prim, each.before(), each.after())));
        return places;
    }

    /** The local transforms of a prim below its parent before, and below another one that it is hung on. */
    private record Hung(Matrix4 before, Matrix4 after) {}

    private static boolean isPlaced(Prim prim) {
        return !Set.of("Material", "Scope", "Shader").contains(prim.typeName());
    }

    private static Matrix4 world(Transaction edits, SdfPath path) {
        return edits.stage().prim(path).map(Xforms::world).orElse(Matrix4.IDENTITY);
    }

    /**
     * Gives an object another name; what is shown keeps the signs that a path cannot have.
     *
     * @throws SceneException where the name is empty or there is nothing of the scene's own there
     */
    public SdfPath rename(SdfPath path, String name) {
        own(path);
        if (name.isBlank()) {
            throw new SceneException(scene.file(), "a name cannot be empty");
        }
        return scene.editor().change("called " + path.name() + " " + name, edits -> {
            String wanted = Names.identifier(name);
            SdfPath to = path.name().equals(wanted)
                    ? path
                    : path.parent().child(ChildNames.free(edits, path.parent(), name));
            if (!to.equals(path)) {
                edits.rename(path, to.name());
            }
            if (to.name().equals(name)) {
                edits.clearField(to, "displayName");
            } else {
                edits.setField(to, "displayName", new Value.Text(name));
            }
            return to;
        });
    }

    /** Switches objects off, so that they are no part of the scene any more, or on again. */
    public void switchOn(Collection<SdfPath> paths, boolean on) {
        scene.editor()
                .changeAll(
                        (on ? "switched on " : "switched off ") + SceneLayer.named(paths),
                        edits -> paths.forEach(path -> {
                            if (on) {
                                edits.clearField(path, "active");
                            } else {
                                edits.setField(path, "active", new Value.Bool(false));
                            }
                        }));
    }

    /** Hides objects, or shows them again. */
    public void show(Collection<SdfPath> paths, boolean shown) {
        scene.editor()
                .changeAll(
                        (shown ? "showed " : "hid ") + SceneLayer.named(paths),
                        edits -> paths.forEach(path -> {
                            if (shown) {
                                edits.clear(path.property("visibility"));
                            } else {
                                edits.set(path.property("visibility"), "token", new Value.Token("invisible"));
                            }
                        }));
    }

    /**
     * Breaks uses out of what they share with others, so that their insides can be changed for each alone. A placement
     * goes on referring to its asset; a use of a group of the scene gets contents of its own.
     *
     * @throws SceneException where one shares nothing with others
     */
    public void breakOut(Collection<SdfPath> paths) {
        for (SdfPath path : paths) {
            if (!scene.stage().prim(path).filter(Prim::isInstance).isPresent()) {
                throw new SceneException(scene.file(), "<" + path + "> shares nothing with others");
            }
        }
        scene.editor().changeAll("broke out " + SceneLayer.named(paths), edits -> {
            List<SdfPath> groups = paths.stream()
                    .filter(path -> new Instancing(scene).contents(path).isPresent())
                    .toList();
            new Instancing(scene).own(edits, groups);
            Set<SdfPath> done = Set.copyOf(groups);
            paths.stream()
                    .filter(path -> !done.contains(path))
                    .forEach(path -> edits.setField(path, "instanceable", new Value.Bool(false)));
        });
    }

    /**
     * Lets placements share what they show again; possible where nothing inside of them is overridden.
     *
     * @throws SceneException where one has overrides inside, which would be lost
     */
    public void share(Collection<SdfPath> paths) {
        for (SdfPath path : paths) {
            if (!own(path).children().isEmpty()) {
                throw new SceneException(scene.file(), "<" + path + "> has overrides inside, which would be lost");
            }
        }
        scene.editor()
                .changeAll(
                        "shared " + SceneLayer.named(paths),
                        edits -> paths.forEach(path -> edits.setField(path, "instanceable", new Value.Bool(true))));
    }

    /** Selects a variant of placements, such as another colour. */
    public void choose(Collection<SdfPath> paths, String set, String variant) {
        scene.editor()
                .changeAll(
                        "chose " + variant + " for " + SceneLayer.named(paths),
                        edits -> paths.forEach(path -> edits.select(path, set, variant)));
    }

    /** Puts the children of a prim into the order of their names. */
    public void sort(SdfPath parent) {
        List<String> names = new ArrayList<>(own(parent).childNames());
        names.sort(NaturalOrder.BY_NAME);
        scene.editor().changeAll("sorted " + parent.name(), edits -> edits.reorder(parent, names));
    }

    /**
     * Lets placements show something else, in the same place.
     *
     * @param name of the change, for a person
     * @param references by the placements' paths, relative to the scene
     */
    Replaced replace(String name, Map<SdfPath, Reference> references) {
        for (SdfPath path : references.keySet()) {
            if (!own(path).metadata().containsKey("references")) {
                throw new SceneException(scene.file(), "<" + path + "> shows no other file that could be replaced");
            }
        }
        List<String> dropped = new ArrayList<>();
        scene.editor()
                .changeAll(
                        name,
                        edits -> references.forEach((path, reference) -> {
                            edits.change(path, spec -> {
                                Referring.forget(spec);
                                BorrowedMotions.replaceShown(spec, reference);
                                if (reference.prim().isEmpty()
                                        && !reference.asset().isEmpty()) {
                                    spec.setTypeName(Referring.typeFor(
                                            scene.layers(), scene.folder().resolve(reference.asset())));
                                }
                            });
                            dropped.addAll(dropChoices(edits, path));
                            new PlacedMotions(scene)
                                    .dropLost(edits, path)
                                    .ifPresent(motion -> dropped.add(path + ": motion " + motion));
                        }));
        List<SdfPath> lost = new ArrayList<>();
        references.keySet().forEach(path -> lost.addAll(lost(path)));
        return new Replaced(lost, dropped);
    }

    /** Takes choices of variants away that what is shown now does not offer; what came of nothing would be kept for ever. */
    private static List<String> dropChoices(Transaction edits, SdfPath path) {
        Map<String, Set<String>> offered =
                edits.stage().prim(path).map(Prim::variantSets).orElse(Map.of());
        List<String> dropped = new ArrayList<>();
        edits.change(path, spec -> {
            if (spec.metadata().get("variants") instanceof Value.Selections(Map<String, String> chosen)) {
                Map<String, String> left = new LinkedHashMap<>(chosen);
                left.entrySet().removeIf(choice -> !offered.getOrDefault(choice.getKey(), Set.of())
                        .contains(choice.getValue()));
                chosen.forEach((set, variant) -> {
                    if (!left.containsKey(set)) {
                        dropped.add(path + ": " + set + " " + variant);
                    }
                });
                if (left.isEmpty()) {
                    spec.metadata().remove("variants");
                } else {
                    spec.metadata().put("variants", new Value.Selections(left));
                }
            }
        });
        return dropped;
    }

    /** The prims within a placement of which the scene says something, and which are not there. */
    public List<SdfPath> lost(SdfPath path) {
        List<SdfPath> lost = new ArrayList<>();
        collectLost(path, own(path), lost);
        return lost;
    }

    private void collectLost(SdfPath at, PrimSpec prim, List<SdfPath> lost) {
        for (PrimSpec child : prim.children()) {
            SdfPath path = at.child(child.name());
            boolean over = child.specifier() == Specifier.OVER;
            if (over && scene.stage().prim(path).filter(Prim::isDefined).isEmpty()) {
                lost.add(path);
            } else {
                collectLost(path, child, lost);
            }
        }
    }

    private PrimSpec own(SdfPath path) {
        return scene.spec(path)
                .orElseThrow(() -> new SceneException(scene.file(), "there is no <" + path + "> of the scene's own"));
    }

    /**
     * Those of some objects that none of the others holds, in their order.
     *
     * @throws SceneException where one is not of the scene's own
     */
    public List<SdfPath> outermost(Collection<SdfPath> paths) {
        paths.forEach(this::own);
        return SceneLayer.outermost(paths);
    }

    /**
     * Removes prims with all below them.
     *
     * @throws SceneException where the scene's root is among them
     */
    public void remove(Collection<SdfPath> paths) {
        List<SdfPath> outermost = SceneLayer.outermost(paths);
        if (outermost.contains(scene.root())) {
            throw new SceneException(scene.file(), "the scene's root cannot be removed");
        }
        scene.editor().changeAll("removed " + SceneLayer.named(outermost), edits -> edits.removeAll(outermost));
    }

    /** One more use of each placement, beside it in the tree; returns the new paths. */
    public List<SdfPath> duplicate(Collection<SdfPath> paths, Vec3 offset) {
        return scene.editor().change("duplicated " + SceneLayer.named(paths), edits -> {
            Map<SdfPath, ChildNames> names = new HashMap<>();
            Map<SdfPath, SdfPath> sources = new LinkedHashMap<>();
            for (SdfPath path : paths) {
                if (scene.spec(path).isEmpty()) {
                    throw new SceneException(scene.file(), "there is no <" + path + "> to duplicate");
                }
                String name = names.computeIfAbsent(path.parent(), parent -> ChildNames.below(edits, parent))
                        .take(path.name().replaceAll("_\\d+$", ""));
                sources.put(path.parent().child(name), path);
            }
            edits.copyAll(sources);
            sources.keySet()
                    .forEach(copy -> edits.change(copy, prim -> {
                        if (TransformComponents.isUsual(prim)) {
                            TransformComponents placing = TransformComponents.read(prim);
                            placing.withMove(placing.move().plus(offset)).write(prim);
                        }
                    }));
            return List.copyOf(sources.keySet());
        });
    }
}
