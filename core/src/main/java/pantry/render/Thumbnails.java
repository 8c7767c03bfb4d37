package pantry.render;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import javax.imageio.ImageIO;
import pantry.exchange.Model;

/** Pictures of models for cards: framed, on a plain ground with a soft shadow, smoothed by drawing at twice the size. */
public final class Thumbnails {
    /** The usual edge, pixels. */
    public static final int SIZE = 512;

    private Thumbnails() {}

    /** A PNG of a model, square. */
    public static byte[] png(Model model, RenderCache cache, int size) {
        RenderScene scene = RenderScene.of(model, cache);
        return png(picture(scene, Camera.START.framing(scene.boxes(), 1), size, size, RenderOptions.PLAIN));
    }

    /** A picture of a scene, each pixel the mean of four. */
    public static BufferedImage picture(
            RenderScene scene, Camera camera, int width, int height, RenderOptions options) {
        Frame frame = new Renderer().draw(scene, camera, 2 * width, 2 * height, options);
        BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        int[] row = new int[width];
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                row[x] = mean(frame.argb(), 4 * y * width + 2 * x, 2 * width);
            }
            image.setRGB(0, y, width, 1, row, 0, width);
        }
        return image;
    }

    private static int mean(int[] argb, int at, int stride) {
        int sum = 0;
        for (int shift = 0; shift <= 16; shift += 8) {
            int total = (argb[at] >> shift & 0xff)
                    + (argb[at + 1] >> shift & 0xff)
                    + (argb[at + stride] >> shift & 0xff)
                    + (argb[at + stride + 1] >> shift & 0xff);
            sum |= (total + 2) / 4 << shift;
        }
        return sum;
    }

    /** An image as PNG. */
    public static byte[] png(BufferedImage image) {
        try {
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            ImageIO.write(image, "png", out);
            return out.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException("writing to memory failed", e);
        }
    }
}
