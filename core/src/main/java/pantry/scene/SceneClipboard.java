package pantry.scene;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import pantry.base.math.Matrix4;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.edit.PathRemapping;
import pantry.usd.edit.Transaction;
import pantry.usd.file.LayerAssets;
import pantry.usd.schema.Xforms;

/**
 * Objects of a scene that were copied to be pasted, here or in another scene: as they are said there, so references stay
 * references; with the materials and other objects of the scene's own that they speak of.
 */
public final class SceneClipboard {
    private final Layer layer;
    private final SdfPath root;
    private final List<SdfPath> objects;
    private final List<SdfPath> needs;
    private final Map<SdfPath, Matrix4> worlds;

    private SceneClipboard(
            Layer layer, SdfPath root, List<SdfPath> objects, List<SdfPath> needs, Map<SdfPath, Matrix4> worlds) {
        this.layer = layer;
        this.root = root;
        this.objects = objects;
        this.needs = needs;
        this.worlds = worlds;
    }

    /**
     * Takes objects as they are now; the scene may change or be closed afterwards.
     *
     * @throws SceneException where one is not of the scene's own, or is its root
     */
    public static SceneClipboard of(Scene scene, Collection<SdfPath> paths) {
        Layer copy = LayerAssets.copied(scene.layer(), AssetLocation.of(scene.file()));
        List<SdfPath> objects = scene.structure().outermost(paths);
        if (objects.isEmpty() || objects.contains(scene.root())) {
            throw new SceneException(scene.file(), "choose objects below the scene's root to copy");
        }
        objects.forEach(path -> lift(scene, copy, path));
        Set<SdfPath> there = new LinkedHashSet<>(objects);
        List<SdfPath> needs = new ArrayList<>();
        objects.forEach(path -> collect(copy, scene.root(), there, needs, path));
        Map<SdfPath, Matrix4> worlds = new LinkedHashMap<>();
        for (SdfPath path : objects) {
            Prim prim = scene.stage().prim(path).orElseThrow();
            worlds.put(path, Xforms.world(prim).times(scene.toMetres()));
        }
        return new SceneClipboard(copy, scene.root(), objects, needs, worlds);
    }

    /** What an alternate brings stands by itself in the copy. */
    private static void lift(Scene scene, Layer copy, SdfPath path) {
        if (copy.prim(path).isEmpty()) {
            PrimSpec above = copy.root();
            for (String name : path.parent().names()) {
                PrimSpec parent = above;
                above = parent.child(name).orElseGet(() -> parent.add(new PrimSpec(Specifier.OVER, "", name)));
            }
            above.add(scene.spec(path).orElseThrow().copy());
        }
    }

    /** @param there what is copied by now */
    private static void collect(Layer layer, SdfPath root, Set<SdfPath> there, List<SdfPath> needs, SdfPath path) {
        speaksOf(layer.prim(path).orElseThrow(), target -> {
            boolean own = target.startsWithAny(there)
                    || target.equals(root)
                    || layer.prim(target.prim()).isEmpty();
            if (!own) {
                there.add(target.prim());
                needs.add(target.prim());
                collect(layer, root, there, needs, target.prim());
            }
        });
    }

    private static void speaksOf(PrimSpec prim, Consumer<SdfPath> found) {
        for (PropertySpec property : prim.properties()) {
            switch (property) {
                case RelationshipSpec relationship ->
                    relationship.targets().applyTo(List.of()).forEach(found);
                case AttributeSpec attribute ->
                    attribute.connections().applyTo(List.of()).forEach(found);
            }
        }
        if (prim.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
            edit.applyTo(List.of()).stream()
                    .filter(Reference::isInternal)
                    .flatMap(reference -> reference.prim().stream())
                    .forEach(found);
        }
        prim.children().forEach(child -> speaksOf(child, found));
    }

    /** How many objects were copied. */
    public int count() {
        return objects.size();
    }

    /** What comes along because the objects speak of it. */
    public List<SdfPath> needs() {
        return List.copyOf(needs);
    }

    /**
     * Puts the objects into a scene, where they stood in the world.
     *
     * @param under an existing prim; the scene's root where empty
     * @return the new objects
     * @throws SceneException where there is nothing to paste under
     */
    public List<SdfPath> paste(Scene scene, Optional<SdfPath> under) {
        SdfPath parent = under.orElseGet(scene::root);
        if (scene.layer().prim(parent).isEmpty()) {
            throw new SceneException(scene.file(), "there is no <" + parent + "> to paste anything under");
        }
        Path home = Optional.ofNullable(scene.file().getParent()).orElseThrow();
        Layer here = LayerAssets.renamed(
                layer,
                AssetLocation.of(scene.file()),
                path -> AssetPaths.relative(home, AssetPaths.PLAIN.resolve(layer, path)));
        return scene.own().editor().change("pasted " + SceneLayer.named(objects), edits -> {
            Map<SdfPath, SdfPath> moved = new LinkedHashMap<>();
            Map<SdfPath, ChildNames> names = new HashMap<>();
            for (SdfPath need : needs) {
                moved.put(need, placeOf(scene, edits, here, need, names));
            }
            for (SdfPath path : objects) {
                moved.put(path, free(edits, parent, path.name(), names));
            }
            UnaryOperator<SdfPath> mapping =
                    path -> PathRemapping.moved(path, moved).orElse(path);
            for (SdfPath need : needs) {
                add(edits, here, need, moved.get(need), mapping);
            }
            edits.addAll(
                    parent,
                    objects.stream()
                            .map(path -> copy(here, path, moved.get(path), mapping))
                            .toList());
            Matrix4 space = scene.toMetres()
                    .inverse()
                    .times(edits.stage()
                            .prim(parent)
                            .map(Xforms::world)
                            .orElse(Matrix4.IDENTITY)
                            .inverse());
            Map<SdfPath, Matrix4> before = new LinkedHashMap<>();
            for (SdfPath path : objects) {
                SdfPath to = moved.get(path);
                before.put(to, edits.stage().prim(to).map(Xforms::local).orElse(Matrix4.IDENTITY));
            }
            for (SdfPath path : objects) {
                SdfPath to = moved.get(path);
                Matrix4 local = worlds.get(path).times(space);
                edits.change(to, prim -> TransformOps.write(prim, before.get(to), local));
            }
            return List.copyOf(before.keySet());
        });
    }

    private static SdfPath free(Transaction edits, SdfPath parent, String name, Map<SdfPath, ChildNames> names) {
        return parent.child(names.computeIfAbsent(parent, key -> ChildNames.below(edits, key))
                .take(name));
    }

    /** Where something needed goes: what the scene has already, where it says the same; else below its root. */
    private SdfPath placeOf(Scene scene, Transaction edits, Layer here, SdfPath need, Map<SdfPath, ChildNames> names) {
        SdfPath same = need.startsWith(root) ? need.replacePrefix(root, scene.root()) : need;
        Optional<PrimSpec> there = scene.layer().prim(same);
        PrimSpec remapped = here.prim(need).orElseThrow().copy();
        PathRemapping.apply(remapped, path -> path.startsWith(root) ? path.replacePrefix(root, scene.root()) : path);
        if (there.filter(remapped::sameAs).isPresent()) {
            return same;
        }
        SdfPath scope = same.parent().depth() <= scene.root().depth()
                ? scene.root()
                : scene.root().child(same.parent().name());
        return free(edits, scope, need.name(), names);
    }

    private static void add(Transaction edits, Layer here, SdfPath from, SdfPath to, UnaryOperator<SdfPath> mapping) {
        if (edits.stage().prim(to).isPresent()) {
            return;
        }
        if (edits.stage().prim(to.parent()).isEmpty()) {
            PrimSpec scope = new PrimSpec(
                    here.prim(from.parent()).map(PrimSpec::specifier).orElse(Specifier.DEF),
                    "Scope",
                    to.parent().name());
            edits.add(to.parent().parent(), scope);
        }
        edits.add(to.parent(), copy(here, from, to, mapping));
    }

    private static PrimSpec copy(Layer here, SdfPath from, SdfPath to, UnaryOperator<SdfPath> mapping) {
        PrimSpec copy = here.prim(from).orElseThrow().copyAs(to.name());
        PathRemapping.apply(copy, mapping);
        return copy;
    }
}
