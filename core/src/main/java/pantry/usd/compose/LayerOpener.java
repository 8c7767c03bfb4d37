package pantry.usd.compose;

import java.util.Optional;
import pantry.usd.Layer;

/** Opens layers on behalf of one prim's composition and takes note of what goes wrong. */
interface LayerOpener {
    /** The layer that an asset path names; empty, and reported, where it cannot be had. */
    Optional<Layer> open(Layer anchor, String asset);

    void problem(CompositionProblem.Kind kind, String asset, String message);
}
