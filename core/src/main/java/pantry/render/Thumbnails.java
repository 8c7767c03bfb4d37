package pantry.render;

import java.awt.image.BufferedImage;
import java.awt.image.DataBufferInt;
import java.lang.ref.SoftReference;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import pantry.base.Png;
import pantry.model.Model;
import pantry.model.Posing;

/** Pictures of models for cards: framed, with a soft shadow on a clear ground, smoothed. */
public final class Thumbnails {
    /** The usual edge, pixels. */
    public static final int SIZE = 384;

    private static final RenderOptions CLEAR = RenderOptions.PLAIN.withBackground(RenderOptions.CLEAR);

    /** Renderers that nobody draws with: their buffers take as long to make as a small picture to draw. */
    private static final Queue<SoftReference<Renderer>> IDLE = new ConcurrentLinkedQueue<>();

    private Thumbnails() {}

    /** A PNG of a model, square; it looks the same on whatever ground it is shown. */
    public static byte[] png(Model model, RenderCache cache, int size) {
        return Png.of(picture(model, cache, size));
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
}
