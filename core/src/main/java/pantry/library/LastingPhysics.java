package pantry.library;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.base.FileGate;
import pantry.base.PantryException;
import pantry.exchange.usd.UsdPhysicalMaterials;
import pantry.usd.Layer;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** What was said of an asset's friction, bounce and density, which a file that becomes its next version rarely says. */
final class LastingPhysics {
    private LastingPhysics() {}

    /** Says it in the entry layer of a version that is being built. */
    static void carry(Asset asset, Path data, String slug) {
        Optional<Layer> before = asset.shown().flatMap(version -> readable(asset.entryLayer(version)));
        if (before.filter(UsdPhysicalMaterials::isOfWhole).isEmpty()) {
            return;
        }
        Path entry = data.resolve(slug + ".usda");
        LayerCache layers = new LayerCache(FileGate.to(List.of(data)));
        Layer next = LayerFiles.read(entry);
        if (UsdPhysicalMaterials.carry(before.get(), next, Stage.open(layers.open(entry), layers))) {
            LayerFiles.write(next, entry);
        }
    }

    /** Empty where the version is damaged, which its check tells: it must not stand in the way of the next one. */
    private static Optional<Layer> readable(Path entry) {
        try {
            return Files.exists(entry) ? Optional.of(LayerFiles.read(entry)) : Optional.empty();
        } catch (PantryException e) {
            return Optional.empty();
        }
    }
}
