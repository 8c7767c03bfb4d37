package pantry.model;

import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;

/**
 * A surface in the terms of UsdPreviewSurface's metallic workflow.
 *
 * @param opacity 1 is solid
 * @param textures images by what they drive; what they say is multiplied by the plain value
 * @param network what its document says, of which the rest was made; empty where that says no more than the rest
 */
public record Material(
        String name,
        Colour base,
        float opacity,
        float metallic,
        float roughness,
        Colour emissive,
        Finish finish,
        Map<Slot, Texture> textures,
        Optional<ShaderNetwork> network) {
    /**
     * What few materials say.
     *
     * @param cutoff what is less opaque is not there at all; 0 where surfaces let light through instead
     * @param clearcoat strength of a second, clear layer
     * @param ior index of refraction
     * @param coloured whether the surface's own colours ({@link pantry.mesh.Mesh#COLOUR}) are multiplied in
     */
    public record Finish(float cutoff, float clearcoat, float clearcoatRoughness, float ior, boolean coloured) {
        public static final Finish USUAL = new Finish(0, 0, 0.01f, 1.5f, false);
    }

    /** What a texture drives: the surface's input, the output it is read from, and whether it is a colour. */
    public enum Slot {
        BASE("diffuseColor", "rgb", true),
        EMISSIVE("emissiveColor", "rgb", true),
        METALLIC("metallic", "b", false),
        ROUGHNESS("roughness", "g", false),
        NORMAL("normal", "rgb", false),
        OCCLUSION("occlusion", "r", false),
        OPACITY("opacity", "a", false),
        /** How far the surface is pushed out; shown as a change of its normals where no image says these. */
        DISPLACEMENT("displacement", "r", false);

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

    /** What things without a material look like: a light, rough grey. It has no name, which materials of files have. */
    public static final Material PLAIN = plain("", new Colour(0.6f, 0.6f, 0.58f), 0, 0.8f);

    /** The same on surfaces that have colours of their own, which are shown as they are. */
    private static final Material PLAIN_COLOURED = coloured(plain("", Colour.WHITE, 0, 0.8f));

    private static final String DISPLAY_COLOUR = "Display colour";

    public Material {
        Map<Slot, Texture> copy = new EnumMap<>(Slot.class);
        copy.putAll(textures);
        textures = java.util.Collections.unmodifiableMap(copy);
    }

    public Material(
            String name,
            Colour base,
            float opacity,
            float metallic,
            float roughness,
            Colour emissive,
            Map<Slot, Texture> textures) {
        this(name, base, opacity, metallic, roughness, emissive, Finish.USUAL, textures);
    }

    public Material(
            String name,
            Colour base,
            float opacity,
            float metallic,
            float roughness,
            Colour emissive,
            Finish finish,
            Map<Slot, Texture> textures) {
        this(name, base, opacity, metallic, roughness, emissive, finish, textures, Optional.empty());
    }

    /** A solid material without textures. */
    public static Material plain(String name, Colour base, double metallic, double roughness) {
        return new Material(name, base, 1, (float) metallic, (float) roughness, Colour.BLACK, Map.of());
    }

    /** What things without a material look like that have one colour of their own. */
    public static Material displayColour(Colour colour) {
        return colour.equals(Colour.WHITE)
                ? PLAIN_COLOURED
                : coloured(plain(DISPLAY_COLOUR, colour, PLAIN.metallic, PLAIN.roughness));
    }

    /** Whether this stands for having none: what is written then has none either. */
    public boolean isNone() {
        return equals(PLAIN) || equals(PLAIN_COLOURED);
    }

    /** What a person calls it. */
    public String title() {
        return name.isEmpty() ? "Plain" : name;
    }

    /** Whether this stands for having none but a colour of one's own. */
    public boolean isDisplayColour() {
        return name.equals(DISPLAY_COLOUR) && equals(displayColour(base));
    }

    public Optional<Texture> texture(Slot slot) {
        return Optional.ofNullable(textures.get(slot));
    }

    /** This material with an image in a slot. */
    public Material with(Slot slot, Texture texture) {
        Map<Slot, Texture> more = new EnumMap<>(Slot.class);
        more.putAll(textures);
        more.put(slot, texture);
        return new Material(name, base, opacity, metallic, roughness, emissive, finish, more, network);
    }

    /** This material on surfaces that have colours of their own. */
    public Material onColoured() {
        return equals(PLAIN) ? PLAIN_COLOURED : coloured(this);
    }

    private static Material coloured(Material m) {
        Finish f = m.finish;
        Finish own = new Finish(f.cutoff, f.clearcoat, f.clearcoatRoughness, f.ior, true);
        return new Material(m.name, m.base, m.opacity, m.metallic, m.roughness, m.emissive, own, m.textures, m.network);
    }

    /** Without any image. */
    public Material bare() {
        return textures.isEmpty()
                ? this
                : new Material(name, base, opacity, metallic, roughness, emissive, finish, Map.of());
    }

    /**
     * Without an image of opacity that is the colour's own and has no alpha: what names one image for both means its
     * alpha (common practice).
     */
    public Material withSoundOpacity() {
        Texture base = textures.get(Slot.BASE);
        Texture clear = textures.get(Slot.OPACITY);
        boolean solid = base != null
                && clear != null
                && clear.sampling().channel() == Texture.Channel.RED
                && base.file().equals(clear.file());
        if (!solid) {
            return this;
        }
        Map<Slot, Texture> others = new EnumMap<>(textures);
        others.remove(Slot.OPACITY);
        return withOnly(others);
    }

    /** This material without the image in a slot. */
    Material without(Slot slot) {
        Map<Slot, Texture> fewer = new EnumMap<>(Slot.class);
        fewer.putAll(textures);
        fewer.remove(slot);
        return withOnly(fewer);
    }

    /** This material under another name. */
    Material named(String other) {
        return new Material(other, base, opacity, metallic, roughness, emissive, finish, textures, network);
    }

    /** With these images and no others. */
    public Material withOnly(Map<Slot, Texture> images) {
        return new Material(name, base, opacity, metallic, roughness, emissive, finish, images, network);
    }

    /** This material with another plain colour. */
    public Material withBase(Colour colour) {
        return new Material(name, colour, opacity, metallic, roughness, emissive, finish, textures, network);
    }

    /** This material where what is less opaque than that is not there; 0 for letting light through instead. */
    public Material withCutoff(float cutoff) {
        Finish own = new Finish(cutoff, finish.clearcoat, finish.clearcoatRoughness, finish.ior, finish.coloured);
        return new Material(name, base, opacity, metallic, roughness, emissive, own, textures, network);
    }

    /** This material with each image replaced, those of its network too. */
    public Material withTextures(java.util.function.UnaryOperator<Texture> change) {
        Map<Slot, Texture> changed = new EnumMap<>(Slot.class);
        textures.forEach((slot, texture) -> changed.put(slot, change.apply(texture)));
        Optional<ShaderNetwork> network = this.network.map(each -> each.withTextures(change));
        return new Material(name, base, opacity, metallic, roughness, emissive, finish, changed, network);
    }

    /** Its images, those of its network too; each once. */
    public java.util.Set<Texture> images() {
        java.util.Set<Texture> images = new java.util.LinkedHashSet<>(textures.values());
        network.ifPresent(each -> images.addAll(each.textures()));
        return images;
    }

    /** What was made of a network, without that. */
    public Material withoutNetwork() {
        return network.isEmpty()
                ? this
                : new Material(name, base, opacity, metallic, roughness, emissive, finish, textures);
    }

    /** This material as it was made of a network. */
    public Material with(ShaderNetwork other) {
        return new Material(name, base, opacity, metallic, roughness, emissive, finish, textures, Optional.of(other));
    }
}
