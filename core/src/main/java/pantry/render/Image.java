package pantry.render;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import pantry.base.ImageDecoder;
import pantry.model.Colour;

/** A texture ready for sampling, with halved copies of itself for the distance. */
final class Image {
    private static final Logger LOG = LoggerFactory.getLogger(Image.class);

    /** Larger images are halved on loading: a view of a few million pixels shows no more. */
    private static final int LARGEST = 2048;

    private static final float[] LINEAR = new float[256];
    private static final float[] PLAIN = new float[256];

    static {
        for (int i = 0; i < 256; i++) {
            LINEAR[i] = Colour.linear(i);
            PLAIN[i] = i / 255f;
        }
    }

    private final List<Level> levels = new ArrayList<>();

    /** Display colours, row by row from the top. */
    private record Level(int[] argb, int width, int height) {}

    private Image(Level finest) {
        Level level = finest;
        while (level.width > LARGEST || level.height > LARGEST) {
            level = halved(level);
        }
        levels.add(level);
        while (level.width > 1 && level.height > 1) {
            level = halved(level);
            levels.add(level);
        }
    }

    /** Loads an image; empty, with a note in the log, where it cannot be read. */
    static Optional<Image> load(Path file) {
        try {
            BufferedImage image = ImageDecoder.read(file, LARGEST);
            int[] argb = image.getRGB(0, 0, image.getWidth(), image.getHeight(), null, 0, image.getWidth());
            return Optional.of(new Image(new Level(argb, image.getWidth(), image.getHeight())));
        } catch (IOException e) {
            LOG.warn("{} {}", file, e.getMessage());
            return Optional.empty();
        }
    }

    private static Level halved(Level level) {
        int w = Math.max(1, level.width / 2);
        int h = Math.max(1, level.height / 2);
        int[] argb = new int[w * h];
        for (int y = 0; y < h; y++) {
            for (int x = 0; x < w; x++) {
                int a = 0;
                int r = 0;
                int g = 0;
                int b = 0;
                for (int i = 0; i < 4; i++) {
                    int sx = Math.min(level.width - 1, 2 * x + (i & 1));
                    int sy = Math.min(level.height - 1, 2 * y + (i >> 1));
                    int c = level.argb[sy * level.width + sx];
                    a += c >>> 24;
                    r += c >> 16 & 0xff;
                    g += c >> 8 & 0xff;
                    b += c & 0xff;
                }
                argb[y * w + x] = (a + 2) / 4 << 24 | (r + 2) / 4 << 16 | (g + 2) / 4 << 8 | (b + 2) / 4;
            }
        }
        return new Level(argb, w, h);
    }

    /** Texels across the finest level, for judging which level fits. */
    double texels() {
        return Math.sqrt((double) levels.getFirst().width * levels.getFirst().height);
    }

    /**
     * Samples between four texels, repeating.
     *
     * @param v upwards
     * @param texelsPerPixel of the finest level
     * @param colour whether the image holds display colours, which are brought to linear light, rather than numbers
     * @param out receives red, green and blue, and alpha where it has room for that, 0 to 1
     */
    void sample(float u, float v, double texelsPerPixel, boolean colour, float[] out) {
        float[] values = colour ? LINEAR : PLAIN;
        int number =
                texelsPerPixel <= 1 ? 0 : (int) Math.min(levels.size() - 1, Math.log(texelsPerPixel) / Math.log(2));
        Level level = levels.get(number);
        float x = (u - (float) Math.floor(u)) * level.width - 0.5f;
        float y = (1 - (v - (float) Math.floor(v))) * level.height - 0.5f;
        int x0 = (int) Math.floor(x);
        int y0 = (int) Math.floor(y);
        float fx = x - x0;
        float fy = y - y0;
        Arrays.fill(out, 0);
        add(level, x0, y0, (1 - fx) * (1 - fy), values, out);
        add(level, x0 + 1, y0, fx * (1 - fy), values, out);
        add(level, x0, y0 + 1, (1 - fx) * fy, values, out);
        add(level, x0 + 1, y0 + 1, fx * fy, values, out);
    }

    private static void add(Level level, int x, int y, float weight, float[] values, float[] out) {
        int c = level.argb[Math.floorMod(y, level.height) * level.width + Math.floorMod(x, level.width)];
        out[0] += values[c >> 16 & 0xff] * weight;
        out[1] += values[c >> 8 & 0xff] * weight;
        out[2] += values[c & 0xff] * weight;
        if (out.length > 3) {
            out[3] += PLAIN[c >>> 24] * weight;
        }
    }
}
