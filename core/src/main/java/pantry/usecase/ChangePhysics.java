package pantry.usecase;

import java.util.List;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.FileReaders;
import pantry.exchange.usd.UsdPhysicalMaterials;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.LibraryException;
import pantry.library.Published;
import pantry.model.PhysicalMaterial;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/** Changes the friction, bounce and density of an asset, which becomes its next version; all else stays as it is. */
public final class ChangePhysics {
    private final FileReaders readers;
    private final Library library;

    public ChangePhysics(FileReaders readers, Library library) {
        this.readers = readers;
        this.library = library;
    }

    /** Whether things of a kind touch others, and so have a friction, a bounce and a density. */
    public static boolean isFor(AssetKind kind) {
        return kind == AssetKind.MODEL || kind == AssetKind.PREFAB;
    }

    /** The physical materials of a version; {@link PhysicalMaterial#UNSAID} where it has none. */
    public List<PhysicalMaterial> of(Asset asset, String version) {
        LayerCache layers = new LayerCache(readers.gate(asset.entryLayer(version)));
        List<PhysicalMaterial> told =
                UsdPhysicalMaterials.of(Stage.open(layers.open(asset.entryLayer(version)), layers));
        return told.isEmpty() ? List.of(PhysicalMaterial.UNSAID) : told;
    }

    /**
     * Publishes an asset as it is shown, with other numbers in one of its physical materials.
     *
     * @throws LibraryException where somebody else has reserved it, or it is of a kind that touches nothing
     * @throws PantryException where a number cannot be
     */
    public Published publish(NextVersion version, PhysicalMaterial material, Progress progress) {
        Asset asset = library.current(version.asset());
        if (!isFor(asset.card().kind())) {
            throw new LibraryException(
                    asset.folder(), "is a " + asset.card().kind().word() + ", which touches nothing");
        }
        List<String> problems = material.problems();
        if (!problems.isEmpty()) {
            throw new PantryException(asset.folder(), String.join("; ", problems));
        }
        String shown = asset.shown().orElseThrow(() -> new LibraryException(asset.folder(), "has no version"));
        return library.reissue(
                asset,
                shown,
                layer -> UsdPhysicalMaterials.write(layer, material),
                version.status(),
                version.note(),
                progress);
    }
}
