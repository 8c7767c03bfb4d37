package pantry.project;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import pantry.base.FileGate;
import pantry.base.PantryException;
import pantry.library.Asset;
import pantry.library.VersionStatus;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.UsdException;
import pantry.usd.file.LayerAssets;

/**
 * A change of an asset that is only imagined.
 *
 * @param version that would be made ready or retired; empty where all are meant
 * @param other the asset that would be used instead
 */
public record Imagined(Kind kind, Asset asset, String version, Optional<Asset> other) {
    /** What would be done. */
    public enum Kind {
        /** A version would be the one that those who follow get. */
        READY,
        /** A version would be retired. */
        RETIRED,
        /** The asset would not be there any more. */
        REMOVED,
        /** Another asset would be used instead. */
        SWAPPED
    }

    /** @throws PantryException where the asset has no such version */
    public static Imagined ready(Asset asset, String version) {
        return new Imagined(Kind.READY, existing(asset, version), version, Optional.empty());
    }

    /** @throws PantryException where the asset has no such version */
    public static Imagined retired(Asset asset, String version) {
        return new Imagined(Kind.RETIRED, existing(asset, version), version, Optional.empty());
    }

    /** The asset would not be there any more. */
    public static Imagined removed(Asset asset) {
        return new Imagined(Kind.REMOVED, asset, "", Optional.empty());
    }

    /** All that uses the asset would use another one, and follow it. */
    public static Imagined swapped(Asset asset, Asset other) {
        return new Imagined(Kind.SWAPPED, asset, "", Optional.of(other));
    }

    private static Asset existing(Asset asset, String version) {
        if (!asset.versions().contains(version)) {
            throw new PantryException(asset.folder(), "has no version " + version);
        }
        return asset;
    }

    /** The version that those who follow would get; empty where there is none any more. */
    public Optional<String> readyThen() {
        return switch (kind) {
            case READY -> Optional.of(version);
            case RETIRED ->
                Optional.ofNullable(
                        asset.card().with(version, VersionStatus.RETIRED).ready());
            case REMOVED -> Optional.empty();
            case SWAPPED -> other.flatMap(Asset::ready);
        };
    }

    /** Whether a use would show something else. */
    boolean touches(Reach.SceneUse use) {
        return switch (kind) {
            case READY, RETIRED -> use.following() && !readyThen().equals(Optional.of(use.version()));
            case REMOVED, SWAPPED -> true;
        };
    }

    /** In words, as what comes after “if”. */
    public String words() {
        String name = asset.card().name();
        return switch (kind) {
            case READY -> name + " " + version + " were ready";
            case RETIRED -> name + " " + version + " were retired";
            case REMOVED -> name + " were removed";
            case SWAPPED ->
                name + " were swapped for "
                        + other.map(each -> each.card().name()).orElse("nothing");
        };
    }

    /** Layers as they are, but for those of the asset that the change is about. */
    Layers in(Layers layers) {
        Map<AssetLocation, Optional<Layer>> instead = new HashMap<>();
        AssetLocation ready = AssetLocation.of(asset.readyLayer());
        switch (kind) {
            case READY, RETIRED -> instead.put(ready, readyThen().map(then -> leadingTo(then, layers.open(ready))));
            case REMOVED, SWAPPED -> {
                Optional<Layer> then = other.map(each -> layers.open(AssetLocation.of(each.readyLayer())));
                instead.put(ready, then);
                asset.versions().forEach(each -> instead.put(AssetLocation.of(asset.entryLayer(each)), then));
            }
        }
        return new Layers() {
            @Override
            public Layer open(AssetLocation location) {
                Optional<Layer> then = instead.get(location);
                return then == null
                        ? layers.open(location)
                        : then.orElseThrow(() -> new UsdException(location.file(), "would not be there", null));
            }

            @Override
            public AssetLocation resolve(Layer anchor, String written) {
                return layers.resolve(anchor, written);
            }

            @Override
            public FileGate gate() {
                return layers.gate();
            }
        };
    }

    private Layer leadingTo(String then, Layer now) {
        Path entry = asset.entryLayer(then);
        return LayerAssets.renamed(
                now, AssetLocation.of(asset.readyLayer()), written -> AssetPaths.relative(asset.folder(), entry));
    }
}
