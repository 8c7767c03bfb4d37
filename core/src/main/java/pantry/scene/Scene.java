package pantry.scene;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.Axis;
import pantry.exchange.MeshCache;
import pantry.exchange.Model;
import pantry.exchange.UsdModelReader;
import pantry.exchange.Weight;
import pantry.library.Asset;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Population;
import pantry.usd.compose.Stage;
import pantry.usd.edit.StageEditor;
import pantry.usd.edit.Transaction;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.Placing;
import pantry.usd.schema.Xforms;

/**
 * An open scene. Every change has a name and can be undone and redone; whatever the file holds besides is kept. To be
 * used by one thread at a time.
 */
public final class Scene {
    private static final Pattern SEALED = Pattern.compile("^(.*)/(v\\d{3,})/data/[^/]+$");

    private final Path file;
    private final StageEditor editor;
    private final LayerCache layers;
    private final MeshCache meshes;

    private Scene(StageEditor editor, Path file, LayerCache layers, MeshCache meshes) {
        this.file = file;
        this.editor = editor;
        this.layers = layers;
        this.meshes = meshes;
    }

    /**
     * Makes an empty scene and writes it.
     *
     * @throws SceneException where the file exists already
     */
    public static Scene create(Path file, LayerCache layers, MeshCache meshes) {
        Path target = file.toAbsolutePath().normalize();
        if (Files.exists(target)) {
            throw new SceneException(target, "is already there; choose another name");
        }
        if (!target.getFileName().toString().endsWith(".usda")) {
            throw new SceneException(target, "a scene's name ends in .usda");
        }
        String root = Names.identifier(Names.stem(target.getFileName().toString()));
        Layer layer = Layer.inMetres(target, root);
        PrimSpec prim = layer.root().define("Xform", root);
        prim.metadata().put("kind", new Value.Token("assembly"));
        LayerFiles.write(layer, target);
        return open(target, layers, meshes);
    }

    /**
     * Opens a scene. What it refers to may be missing: that is shown, and kept.
     *
     * @throws UsdException where the file cannot be read
     */
    public static Scene open(Path file, LayerCache layers, MeshCache meshes) {
        Path source = file.toAbsolutePath().normalize();
        return new Scene(StageEditor.open(source, layers, Population.ALL), source, layers, meshes);
    }

    /** The scene as it is now, apart from what is done with this one from now on. */
    public Scene snapshot() {
        Layer copy = LayerAssets.renamed(layer(), AssetLocation.of(file), path -> path);
        return new Scene(StageEditor.of(copy, layers, Population.ALL), file, layers, meshes);
    }

    public Path file() {
        return file;
    }

    /** The scene's own layer; to be changed only through this class. */
    public Layer layer() {
        return editor.rootLayer();
    }

    /** The prim below which everything goes: the default prim, or else the first. */
    public SdfPath root() {
        return layer().defaultPrim()
                .filter(name -> layer().root().child(name).isPresent())
                .or(() -> layer().rootPrims().stream().findFirst().map(PrimSpec::name))
                .map(SdfPath.ROOT::child)
                .orElse(SdfPath.ROOT);
    }

    /** The scene composed with all it refers to. */
    public Stage stage() {
        return editor.stage();
    }

    /** Looks again at the files that the scene refers to. */
    public void reload() {
        editor.reload();
    }

    /** What the scene shows, in metres with Y up. */
    public Model model() {
        return model(path -> false);
    }

    /**
     * What is shown while working, in metres with Y up.
     *
     * @param light placements that are shown by their proxies, where they have one
     */
    public Model model(Predicate<SdfPath> light) {
        Model model = UsdModelReader.readForWork(stage(), meshes, light).model();
        return model.reframed(toMetres());
    }

    /**
     * What it weighs, with all files that it uses.
     *
     * @param model as {@link #model} gives it
     */
    public Weight weight(Model model) {
        Set<Path> files = new LinkedHashSet<>();
        files.add(file);
        stage().usedLayers().forEach(layer -> layer.file().ifPresent(files::add));
        return Weight.of(model, placements().size(), files);
    }

    /** The prims that refer to other files, in the order of the file. */
    public List<Placement> placements() {
        List<Placement> placements = new ArrayList<>();
        collect(layer().root(), SdfPath.ROOT, placements);
        return placements;
    }

    private void collect(PrimSpec parent, SdfPath path, List<Placement> found) {
        for (PrimSpec prim : parent.children()) {
            SdfPath at = path.child(prim.name());
            Optional<Reference> reference = reference(prim);
            if (reference.isPresent()) {
                found.add(placement(prim, at, reference.get()));
            } else {
                collect(prim, at, found);
            }
        }
    }

    private static Optional<Reference> reference(PrimSpec prim) {
        if (prim.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
            return edit.applyTo(List.of()).stream()
                    .filter(reference -> !reference.isInternal())
                    .findFirst();
        }
        return Optional.empty();
    }

    private Placement placement(PrimSpec prim, SdfPath path, Reference reference) {
        Path target = layers.resolve(layer(), reference.asset()).file();
        String slashed = target.toString().replace('\\', '/');
        Matcher sealed = SEALED.matcher(slashed);
        String version = sealed.matches() ? sealed.group(2) : "";
        Placement.Held held;
        if (!Files.exists(target)) {
            held = Placement.Held.MISSING;
        } else if (!version.isEmpty()) {
            held = Placement.Held.PINNED;
        } else if (slashed.endsWith("/ready.usda")) {
            held = Placement.Held.FOLLOWING;
        } else {
            held = Placement.Held.FILE;
        }
        return new Placement(path, held, target, version, Placing.read(prim));
    }

    public Optional<Placement> placement(SdfPath path) {
        return layer().prim(path).flatMap(prim -> reference(prim).map(r -> placement(prim, path, r)));
    }

    /**
     * Uses an asset: one more placement under a prim.
     *
     * @param version pinned to it; the ready version is followed where empty
     * @param name of the new prim; a number is put behind it where it is taken
     * @param under an existing prim; the scene's root where empty
     * @return the new prim's path
     */
    public SdfPath place(Asset asset, Optional<String> version, String name, Placing placing, Optional<SdfPath> under) {
        return placeLayer(layerOf(asset, version), name, placing, Matrix4.IDENTITY, under);
    }

    private Path layerOf(Asset asset, Optional<String> version) {
        Path target = version.map(asset::entryLayer).orElseGet(() -> {
            if (asset.ready().isEmpty()) {
                throw new SceneException(file, "\"" + asset.card().name() + "\" has no ready version to follow");
            }
            return asset.readyLayer();
        });
        if (version.isPresent() && !asset.versions().contains(version.get())) {
            throw new SceneException(file, "\"" + asset.card().name() + "\" has no version " + version.get());
        }
        return target;
    }

    /** Uses a layer that is not of a library; its unit and up axis are corrected by the placement's transform. */
    public SdfPath placeFile(Path other, String name, Placing placing, Optional<SdfPath> under) {
        Path target = other.toAbsolutePath().normalize();
        Layer foreign = layers.open(target);
        if (foreign.defaultPrim().isEmpty()) {
            throw new SceneException(target, "has no default prim, so that it cannot be referenced as a whole");
        }
        double unit = UsdModelReader.metresPerUnit(foreign);
        Axis up = UsdModelReader.upAxis(foreign);
        Matrix4 correction = up.toYUp().times(Matrix4.scale(new Vec3(unit, unit, unit)));
        return placeLayer(target, name, placing, correction, under);
    }

    private SdfPath placeLayer(Path target, String name, Placing placing, Matrix4 correction, Optional<SdfPath> under) {
        SdfPath parent = under.orElseGet(this::root);
        PrimSpec owner = layer().prim(parent)
                .orElseThrow(() -> new SceneException(file, "there is no <" + parent + "> to place anything under"));
        String free =
                Names.free(Names.identifier(name), taken -> owner.child(taken).isPresent());
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Xform", free);
        prim.setReferences(Reference.to(AssetPaths.relative(folder(), target)));
        prim.metadata().put("instanceable", new Value.Bool(true));
        placing.write(prim);
        if (!correction.equals(Matrix4.IDENTITY)) {
            Xforms.appendMatrix(prim, "unit", correction);
        }
        editor.changeAll("placed " + free, edits -> edits.add(parent, prim));
        return parent.child(free);
    }

    private Path folder() {
        return Optional.ofNullable(file.getParent()).orElseThrow();
    }

    /** Moves, turns and scales placements, all in one step. */
    public void move(Map<SdfPath, Placing> placings) {
        for (SdfPath path : placings.keySet()) {
            PrimSpec prim = layer().prim(path)
                    .orElseThrow(() -> new SceneException(file, "there is no <" + path + "> to move"));
            if (!Placing.isUsual(prim)) {
                throw new SceneException(
                        file, "<" + path + "> has a transform of another form, which this step would overwrite");
            }
        }
        editor.changeAll(
                "moved " + named(placings.keySet()),
                edits -> placings.forEach((path, placing) -> edits.change(path, placing::write)));
    }

    /** Removes prims with all below them. */
    public void remove(Collection<SdfPath> paths) {
        List<SdfPath> outermost = paths.stream()
                .filter(path -> paths.stream().noneMatch(other -> !other.equals(path) && path.startsWith(other)))
                .toList();
        if (outermost.contains(root())) {
            throw new SceneException(file, "the scene's root cannot be removed");
        }
        editor.changeAll("removed " + named(outermost), edits -> outermost.forEach(edits::remove));
    }

    /** One more use of each placement, beside it in the tree; returns the new paths. */
    public List<SdfPath> duplicate(Collection<SdfPath> paths, Vec3 offset) {
        return editor.change("duplicated " + named(paths), edits -> {
            List<SdfPath> made = new ArrayList<>();
            for (SdfPath path : paths) {
                made.add(duplicate(path, offset, edits));
            }
            return made;
        });
    }

    /**
     * One more use of an object, wherever it hangs; what it shows is shared where it is a placement.
     *
     * @param under an existing prim; beside the object where empty
     */
    public SdfPath instance(SdfPath path, String name, Placing placing, Optional<SdfPath> under) {
        if (layer().prim(path).isEmpty()) {
            throw new SceneException(file, "there is no <" + path + "> of the scene's own to use once more");
        }
        SdfPath parent = under.orElse(path.parent());
        if (parent.startsWith(path)) {
            throw new SceneException(file, "<" + path + "> cannot be used within itself");
        }
        return editor.change("used " + path.name() + " once more", edits -> {
            SdfPath copy = parent.child(Structure.free(edits, parent, name));
            edits.copy(path, copy);
            edits.change(copy, prim -> {
                Matrix4 before = Xforms.local(edits.stage().prim(path).orElseThrow());
                Matrix4 further = Placing.isUsual(prim)
                        ? before.times(Placing.read(prim).matrix().inverse())
                        : Matrix4.IDENTITY;
                Places.write(prim, before, further.times(placing.matrix()));
            });
            return copy;
        });
    }

    private SdfPath duplicate(SdfPath path, Vec3 offset, Transaction edits) {
        PrimSpec parent = layer().prim(path.parent())
                .filter(owner -> owner.child(path.name()).isPresent())
                .orElseThrow(() -> new SceneException(file, "there is no <" + path + "> to duplicate"));
        String stem = path.name().replaceAll("_\\d+$", "");
        SdfPath copy = path.parent()
                .child(Names.free(stem, taken -> parent.child(taken).isPresent()));
        edits.copy(path, copy);
        edits.change(copy, prim -> {
            if (Placing.isUsual(prim)) {
                Placing placing = Placing.read(prim);
                placing.withMove(placing.move().plus(offset)).write(prim);
            }
        });
        return copy;
    }

    static String named(Collection<SdfPath> paths) {
        return paths.size() == 1 ? paths.iterator().next().name() : paths.size() + " objects";
    }

    StageEditor editor() {
        return editor;
    }

    /** From the stage's space into metres with Y up. */
    Matrix4 toMetres() {
        double unit = UsdModelReader.metresPerUnit(layer());
        return UsdModelReader.upAxis(layer()).toYUp().times(Matrix4.scale(new Vec3(unit, unit, unit)));
    }

    /** Groups, names and order. */
    public Structure structure() {
        return new Structure(this);
    }

    /** Moving by the world: mirror, align, spread, drop. */
    public Arranging arranging() {
        return new Arranging(this);
    }

    /** Many uses of one thing by a few figures. */
    public Laying laying() {
        return new Laying(this);
    }

    /** Named sets of objects. */
    public Drawers drawers() {
        return new Drawers(this);
    }

    /** Sets of which one is switched in. */
    public Alternates alternates() {
        return new Alternates(this);
    }

    /** What the scene says otherwise about placements. */
    public Overrides overrides() {
        return new Overrides(this);
    }

    /** Parts in files of their own. */
    public Sections sections() {
        return new Sections(this);
    }

    /**
     * Lets a placement show another asset or version, in the same place and with its overrides.
     *
     * @param version pinned to it; the ready version is followed where empty
     * @return the overrides that would say nothing any more; they are kept
     */
    public List<SdfPath> replace(SdfPath path, Asset asset, Optional<String> version) {
        return structure().replace(path, Reference.to(AssetPaths.relative(folder(), layerOf(asset, version))));
    }

    /** What undo would take back. */
    public Optional<String> undoName() {
        return editor.undoName();
    }

    /** What redo would do again. */
    public Optional<String> redoName() {
        return editor.redoName();
    }

    /** Takes back the last change; nothing where there is none. */
    public void undo() {
        editor.undo();
    }

    /** Does the last undone change again; nothing where there is none. */
    public void redo() {
        editor.redo();
    }

    /** Whether a file differs from what is open. */
    public boolean changed() {
        return !editor.unsaved().isEmpty();
    }

    /** Writes the scene, and those of its sublayers that were changed, to their files. */
    public void save() {
        for (Layer layer : editor.unsaved()) {
            LayerFiles.write(layer, layer.file().orElseThrow());
            editor.markSaved(layer);
        }
    }
}
