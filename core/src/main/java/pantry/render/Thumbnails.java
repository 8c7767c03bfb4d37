package pantry.render;

import java.awt.image.BufferedImage;
import java.awt.image.DataBufferInt;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import javax.imageio.ImageIO;
import pantry.model.Model;

/** Pictures of models for cards: framed, with a soft shadow on a clear ground, smoothed. */
public final class Thumbnails {
    /** The usual edge, pixels. */
    public static final int SIZE = 384;

    private static final RenderOptions CLEAR = RenderOptions.PLAIN.withBackground(RenderOptions.CLEAR);

    private Thumbnails() {}

    /** A PNG of a model, square; it looks the same on whatever ground it is shown. */
    public static byte[] png(Model model, RenderCache cache, int size) {
        return png(picture(model, cache, size));
    }

    /** A model framed on a clear ground, square. */
    public static BufferedImage picture(Model model, RenderCache cache, int size) {
        RenderScene scene = RenderScene.of(model, cache);
        return picture(scene, Camera.START.framing(scene.boxes(), 1), size, size, CLEAR);
    }

    /** A picture of a scene, drawn at twice its size and smoothed. */
    public static BufferedImage picture(
            RenderScene scene, Camera camera, int width, int height, RenderOptions options) {
        Frame frame = new Renderer().drawSmooth(scene, camera, width, height, options);
        BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_ARGB);
        int[] pixels = ((DataBufferInt) image.getRaster().getDataBuffer()).getData();
        System.arraycopy(frame.argb(), 0, pixels, 0, pixels.length);
        return image;
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
