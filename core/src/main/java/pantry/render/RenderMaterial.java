package pantry.render;

import org.jspecify.annotations.Nullable;
import pantry.model.Texture;

/** A material as the shading needs it. */
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
        Texture.Sampling sampling) {
    /** So light is what has faded, in linear light. */
    private static final float FADED = 0.78f;

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
                sampling);
    }
}
