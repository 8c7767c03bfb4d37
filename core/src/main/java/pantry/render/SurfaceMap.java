package pantry.render;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.model.Material;
import pantry.model.Texture;

/** An image that drives one of a surface's inputs, where and how it lies on the surface. */
final class SurfaceMap {
    /** Half a texel of a large image: clamped images show their edges, not what repeats beyond. */
    private static final float EDGE = 1f / 4096;

    private final Image image;
    private final Texture.Sampling sampling;
    private final boolean colour;
    private final int channel;

    /** The coordinates' change, as {@link Texture.Placement#placed} does it. */
    private final float[] change;

    /** By how much the image is smaller on the surface than its coordinates say. */
    private final double density;

    private SurfaceMap(Image image, Texture.Sampling sampling, Material.Slot slot) {
        this.image = image;
        this.sampling = sampling;
        this.colour = slot.colour();
        this.channel = channel(
                sampling.channel() == Texture.Channel.OF_SLOT
                        ? slot.output()
                        : sampling.channel().output());
        Texture.Placement lying = sampling.placement();
        float[] corners = lying.placed(new float[] {0, 0, 1, 0, 0, 1});
        this.change = new float[] {
            corners[2] - corners[0],
            corners[4] - corners[0],
            corners[0],
            corners[3] - corners[1],
            corners[5] - corners[1],
            corners[1]
        };
        this.density = image.texels() * Math.sqrt(Math.abs(change[0] * change[4] - change[1] * change[3]));
    }

    /** The image in a slot of a material; null where there is none, or it cannot be read. */
    static @Nullable SurfaceMap of(Material material, Material.Slot slot, RenderCache cache) {
        Optional<Texture> texture = material.texture(slot);
        return texture.flatMap(Texture::file)
                .flatMap(cache::image)
                .map(image -> new SurfaceMap(image, texture.get().sampling(), slot))
                .orElse(null);
    }

    private static int channel(String output) {
        return switch (output) {
            case "g" -> 1;
            case "b" -> 2;
            case "a" -> 3;
            default -> 0;
        };
    }

    /** Which set of texture coordinates, 0 the first. */
    int uvSet() {
        return sampling.uvSet();
    }

    /** Of a normal map's slopes, or of occlusion; of heights, how far white stands above black, metres. */
    float strength() {
        return sampling.strength();
    }

    /**
     * Looks up what the image says.
     *
     * @param u with {@code v} the surface's own coordinates
     * @param uvPerPixel how far they change from one pixel to the next
     * @param out receives red, green, blue and alpha, 0 to 1; colours in linear light, numbers as they are
     */
    void sample(float u, float v, double uvPerPixel, float[] out) {
        float placedU = u * change[0] + v * change[1] + change[2];
        float placedV = u * change[3] + v * change[4] + change[5];
        image.sample(
                wrapped(placedU, sampling.wrapS()),
                wrapped(placedV, sampling.wrapT()),
                uvPerPixel * density,
                colour,
                out);
    }

    /** Whether another one says its number in the same places of the same image, as packed images do. */
    boolean liesAs(@Nullable SurfaceMap other) {
        return other != null
                && image == other.image
                && colour == other.colour
                && sampling.placement().equals(other.sampling.placement())
                && sampling.wrapS() == other.sampling.wrapS()
                && sampling.wrapT() == other.sampling.wrapT();
    }

    /** The one number that is wanted of what was looked up, 0 to 1. */
    float numberOf(float[] looked) {
        return looked[channel];
    }

    /** The one number that is wanted of the image, 0 to 1. */
    float number(float u, float v, double uvPerPixel, float[] scratch) {
        sample(u, v, uvPerPixel, scratch);
        return numberOf(scratch);
    }

    /**
     * How steeply the heights that the image says rise there.
     *
     * @param rise receives metres for each unit of the surface's own coordinates, along each of them
     */
    void rise(float u, float v, double uvPerPixel, float[] scratch, float[] rise) {
        float step = (float) Math.max(uvPerPixel, 1 / Math.max(1, density));
        float by = sampling.strength() / (2 * step);
        rise[0] = by * (number(u + step, v, uvPerPixel, scratch) - number(u - step, v, uvPerPixel, scratch));
        rise[1] = by * (number(u, v + step, uvPerPixel, scratch) - number(u, v - step, uvPerPixel, scratch));
    }

    /** Brings a coordinate to what a repeating image shows there. */
    static float wrapped(float coordinate, Texture.Wrap wrap) {
        return switch (wrap) {
            case REPEAT -> coordinate;
            case CLAMP -> Math.clamp(coordinate, EDGE, 1 - EDGE);
            case MIRROR -> {
                float twice = coordinate - 2 * (float) Math.floor(coordinate / 2);
                yield twice > 1 ? 2 - twice : twice;
            }
        };
    }
}
