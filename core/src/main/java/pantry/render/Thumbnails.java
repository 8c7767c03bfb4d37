package pantry.render;

import java.awt.image.BufferedImage;
import java.awt.image.DataBufferInt;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.ref.SoftReference;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageOutputStream;
import javax.imageio.stream.MemoryCacheImageOutputStream;
import pantry.model.Model;
import pantry.model.Posing;

/** Pictures of models for cards: framed, with a soft shadow on a clear ground, smoothed. */
public final class Thumbnails {
    /** The usual edge, pixels. */
    public static final int SIZE = 384;

    private static final RenderOptions CLEAR = RenderOptions.PLAIN.withBackground(RenderOptions.CLEAR);

    /** Deflate's level 1, of ImageIO's 0 for level 9 and 1 for level 0: a quarter quicker and a fifth larger than its usual 4. */
    private static final float QUICK = 8 / 9f;

    /** Renderers that nobody draws with: their buffers take as long to make as a small picture to draw. */
    private static final Queue<SoftReference<Renderer>> IDLE = new ConcurrentLinkedQueue<>();

    private Thumbnails() {}

    /** A PNG of a model, square; it looks the same on whatever ground it is shown. */
    public static byte[] png(Model model, RenderCache cache, int size) {
        return png(picture(model, cache, size));
    }

    /** A model framed on a clear ground, square; what moves is in the pose that tells most. */
    public static BufferedImage picture(Model model, RenderCache cache, int size) {
        RenderScene scene = RenderScene.of(Posing.of(model).map(Posing::telling).orElse(model), cache);
        return picture(scene, Camera.START.framing(scene.boxes(), 1), size, size, CLEAR);
    }

    /** A picture of a scene, drawn at twice its size and smoothed. */
    public static BufferedImage picture(
            RenderScene scene, Camera camera, int width, int height, RenderOptions options) {
        Renderer renderer = idle();
        Frame frame = renderer.drawSmooth(scene, camera, width, height, options);
        IDLE.add(new SoftReference<>(renderer));
        BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_ARGB);
        int[] pixels = ((DataBufferInt) image.getRaster().getDataBuffer()).getData();
        System.arraycopy(frame.argb(), 0, pixels, 0, pixels.length);
        return image;
    }

    private static Renderer idle() {
        for (SoftReference<Renderer> next = IDLE.poll(); next != null; next = IDLE.poll()) {
            Renderer renderer = next.get();
            if (renderer != null) {
                return renderer;
            }
        }
        return new Renderer();
    }

    /** An image as PNG, compressed quickly rather than well. */
    public static byte[] png(BufferedImage image) {
        ImageWriter writer = ImageIO.getImageWritersByFormatName("png").next();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        // Into memory: by itself it goes through a file.
        try (ImageOutputStream encoded = new MemoryCacheImageOutputStream(out)) {
            writer.setOutput(encoded);
            ImageWriteParam how = writer.getDefaultWriteParam();
            how.setCompressionMode(ImageWriteParam.MODE_EXPLICIT);
            how.setCompressionQuality(QUICK);
            writer.write(null, new IIOImage(image, null, null), how);
        } catch (IOException e) {
            throw new UncheckedIOException("writing to memory failed", e);
        } finally {
            writer.dispose();
        }
        return out.toByteArray();
    }
}
