package pantry.scene;

import java.nio.file.Path;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.LampReader;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.NodeCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.Viewing;
import pantry.model.Lamp;
import pantry.model.Model;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Population;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.edit.EditTarget;
import pantry.usd.edit.StageEditor;
import pantry.usd.file.LayerAssets;
import pantry.usd.schema.Xforms;

/**
 * A scene's own layer as it is being worked on, and the stage that it is the root of: what operations read, and where
 * they make their changes. Knows none of the operations.
 */
final class SceneLayer {
    private final Path file;
    private final StageEditor editor;
    private final LayerCache layers;
    private final MeshCache meshes;

    /** What asset paths lead to, so that the disk is asked once for each; see {@link #reload}. */
    private final Map<String, Placement.Target> targets = new HashMap<>();

    private final NodeCache nodes = new NodeCache();
    private final KnownPlacements placements = new KnownPlacements();

    /** The field of which figures were read last; values never change. */
    private @Nullable Value figuresField;

    private Optional<LayoutFigures> figures = Optional.empty();

    private SceneLayer(StageEditor editor, Path file, LayerCache layers, MeshCache meshes) {
        editor.setTarget(EditTarget.whereSaid(editor.rootLayer()));
        editor.onChange(nodes::changed);
        editor.onChange(placements::changed);
        this.file = file;
        this.editor = editor;
        this.layers = layers;
        this.meshes = meshes;
    }

    /** @param layer is changed from now on; a copy where others share it */
    static SceneLayer of(Layer layer, Path file, LayerCache layers, MeshCache meshes) {
        return new SceneLayer(StageEditor.of(layer, layers, Population.ALL), file, layers, meshes);
    }

    /** As it is now, with its history; see {@link StageEditor#fork}. */
    SceneLayer fork() {
        return new SceneLayer(editor.fork(), file, layers, meshes);
    }

    /**
     * Goes on with what a fork came to; see {@link StageEditor#adopt}.
     *
     * @return whether its stage is this one's from now on
     */
    boolean adopt(SceneLayer fork) {
        boolean current = editor.adopt(fork.editor);
        if (current) {
            nodes.takeOver(fork.nodes);
            placements.takeOver(fork.placements);
            targets.clear();
            targets.putAll(fork.targets);
        }
        return current;
    }

    /** As it is now, apart from what is done with this one from now on. */
    SceneLayer snapshot() {
        return of(
                LayerAssets.copied(layer(), layer().location().orElseGet(() -> AssetLocation.of(file))),
                file,
                layers,
                meshes);
    }

    Path file() {
        return file;
    }

    KnownPlacements knownPlacements() {
        return placements;
    }

    /** What an asset path leads to, as it was when it was asked for first. */
    Placement.Target target(String asset, Function<String, Placement.Target> find) {
        return targets.computeIfAbsent(asset, find);
    }

    /** The figures in a field of custom data. Those of many uses are long, and are asked for again and again. */
    Optional<LayoutFigures> figures(Value field, Function<Value, Optional<LayoutFigures>> read) {
        if (field != figuresField) {
            figures = read.apply(field);
            figuresField = field;
        }
        return figures;
    }

    /** Looks again at everything that it refers to, and at what its asset paths lead to. */
    void reload() {
        targets.clear();
        editor.reload();
    }

    /** The folder that the scene's file is in. */
    Path folder() {
        return Optional.ofNullable(file.getParent()).orElseThrow();
    }

    StageEditor editor() {
        return editor;
    }

    LayerCache layers() {
        return layers;
    }

    /** The scene's own layer; to be changed only through the editor. */
    Layer layer() {
        return editor.rootLayer();
    }

    /** Composed with all it refers to. */
    Stage stage() {
        return editor.stage();
    }

    /** What the scene itself says of a prim: by itself, or in the alternate that is switched in. */
    Optional<PrimSpec> spec(SdfPath path) {
        return layer().prim(editor.target().specPath(path));
    }

    /** The names of what the scene itself lets hang on a prim, of alternates that are switched in too. */
    Set<String> childNames(SdfPath path) {
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
    SdfPath root() {
        return layer().defaultPrim()
                .filter(name -> layer().root().child(name).isPresent())
                .or(() -> layer().rootPrims().stream().findFirst().map(PrimSpec::name))
                .map(SdfPath.ROOT::child)
                .orElse(SdfPath.ROOT);
    }

    /** What the scene shows, in metres with Y up. */
    Model model() {
        return model(path -> false, path -> false);
    }

    /**
     * What is shown while working, in metres with Y up.
     *
     * @param light placements that are shown by their proxies, where they have one
     * @param leftOut objects that are not shown
     */
    Model model(Predicate<SdfPath> light, Predicate<SdfPath> leftOut) {
        Model model =
                UsdModelReader.readForWork(stage(), meshes, light, leftOut).model();
        return model.reframed(toMetres());
    }

    /**
     * What is shown while working, in metres with Y up; only what was changed since the last time is read anew.
     *
     * @param isPlacement whether a prim is a placement, which may be shown by its proxy
     */
    Model model(Viewing chosen, Predicate<SdfPath> isPlacement) {
        return UsdModelReader.readAgain(stage(), meshes, chosen, isPlacement, nodes)
                .model()
                .reframed(toMetres());
    }

    /**
     * The lights that shine in the scene, in metres with Y up.
     *
     * @param leftOut objects that are not shown and do not shine
     */
    List<Lamp> lamps(Predicate<SdfPath> leftOut) {
        Matrix4 toMetres = toMetres();
        return LampReader.read(stage(), leftOut).stream()
                .map(lamp -> lamp.at(toMetres))
                .toList();
    }

    /** From the stage's space into metres with Y up. */
    Matrix4 toMetres() {
        return UsdModelReader.toMetres(layer());
    }

    /** Where an object stands in what {@link #model()} shows; empty where it is not there. */
    Optional<Matrix4> world(SdfPath path) {
        Matrix4 metres = toMetres();
        return stage().prim(path)
                .map(prim -> metres.inverse().times(Xforms.world(prim)).times(metres));
    }

    /** What an object is called on the screen. */
    String title(SdfPath path) {
        return stage().prim(path).map(SceneLayer::title).orElse(path.name().replace('_', ' '));
    }

    /** What a prim is called on the screen: what it says of that itself, or else its name. */
    static String title(Prim prim) {
        Optional<String> given = prim.text("displayName");
        if (given.isEmpty()) {
            return prim.name().replace('_', ' ');
        }
        // Of several of the same name, the number that tells their paths apart tells them apart for a person too.
        String numbered = Names.identifier(given.get()) + "_";
        String behind = prim.name().startsWith(numbered) ? prim.name().substring(numbered.length()) : "";
        return behind.matches("\\d+") ? given.get() + " " + behind : given.get();
    }

    /** The place that an asset path of the scene's own layer names. */
    AssetLocation place(String written) {
        return layers.resolve(layer(), written);
    }

    static String named(Collection<SdfPath> paths) {
        return paths.size() == 1
                ? paths.iterator().next().name().replace('_', ' ')
                : Names.counted(paths.size(), "object");
    }

    /**
     * Those of some objects that none of the others holds, in their order.
     *
     * @param paths each with its like once; a million take about a second
     */
    static List<SdfPath> outermost(Collection<SdfPath> paths) {
        Set<SdfPath> all = Set.copyOf(paths);
        return paths.stream()
                .filter(path -> path.equals(SdfPath.ROOT) || !path.parent().startsWithAny(all))
                .toList();
    }
}
