package pantry.shading;

import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.model.Material.Slot;

/**
 * What a kind of surface calls the inputs that UsdPreviewSurface has too, and what they are where nothing is said. Which input
 * stands for which is after MaterialX's own translation graphs to UsdPreviewSurface, from memory.
 *
 * @param kind one of {@link #KINDS}
 */
public record SurfaceInputs(String kind) {
    /** The kinds of surface that are understood. */
    public static final List<String> KINDS =
            List.of("UsdPreviewSurface", "standard_surface", "gltf_pbr", "open_pbr_surface");

    private <T> T pick(T preview, T standard, T gltf, T open) {
        return switch (kind) {
            case "UsdPreviewSurface" -> preview;
            case "gltf_pbr" -> gltf;
            case "open_pbr_surface" -> open;
            default -> standard;
        };
    }

    /** An input of the surface. @param name empty where the kind has none, which then is as its default says */
    record Named(String name, float usual) {}

    Named base() {
        return new Named(pick("diffuseColor", "base_color", "base_color", "base_color"), pick(0.18f, 0.8f, 1f, 0.8f));
    }

    /** What the base is multiplied by. */
    Named baseWeight() {
        return new Named(pick("", "base", "", "base_weight"), 1);
    }

    Named emissive() {
        return new Named(pick("emissiveColor", "emission_color", "emissive", "emission_color"), pick(0f, 1f, 0f, 1f));
    }

    /** What the emission is multiplied by. */
    Named emissiveWeight() {
        return new Named(pick("", "emission", "emissive_strength", "emission_luminance"), pick(1f, 0f, 1f, 0f));
    }

    Named metallic() {
        return new Named(pick("metallic", "metalness", "metallic", "base_metalness"), pick(0f, 0f, 1f, 0f));
    }

    Named roughness() {
        return new Named(
                pick("roughness", "specular_roughness", "roughness", "specular_roughness"), pick(0.5f, 0.2f, 1f, 0.3f));
    }

    Named opacity() {
        return new Named(pick("opacity", "opacity", "alpha", "geometry_opacity"), 1);
    }

    Named normal() {
        return new Named(pick("normal", "normal", "normal", "geometry_normal"), 0);
    }

    Named coat() {
        return new Named(pick("clearcoat", "coat", "clearcoat", "coat_weight"), 0);
    }

    Named coatRoughness() {
        return new Named(
                pick("clearcoatRoughness", "coat_roughness", "clearcoat_roughness", "coat_roughness"),
                pick(0.01f, 0.1f, 0f, 0f));
    }

    Named ior() {
        return new Named(pick("ior", "specular_IOR", "ior", "specular_ior"), 1.5f);
    }

    /** By what images can drive, the names of the inputs. */
    public Map<Slot, String> names() {
        Map<Slot, String> names = new EnumMap<>(Slot.class);
        names.put(Slot.BASE, base().name());
        names.put(Slot.EMISSIVE, emissive().name());
        names.put(Slot.METALLIC, metallic().name());
        names.put(Slot.ROUGHNESS, roughness().name());
        names.put(Slot.OPACITY, opacity().name());
        names.put(Slot.NORMAL, normal().name());
        return names;
    }

    /** The type of the input of a slot. */
    String type(Slot slot) {
        if (slot == Slot.NORMAL) {
            return "vector3";
        }
        boolean colour = slot.colour() || slot == Slot.OPACITY && kind.equals("standard_surface");
        return colour ? "color3" : "float";
    }

    /** What each input that is looked at is where nothing is said of it, by its name; of colours each component. */
    public Map<String, Float> usual() {
        Map<String, Float> usual = new LinkedHashMap<>();
        List.of(
                        base(),
                        baseWeight(),
                        emissive(),
                        emissiveWeight(),
                        metallic(),
                        roughness(),
                        opacity(),
                        normal(),
                        coat(),
                        coatRoughness(),
                        ior())
                .forEach(input -> usual.put(input.name(), input.usual()));
        usual.remove("");
        return usual;
    }
}
