package pantry.render;

import org.jspecify.annotations.Nullable;
import pantry.model.Texture;

/**
 * A material as the shading needs it.
 *
 * @param reflectance how much of the light that falls straight on it, what is no metal mirrors, as a share of what usual
 *     surfaces do
 * @param cutoff what is less opaque is not there at all; 0 where surfaces let light through instead
 * @param maps the images beside that of its colour; null where it has none
 */
record RenderMaterial(
        float r,
        float g,
        float b,
        float emissiveR,
        float emissiveG,
        float emissiveB,
        float metallic,
        float roughness,
        float opacity,
        boolean coloured,
        @Nullable Image image,
        Texture.Sampling sampling,
        float clearcoat,
        float clearcoatRoughness,
        float reflectance,
        float cutoff,
        @Nullable SurfaceMaps maps) {
    /** So light is what has faded, in linear light. */
    private static final float FADED = 0.78f;

    /** The image of how much of it is there; null where it is there all over. */
    @Nullable
    SurfaceMap opacityMap() {
        return maps == null ? null : maps.opacity();
    }

    /** How much of it is there, over all of it, 0 to 1: of what an image cuts out, by that image's mean. */
    double density() {
        SurfaceMap map = opacityMap();
        if (map == null) {
            return cutoff > 0 ? opacity >= cutoff ? 1 : 0 : Math.min(opacity, 1);
        }
        return Math.clamp(opacity * map.number(0.5f, 0.5f, 1, new float[4]), 0, 1);
    }

    /** As it is seen of what is not worked on: matt, and nearly of one light grey. */
    RenderMaterial faded() {
        return new RenderMaterial(
                (r + 7 * FADED) / 8,
                (g + 7 * FADED) / 8,
                (b + 7 * FADED) / 8,
                0,
                0,
                0,
                0,
                1,
                opacity,
                false,
                null,
                sampling,
                0,
                0,
                1,
                cutoff,
                maps == null ? null : maps.cutOnly());
    }
}
