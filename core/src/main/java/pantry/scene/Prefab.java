package pantry.scene;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Predicate;
import pantry.base.AtomicFiles;
import pantry.base.CopiedFiles;
import pantry.base.ImageTiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Card;
import pantry.library.Identity;
import pantry.library.Library;
import pantry.library.NameClaim;
import pantry.library.Owner;
import pantry.library.Published;
import pantry.library.Shelf;
import pantry.library.Uses;
import pantry.library.VersionContents;
import pantry.library.VersionStatus;
import pantry.model.Facts;
import pantry.model.Model;
import pantry.render.ColourNames;
import pantry.render.RenderCache;
import pantry.render.Thumbnails;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Population;
import pantry.usd.compose.Stage;
import pantry.usd.edit.StageEditor;
import pantry.usd.edit.Transaction;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.TransformComponents;

/**
 * Chosen objects of a scene as an asset of a library: they stand to each other as they do in the scene, and what they
 * are placements of stays where it is, used through small layers (see {@link Uses}). Held by the middle of its base.
 */
public final class Prefab {
    private final Scene scene;
    private final LayerCache layers;
    private int dropped;
    private final List<SdfPath> chosen;

    /** Shared contents and materials that go along because what was chosen needs them. */
    private final Set<SdfPath> shared;

    private final Library library;
    private final RenderCache cache;

    /**
     * @param chosen objects of the scene's own layer; all of it where its root is among them
     * @throws SceneException where nothing is chosen
     */
    public Prefab(Scene scene, LayerCache layers, List<SdfPath> chosen, Library library, RenderCache cache) {
        if (chosen.isEmpty()) {
            throw new SceneException(scene.file(), "nothing is chosen to make an asset of");
        }
        this.scene = scene;
        this.layers = layers;
        this.chosen = List.copyOf(chosen);
        Set<SdfPath> needed = new LinkedHashSet<>(Instancing.needed(scene.layer(), chosen));
        Set<SdfPath> bound = new LinkedHashSet<>(chosen);
        bound.addAll(needed);
        Materials.needed(scene.layer(), bound).stream()
                .filter(material -> !material.startsWithAny(bound))
                .forEach(needed::add);
        this.shared = needed;
        this.library = library;
        this.cache = cache;
    }

    /** Puts the objects on a shelf, as a new asset. */
    public Published shelve(String title, AssetKind kind, String shelf, List<String> tags, Progress progress) {
        String shelfPath = Shelf.path(shelf);
        NameClaim claim = library.claimName(shelfPath, Names.title(title));
        try {
            String id = UUID.randomUUID().toString();
            Card card = Card.fresh(id, claim.name(), kind).withTags(tags).withSource(source());
            return library.shelve(
                    card,
                    shelfPath,
                    contents(claim.name(), id, slug -> library.shelfFolder(shelfPath)
                            .resolve(slug)),
                    new Identity(id, claim.name()).labels(source()),
                    progress);
        } finally {
            library.release(claim);
        }
    }

    /** Publishes the objects as an asset's next version. */
    public Published publish(Asset asset, VersionStatus status, String note, Progress progress) {
        String name = asset.card().name();
        String id = asset.card().id();
        requireOthers(asset);
        return library.publish(
                asset,
                status,
                contents(name, id, slug -> asset.folder()),
                Library.noted(note, Identity.of(asset).labels(source())),
                progress);
    }

    /** What is placed may not show the asset that it is to become, directly or through others. */
    private void requireOthers(Asset asset) {
        for (Placement placement : scene.placements().all()) {
            if (!isKept(placement.path())
                    || placement.held() == Placement.Held.MISSING
                    || placement.held() == Placement.Held.REFUSED) {
                continue;
            }
            Stage shown = Stage.open(layers.open(placement.layer()), layers);
            // Which layers are used is known of what is composed.
            shown.forEachPrim(prim -> {});
            boolean itself = shown.usedLayers().stream()
                    .flatMap(layer -> layer.file().stream())
                    .anyMatch(file -> file.startsWith(asset.folder()));
            if (itself) {
                throw new SceneException(
                        scene.file(),
                        "<" + placement.path() + "> shows \"" + asset.card().name()
                                + "\", which cannot be put into itself");
            }
        }
    }

    /** Tells where an asset's folder will stand, by its name. */
    private interface Standing {
        Path folder(String slug);
    }

    private VersionContents contents(String name, String id, Standing standing) {
        Model model = model(name);
        Layer objects = objects(Names.identifier(name), base(model));
        return (data, slug, version) -> {
            Path folder = standing.folder(slug);
            Path building = Uses.building(folder, data);
            new Identity(id, name).write(objects.rootPrims().iterator().next(), version);
            Path entry = data.resolve(slug + ".usda");
            Layer layer =
                    LayerAssets.renamed(objects, AssetLocation.of(entry), path -> named(path, data, folder, building));
            LayerFiles.write(layer, entry);
            Model held = model.moved(Matrix4.translation(base(model).times(-1)));
            var picture = Thumbnails.picture(held, cache, Thumbnails.SIZE);
            AtomicFiles.write(data.resolve("preview.png"), Png.of(picture));
            Facts facts = Facts.of(slug + ".usda", held, 1, "Y").seen(Map.of(), ColourNames.of(picture));
            AtomicFiles.write(data.resolve("facts.json"), Json.write(facts));
        };
    }

    private String named(String path, Path data, Path folder, Path building) {
        if (LayerFiles.isLayer(path)) {
            return used(path, folder, building);
        }
        if (!ImageTiles.isTiled(path)) {
            return image(path, data);
        }
        Map<String, String> tiles = new LinkedHashMap<>();
        for (String tile : ImageTiles.each(path)) {
            if (Files.exists(scene.own().place(tile).file())) {
                tiles.put(tile, image(tile, data));
            }
        }
        return ImageTiles.renamed(path, tiles::get).orElseGet(() -> image(path, data));
    }

    /** The path of an image of the scene's materials, which is copied into the version. */
    private String image(String path, Path data) {
        Path file = scene.own().place(path).file();
        Path image = scene.stage()
                .gate()
                .admitImage(file, path, scene.file())
                .orElseThrow(() -> new SceneException(
                        scene.file(),
                        "names the image " + path + ", which is not there or may not be read; find it first"));
        try {
            Path copy = CopiedFiles.into(
                    data.resolve("textures"), image, image.getFileName().toString());
            return AssetPaths.relative(data, copy);
        } catch (IOException e) {
            throw new SceneException(image, "cannot be copied into the asset: " + IoProblems.describe(e));
        }
    }

    /** The reference by which a sealed layer uses what the scene referenced. */
    private String used(String path, Path folder, Path building) {
        Path file = layers.resolve(scene.layer(), path).file();
        Owner owner = library.owner(file)
                .orElseThrow(() -> new SceneException(
                        scene.file(),
                        "refers to " + path + ", which is no asset of "
                                + library.info().name() + "; shelve it first"));
        try {
            return Uses.link(folder, building, owner.asset(), owner.version());
        } catch (IOException e) {
            throw new SceneException(building, "the layers of what is used cannot be written: " + e.getMessage());
        }
    }

    private boolean isChosen(SdfPath path) {
        return chosen.stream().anyMatch(path::startsWith);
    }

    private boolean holdsChosen(SdfPath path) {
        return chosen.stream().anyMatch(each -> each.startsWith(path));
    }

    /** Whether something goes along: what was chosen, what that refers to, and what holds these. */
    private boolean isKept(SdfPath path) {
        return isChosen(path)
                || holdsChosen(path)
                || shared.stream().anyMatch(each -> path.startsWith(each) || each.startsWith(path));
    }

    /** The chosen objects where they stand in the scene. */
    private Model model(String name) {
        Model whole = scene.model();
        Predicate<Model.Node> unwanted = node -> {
            SdfPath path = SdfPath.of(node.path());
            return !isChosen(path) && !holdsChosen(path);
        };
        List<Model.Node> nodes = new ArrayList<>();
        for (Model.Node root : whole.without(unwanted).roots()) {
            nodes.add(new Model.Node(
                    root.name(), root.path(), root.local(), root.parts(), root.children(), root.shared()));
        }
        return new Model(name, nodes, isChosen(scene.root()) ? whole.extras() : Model.Extras.NONE);
    }

    /** The middle of the base. */
    private static Vec3 base(Model model) {
        Box3 box = model.bounds();
        return box.isEmpty()
                ? Vec3.ZERO
                : new Vec3(box.centre().x(), box.min().y(), box.centre().z());
    }

    /** Where the new asset's origin stands in the scene: the middle of the base of what is chosen, where that could be. */
    public Vec3 origin() {
        boolean shifted = scene.layer().prim(scene.root()).orElseThrow().children().stream()
                .filter(child -> {
                    SdfPath path = scene.root().child(child.name());
                    return stands(child) && (isChosen(path) || holdsChosen(path));
                })
                .allMatch(TransformComponents::isUsual);
        return shifted ? base(model("origin")) : Vec3.ZERO;
    }

    /** The scene's own layer with the chosen objects alone, under a root of another name. */
    private Layer objects(String rootName, Vec3 base) {
        Layer source = scene.layer();
        if (source.number("metersPerUnit").orElse(0.01) != 1
                || source.text("upAxis").filter("Z"::equals).isPresent()) {
            throw new SceneException(scene.file(), "is not in metres with Y up; an asset's scene must be");
        }
        Layer copy = LayerAssets.copied(source, AssetLocation.of(scene.file()));
        SdfPath root = scene.root();
        StageEditor editor = StageEditor.of(copy, layers, Population.ALL);
        editor.changeAll("taking out what is chosen", edits -> {
            removeOthers(edits, copy, root);
            shift(edits, copy, root, base);
            if (!root.name().equals(rootName)) {
                edits.rename(root, rootName);
            }
        });
        Layer objects = Layer.inMetres(scene.file(), rootName);
        PrimSpec prim = copy.root().child(rootName).orElseThrow();
        prim.metadata().put("kind", new Value.Token("assembly"));
        dropMemberships(prim, copy);
        requireWhole(prim, SdfPath.ROOT.child(rootName), copy);
        objects.root().add(prim);
        return objects;
    }

    private void removeOthers(Transaction edits, Layer layer, SdfPath path) {
        if (isChosen(path)) {
            return;
        }
        for (PrimSpec child : List.copyOf(layer.prim(path).orElseThrow().children())) {
            SdfPath below = path.child(child.name());
            if (shared.contains(below)) {
                continue;
            }
            if (isKept(below)) {
                removeOthers(edits, layer, below);
            } else {
                edits.remove(below);
            }
        }
    }

    /** Moves what stands under the root, where all of that is placed in the usual way. */
    private static void shift(Transaction edits, Layer layer, SdfPath root, Vec3 base) {
        List<PrimSpec> children = layer.prim(root).orElseThrow().children().stream()
                .filter(Prefab::stands)
                .toList();
        if (!children.stream().allMatch(TransformComponents::isUsual)) {
            return;
        }
        for (PrimSpec child : children) {
            edits.change(root.child(child.name()), prim -> {
                TransformComponents placing = TransformComponents.read(prim);
                placing.withMove(placing.move().minus(base)).write(prim);
            });
        }
    }

    /** Whether a prim has a place: shared contents, scopes and materials have none. */
    private static boolean stands(PrimSpec prim) {
        return prim.specifier() != Specifier.CLASS
                && !prim.typeName().equals("Scope")
                && !prim.typeName().equals("Material");
    }

    /** Drawers and other collections keep those of their members that come along; one that has none left is dropped. */
    private void dropMemberships(PrimSpec prim, Layer layer) {
        for (PropertySpec property : List.copyOf(prim.properties())) {
            String name = property.name();
            boolean members =
                    name.startsWith("collection:") && (name.endsWith(":includes") || name.endsWith(":excludes"));
            if (!members || !(property instanceof RelationshipSpec relationship)) {
                continue;
            }
            List<SdfPath> all = relationship.targets().applyTo(List.of());
            List<SdfPath> kept = all.stream()
                    .filter(target -> layer.prim(target.isProperty() ? target.parent() : target)
                                    .isPresent()
                            || referenced(target, layer))
                    .toList();
            dropped += all.size() - kept.size();
            if (kept.isEmpty() && name.endsWith(":includes")) {
                removeCollection(prim, name.substring("collection:".length(), name.lastIndexOf(':')));
            } else if (kept.size() < all.size()) {
                prim.put(relationship.copyAs(name).setTargets(ListEdit.explicit(kept)));
            }
        }
    }

    private static void removeCollection(PrimSpec prim, String collection) {
        for (String property : List.copyOf(prim.propertyNames())) {
            if (property.startsWith("collection:" + collection + ":")) {
                prim.removeProperty(property);
            }
        }
        prim.applyApiSchema("CollectionAPI:" + collection, false);
    }

    /** How many members of drawers were left out, since they do not come along. */
    public int droppedMemberships() {
        return dropped;
    }

    /** What is bound to something that was left out would fall apart. */
    private void requireWhole(PrimSpec prim, SdfPath path, Layer layer) {
        for (PropertySpec property : prim.properties()) {
            if (property instanceof RelationshipSpec relationship) {
                for (SdfPath target : relationship.targets().applyTo(List.of())) {
                    if (layer.prim(target.isProperty() ? target.parent() : target)
                                    .isEmpty()
                            && !referenced(target, layer)) {
                        throw new SceneException(
                                scene.file(),
                                "<" + path + "> needs <" + target + "> (" + property.name()
                                        + "), which is not chosen; choose it too");
                    }
                }
            }
        }
        prim.children().forEach(child -> requireWhole(child, path.child(child.name()), layer));
    }

    /** Whether a path leads into something that is referenced, where the layer itself says nothing. */
    private static boolean referenced(SdfPath path, Layer layer) {
        for (SdfPath at = path; !at.equals(SdfPath.ROOT); at = at.parent()) {
            Optional<PrimSpec> spec = layer.prim(at);
            if (spec.isPresent() && spec.get().metadata().containsKey("references")) {
                return true;
            }
        }
        return false;
    }

    private String source() {
        return scene.file().getFileName().toString();
    }
}
