package pantry.exchange;

import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;

/**
 * A surface in the terms of UsdPreviewSurface's metallic workflow.
 *
 * @param opacity 1 is solid
 * @param textures images by what they drive; a texture replaces the plain value
 */
public record Material(
        String name,
        Colour base,
        float opacity,
        float metallic,
        float roughness,
        Colour emissive,
        Map<Slot, Texture> textures) {
    /** What a texture drives: the surface's input, the output it is read from, and whether it is a colour. */
    public enum Slot {
        BASE("diffuseColor", "rgb", true),
        EMISSIVE("emissiveColor", "rgb", true),
        METALLIC("metallic", "b", false),
        ROUGHNESS("roughness", "g", false),
        NORMAL("normal", "rgb", false),
        OCCLUSION("occlusion", "r", false),
        OPACITY("opacity", "a", false);

        private final String input;
        private final String output;
        private final boolean colour;

        Slot(String input, String output, boolean colour) {
            this.input = input;
            this.output = output;
            this.colour = colour;
        }

        public String input() {
            return input;
        }

        public String output() {
            return output;
        }

        /** Whether the image holds display colours rather than numbers. */
        public boolean colour() {
            return colour;
        }
    }

    /** What things without a material look like: a light, rough grey. */
    public static final Material PLAIN = plain("Plain", new Colour(0.6f, 0.6f, 0.58f), 0, 0.8f);

    public Material {
        Map<Slot, Texture> copy = new EnumMap<>(Slot.class);
        copy.putAll(textures);
        textures = java.util.Collections.unmodifiableMap(copy);
    }

    /** A solid material without textures. */
    public static Material plain(String name, Colour base, double metallic, double roughness) {
        return new Material(name, base, 1, (float) metallic, (float) roughness, Colour.BLACK, Map.of());
    }

    public Optional<Texture> texture(Slot slot) {
        return Optional.ofNullable(textures.get(slot));
    }

    /** This material with an image in a slot. */
    public Material with(Slot slot, Texture texture) {
        Map<Slot, Texture> more = new EnumMap<>(Slot.class);
        more.putAll(textures);
        more.put(slot, texture);
        return new Material(name, base, opacity, metallic, roughness, emissive, more);
    }
}
