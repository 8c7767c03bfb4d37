package pantry.usd;

import java.util.Optional;

/**
 * A reference or payload.
 *
 * @param asset the layer as written; empty for one within the same layer stack
 * @param prim the prim to take; the layer's default prim where absent
 * @param customData of the reference itself; usually empty
 */
public record Reference(String asset, Optional<SdfPath> prim, LayerOffset offset, Value.Dictionary customData) {
    public Reference(String asset, Optional<SdfPath> prim, LayerOffset offset) {
        this(asset, prim, offset, Value.Dictionary.EMPTY);
    }

    public static Reference to(String asset) {
        return new Reference(asset, Optional.empty(), LayerOffset.NONE);
    }

    public static Reference internal(SdfPath prim) {
        return new Reference("", Optional.of(prim), LayerOffset.NONE);
    }

    /** The same, in the time of another one. */
    public Reference timedAs(LayerOffset other) {
        return new Reference(asset, prim, other, customData);
    }

    /** The same, with something told of the reference itself. */
    public Reference told(Value.Dictionary other) {
        return new Reference(asset, prim, offset, other);
    }

    public boolean isInternal() {
        return asset.isEmpty();
    }
}
