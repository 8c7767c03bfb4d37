package pantry.usecase;

import java.util.List;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Published;
import pantry.render.RenderCache;
import pantry.scene.Prefab;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;

/** Makes chosen objects of a scene an asset of a library, or an asset's next version. */
public final class MakeAsset {
    private final LayerCache layers;
    private final RenderCache cache;

    /** @param layers those that the scene may be made of */
    public MakeAsset(LayerCache layers, RenderCache cache) {
        this.layers = layers;
        this.cache = cache;
    }

    /**
     * What an asset is made of. The scene is only read; where somebody works in it meanwhile, it is a snapshot.
     *
     * @param chosen objects of the scene's own layer; all of it where its root is among them
     */
    public record Source(Scene scene, List<SdfPath> chosen) {
        public Source {
            chosen = List.copyOf(chosen);
        }
    }

    /** A new asset's card. */
    public record Options(String name, AssetKind kind, String shelf, List<String> tags) {
        public Options {
            tags = List.copyOf(tags);
        }
    }

    /**
     * A new asset.
     *
     * @param origin where its own stands in the scene, scene units
     * @param droppedMemberships members of drawers that did not come along, since they were not chosen
     */
    public record Result(Asset asset, Vec3 origin, int droppedMemberships) {}

    /**
     * Puts the objects on a shelf.
     *
     * @throws pantry.scene.SceneException where nothing is chosen, or what is placed cannot be used
     * @throws pantry.library.LibraryException where the library refuses
     */
    public Result run(Source source, Library library, Options options, Progress progress) {
        Prefab prefab = prefab(source, library);
        Published published = prefab.shelve(options.name(), options.kind(), options.shelf(), options.tags(), progress);
        return new Result(published.asset(), prefab.origin(), prefab.droppedMemberships());
    }

    /**
     * Publishes the objects as an asset's next version.
     *
     * @throws pantry.scene.SceneException where nothing is chosen, or the asset would be put into itself
     * @throws pantry.library.LibraryException where the library refuses, or somebody else has reserved the asset
     */
    public Published publish(Source source, Library library, NextVersion version, Progress progress) {
        library.reservations().requireFree(version.asset());
        return prefab(source, library).publish(version.asset(), version.status(), version.note(), progress);
    }

    private Prefab prefab(Source source, Library library) {
        return new Prefab(source.scene(), layers, source.chosen(), library, cache);
    }
}
