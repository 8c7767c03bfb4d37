package pantry.render;

import java.util.Arrays;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * Draws scenes. Keeps its buffers from frame to frame: to be used by one thread at a time, which it helps with all
 * cores.
 */
public final class Renderer {
    static final int TILE = 64;

    /** Thresholds from 1 to 16, spread so that any share of them is even (Bayer's 4×4 matrix). */
    private static final int[] SCREEN_DOOR = {1, 9, 3, 11, 13, 5, 15, 7, 4, 12, 2, 10, 16, 8, 14, 6};

    private final int threads = Runtime.getRuntime().availableProcessors();
    private volatile boolean stopped;
    private int width;
    private int height;
    private int tilesAcross;
    private int tileCount;
    private float[] depth = new float[0];
    private int[] use = new int[0];
    private int[] triangle = new int[0];
    private int[] argb = new int[0];
    private int[] ids = new int[0];
    private TriangleBatch[] batches = new TriangleBatch[0];

    /**
     * Draws a scene.
     *
     * @return a frame that shares this renderer's buffers
     * @throws CancellationException where {@link #stop} was called meanwhile
     * @throws IllegalArgumentException where the picture has no pixels
     */
    public Frame draw(RenderScene scene, Camera camera, int pictureWidth, int pictureHeight, RenderOptions options) {
        stopped = false;
        resize(pictureWidth, pictureHeight);
        Arrays.fill(depth, 0);
        Arrays.fill(use, -1);
        new Pass(scene, camera).run();
        Shading shading = new Shading(scene, camera, width, height, options, depth, use, triangle);
        boolean[] selected = scene.ownersBelow(options.selected());
        parallel(height, y -> {
            if (!stopped) {
                shading.row(y, argb, ids);
            }
        });
        if (stopped) {
            throw new CancellationException("the picture is no longer wanted");
        }
        if (!options.selected().isEmpty()) {
            outline(selected, 0xff000000 | options.outline());
        }
        return new Frame(width, height, argb, ids);
    }

    /** Gives up the picture that is being drawn; may be called by any thread. */
    public void stop() {
        stopped = true;
    }

    private static void parallel(int count, java.util.function.IntConsumer work) {
        IntStream.range(0, count).parallel().forEach(work);
    }

    private void resize(int newWidth, int newHeight) {
        if (newWidth <= 0 || newHeight <= 0) {
            throw new IllegalArgumentException("a picture of " + newWidth + "×" + newHeight + " has no pixels");
        }
        if (newWidth == width && newHeight == height) {
            return;
        }
        width = newWidth;
        height = newHeight;
        int pixels = width * height;
        depth = new float[pixels];
        use = new int[pixels];
        triangle = new int[pixels];
        argb = new int[pixels];
        ids = new int[pixels];
        tilesAcross = (width + TILE - 1) / TILE;
        tileCount = tilesAcross * ((height + TILE - 1) / TILE);
        batches = new TriangleBatch[threads];
        Arrays.setAll(batches, i -> new TriangleBatch(tileCount));
    }

    /** Finds the nearest triangle at every pixel. */
    private final class Pass {
        private final RenderScene scene;
        private final Matrix4 view;
        private final float focal;
        private final float near;
        private final double slopeX;
        private final double slopeY;
        private final int[] chunkUse;
        private final int[] chunkCluster;
        private final AtomicInteger next = new AtomicInteger();

        Pass(RenderScene scene, Camera camera) {
            this.scene = scene;
            this.view = camera.view();
            this.focal = (float) camera.focal(height);
            this.near = (float) (camera.distance() * 1e-3);
            this.slopeX = width / (2.0 * focal);
            this.slopeY = height / (2.0 * focal);
            int chunks =
                    scene.uses.stream().mapToInt(u -> u.mesh().clusters.length).sum();
            chunkUse = new int[chunks];
            chunkCluster = new int[chunks];
            int at = 0;
            for (int u = 0; u < scene.uses.size(); u++) {
                int clusters = scene.uses.get(u).mesh().clusters.length;
                for (int c = 0; c < clusters; c++) {
                    chunkUse[at] = u;
                    chunkCluster[at++] = c;
                }
            }
        }

        void run() {
            while (next.get() < chunkUse.length && !stopped) {
                parallel(batches.length, i -> fill(batches[i]));
                parallel(tileCount, this::drawTile);
            }
        }

        private void fill(TriangleBatch batch) {
            batch.clear();
            Matrix4 toView = Matrix4.IDENTITY;
            int current = -1;
            float[] m = new float[12];
            float stretch = 1;
            while (batch.hasRoom()) {
                int chunk = next.getAndIncrement();
                if (chunk >= chunkUse.length) {
                    return;
                }
                RenderScene.Use used = scene.uses.get(chunkUse[chunk]);
                if (current != chunkUse[chunk]) {
                    current = chunkUse[chunk];
                    toView = used.world().times(view);
                    for (int row = 0; row < 4; row++) {
                        for (int column = 0; column < 3; column++) {
                            m[row * 3 + column] = (float) toView.get(row, column);
                        }
                    }
                    stretch = stretch(toView);
                }
                cluster(batch, used, current, used.mesh().clusters[chunkCluster[chunk]], m, stretch);
            }
        }

        /** An upper bound of how much the transform lengthens anything. */
        private static float stretch(Matrix4 m) {
            double sum = 0;
            for (int row = 0; row < 3; row++) {
                for (int column = 0; column < 3; column++) {
                    sum += m.get(row, column) * m.get(row, column);
                }
            }
            return (float) Math.sqrt(sum);
        }

        private void cluster(
                TriangleBatch batch,
                RenderScene.Use used,
                int useNumber,
                RenderMesh.Cluster cluster,
                float[] m,
                float stretch) {
            float cx = cluster.x() * m[0] + cluster.y() * m[3] + cluster.z() * m[6] + m[9];
            float cy = cluster.x() * m[1] + cluster.y() * m[4] + cluster.z() * m[7] + m[10];
            float cz = cluster.x() * m[2] + cluster.y() * m[5] + cluster.z() * m[8] + m[11];
            float reach = cluster.radius() * stretch;
            if (cz + reach < near
                    || Math.abs(cx) > (cz + reach) * slopeX + reach * Math.sqrt(1 + slopeX * slopeX)
                    || Math.abs(cy) > (cz + reach) * slopeY + reach * Math.sqrt(1 + slopeY * slopeY)) {
                return;
            }
            float[] positions = used.mesh().positions;
            float[] seen = batch.seen;
            int[] vertices = cluster.vertices();
            for (int i = 0; i < vertices.length; i++) {
                int v = 3 * vertices[i];
                float x = positions[v];
                float y = positions[v + 1];
                float z = positions[v + 2];
                seen[3 * i] = x * m[0] + y * m[3] + z * m[6] + m[9];
                seen[3 * i + 1] = x * m[1] + y * m[4] + z * m[7] + m[10];
                seen[3 * i + 2] = x * m[2] + y * m[5] + z * m[8] + m[11];
            }
            int opacity = Math.round(used.surface().opacity() * 16);
            short[] local = cluster.local();
            for (int t = 0; t < local.length; t += 3) {
                clip(
                        batch,
                        3 * (local[t] & 0xffff),
                        3 * (local[t + 1] & 0xffff),
                        3 * (local[t + 2] & 0xffff),
                        useNumber,
                        cluster.firstTriangle() + t / 3,
                        opacity);
            }
        }

        private void clip(TriangleBatch batch, int a, int b, int c, int useNumber, int number, int opacity) {
            float[] s = batch.seen;
            boolean inA = s[a + 2] >= near;
            boolean inB = s[b + 2] >= near;
            boolean inC = s[c + 2] >= near;
            if (inA && inB && inC) {
                emit(
                        batch, s[a], s[a + 1], s[a + 2], s[b], s[b + 1], s[b + 2], s[c], s[c + 1], s[c + 2], useNumber,
                        number, opacity);
            } else if (inA || inB || inC) {
                float[] polygon = new float[12];
                int size = 0;
                int[] ring = {a, b, c, a};
                for (int i = 0; i < 3; i++) {
                    int p = ring[i];
                    int q = ring[i + 1];
                    if (s[p + 2] >= near) {
                        System.arraycopy(s, p, polygon, 3 * size++, 3);
                    }
                    if (s[p + 2] >= near != s[q + 2] >= near) {
                        float k = (near - s[p + 2]) / (s[q + 2] - s[p + 2]);
                        polygon[3 * size] = s[p] + k * (s[q] - s[p]);
                        polygon[3 * size + 1] = s[p + 1] + k * (s[q + 1] - s[p + 1]);
                        polygon[3 * size++ + 2] = near;
                    }
                }
                for (int i = 2; i < size; i++) {
                    emit(
                            batch,
                            polygon[0],
                            polygon[1],
                            polygon[2],
                            polygon[3 * i - 3],
                            polygon[3 * i - 2],
                            polygon[3 * i - 1],
                            polygon[3 * i],
                            polygon[3 * i + 1],
                            polygon[3 * i + 2],
                            useNumber,
                            number,
                            opacity);
                }
            }
        }

        private void emit(
                TriangleBatch batch,
                float ax,
                float ay,
                float az,
                float bx,
                float by,
                float bz,
                float cx,
                float cy,
                float cz,
                int useNumber,
                int number,
                int opacity) {
            float ia = 1 / az;
            float ib = 1 / bz;
            float ic = 1 / cz;
            float halfWidth = width / 2f;
            float halfHeight = height / 2f;
            float x0 = halfWidth + ax * focal * ia;
            float y0 = halfHeight - ay * focal * ia;
            float x1 = halfWidth + bx * focal * ib;
            float y1 = halfHeight - by * focal * ib;
            float x2 = halfWidth + cx * focal * ic;
            float y2 = halfHeight - cy * focal * ic;
            // Pixel centres lie at halves: a triangle between two of them covers none.
            int left = (int) Math.max(0, Math.ceil(Math.min(x0, Math.min(x1, x2)) - 0.5f));
            int right = (int) Math.min(width - 1, Math.floor(Math.max(x0, Math.max(x1, x2)) - 0.5f));
            int top = (int) Math.max(0, Math.ceil(Math.min(y0, Math.min(y1, y2)) - 0.5f));
            int bottom = (int) Math.min(height - 1, Math.floor(Math.max(y0, Math.max(y1, y2)) - 0.5f));
            if (left > right || top > bottom) {
                return;
            }
            int n = batch.count++;
            float[] corners = batch.corners;
            int at = 9 * n;
            corners[at] = x0;
            corners[at + 1] = y0;
            corners[at + 2] = ia;
            corners[at + 3] = x1;
            corners[at + 4] = y1;
            corners[at + 5] = ib;
            corners[at + 6] = x2;
            corners[at + 7] = y2;
            corners[at + 8] = ic;
            batch.use[n] = useNumber;
            batch.triangle[n] = number;
            batch.opacity[n] = opacity;
            for (int ty = top / TILE; ty <= bottom / TILE; ty++) {
                for (int tx = left / TILE; tx <= right / TILE; tx++) {
                    batch.bin(ty * tilesAcross + tx, n);
                }
            }
        }

        private void drawTile(int tile) {
            int x0 = tile % tilesAcross * TILE;
            int y0 = tile / tilesAcross * TILE;
            int x1 = Math.min(width, x0 + TILE);
            int y1 = Math.min(height, y0 + TILE);
            for (TriangleBatch batch : batches) {
                int[] bin = batch.bins[tile];
                for (int i = 0; i < batch.binSizes[tile]; i++) {
                    fill(batch, bin[i], x0, y0, x1, y1);
                }
            }
        }

        /** Sets the pixels of a tile whose centres a triangle covers and that see nothing nearer. */
        private void fill(TriangleBatch batch, int n, int tileX0, int tileY0, int tileX1, int tileY1) {
            float[] p = batch.corners;
            int at = 9 * n;
            double ax = p[at];
            double ay = p[at + 1];
            double bx = p[at + 3];
            double by = p[at + 4];
            double cx = p[at + 6];
            double cy = p[at + 7];
            double area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
            if (area == 0) {
                return;
            }
            double sign = area < 0 ? -1 : 1;
            int x0 = (int) Math.max(tileX0, Math.ceil(Math.min(ax, Math.min(bx, cx)) - 0.5));
            int x1 = (int) Math.min(tileX1 - 1.0, Math.floor(Math.max(ax, Math.max(bx, cx)) - 0.5));
            int y0 = (int) Math.max(tileY0, Math.ceil(Math.min(ay, Math.min(by, cy)) - 0.5));
            int y1 = (int) Math.min(tileY1 - 1.0, Math.floor(Math.max(ay, Math.max(by, cy)) - 0.5));
            // Edge functions, positive inside, and their steps to the right and down.
            double stepA = -sign * (cy - by);
            double stepB = -sign * (ay - cy);
            double stepC = -sign * (by - ay);
            double downA = sign * (cx - bx);
            double downB = sign * (ax - cx);
            double downC = sign * (bx - ax);
            double px = x0 + 0.5;
            double py = y0 + 0.5;
            double rowA = sign * ((cx - bx) * (py - by) - (cy - by) * (px - bx));
            double rowB = sign * ((ax - cx) * (py - cy) - (ay - cy) * (px - cx));
            double rowC = sign * ((bx - ax) * (py - ay) - (by - ay) * (px - ax));
            double whole = sign * area;
            float wa = (float) (p[at + 2] / whole);
            float wb = (float) (p[at + 5] / whole);
            float wc = (float) (p[at + 8] / whole);
            int opacity = batch.opacity[n];
            for (int y = y0; y <= y1; y++) {
                double ea = rowA;
                double eb = rowB;
                double ec = rowC;
                int pixel = y * width + x0;
                for (int x = x0; x <= x1; x++, pixel++) {
                    if (ea >= 0 && eb >= 0 && ec >= 0) {
                        float inverse = (float) ea * wa + (float) eb * wb + (float) ec * wc;
                        if (inverse > depth[pixel]
                                && (opacity >= 16 || SCREEN_DOOR[(y & 3) * 4 + (x & 3)] <= opacity)) {
                            depth[pixel] = inverse;
                            use[pixel] = batch.use[n];
                            triangle[pixel] = batch.triangle[n];
                        }
                    }
                    ea += stepA;
                    eb += stepB;
                    ec += stepC;
                }
                rowA += downA;
                rowB += downB;
                rowC += downC;
            }
        }
    }

    /** Draws a line of two pixels around what is selected. */
    private void outline(boolean[] selected, int colour) {
        parallel(height, y -> {
            for (int x = 0; x < width; x++) {
                if (!chosen(selected, x, y) && nearChosen(selected, x, y)) {
                    argb[y * width + x] = colour;
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
        if (x < 0 || y < 0 || x >= width || y >= height) {
            return false;
        }
        int id = ids[y * width + x];
        return id >= 0 && selected[id];
    }

    /** Where a pixel's ray meets what is seen there, or the ground where nothing is. */
    public static Vec3 onGround(Camera camera, double x, double y, int width, int height, double ground) {
        Vec3 ray = camera.ray(x, y, width, height);
        Vec3 eye = camera.eye();
        double along = (ground - eye.y()) / ray.y();
        // Rays that never come down meet the plane at the target's distance instead.
        return Double.isFinite(along) && along > 0 && along < camera.distance() * 20
                ? eye.plus(ray.times(along))
                : camera.target();
    }
}
