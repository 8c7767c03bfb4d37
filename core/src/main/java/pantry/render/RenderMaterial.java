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
        Texture.Sampling sampling) {}
