package pantry.exchange.usd;

import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.SpecularWorkflow;
import pantry.model.Texture;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Values;

/**
 * Surfaces of UsdPreviewSurface's specular workflow, as the metallic one has them: plain colours by the formula for both, images as
 * near as one image at a time can be.
 */
final class UsdSpecular {
    /** What is darker scatters nothing: its colour is what it mirrors. */
    private static final double DARK = 0.02;

    /** A surface in whose colour an image is, is taken for half as bright. */
    private static final Colour USUAL = new Colour(0.5f, 0.5f, 0.5f);

    private UsdSpecular() {}

    /** Whether a surface's shader says that it is of the specular workflow. */
    static boolean isMeant(Prim shader) {
        return Values.number(shader, "inputs:useSpecularWorkflow", 0) == 1;
    }

    /**
     * @param material with the diffuse colour for its base
     * @param specular what is mirrored of light that falls on it straight
     * @param image what drives that, by which its plain value is not said
     */
    static Material metallic(Material material, Colour specular, Optional<Texture> image) {
        boolean pictured = material.texture(Material.Slot.BASE).isPresent();
        Colour diffuse = pictured ? material.base().times(USUAL) : material.base();
        if (image.isPresent()) {
            return diffuse.luminance() < DARK ? mirroring(material, image.get()) : dull(material, Colour.BLACK);
        }
        SpecularWorkflow.Metallic found = SpecularWorkflow.metallic(diffuse, specular);
        if (!pictured) {
            return made(material, found.base(), found.metallic(), material.textures(), specular);
        }
        return found.metallic() > 0.5
                ? made(material, specular, 1, without(material), specular)
                : dull(material, specular);
    }

    private static Material mirroring(Material material, Texture image) {
        return made(material, Colour.WHITE, 1, without(material), Colour.BLACK).with(Material.Slot.BASE, image);
    }

    /** No metal. */
    private static Material dull(Material material, Colour specular) {
        return made(material, material.base(), 0, material.textures(), specular);
    }

    private static Map<Material.Slot, Texture> without(Material material) {
        Map<Material.Slot, Texture> left = new EnumMap<>(Material.Slot.class);
        left.putAll(material.textures());
        left.remove(Material.Slot.BASE);
        return left;
    }

    private static Material made(
            Material m, Colour base, double metallic, Map<Material.Slot, Texture> textures, Colour specular) {
        double straight = Math.max(specular.r(), Math.max(specular.g(), specular.b()));
        Material.Finish f = m.finish();
        // What is black here is unsaid, or driven by an image.
        float ior = metallic < 0.5 && straight > 0 ? (float) SpecularWorkflow.ior(straight) : f.ior();
        return new Material(
                m.name(),
                base,
                m.opacity(),
                (float) metallic,
                m.roughness(),
                m.emissive(),
                new Material.Finish(f.cutoff(), f.clearcoat(), f.clearcoatRoughness(), ior, f.coloured()),
                textures,
                m.network());
    }
}
