package pantry.usd.compose;

import pantry.usd.Layer;
import pantry.usd.Value;

/** How asset paths in composed values are written: each layer writes its own relative to itself. */
@FunctionalInterface
interface Anchoring {
    Anchoring AS_WRITTEN = (value, type, by) -> value;

    /**
     * @param type of the value; empty for metadata
     * @param by the layer that holds the value
     */
    Value seen(Value value, String type, Layer by);
}
