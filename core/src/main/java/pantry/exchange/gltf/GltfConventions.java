package pantry.exchange.gltf;

/** What Pantry's reader and writer of glTF agree on beyond the standard. */
final class GltfConventions {
    /** UsdLux's sphere spreads a normalised intensity over its surface; a quarter of it is seen from any side. */
    static final double SPHERE_PER_CANDELA = 4;

    /** Colours of a surface whose material does not show them; glTF multiplies those of its own name. */
    static final String UNUSED_COLOURS = "_COLOR_0";

    private GltfConventions() {}
}
