package pantry.intake;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import pantry.base.FileGate;
import pantry.base.ImageTiles;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.exchange.format.Imported;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Population;
import pantry.usd.compose.Prim;
import pantry.usd.edit.StageEditor;
import pantry.usd.edit.Transaction;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.Xforms;

/**
 * A USD file as it is taken into a version: its own layers, with instances, point instancers, classes, purposes,
 * variants, curves, collections, physics and custom data, rather than what is drawn of them. Only what an asset must
 * have is changed: one root prim of the asset's name, in metres with Y up, held by its pivot; and what the file carries
 * besides and is not wanted is switched off.
 */
final class KeptStructure {
    /** The folder, in a version's data, with the layers that the geometry is made of. */
    static final String LAYERS = "layers";

    private final Imported arrival;
    private final Slip slip;
    private final LayerCache layers;
    private final String rootName;
    private final Map<AssetLocation, String> places = new LinkedHashMap<>();
    private final Map<AssetLocation, Layer> own = new HashMap<>();
    private final Deque<AssetLocation> waiting = new ArrayDeque<>();
    private final Set<String> taken = new HashSet<>();

    private KeptStructure(Imported arrival, Slip slip, FileGate gate) {
        this.arrival = arrival;
        this.slip = slip;
        this.layers = new LayerCache(gate);
        this.rootName = Names.identifier(slip.name());
    }

    /**
     * What is kept of an arrival.
     *
     * @param gates which other files a file may name
     * @return empty where there is nothing but surfaces to be kept: of other formats, and where the slip rearranges parts
     *     or takes triangles away
     */
    static Optional<KeptStructure> of(List<Imported> sources, Slip slip, Function<Path, FileGate> gates) {
        if (sources.size() != 1 || !ArrivalSummary.isStructured(sources.getFirst()) || !keeps(slip)) {
            return Optional.empty();
        }
        Imported arrival = sources.getFirst();
        return Optional.of(new KeptStructure(arrival, slip, gates.apply(arrival.file())));
    }

    private static boolean keeps(Slip slip) {
        return slip.parts() == PartsMode.KEEP
                && slip.making().share() == 1
                && !slip.making().levels();
    }

    /** What a slip's choices cost a USD file, for a person; empty where they cost nothing. */
    static Optional<String> lost(ArrivalSummary arrival, Slip slip) {
        return arrival.structured() && !keeps(slip)
                ? Optional.of(
                        "with these choices only surfaces and materials are taken in: instances, variants, proxies,"
                                + " levels, curves and collections of the file are not kept")
                : Optional.empty();
    }

    /**
     * Writes the geometry layer and all that it names into a version's data folder.
     *
     * @param placed where an image lies, from the data folder; images are asked for by what was read of them
     * @return the geometry layer, not yet written
     */
    Layer write(Path data, Path geometry, Function<Texture, String> placed) throws IOException {
        StageEditor editor = StageEditor.open(arrival.file().toAbsolutePath().normalize(), layers, Population.ALL);
        editor.changeAll("taken in", this::arrange);
        for (Layer layer : editor.stage().layerStack()) {
            layer.location().ifPresent(location -> own.put(location, layer));
        }
        Map<String, String> images = new HashMap<>();
        Map<Path, String> byFile = new HashMap<>();
        for (Texture texture : arrival.model().textures()) {
            images.put(texture.name(), placed.apply(texture));
            texture.file().ifPresent(file -> byFile.put(file, placed.apply(texture)));
        }
        Layer root = editor.stage().rootLayer();
        root.location()
                .ifPresent(
                        location -> places.put(location, geometry.getFileName().toString()));
        Layer made = renamed(root, geometry, data, images, byFile);
        made.metadata().put("metersPerUnit", new Value.Real(1));
        made.metadata().put("upAxis", new Value.Token("Y"));
        made.metadata().put("defaultPrim", new Value.Token(rootName));
        while (!waiting.isEmpty()) {
            AssetLocation next = waiting.removeFirst();
            Path target = data.resolve(places.get(next));
            Files.createDirectories(target.getParent());
            Layer layer = own.containsKey(next) ? own.get(next) : layers.open(next);
            LayerFiles.write(renamed(layer, target, data, images, byFile), target);
        }
        return made;
    }

    private Layer renamed(Layer layer, Path target, Path data, Map<String, String> images, Map<Path, String> byFile) {
        return LayerAssets.renamed(layer, AssetLocation.of(target), written -> {
            AssetLocation place = layers.resolve(layer, written);
            String name = place.isPackaged() ? place.inside() : place.file().toString();
            String path;
            if (LayerFiles.isLayer(name)) {
                path = layerPlace(place, name);
            } else {
                String known = images.getOrDefault(written, byFile.get(place.file()));
                // As it is drawn, each tile of an image is an image of its own.
                String image = known != null
                        ? known
                        : ImageTiles.renamed(written, images::get).orElse(null);
                path = image == null
                        ? "textures/"
                                + written.substring(written.replace('\\', '/').lastIndexOf('/') + 1)
                        : image;
            }
            return AssetPaths.relative(target.getParent(), data.resolve(path).normalize());
        });
    }

    private String layerPlace(AssetLocation place, String name) {
        String known = places.get(place);
        if (known != null) {
            return known;
        }
        String plain = name.replace('\\', '/');
        String stem = Names.free(
                Names.slug(Names.stem(plain.substring(plain.lastIndexOf('/') + 1))), "-", each -> taken.contains(each));
        taken.add(stem);
        String path = LAYERS + "/" + stem + ".usdc";
        places.put(place, path);
        waiting.add(place);
        return path;
    }

    /** One root prim of the asset's name, whose own place is that of its parent. */
    private void arrange(Transaction edits) {
        Set<SdfPath> unwanted = unwanted(edits);
        List<SdfPath> roots = edits.stage().rootLayer().root().childNames().stream()
                .map(SdfPath.ROOT::child)
                .toList();
        for (SdfPath path : unwanted) {
            edits.setField(path, "active", new Value.Bool(false));
        }
        Matrix4 change = slip.up().toMetres(slip.factor()).times(Preparation.pivotMove(arrival, slip));
        boolean direct = roots.size() == 1
                && change.equals(Matrix4.IDENTITY)
                && edits.stage()
                        .prim(roots.getFirst())
                        .filter(KeptStructure::isPlain)
                        .isPresent();
        SdfPath holder = direct ? roots.getFirst() : SdfPath.ROOT.child(free(roots, rootName + "_root"));
        if (!direct) {
            edits.define(holder, "Xform");
            SdfPath inner = holder;
            if (!change.equals(Matrix4.IDENTITY)) {
                inner = holder.child(
                        Names.identifier(Names.stem(arrival.file().getFileName().toString())));
                edits.define(inner, "Xform");
                edits.change(inner, prim -> Xforms.setMatrix(prim, change));
            }
            for (SdfPath root : roots) {
                edits.move(root, inner.child(root.name()));
            }
        }
        if (!holder.name().equals(rootName)) {
            edits.rename(holder, rootName);
        }
    }

    private static String free(List<SdfPath> roots, String name) {
        return Names.free(
                name, taken -> roots.stream().anyMatch(root -> root.name().equals(taken)));
    }

    /** Whether a root can be the asset's own: what places the asset would replace a place that it had itself. */
    private static boolean isPlain(Prim prim) {
        return prim.isDefined()
                && !prim.isAbstract()
                && Xforms.local(prim).equals(Matrix4.IDENTITY)
                && (prim.typeName().equals("Xform") || prim.typeName().isEmpty());
    }

    /** What the file carries besides the thing itself and the slip does not keep; not what is within instances. */
    private Set<SdfPath> unwanted(Transaction edits) {
        Set<Carried.Kind> kept = Preparation.kept(arrival, slip);
        Set<SdfPath> unwanted = new LinkedHashSet<>();
        for (Carried carried : Carried.of(arrival.model(), slip.up())) {
            if (!kept.contains(carried.kind())) {
                carried.objects().forEach(node -> unwanted.add(SdfPath.of(node.path())));
            }
        }
        boolean lights = kept.contains(Carried.Kind.LIGHTS);
        boolean cameras = kept.contains(Carried.Kind.CAMERAS);
        edits.stage().prims().forEach(prim -> {
            String type = prim.typeName();
            boolean light = type.endsWith("Light") || type.startsWith("DomeLight");
            if (light && !lights || type.equals("Camera") && !cameras) {
                unwanted.add(prim.path());
            }
        });
        return unwanted.stream()
                .filter(path -> edits.stage().prim(path).isPresent()
                        && edits.stage().rootLayer().prim(path).isPresent())
                .collect(Collectors.toCollection(LinkedHashSet::new));
    }

    /** Whether a model is drawn as another one: as many triangles, within the same bounds. */
    static boolean isSame(Model one, Model other) {
        double most = 1e-4 * Math.max(1e-3, one.bounds().size().length());
        return one.trianglesDrawn() == other.trianglesDrawn()
                && one.bounds().min().minus(other.bounds().min()).length() <= most
                && one.bounds().max().minus(other.bounds().max()).length() <= most;
    }
}
