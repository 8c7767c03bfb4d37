package pantry.exchange.gltf;

import de.javagl.jgltf.impl.v2.Material;
import de.javagl.jgltf.impl.v2.MaterialNormalTextureInfo;
import de.javagl.jgltf.impl.v2.MaterialOcclusionTextureInfo;
import de.javagl.jgltf.impl.v2.MaterialPbrMetallicRoughness;
import de.javagl.jgltf.impl.v2.TextureInfo;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.exchange.format.ExportNotes;
import pantry.model.Colour;
import pantry.model.Material.Finish;
import pantry.model.Material.Slot;
import pantry.model.Texture;

/**
 * The materials of a glTF file that is written: each as often as it is seen from one side or both, which glTF says of
 * materials and not of meshes.
 */
final class GltfMaterialWriter {
    private static final String TRANSFORM = "KHR_texture_transform";
    private static final String EMISSIVE_STRENGTH = "KHR_materials_emissive_strength";
    private static final String IOR = "KHR_materials_ior";
    private static final String CLEARCOAT = "KHR_materials_clearcoat";

    private final GltfImages images;
    private final ExportNotes notes;
    private final Set<String> extensions;
    private final List<Material> materials = new ArrayList<>();
    private final Map<List<Object>, Integer> known = new HashMap<>();

    /** @param extensions takes the names of those that are used */
    GltfMaterialWriter(GltfImages images, ExportNotes notes, Set<String> extensions) {
        this.images = images;
        this.notes = notes;
        this.extensions = extensions;
    }

    List<Material> materials() {
        return materials;
    }

    /** The number of a material. */
    int material(pantry.model.Material material, boolean doubleSided) throws IOException {
        List<Object> key = List.of(material, doubleSided);
        Integer number = known.get(key);
        if (number == null) {
            materials.add(made(material, doubleSided));
            number = materials.size() - 1;
            known.put(key, number);
        }
        return number;
    }

    private Material made(pantry.model.Material material, boolean doubleSided) throws IOException {
        Material made = new Material();
        made.setName(material.name());
        if (doubleSided) {
            made.setDoubleSided(true);
        }
        MaterialPbrMetallicRoughness surface = new MaterialPbrMetallicRoughness();
        surface.setBaseColorFactor(new float[] {
            unit(material.base().r()),
            unit(material.base().g()),
            unit(material.base().b()),
            unit(material.opacity())
        });
        surface.setMetallicFactor(unit(material.metallic()));
        surface.setRoughnessFactor(unit(material.roughness()));
        emissive(made, material.emissive());
        colour(made, surface, material);
        numbers(surface, material);
        Texture normal = image(material, Slot.NORMAL);
        if (normal != null) {
            images.texture(normal, Slot.NORMAL).ifPresent(index -> {
                MaterialNormalTextureInfo info = new MaterialNormalTextureInfo();
                info.setScale(normal.sampling().strength());
                made.setNormalTexture(placed(info, index, normal));
            });
        }
        Texture occlusion = image(material, Slot.OCCLUSION);
        if (occlusion != null) {
            images.texture(occlusion, Slot.OCCLUSION).ifPresent(index -> {
                MaterialOcclusionTextureInfo info = new MaterialOcclusionTextureInfo();
                info.setStrength(unit(occlusion.sampling().strength()));
                made.setOcclusionTexture(placed(info, index, occlusion));
            });
        }
        Texture emissive = image(material, Slot.EMISSIVE);
        if (emissive != null) {
            images.texture(emissive, Slot.EMISSIVE)
                    .ifPresent(index -> made.setEmissiveTexture(placed(new TextureInfo(), index, emissive)));
        }
        if (material.texture(Slot.DISPLACEMENT).isPresent()) {
            notes.left("glTF has no displacement: the image of " + material.name() + " is left out");
        }
        finish(made, material.finish());
        made.setPbrMetallicRoughness(surface);
        return made;
    }

    /** An image that was found; one that is missing is noted. */
    private @Nullable Texture image(pantry.model.Material material, Slot slot) {
        Texture texture = material.texture(slot).orElse(null);
        if (texture == null || texture.file().isPresent()) {
            return texture;
        }
        notes.missing(texture);
        return null;
    }

    private void emissive(Material made, Colour emissive) {
        float most = Math.max(emissive.r(), Math.max(emissive.g(), emissive.b()));
        float strength = Math.max(1, most);
        made.setEmissiveFactor(
                new float[] {unit(emissive.r() / strength), unit(emissive.g() / strength), unit(emissive.b() / strength)
                });
        if (strength > 1) {
            extend(made, EMISSIVE_STRENGTH, Map.of("emissiveStrength", strength));
        }
    }

    /** Colour and opacity, which are one image in glTF. */
    private void colour(Material made, MaterialPbrMetallicRoughness surface, pantry.model.Material material)
            throws IOException {
        Texture base = image(material, Slot.BASE);
        Texture opacity = image(material, Slot.OPACITY);
        Texture shown = base == null ? opacity : base;
        if (opacity != null && base != null && !lieAlike(base, opacity)) {
            notes.left("material " + material.name()
                    + ": its opacity's image lies otherwise than its colour's, and glTF has one image for both; it is"
                    + " left out");
            opacity = null;
        }
        boolean one = opacity == null
                || base != null
                        && base.file().equals(opacity.file())
                        && opacity.sampling().channel() == Texture.Channel.OF_SLOT;
        if (shown != null && (base != null || opacity != null)) {
            Optional<Integer> index = one
                    ? images.texture(shown, Slot.BASE)
                    : images.withAlpha(base, opacity, material.name() + " colour and opacity");
            index.ifPresent(number -> surface.setBaseColorTexture(placed(new TextureInfo(), number, shown)));
        }
        if (material.finish().cutoff() > 0) {
            made.setAlphaMode("MASK");
            made.setAlphaCutoff(material.finish().cutoff());
        } else if (material.opacity() < 1 || opacity != null) {
            made.setAlphaMode("BLEND");
        }
    }

    /** Roughness and metalness, which are one image in glTF. */
    private void numbers(MaterialPbrMetallicRoughness surface, pantry.model.Material material) throws IOException {
        Texture roughness = image(material, Slot.ROUGHNESS);
        Texture metalness = image(material, Slot.METALLIC);
        if (roughness != null && metalness != null && !lieAlike(roughness, metalness)) {
            notes.left("material " + material.name()
                    + ": its metalness' image lies otherwise than its roughness', and glTF has one image for both; it"
                    + " is left out");
            metalness = null;
        }
        Texture shown = roughness == null ? metalness : roughness;
        if (shown == null) {
            return;
        }
        boolean one = roughness != null
                && metalness != null
                && roughness.file().equals(metalness.file())
                && roughness.sampling().channel() == Texture.Channel.OF_SLOT
                && metalness.sampling().channel() == Texture.Channel.OF_SLOT;
        Optional<Integer> index = one
                ? images.texture(shown, Slot.ROUGHNESS)
                : images.packed(roughness, metalness, material.name() + " roughness and metalness");
        index.ifPresent(number -> surface.setMetallicRoughnessTexture(placed(new TextureInfo(), number, shown)));
    }

    private static boolean lieAlike(Texture one, Texture other) {
        return one.sampling().placement().equals(other.sampling().placement())
                && one.sampling().wrapS() == other.sampling().wrapS()
                && one.sampling().wrapT() == other.sampling().wrapT();
    }

    /** An image with its set of coordinates, and where it lies. */
    private <T extends TextureInfo> T placed(T info, int index, Texture texture) {
        info.setIndex(index);
        Texture.Placement placement = texture.sampling().placement();
        if (placement.uvSet() != 0) {
            info.setTexCoord(placement.uvSet());
        }
        if (!placement.inPlace()) {
            // glTF's v runs downwards: what is told upwards, told there.
            double turn = Math.toRadians(placement.rotation());
            double offsetU = placement.moveU() - Math.sin(turn) * placement.scaleV();
            double offsetV = 1 - placement.moveV() - Math.cos(turn) * placement.scaleV();
            Map<String, Object> transform = new LinkedHashMap<>();
            transform.put("offset", new float[] {(float) offsetU, (float) offsetV});
            transform.put("rotation", (float) turn);
            transform.put("scale", new float[] {placement.scaleU(), placement.scaleV()});
            info.addExtensions(TRANSFORM, transform);
            extensions.add(TRANSFORM);
        }
        return info;
    }

    private void finish(Material made, Finish finish) {
        if (finish.ior() != Finish.USUAL.ior()) {
            extend(made, IOR, Map.of("ior", Math.max(1, finish.ior())));
        }
        if (finish.clearcoat() > 0) {
            extend(
                    made,
                    CLEARCOAT,
                    Map.of(
                            "clearcoatFactor",
                            unit(finish.clearcoat()),
                            "clearcoatRoughnessFactor",
                            unit(finish.clearcoatRoughness())));
        }
    }

    private void extend(Material made, String extension, Object content) {
        made.addExtensions(extension, content);
        extensions.add(extension);
    }

    private static float unit(float component) {
        return Math.clamp(component, 0f, 1f);
    }
}
