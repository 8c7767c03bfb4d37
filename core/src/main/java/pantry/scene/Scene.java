package pantry.scene;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.function.Supplier;
import pantry.base.FileStamp;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.Viewing;
import pantry.model.Lamp;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Population;
import pantry.usd.compose.Stage;
import pantry.usd.compose.StageChange;
import pantry.usd.edit.ChangeEffect;
import pantry.usd.edit.StageEditor;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;

/**
 * An open scene. Every change has a name and can be undone and redone; whatever the file holds besides is kept. To be
 * used by one thread at a time.
 */
public final class Scene {
    private final SceneLayer own;
    private final StageEditor editor;
    private final Path file;
    private Optional<FileStamp> stamp;

    private Scene(SceneLayer own) {
        this.own = own;
        this.editor = own.editor();
        this.file = own.file();
        this.stamp = Safekeeping.stamp(file);
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
        Layer shared = layers.open(source);
        // Of a package, it is within it, and so is what it names.
        Layer own = LayerAssets.copied(shared, shared.location().orElseGet(() -> AssetLocation.of(source)));
        return new Scene(SceneLayer.of(own, source, layers, meshes));
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
        return new Scene(own.snapshot());
    }

    /**
     * The scene with its history, to be changed in the background by what takes long; this one must not be changed
     * meanwhile, and takes over what came of it by {@link #adopt}. May be asked for in the background too.
     */
    public Scene fork() {
        return new Scene(own.fork());
    }

    /**
     * Goes on with what a fork of this scene came to; the fork is not to be used any more.
     *
     * @return whether what was read of the fork is what this one shows; otherwise it refers to files that have changed since
     * @throws IllegalStateException where this one was changed since
     */
    public boolean adopt(Scene fork) {
        return own.adopt(fork.own);
    }

    /** Whether another scene is a fork of this one, and nothing was done here since. */
    public boolean isAsForked(Scene other) {
        return editor.isAsForked(other.editor);
    }

    /**
     * The scene as it would be with alternates switched in; this one stays as it is.
     *
     * @param alternates names of alternates by their sets' names
     */
    public Scene showing(Map<String, String> alternates) {
        Scene other = snapshot();
        alternates.forEach((set, alternate) -> other.alternates().choose(set, alternate));
        return other;
    }

    public Path file() {
        return file;
    }

    /** The scene's own layer; to be changed only through this class. */
    public Layer layer() {
        return editor.rootLayer();
    }

    /** The scene composed with all it refers to. */
    public Stage stage() {
        return editor.stage();
    }

    /**
     * Works on the composed scene until a progress is cancelled.
     *
     * @throws java.util.concurrent.CancellationException where it was
     */
    public <R> R watched(Progress by, Supplier<R> work) {
        return stage().budget().watched(by, work);
    }

    /** Lets what the scene is made of name files below a folder, and looks again at what it refers to. */
    public void allow(Path folder) {
        own.layers().gate().allow(folder);
        reload();
    }

    /** What the scene itself says of a prim: by itself, or in the alternate that is switched in. */
    public Optional<PrimSpec> spec(SdfPath path) {
        return own.spec(path);
    }

    /** The names of what the scene itself lets hang on a prim, of alternates that are switched in too. */
    public Set<String> childNames(SdfPath path) {
        return own.childNames(path);
    }

    /** The prim below which everything goes: the default prim, or else the first. */
    public SdfPath root() {
        return own.root();
    }

    /** Looks again at the files that the scene refers to. */
    public void reload() {
        own.reload();
    }

    /** What the scene shows, in metres with Y up. */
    public Model model() {
        return own.model();
    }

    /**
     * What is shown while working, in metres with Y up.
     *
     * @param light placements that are shown by their proxies, where they have one
     * @param leftOut objects that are not shown
     */
    public Model model(Predicate<SdfPath> light, Predicate<SdfPath> leftOut) {
        return own.model(light, leftOut);
    }

    /**
     * What is shown while working, in metres with Y up; only what was changed since the last time is read anew.
     *
     * @param isPlacement whether a prim is a placement, which may be shown by its proxy
     */
    public Model model(Viewing chosen, Predicate<SdfPath> isPlacement) {
        return own.model(chosen, isPlacement);
    }

    /**
     * The lights that shine in the scene, in metres with Y up.
     *
     * @param leftOut objects that are not shown and do not shine
     */
    public List<Lamp> lamps(Predicate<SdfPath> leftOut) {
        return own.lamps(leftOut);
    }

    /** What an object, or a part of one, is called on the screen. */
    public String title(SdfPath path) {
        return own.title(path);
    }

    /** Where an object stands in what {@link #model()} shows; empty where it is not there. */
    public Optional<Matrix4> world(SdfPath path) {
        return own.world(path);
    }

    /** From the stage's space into metres with Y up. */
    public Matrix4 toMetres() {
        return own.toMetres();
    }

    /** Uses of assets and of other files. */
    public Placements placements() {
        return new Placements(own);
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
        return Weight.of(model, placements().all().size(), files());
    }

    /** The files that it is made of, its own among them; nothing is looked at on disk. */
    public Set<Path> files() {
        Set<Path> files = new LinkedHashSet<>();
        files.add(file);
        stage().usedLayers().forEach(layer -> layer.file().ifPresent(files::add));
        return files;
    }

    /** What operations read and change. */
    SceneLayer own() {
        return own;
    }

    /** Groups, names and order. */
    public Structure structure() {
        return new Structure(own);
    }

    /** Moving by the world: mirror, align, spread, drop. */
    public Arranging arranging() {
        return new Arranging(own);
    }

    /** Many uses of one thing by a few figures. */
    public LayoutOperations layouts() {
        return new LayoutOperations(own);
    }

    /** Named sets of objects. */
    public Drawers drawers() {
        return new Drawers(own);
    }

    /** Sets of which one is switched in. */
    public Alternates alternates() {
        return new Alternates(own);
    }

    /** What the scene says otherwise about placements. */
    public Overrides overrides() {
        return new Overrides(own);
    }

    /** Parts inside of placements. */
    public PlacementParts parts() {
        return new PlacementParts(own);
    }

    /** The axes along which nothing is moved by hand. */
    public AxisLocks axisLocks() {
        return new AxisLocks(own);
    }

    /** Kept ways to look at it. */
    public Focuses focuses() {
        return new Focuses(own);
    }

    /** What things hang on, with drawn marks. */
    public Anchors anchors() {
        return new Anchors(own);
    }

    /** What placements do over time. */
    public PlacedMotions motions() {
        return new PlacedMotions(own);
    }

    /** Groups that are used more than once. */
    public Instancing instancing() {
        return new Instancing(own);
    }

    /** Parts in files of their own. */
    public Sections sections() {
        return new Sections(own);
    }

    /** Tells of every change what it changed of the stage: edits, undo and redo, and files looked at again; the answer ends that. */
    public Runnable onChange(Consumer<StageChange> listener) {
        return editor.onChange(listener);
    }

    /** Lets the last change have an effect outside of the scene that is taken back, and done again, with it. */
    public void attach(ChangeEffect effect) {
        editor.attach(effect);
    }

    /**
     * Does several changes as one: they are undone and redone together. Where one fails, none of them stands.
     *
     * @param name for a person, as undo will show it
     */
    public <R> R together(String name, Supplier<R> work) {
        return editor.together(name, work);
    }

    /** What undo would take back. */
    public Optional<String> undoName() {
        return editor.undoName();
    }

    /** What redo would do again. */
    public Optional<String> redoName() {
        return editor.redoName();
    }

    /** See {@link StageEditor#lastChange}. */
    public Optional<Object> lastChange() {
        return editor.lastChange();
    }

    /** See {@link StageEditor#giveUpSince}. */
    public void giveUpSince(Optional<Object> before) {
        editor.giveUpSince(before);
    }

    /** See {@link StageEditor#joinSince}. */
    public void joinSince(Optional<Object> before) {
        editor.joinSince(before);
    }

    /** See {@link StageEditor#lastUndone}. */
    public Optional<Object> lastUndone() {
        return editor.lastUndone();
    }

    /** How many prims undo would bring back. */
    public int undoSize() {
        return editor.undoSize();
    }

    /** How many prims redo would bring back. */
    public int redoSize() {
        return editor.redoSize();
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
        if (changed()) {
            SceneSave unsaved = unsaved();
            unsaved.write();
            saved(unsaved);
        }
    }

    /** What is not saved, as it is now, to be written in the background; may be asked for there too. */
    public SceneSave unsaved() {
        return editor.undisturbed(this::copyOfUnsaved);
    }

    private SceneSave copyOfUnsaved() {
        List<SceneSave.Part> parts = new ArrayList<>();
        Layer root = copied(layer());
        for (Layer layer : editor.unsaved()) {
            parts.add(new SceneSave.Part(layer == layer() ? root : copied(layer), editor.mark(layer)));
        }
        return new SceneSave(file, parts, root, unsavedActions());
    }

    private Layer copied(Layer layer) {
        return LayerAssets.copied(layer, layer.location().orElseGet(() -> AssetLocation.of(file)));
    }

    /** Takes note that what was not saved then is in the files now. */
    public void saved(SceneSave then) {
        then.parts().forEach(part -> editor.markSaved(part.mark()));
        stamp = then.stamp();
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
        return AssetPaths.relative(home, own.place(path));
    }

    /** What differs between the file as it is now and the open scene: the open scene's prims, told as the later ones. */
    public List<Difference> differences() {
        return Difference.between(LayerFiles.read(file), layer());
    }

    /** What was done since the scene was opened or saved, the last first; for a person. */
    public List<String> unsavedActions() {
        return editor.unsavedNames();
    }

    /** Writes the scene as it is beside its file, so that it is not lost; nothing where nothing was changed. */
    public void autosave() {
        unsaved().autosave();
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
}
