package pantry.scene;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import pantry.base.FileStamp;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.LampReader;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.library.Asset;
import pantry.model.Lamp;
import pantry.model.Model;
import pantry.model.Weight;
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
import pantry.usd.compose.StageChange;
import pantry.usd.edit.EditTarget;
import pantry.usd.edit.StageEditor;
import pantry.usd.edit.Transaction;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.TransformComponents;
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
    private Optional<FileStamp> stamp;

    private Scene(StageEditor editor, Path file, LayerCache layers, MeshCache meshes) {
        this.file = file;
        this.stamp = Safekeeping.stamp(file);
        editor.setTarget(EditTarget.whereSaid(editor.rootLayer()));
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
        // The cache's layer is shared with others; this one is to be changed.
        Layer own = LayerAssets.copied(layers.open(source), AssetLocation.of(source));
        return new Scene(StageEditor.of(own, layers, Population.ALL), source, layers, meshes);
    }

    /** Whether a file is a scene, rather than something to be taken in: a text layer whose root is an assembly. */
    public static boolean isScene(Path file) {
        if (!file.getFileName().toString().endsWith(".usda")) {
            return false;
        }
        try {
            Layer layer = LayerFiles.read(file.toAbsolutePath().normalize());
            return layer.defaultPrimPath()
                    .flatMap(layer::prim)
                    .flatMap(prim -> prim.text("kind"))
                    .filter("assembly"::equals)
                    .isPresent();
        } catch (UsdException e) {
            // It is said where somebody tries to take it in.
            return false;
        }
    }

    /** The scene as it is now, apart from what is done with this one from now on. */
    public Scene snapshot() {
        Layer copy = LayerAssets.copied(layer(), AssetLocation.of(file));
        return new Scene(StageEditor.of(copy, layers, Population.ALL), file, layers, meshes);
    }

    public Path file() {
        return file;
    }

    /** The scene's own layer; to be changed only through this class. */
    public Layer layer() {
        return editor.rootLayer();
    }

    /** What the scene itself says of a prim: by itself, or in the alternate that is switched in. */
    public Optional<PrimSpec> spec(SdfPath path) {
        return layer().prim(editor.target().specPath(path));
    }

    /** The names of what the scene itself lets hang on a prim, of alternates that are switched in too. */
    public Set<String> childNames(SdfPath path) {
        Set<String> names = new LinkedHashSet<>();
        spec(path).ifPresent(spec -> {
            names.addAll(spec.childNames());
            if (spec.metadata().get("variants") instanceof Value.Selections(Map<String, String> bySet)) {
                bySet.forEach((set, chosen) -> Optional.ofNullable(
                                spec.variantSets().getOrDefault(set, Map.of()).get(chosen))
                        .ifPresent(variant -> names.addAll(variant.contents().childNames())));
            }
        });
        return names;
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

    /** Lets what the scene is made of name files below a folder, and looks again at what it refers to. */
    public void allow(Path folder) {
        layers.gate().allow(folder);
        editor.reload();
    }

    /** Looks again at the files that the scene refers to. */
    public void reload() {
        editor.reload();
    }

    /** What the scene shows, in metres with Y up. */
    public Model model() {
        return model(path -> false, path -> false);
    }

    /**
     * What is shown while working, in metres with Y up.
     *
     * @param light placements that are shown by their proxies, where they have one
     * @param leftOut objects that are not shown
     */
    public Model model(Predicate<SdfPath> light, Predicate<SdfPath> leftOut) {
        Model model =
                UsdModelReader.readForWork(stage(), meshes, light, leftOut).model();
        return model.reframed(toMetres());
    }

    /**
     * The lights that shine in the scene, in metres with Y up.
     *
     * @param leftOut objects that are not shown and do not shine
     */
    public List<Lamp> lamps(Predicate<SdfPath> leftOut) {
        Matrix4 toMetres = toMetres();
        return LampReader.read(stage(), leftOut).stream()
                .map(lamp -> lamp.at(toMetres))
                .toList();
    }

    /** Reads nothing more of what some placements refer to, until it is told otherwise. */
    public void load(Predicate<SdfPath> loaded) {
        editor.populate(Population.ALL.withLoads(loaded));
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
        collect(layer().root(), SdfPath.ROOT, placements, new HashMap<>());
        SdfPath root = root();
        layer().prim(root).ifPresent(spec -> {
            Set<String> own = spec.childNames();
            Map<String, Target> targets = new HashMap<>();
            for (String name : childNames(root)) {
                if (!own.contains(name)) {
                    collect(root.child(name), spec(root.child(name)).orElseThrow(), placements, targets);
                }
            }
        });
        return placements;
    }

    private void collect(SdfPath at, PrimSpec prim, List<Placement> found, Map<String, Target> targets) {
        Optional<Reference> reference = reference(prim);
        if (reference.isPresent()) {
            Target target = targets.computeIfAbsent(reference.get().asset(), this::target);
            found.add(target.placed(at, prim));
        } else {
            collect(prim, at, found, targets);
        }
    }

    private void collect(PrimSpec parent, SdfPath path, List<Placement> found, Map<String, Target> targets) {
        for (PrimSpec prim : parent.children()) {
            collect(path.child(prim.name()), prim, found, targets);
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

    /** What a reference leads to. */
    private record Target(Path file, Placement.Held held, String version) {
        Placement placed(SdfPath path, PrimSpec prim) {
            return new Placement(path, held, file, version, TransformComponents.read(prim));
        }
    }

    private Target target(String asset) {
        Path target = layers.resolve(layer(), asset).file();
        String slashed = target.toString().replace('\\', '/');
        Matcher sealed = SEALED.matcher(slashed);
        String version = sealed.matches() ? sealed.group(2) : "";
        Placement.Held held;
        if (layers.gate().admit(target, asset, file).isEmpty()) {
            boolean refused = layers.gate().refusals().stream()
                    .anyMatch(refusal -> refusal.written().equals(asset));
            held = refused ? Placement.Held.REFUSED : Placement.Held.MISSING;
        } else if (!version.isEmpty()) {
            held = Placement.Held.PINNED;
        } else if (slashed.endsWith("/ready.usda")) {
            held = Placement.Held.FOLLOWING;
        } else {
            held = Placement.Held.FILE;
        }
        return new Target(target, held, version);
    }

    public Optional<Placement> placement(SdfPath path) {
        return spec(path)
                .flatMap(prim -> reference(prim).map(r -> target(r.asset()).placed(path, prim)));
    }

    /**
     * Uses an asset: one more placement under a prim.
     *
     * @param version pinned to it; the ready version is followed where empty
     * @param name of the new prim; a number is put behind it where it is taken
     * @param under an existing prim; the scene's root where empty
     * @return the new prim's path
     */
    public SdfPath place(
            Asset asset, Optional<String> version, String name, TransformComponents placing, Optional<SdfPath> under) {
        return place(name, using(layerOf(asset, version), name, placing), under);
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

    /**
     * Uses a layer that is not of a library; its unit and up axis are corrected by the placement's transform.
     *
     * @param part the one prim of it that is used; all of it where empty
     */
    public SdfPath placeFile(
            Path other, Optional<SdfPath> part, String name, TransformComponents placing, Optional<SdfPath> under) {
        PrimSpec prim = referring(other, part, name, placing);
        return place(name, prim, under);
    }

    /** A prim that refers to a file as it is. */
    PrimSpec referring(Path other, Optional<SdfPath> part, String name, TransformComponents placing) {
        return Referring.to(
                other.toAbsolutePath().normalize(), part, layers, folder(), Names.identifier(name), placing);
    }

    private PrimSpec using(Path target, String name, TransformComponents placing) {
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Xform", Names.identifier(name));
        prim.setReferences(Reference.to(AssetPaths.relative(folder(), target)));
        prim.metadata().put("instanceable", new Value.Bool(true));
        placing.write(prim);
        return prim;
    }

    private SdfPath place(String name, PrimSpec prim, Optional<SdfPath> under) {
        SdfPath parent = under.orElseGet(this::root);
        if (spec(parent).isEmpty()) {
            throw new SceneException(file, "there is no <" + parent + "> to place anything under");
        }
        return editor.change("placed " + name, edits -> add(edits, parent, name, prim));
    }

    private static SdfPath add(Transaction edits, SdfPath parent, String name, PrimSpec prim) {
        PrimSpec free = prim.copyAs(Structure.free(edits, parent, name));
        edits.add(parent, free);
        return parent.child(free.name());
    }

    private Path folder() {
        return Optional.ofNullable(file.getParent()).orElseThrow();
    }

    /** Moves, turns and scales placements, all in one step. */
    public void move(Map<SdfPath, TransformComponents> placings) {
        for (SdfPath path : placings.keySet()) {
            PrimSpec prim =
                    spec(path).orElseThrow(() -> new SceneException(file, "there is no <" + path + "> to move"));
            if (!TransformComponents.isUsual(prim)) {
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
     * One more use of an object, wherever it hangs. What a placement shows is shared as it is; what a group holds is
     * shared from then on.
     *
     * @param under an existing prim; beside the object where empty
     */
    public SdfPath instance(SdfPath path, String name, TransformComponents placing, Optional<SdfPath> under) {
        if (spec(path).isEmpty()) {
            throw new SceneException(file, "there is no <" + path + "> of the scene's own to use once more");
        }
        SdfPath parent = under.orElse(path.parent());
        if (parent.startsWith(path)) {
            throw new SceneException(file, "<" + path + "> cannot be used within itself");
        }
        if (sharing().wouldHoldItself(List.of(path), parent)) {
            throw new SceneException(file, "<" + path + "> would hold itself");
        }
        return editor.change("used " + path.name() + " once more", edits -> {
            sharing().share(edits, path);
            SdfPath copy = parent.child(Structure.free(edits, parent, name));
            edits.copy(path, copy);
            edits.change(copy, prim -> {
                Matrix4 before = Xforms.local(edits.stage().prim(path).orElseThrow());
                Matrix4 further = TransformComponents.isUsual(prim)
                        ? before.times(TransformComponents.read(prim).matrix().inverse())
                        : Matrix4.IDENTITY;
                TransformOps.write(prim, before, further.times(placing.matrix()));
            });
            return copy;
        });
    }

    private SdfPath duplicate(SdfPath path, Vec3 offset, Transaction edits) {
        if (spec(path).isEmpty()) {
            throw new SceneException(file, "there is no <" + path + "> to duplicate");
        }
        String stem = path.name().replaceAll("_\\d+$", "");
        SdfPath copy = path.parent().child(Structure.free(edits, path.parent(), stem));
        edits.copy(path, copy);
        edits.change(copy, prim -> {
            if (TransformComponents.isUsual(prim)) {
                TransformComponents placing = TransformComponents.read(prim);
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
    public Matrix4 toMetres() {
        return UsdModelReader.toMetres(layer());
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
    public LayoutOperations laying() {
        return new LayoutOperations(this);
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

    /** Kept ways to look at it. */
    public Focuses focuses() {
        return new Focuses(this);
    }

    /** What things hang on, with drawn marks. */
    public Anchors anchors() {
        return new Anchors(this);
    }

    /** Groups that are used more than once. */
    public Instancing sharing() {
        return new Instancing(this);
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

    /** Tells of every change what it changed of the stage: edits, undo and redo, and files looked at again; the answer ends that. */
    public Runnable onChange(Consumer<StageChange> listener) {
        return editor.onChange(listener);
    }

    /** Where an object stands in what {@link #model()} shows; empty where it is not there. */
    public Optional<Matrix4> world(SdfPath path) {
        Matrix4 metres = toMetres();
        return stage().prim(path)
                .map(prim -> metres.inverse().times(Xforms.world(prim)).times(metres));
    }

    /**
     * What a placement would say of things that are no longer there, if it showed something else.
     *
     * @param version as in {@link #replace}
     */
    public List<SdfPath> wouldLose(SdfPath path, Asset asset, Optional<String> version) {
        return snapshot().replace(path, asset, version);
    }

    /** Lets the last change have an effect outside of the scene that is taken back, and done again, with it. */
    public void attach(StageEditor.Effect effect) {
        editor.attach(effect);
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

    /**
     * Writes the scene, and those of its sublayers that were changed, to their files. What the file held before is kept
     * beside it; see {@link Safekeeping}.
     *
     * @throws SceneException where another has changed the file since it was opened or saved
     */
    public void save() {
        if (changedOnDisk()) {
            throw new SceneException(
                    file,
                    "was changed by another since it was opened; look at what differs, then open it anew, save over"
                            + " it, or save elsewhere");
        }
        saveOver();
    }

    /** Writes the scene though another has changed its file; what that one wrote is kept beside it. */
    public void saveOver() {
        if (!changed()) {
            return;
        }
        Safekeeping.keepBefore(file);
        for (Layer layer : editor.unsaved()) {
            LayerFiles.write(layer, layer.file().orElseThrow());
            editor.markSaved(layer);
        }
        Safekeeping.forget(file);
        stamp = Safekeeping.stamp(file);
    }

    /** Whether the file is another than what was opened or saved last; one that is gone can lose nothing. */
    public boolean changedOnDisk() {
        Optional<FileStamp> now = Safekeeping.stamp(file);
        return now.isPresent() && !now.equals(stamp);
    }

    /**
     * Writes the scene to another file; this one stays open as it is.
     *
     * @throws SceneException where that file exists already
     */
    public Path saveElsewhere(Path other) {
        Path target = other.toAbsolutePath().normalize();
        if (Files.exists(target)) {
            throw new SceneException(target, "is already there; choose another name");
        }
        Path home = Optional.ofNullable(target.getParent()).orElseThrow();
        Layer elsewhere = LayerAssets.renamed(layer(), AssetLocation.of(target), path -> relative(home, path));
        LayerFiles.write(elsewhere, target);
        return target;
    }

    private String relative(Path home, String path) {
        return AssetPaths.relative(home, place(path));
    }

    /** The place that an asset path of the scene's own layer names. */
    AssetLocation place(String written) {
        return layers.resolve(layer(), written);
    }

    /** What differs between the file as it is now and the open scene: the open scene's prims, told as the later ones. */
    public List<Difference> differences() {
        return Difference.between(LayerFiles.read(file), layer());
    }

    /** Writes the scene as it is beside its file, so that it is not lost; nothing where nothing was changed. */
    public void autosave() {
        autosave(changed());
    }

    /** As above, of a {@link #snapshot}, which does not know whether anything was changed. */
    public void autosave(boolean wanted) {
        if (wanted) {
            Path kept = Safekeeping.autosaved(file);
            LayerFiles.write(LayerAssets.copied(layer(), AssetLocation.of(kept)), kept);
        }
    }

    /** Takes up what was autosaved and not saved, as one change. */
    public void recover() {
        Layer kept = LayerFiles.read(Safekeeping.autosaved(file));
        editor.changeAll("took up what was not saved", edits -> {
            for (PrimSpec prim : List.copyOf(layer().rootPrims())) {
                edits.clearPrim(SdfPath.ROOT.child(prim.name()));
            }
            kept.rootPrims().forEach(prim -> edits.add(SdfPath.ROOT, prim));
            Set<String> fields = new LinkedHashSet<>(layer().metadata().keySet());
            fields.addAll(kept.metadata().keySet());
            fields.remove("subLayers");
            fields.forEach(field -> edits.setLayerField(field, kept.metadata().get(field)));
        });
    }

    /**
     * Puts a placement of an asset in the place of objects that it was made of.
     *
     * @param at where its origin stands, metres
     */
    public SdfPath substitute(Collection<SdfPath> paths, Asset asset, Vec3 at) {
        return editor.change("replaced " + named(paths) + " by " + asset.card().name(), edits -> {
            paths.forEach(edits::remove);
            String name = asset.card().name();
            return add(
                    edits,
                    root(),
                    name,
                    using(layerOf(asset, Optional.empty()), name, TransformComponents.ORIGIN.withMove(at)));
        });
    }
}
