package pantry.workbench;

import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdAttachedData;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.UsdPhysicalMaterials;
import pantry.exchange.usd.UsdSkelReader;
import pantry.library.Asset;
import pantry.model.AttachedData;
import pantry.model.Model;
import pantry.model.PhysicalMaterial;
import pantry.model.Weight;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.compose.Stage;

/** How a version of an asset looks, with the variants that one chooses. Nothing is changed in it. */
public final class AssetPreview {
    private static final String ROOT = "Asset";

    private final Asset asset;
    private final String version;
    private final Layers layers;
    private final MeshCache meshes;

    AssetPreview(Asset asset, String version, Layers layers, MeshCache meshes) {
        this.asset = asset;
        this.version = version;
        this.layers = layers;
        this.meshes = meshes;
    }

    private Stage stage(Map<String, String> variants) {
        Layer layer = Layer.inMetres(asset.data(version).resolve(".look.usda"), ROOT);
        // Its type is the asset's own, by which a material part is known.
        PrimSpec prim = layer.root().define("", ROOT);
        prim.setReferences(Reference.to("./" + asset.entryLayer(version).getFileName()));
        variants.forEach(prim::select);
        return Stage.open(layer, layers);
    }

    /**
     * What is seen.
     *
     * @param variants by the names of their sets; what the asset itself chooses where a set is not named
     * @param proxy the light stand-in instead of what is rendered
     */
    public Model model(Map<String, String> variants, boolean proxy) {
        Stage stage = stage(variants);
        Model read = UsdModelReader.read(stage, meshes, proxy ? UsdModelReader.LIGHT : UsdModelReader.RENDERED)
                .model();
        Model seen = proxy ? read : UsdModelReader.withSamples(stage, meshes, read);
        return UsdSkelReader.rigged(stage, seen).named(asset.card().name());
    }

    /** What the version weighs as it looks, with the layers that it is made of. */
    public Weight weight(Model model) {
        Stage stage = stage(Map.of());
        stage.prims().forEach(prim -> {});
        Set<Path> files = new LinkedHashSet<>();
        stage.usedLayers().stream().filter(layer -> layer != stage.rootLayer()).forEach(layer -> layer.file()
                .ifPresent(files::add));
        Weight all = Weight.of(model, 0, files);
        // Where the version has no surfaces of its own, what is seen only shows it.
        return asset.facts(version).triangles() == 0 ? all.withoutSurfaces() : all;
    }

    /** The variant sets, each with the variant that is chosen where nobody chooses. */
    public Map<String, String> choices() {
        Map<String, String> choices = new java.util.LinkedHashMap<>();
        stage(Map.of()).prim(SdfPath.ROOT.child(ROOT)).ifPresent(prim -> prim.variantSets()
                .forEach((set, variants) -> choices.put(
                        set,
                        prim.variantSelection(set).orElse(variants.iterator().next()))));
        return choices;
    }

    /**
     * What a version carries and is not drawn.
     *
     * @param attached all of it, as text
     * @param physics its physical materials, at least {@link PhysicalMaterial#UNSAID}
     */
    public record Unseen(List<AttachedData> attached, List<PhysicalMaterial> physics) {}

    /** What the version carries and is not drawn. */
    public Unseen unseen() {
        Stage stage = stage(Map.of());
        return new Unseen(
                UsdAttachedData.of(stage).stream()
                        .map(each -> each.object().equals(ROOT)
                                ? each.of(asset.card().name())
                                : each)
                        .toList(),
                physics(stage));
    }

    private List<PhysicalMaterial> physics(Stage stage) {
        SdfPath root = layers.open(AssetLocation.of(asset.entryLayer(version)))
                .defaultPrimPath()
                .orElse(SdfPath.ROOT);
        List<PhysicalMaterial> told = UsdPhysicalMaterials.of(stage).stream()
                .map(each -> each.at(each.path().orElseThrow().replacePrefix(SdfPath.ROOT.child(ROOT), root)))
                .toList();
        return told.isEmpty() ? List.of(PhysicalMaterial.UNSAID) : told;
    }

    /** Whether there is a light stand-in. */
    public boolean hasProxy() {
        return !model(Map.of(), true).meshes().isEmpty();
    }
}
