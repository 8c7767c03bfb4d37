package pantry.project;

import java.awt.image.BufferedImage;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import pantry.base.math.Box3;
import pantry.exchange.usd.MeshCache;
import pantry.render.Camera;
import pantry.render.RenderCache;
import pantry.render.RenderOptions;
import pantry.render.RenderScene;
import pantry.render.Thumbnails;
import pantry.scene.Focus;
import pantry.scene.Pictures;
import pantry.scene.Scene;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/** Pictures of a scene as it is and as it would be, from its focuses, with what differs marked. */
public final class RipplePictures {
    /** Of a scene without focuses there is one picture, of all of it; of others at most these many. */
    private static final int MOST = 3;

    /** Colours differ where a channel does by more; 0 to 255. */
    private static final int DIFFERENT = 10;

    /** So far around what differs it is marked, pixels. */
    private static final int AROUND = 3;

    private static final int MARK = 0xD0562B;

    private RipplePictures() {}

    /**
     * A scene from one place.
     *
     * @param name the focus; empty for a view of the whole
     * @param marked as it would be, pale, but for what differs
     * @param changed the share of the pixels that differ, 0 to 1
     */
    public record View(String name, BufferedImage before, BufferedImage after, BufferedImage marked, double changed) {}

    /**
     * Takes the pictures.
     *
     * @param width of each, pixels
     * @throws pantry.usd.UsdException where the scene cannot be composed
     */
    public static List<View> of(Reach reach, Imagined change, Path file, int width, RenderCache cache) {
        int height = width * 5 / 8;
        LayerCache layers = WhatIf.layers(reach);
        Layer root = layers.open(AssetLocation.of(file));
        RenderScene before = RenderScene.of(WhatIf.model(Stage.open(root, layers)), cache);
        RenderScene after = RenderScene.of(WhatIf.model(Stage.open(root, change.in(layers))), cache);
        List<View> views = new ArrayList<>();
        for (Focus focus : Scene.open(file, layers, new MeshCache()).focuses().all()) {
            if (views.size() < MOST && focus.from().isPresent()) {
                views.add(view(
                        focus.name(),
                        before,
                        after,
                        Pictures.camera(focus.from().get()),
                        width));
            }
        }
        if (views.isEmpty()) {
            List<Box3> boxes = new ArrayList<>(before.boxes());
            boxes.addAll(after.boxes());
            views.add(view("", before, after, Camera.START.framing(boxes, (double) width / height), width));
        }
        return views;
    }

    private static View view(String name, RenderScene before, RenderScene after, Camera camera, int width) {
        int height = width * 5 / 8;
        BufferedImage was = Thumbnails.picture(before, camera, width, height, RenderOptions.PLAIN);
        BufferedImage is = Thumbnails.picture(after, camera, width, height, RenderOptions.PLAIN);
        boolean[] different = different(was, is);
        int count = 0;
        for (boolean each : different) {
            count += each ? 1 : 0;
        }
        return new View(name, was, is, marked(is, different), (double) count / different.length);
    }

    /** Row by row. */
    static boolean[] different(BufferedImage one, BufferedImage other) {
        int width = one.getWidth();
        boolean[] different = new boolean[width * one.getHeight()];
        for (int y = 0; y < one.getHeight(); y++) {
            for (int x = 0; x < width; x++) {
                int a = one.getRGB(x, y);
                int b = other.getRGB(x, y);
                for (int shift = 0; shift <= 16; shift += 8) {
                    different[y * width + x] |= Math.abs((a >> shift & 0xff) - (b >> shift & 0xff)) > DIFFERENT;
                }
            }
        }
        return different;
    }

    private static BufferedImage marked(BufferedImage is, boolean[] different) {
        int width = is.getWidth();
        int height = is.getHeight();
        BufferedImage marked = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                int colour = is.getRGB(x, y);
                boolean own = different[y * width + x];
                boolean near = !own && isNear(different, x, y, width, height);
                marked.setRGB(x, y, near ? MARK : own ? colour : pale(colour));
            }
        }
        return marked;
    }

    private static boolean isNear(boolean[] different, int x, int y, int width, int height) {
        for (int v = Math.max(0, y - AROUND); v <= Math.min(height - 1, y + AROUND); v++) {
            for (int u = Math.max(0, x - AROUND); u <= Math.min(width - 1, x + AROUND); u++) {
                if (different[v * width + u]) {
                    return true;
                }
            }
        }
        return false;
    }

    private static int pale(int colour) {
        int pale = 0;
        for (int shift = 0; shift <= 16; shift += 8) {
            pale |= (255 - (255 - (colour >> shift & 0xff)) / 3) << shift;
        }
        return pale;
    }
}
