package pantry.render;

import java.util.Optional;
import java.util.concurrent.CancellationException;
import org.jspecify.annotations.Nullable;
import pantry.base.Parallel;

/**
 * Draws scenes. Keeps its buffers from frame to frame: to be used by one thread at a time, which it helps with all
 * cores.
 */
public final class Renderer {
    /** Of 256: how bright the pixels along edges stay. */
    private static final int EDGE_SHADE = 90;

    private final int threads = Runtime.getRuntime().availableProcessors();
    private volatile boolean stopped;
    private FrameBuffers buffers = new FrameBuffers(1, 1, threads);

    /**
     * Draws a scene.
     *
     * @return a frame that shares this renderer's buffers
     * @throws CancellationException where {@link #stop} was called meanwhile
     * @throws IllegalArgumentException where the picture has no pixels
     */
    public Frame draw(RenderScene scene, Camera camera, int pictureWidth, int pictureHeight, RenderOptions options) {
        return draw(new Seen(scene, scene.shadow(), camera, options), pictureWidth, pictureHeight);
    }

    /** Draws a scene at once: the shadow of what was just moved may still lie where it was. */
    public Frame drawSoon(
            RenderScene scene, Camera camera, int pictureWidth, int pictureHeight, RenderOptions options) {
        return draw(new Seen(scene, scene.shadowAtHand(), camera, options), pictureWidth, pictureHeight);
    }

    /** What is drawn, with the shadow that lies below it. */
    private record Seen(RenderScene scene, ContactShadow shadow, Camera camera, RenderOptions options) {}

    private Frame draw(Seen seen, int pictureWidth, int pictureHeight) {
        RenderOptions options = seen.options();
        Shading shading = shading(seen, pictureWidth, pictureHeight);
        Parallel.forEach(buffers.height, RowScratch::new, (row, y) -> {
            if (!stopped) {
                shading.row(row, y, buffers.argb, buffers.ids);
            }
        });
        if (stopped) {
            throw new CancellationException("the picture is no longer wanted");
        }
        if (options.edges()) {
            Parallel.forEach(buffers.height - 1, this::edges);
        }
        if (!options.selected().isEmpty()) {
            outline(seen.scene().selectedUses(options), 0xff000000 | options.outline());
        }
        return new Frame(buffers.width, buffers.height, buffers.argb, buffers.ids);
    }

    /**
     * Draws a scene with smooth edges: what is seen is found at twice the size, and shaded anew only where the four
     * pixels behind one see different surfaces.
     *
     * @return a frame of its own
     */
    public Frame drawSmooth(
            RenderScene scene, Camera camera, int pictureWidth, int pictureHeight, RenderOptions options) {
        if (options.edges() || !options.selected().isEmpty()) {
            return draw(scene, camera, 2 * pictureWidth, 2 * pictureHeight, options)
                    .halved();
        }
        Shading shading =
                shading(new Seen(scene, scene.shadow(), camera, options), 2 * pictureWidth, 2 * pictureHeight);
        int[] colours = new int[pictureWidth * pictureHeight];
        int[] objects = new int[pictureWidth * pictureHeight];
        Parallel.forEach(pictureHeight, RowScratch::new, (row, y) -> {
            if (!stopped) {
                shading.blocks(row, y, colours, objects);
            }
        });
        if (stopped) {
            throw new CancellationException("the picture is no longer wanted");
        }
        return new Frame(pictureWidth, pictureHeight, colours, objects);
    }

    /** Darkens the pixels of a row beside which another triangle is seen. */
    private void edges(int y) {
        int width = buffers.width;
        int[] use = buffers.use;
        int[] triangle = buffers.triangle;
        int[] argb = buffers.argb;
        for (int i = y * width; i < (y + 1) * width - 1; i++) {
            boolean right = use[i] != use[i + 1] || triangle[i] != triangle[i + 1];
            boolean below = use[i] != use[i + width] || triangle[i] != triangle[i + width];
            if ((right || below) && use[i] >= 0) {
                argb[i] = 0xff000000
                        | (argb[i] >> 16 & 0xff) * EDGE_SHADE / 256 << 16
                        | (argb[i] >> 8 & 0xff) * EDGE_SHADE / 256 << 8
                        | (argb[i] & 0xff) * EDGE_SHADE / 256;
            }
        }
    }

    /** Finds what is seen at each pixel. */
    private Shading shading(Seen seen, int pictureWidth, int pictureHeight) {
        RenderScene scene = seen.scene();
        Camera camera = seen.camera();
        RenderOptions options = seen.options();
        stopped = false;
        resize(pictureWidth, pictureHeight);
        Shading shading = new Shading(scene, seen.shadow(), camera, buffers, options);
        find(scene, camera, options.cut(), shading);
        return shading;
    }

    /** How near what is seen at each pixel of a square picture is: one over its distance, 0 where nothing is. */
    float[] depths(RenderScene scene, Camera camera, int size) {
        resize(size, size);
        find(scene, camera, Optional.empty(), null);
        return buffers.depth;
    }

    private void find(RenderScene scene, Camera camera, Optional<RenderOptions.Cut> cut, @Nullable Shading shading) {
        ViewSpace view = new ViewSpace(camera, cut, buffers.width, buffers.height);
        new GeometryPass(scene, view, buffers, shading, () -> stopped).run();
    }

    /** Gives up the picture that is being drawn; may be called by any thread. */
    public void stop() {
        stopped = true;
    }

    private void resize(int width, int height) {
        if (width != buffers.width || height != buffers.height) {
            buffers = new FrameBuffers(width, height, threads);
        }
        buffers.clear();
    }

    /**
     * Draws a line of two pixels around what is selected.
     *
     * @param selected for each use
     */
    private void outline(boolean[] selected, int colour) {
        Parallel.forEach(buffers.height, y -> {
            for (int x = 0; x < buffers.width; x++) {
                if (!chosen(selected, x, y) && nearChosen(selected, x, y)) {
                    buffers.argb[y * buffers.width + x] = colour;
                }
            }
        });
    }

    private boolean nearChosen(boolean[] selected, int x, int y) {
        for (int dy = -2; dy <= 2; dy++) {
            for (int dx = -2; dx <= 2; dx++) {
                if (dx * dx + dy * dy <= 5 && chosen(selected, x + dx, y + dy)) {
                    return true;
                }
            }
        }
        return false;
    }

    private boolean chosen(boolean[] selected, int x, int y) {
        if (x < 0 || y < 0 || x >= buffers.width || y >= buffers.height) {
            return false;
        }
        int seen = buffers.use[y * buffers.width + x];
        return seen >= 0 && selected[seen];
    }
}
