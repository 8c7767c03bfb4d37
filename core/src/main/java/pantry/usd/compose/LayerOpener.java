package pantry.usd.compose;

import java.util.Optional;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;

/** Opens layers on behalf of one prim's composition and takes note of what goes wrong. */
interface LayerOpener {
    /** The place that an asset path of a layer names. */
    AssetLocation resolve(Layer anchor, String asset);

    /** The layer at a place; empty, and reported under the name as written, where it cannot be had. */
    Optional<Layer> open(AssetLocation place, String asset);

    /** What composing may cost. */
    Budget budget();

    void problem(CompositionProblem.Kind kind, String asset, String message);
}
