package pantry.usd;

import java.util.Optional;

/**
 * A reference or payload.
 *
 * @param asset the layer as written; empty for one within the same layer stack
 * @param prim the prim to take; the layer's default prim where absent
 */
public record Reference(String asset, Optional<SdfPath> prim, LayerOffset offset) {
    public static Reference to(String asset) {
        return new Reference(asset, Optional.empty(), LayerOffset.NONE);
    }

    public static Reference internal(SdfPath prim) {
        return new Reference("", Optional.of(prim), LayerOffset.NONE);
    }

    public boolean isInternal() {
        return asset.isEmpty();
    }
}
