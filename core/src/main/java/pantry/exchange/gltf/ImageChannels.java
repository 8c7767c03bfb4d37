package pantry.exchange.gltf;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import pantry.base.ImageDecoder;
import pantry.model.Material;
import pantry.model.Texture;

/** Puts channels of several images into one. */
final class ImageChannels {
    private ImageChannels() {}

    /**
     * One image as large as the largest. What no image is given for is white and solid.
     *
     * @param colour its red, green and blue; over it those of the next two
     * @throws IOException where one cannot be read
     */
    static BufferedImage combined(
            @Nullable Texture colour,
            @Nullable Texture roughness,
            @Nullable Texture metalness,
            @Nullable Texture opacity)
            throws IOException {
        Source base = source(colour, Material.Slot.BASE);
        Source green = source(roughness, Material.Slot.ROUGHNESS);
        Source blue = source(metalness, Material.Slot.METALLIC);
        Source alpha = source(opacity, Material.Slot.OPACITY);
        int width = 1;
        int height = 1;
        for (Source each : new Source[] {base, green, blue, alpha}) {
            width = Math.max(width, each.width());
            height = Math.max(height, each.height());
        }
        int type = opacity == null ? BufferedImage.TYPE_INT_RGB : BufferedImage.TYPE_INT_ARGB;
        BufferedImage made = new BufferedImage(width, height, type);
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                double u = (x + 0.5) / width;
                double v = (y + 0.5) / height;
                int rgb = base.argb(u, v);
                int g = roughness == null ? rgb >> 8 & 0xff : green.channel(u, v);
                int b = metalness == null ? rgb & 0xff : blue.channel(u, v);
                int a = opacity == null ? 0xff : alpha.channel(u, v);
                made.setRGB(x, y, a << 24 | rgb & 0xff0000 | g << 8 | b);
            }
        }
        return made;
    }

    private static Source source(@Nullable Texture texture, Material.Slot slot) throws IOException {
        if (texture == null) {
            return new Source(null, 0);
        }
        String output = texture.sampling().channel() == Texture.Channel.OF_SLOT
                ? slot.output()
                : texture.sampling().channel().output();
        int shift =
                switch (output) {
                    case "r" -> 16;
                    case "g" -> 8;
                    case "a" -> 24;
                    default -> 0;
                };
        Path file = texture.file().orElseThrow();
        return new Source(slot.colour() ? ImageDecoder.read(file) : ImageDecoder.readNumbers(file), shift);
    }

    /** An image of which one channel is wanted, or none, which is white. */
    private record Source(@Nullable BufferedImage image, int shift) {
        int width() {
            return image == null ? 1 : image.getWidth();
        }

        int height() {
            return image == null ? 1 : image.getHeight();
        }

        int argb(double u, double v) {
            return image == null
                    ? 0xffffffff
                    : image.getRGB((int) (u * image.getWidth()), (int) (v * image.getHeight()));
        }

        int channel(double u, double v) {
            return argb(u, v) >>> shift & 0xff;
        }
    }
}
