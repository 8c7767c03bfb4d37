package pantry.scene;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.Names;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.TransformComponents;

/**
 * Alternates: sets of which one is switched in at a time, such as layouts, lightings, seasons; variant sets of the
 * scene's root. What belongs to an alternate is there only while it is switched in.
 */
public final class Alternates {
    private final SceneLayer scene;

    Alternates(SceneLayer scene) {
        this.scene = scene;
    }

    /**
     * A set of alternates.
     *
     * @param chosen the one that is switched in; empty where none is
     */
    public record Set(String name, List<String> alternates, String chosen) {
        public Set {
            alternates = List.copyOf(alternates);
        }
    }

    /** All sets, in their order. */
    public List<Set> all() {
        PrimSpec root = root();
        List<Set> sets = new ArrayList<>();
        root.variantSets()
                .forEach((name, variants) -> sets.add(new Set(
                        name,
                        List.copyOf(variants.keySet()),
                        scene.stage()
                                .prim(scene.root())
                                .flatMap(prim -> prim.variantSelection(name))
                                .orElse(""))));
        return sets;
    }

    private PrimSpec root() {
        return scene.layer().prim(scene.root()).orElseThrow();
    }

    /**
     * Makes an empty alternate and switches it in; its set is made where there is none.
     *
     * @throws SceneException where there is an alternate of that name already
     */
    public void add(String set, String alternate) {
        String setName = identifier(set);
        String name = identifier(alternate);
        if (root().variantSets().getOrDefault(setName, Map.of()).containsKey(name)) {
            throw new SceneException(scene.file(), setName + " has an alternate \"" + name + "\" already");
        }
        scene.editor().changeAll("new alternate " + name + " of " + setName, edits -> {
            edits.addVariant(scene.root(), setName, name);
            edits.select(scene.root(), setName, name);
        });
    }

    private static String identifier(String name) {
        if (name.isBlank()) {
            throw new SceneException("an alternate and its set need names");
        }
        return Names.identifier(name);
    }

    /** Switches an alternate in; the others of its set are switched out. */
    public void choose(String set, String alternate) {
        require(set, alternate);
        scene.editor().changeAll("switched to " + alternate, edits -> edits.select(scene.root(), set, alternate));
    }

    private void require(String set, String alternate) {
        if (!root().variantSets().getOrDefault(set, Map.of()).containsKey(alternate)) {
            throw new SceneException(scene.file(), "there is no alternate \"" + alternate + "\" of " + set);
        }
    }

    /**
     * Lets objects of the scene belong to an alternate, so that they are there only while it is switched in.
     *
     * @throws SceneException where one is not of the scene's own, or belongs to an alternate already
     */
    public void keep(String set, String alternate, Collection<SdfPath> paths) {
        require(set, alternate);
        for (SdfPath path : paths) {
            if (scene.layer().prim(path).isEmpty() || !path.startsWith(scene.root()) || path.equals(scene.root())) {
                throw new SceneException(
                        scene.file(), "<" + path + "> is not of the scene's own, or belongs to an alternate already");
            }
        }
        scene.editor()
                .changeAll(
                        "put " + SceneLayer.named(paths) + " into " + alternate,
                        edits -> keep(edits, set, alternate, paths));
    }

    /** As above, as a part of another change. */
    void keep(Transaction edits, String set, String alternate, Collection<SdfPath> paths) {
        Map<SdfPath, PrimSpec> specs = new LinkedHashMap<>();
        paths.forEach(
                path -> specs.put(path, scene.layer().prim(path).orElseThrow().copy()));
        paths.forEach(edits::clearPrim);
        put(edits, set, alternate, specs);
    }

    /**
     * Lets an alternate show another file, which other scenes may use too.
     *
     * @return the path of what shows it
     */
    public SdfPath refer(String set, String alternate, String name, Path other) {
        require(set, alternate);
        PrimSpec prim = new Placements(scene).referring(other, Optional.empty(), name, TransformComponents.ORIGIN);
        return scene.editor().change("put " + name + " into " + alternate, edits -> {
            SdfPath path = scene.root().child(ChildNames.free(edits, scene.root(), name));
            put(edits, set, alternate, Map.of(path, prim.copyAs(path.name())));
            return path;
        });
    }

    private void put(Transaction edits, String set, String alternate, Map<SdfPath, PrimSpec> specs) {
        edits.replace(scene.root(), root -> {
            specs.forEach((path, spec) -> {
                PrimSpec parent = root.variant(set, alternate).contents();
                List<String> names = path.names();
                for (String name : names.subList(scene.root().depth(), names.size() - 1)) {
                    PrimSpec above = parent;
                    parent = above.child(name).orElseGet(() -> above.add(new PrimSpec(Specifier.OVER, "", name)));
                }
                parent.add(spec);
            });
            return root;
        });
    }

    /** Removes an alternate with all that belongs to it alone. */
    public void remove(String set, String alternate) {
        require(set, alternate);
        scene.editor()
                .changeAll(
                        "removed the alternate " + alternate,
                        edits -> edits.replace(scene.root(), root -> {
                            Map<String, ?> variants = root.variantSets().getOrDefault(set, new LinkedHashMap<>());
                            variants.remove(alternate);
                            if (variants.isEmpty()) {
                                root.variantSets().remove(set);
                            }
                            if (root.metadata().get("variants") instanceof Value.Selections(Map<String, String> chosen)
                                    && alternate.equals(chosen.get(set))) {
                                Map<String, String> others = new LinkedHashMap<>(chosen);
                                others.remove(set);
                                root.metadata().put("variants", new Value.Selections(others));
                            }
                            return root;
                        }));
    }

    /** Every combination: one alternate of each set. One empty combination where there is no set. */
    public List<Map<String, String>> combinations() {
        List<Map<String, String>> all = new ArrayList<>(List.of(Map.of()));
        for (Set set : all()) {
            List<Map<String, String>> longer = new ArrayList<>();
            for (Map<String, String> before : all) {
                for (String alternate : set.alternates()) {
                    Map<String, String> with = new LinkedHashMap<>(before);
                    with.put(set.name(), alternate);
                    longer.add(with);
                }
            }
            all = longer;
        }
        return all;
    }
}
