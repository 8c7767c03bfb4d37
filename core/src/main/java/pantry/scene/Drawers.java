package pantry.scene;

import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import pantry.base.Names;
import pantry.usd.PrimSpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.Membership;

/**
 * Drawers: named sets of objects, as collections of the scene's root (UsdCollectionAPI). An object may be in several.
 */
public final class Drawers {
    private static final String SCHEMA = "CollectionAPI:";
    private static final String KEPT = "pantryDrawers";

    private final SceneLayer scene;

    Drawers(SceneLayer scene) {
        this.scene = scene;
    }

    /**
     * One drawer.
     *
     * @param members the objects that were put in, in their order
     */
    public record Drawer(String name, List<SdfPath> members) {
        public Drawer {
            members = List.copyOf(members);
        }
    }

    /**
     * How a drawer is while one works; nothing of what other programs see depends on it.
     *
     * @param hidden whether its objects are not shown
     * @param locked whether its objects cannot be chosen in the view or moved
     * @param unloaded whether nothing of what its placements refer to is read
     */
    public record State(boolean hidden, boolean locked, boolean unloaded) {
        public static final State OPEN = new State(false, false, false);
    }

    /** What the file keeps of drawers' states, by their names. */
    private record States(Map<String, State> byName) {
        States {
            byName = Map.copyOf(byName);
        }
    }

    private States states() {
        return scene.layer()
                .prim(scene.root())
                .flatMap(root -> CustomData.read(root, KEPT, States.class))
                .orElse(new States(Map.of()));
    }

    public State state(String name) {
        return states().byName().getOrDefault(name, State.OPEN);
    }

    /**
     * The drawer of a name.
     *
     * @throws SceneException where there is none
     */
    public Drawer drawer(String name) {
        return all().stream()
                .filter(drawer -> drawer.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new SceneException(scene.file(), "there is no drawer \"" + name + "\""));
    }

    /**
     * Shows, hides, locks or unloads what is in a drawer.
     *
     * @throws SceneException where there is no such drawer
     */
    public void set(String name, State state) {
        drawer(name);
        Map<String, State> states = new TreeMap<>(states().byName());
        states.put(name, state);
        states.values().removeIf(State.OPEN::equals);
        scene.editor()
                .changeAll(
                        "set the drawer " + name,
                        edits -> edits.change(
                                scene.root(),
                                root -> CustomData.write(root, KEPT, states.isEmpty() ? null : new States(states))));
    }

    /** The objects of all drawers of which something holds. */
    public Set<SdfPath> in(Predicate<State> which) {
        Set<SdfPath> members = new LinkedHashSet<>();
        States states = states();
        if (!states.byName().isEmpty()) {
            for (Drawer drawer : all()) {
                if (which.test(states.byName().getOrDefault(drawer.name(), State.OPEN))) {
                    members.addAll(drawer.members());
                }
            }
        }
        return members;
    }

    /** The objects of some drawers, by their names; those that are not there have none. */
    public Set<SdfPath> members(Set<String> names) {
        Set<SdfPath> members = new LinkedHashSet<>();
        if (!names.isEmpty()) {
            all().stream()
                    .filter(drawer -> names.contains(drawer.name()))
                    .forEach(drawer -> members.addAll(drawer.members()));
        }
        return members;
    }

    /** All drawers, by name. */
    public List<Drawer> all() {
        Prim root = scene.stage().prim(scene.root()).orElseThrow();
        return Membership.names(root).stream()
                .map(name -> new Drawer(name, root.targets("collection:" + name + ":includes")))
                .toList();
    }

    /** Puts objects into a drawer, which is made where there is none. */
    public void put(String name, Collection<SdfPath> paths) {
        scene.editor()
                .changeAll(
                        "put " + SceneLayer.named(paths) + " into " + name,
                        edits -> add(edits, scene.root(), name, paths));
    }

    static void add(Transaction edits, SdfPath root, String name, Collection<SdfPath> paths) {
        String drawer = identifier(name);
        edits.change(root, prim -> {
            Set<SdfPath> members = new LinkedHashSet<>(members(prim, drawer));
            members.addAll(paths);
            write(prim, drawer, members);
        });
    }

    static void clear(Transaction edits, SdfPath root, String name) {
        edits.change(root, prim -> clear(prim, name));
    }

    /** Takes objects out of a drawer; one that is empty is removed. */
    public void take(String name, Collection<SdfPath> paths) {
        scene.editor()
                .changeAll(
                        "took " + SceneLayer.named(paths) + " out of " + name,
                        edits -> edits.change(scene.root(), prim -> {
                            Set<SdfPath> members = new LinkedHashSet<>(members(prim, name));
                            members.removeAll(Set.copyOf(paths));
                            if (members.isEmpty()) {
                                clear(prim, name);
                            } else {
                                write(prim, name, members);
                            }
                        }));
    }

    /** Removes a drawer; what was in it stays. */
    public void remove(String name) {
        scene.editor()
                .changeAll(
                        "removed the drawer " + name, edits -> edits.change(scene.root(), prim -> clear(prim, name)));
    }

    private static String identifier(String name) {
        if (name.isBlank()) {
            throw new SceneException("a drawer needs a name");
        }
        return Names.identifier(name);
    }

    private static List<SdfPath> members(PrimSpec prim, String name) {
        return prim.property("collection:" + name + ":includes")
                .filter(RelationshipSpec.class::isInstance)
                .map(property -> ((RelationshipSpec) property).targets().applyTo(List.of()))
                .orElse(List.of());
    }

    private static void write(PrimSpec prim, String name, Set<SdfPath> members) {
        prim.applyApiSchema(SCHEMA + name, true);
        prim.set("token", "collection:" + name + ":expansionRule", new Value.Token("expandPrims"))
                .setUniform(true);
        prim.relate("collection:" + name + ":includes", members.toArray(SdfPath[]::new));
    }

    private static void clear(PrimSpec prim, String name) {
        prim.applyApiSchema(SCHEMA + name, false);
        for (String property : List.copyOf(prim.propertyNames())) {
            if (property.startsWith("collection:" + name + ":")) {
                prim.removeProperty(property);
            }
        }
    }
}
