package pantry.render;

import java.util.Arrays;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * Draws scenes. Keeps its buffers from frame to frame: to be used by one thread at a time, which it helps with all
 * cores.
 */
public final class Renderer {
    static final int TILE = 128;

    /** Thresholds from 1 to 16, spread so that any share of them is even (Bayer's 4×4 matrix). */
    private static final int[] SCREEN_DOOR = {1, 9, 3, 11, 13, 5, 15, 7, 4, 12, 2, 10, 16, 8, 14, 6};

    /** Balls of a lesser radius are dots. */
    private static final float DOT_PIXELS = 2;

    /** Levels whose surface is not farther off than this are as good as the finest. */
    private static final float LEVEL_PIXELS = 1;

    private final int threads = Runtime.getRuntime().availableProcessors();
    private volatile boolean stopped;
    private int width;
    private int height;
    private int tilesAcross;
    /** Of 256: how bright the pixels along edges stay. */
    private static final int EDGE_SHADE = 90;

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
        return draw(scene, scene.shadow(), camera, pictureWidth, pictureHeight, options);
    }

    /** Draws a scene at once: the shadow of what was just moved may still lie where it was. */
    public Frame drawSoon(
            RenderScene scene, Camera camera, int pictureWidth, int pictureHeight, RenderOptions options) {
        return draw(scene, scene.shadowAtHand(), camera, pictureWidth, pictureHeight, options);
    }

    private Frame draw(
            RenderScene scene,
            ContactShadow shadow,
            Camera camera,
            int pictureWidth,
            int pictureHeight,
            RenderOptions options) {
        Shading shading = shading(scene, shadow, camera, pictureWidth, pictureHeight, options);
        parallel(height, y -> {
            if (!stopped) {
                shading.row(y, argb, ids);
            }
        });
        if (stopped) {
            throw new CancellationException("the picture is no longer wanted");
        }
        if (options.edges()) {
            parallel(height - 1, this::edges);
        }
        if (!options.selected().isEmpty()) {
            outline(scene.selectedUses(options), 0xff000000 | options.outline());
        }
        return new Frame(width, height, argb, ids);
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
        Shading shading = shading(scene, scene.shadow(), camera, 2 * pictureWidth, 2 * pictureHeight, options);
        int[] colours = new int[pictureWidth * pictureHeight];
        int[] objects = new int[pictureWidth * pictureHeight];
        parallel(pictureHeight, y -> {
            if (!stopped) {
                shading.blocks(y, colours, objects);
            }
        });
        if (stopped) {
            throw new CancellationException("the picture is no longer wanted");
        }
        return new Frame(pictureWidth, pictureHeight, colours, objects);
    }

    /** Darkens the pixels of a row beside which another triangle is seen. */
    private void edges(int y) {
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
    private Shading shading(
            RenderScene scene,
            ContactShadow shadow,
            Camera camera,
            int pictureWidth,
            int pictureHeight,
            RenderOptions options) {
        stopped = false;
        resize(pictureWidth, pictureHeight);
        Arrays.fill(depth, 0);
        Arrays.fill(use, -1);
        Shading shading = new Shading(scene, shadow, camera, width, height, options, depth, use, triangle, argb);
        new Pass(scene, camera, options.cut(), shading).run();
        return shading;
    }

    /** How near what is seen at each pixel of a square picture is: one over its distance, 0 where nothing is. */
    float[] depths(RenderScene scene, Camera camera, int size) {
        resize(size, size);
        Arrays.fill(depth, 0);
        new Pass(scene, camera, Optional.empty(), null).run();
        return depth;
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
        private final double[] viewRows;
        private final float focal;
        private final float near;
        private final double slopeX;
        private final double slopeY;
        private final int[] chunkUse;
        private final int[] chunkCluster;

        /** Where what is a dot is in the camera's space. */
        private final float[] chunkPlace;

        /** Gives dots their colours; null where only depths are wanted. */
        private final @Nullable Shading shading;

        private final AtomicInteger next = new AtomicInteger();

        /** The plane of the cut in the camera's space: what is beyond it is left out; null without one. */
        private final float @Nullable [] cut;

        Pass(RenderScene scene, Camera camera, Optional<RenderOptions.Cut> plane, @Nullable Shading shading) {
            this.shading = shading;
            this.cut = plane.map(p -> new float[] {
                        (float) p.normal().dot(camera.right()),
                        (float) p.normal().dot(camera.up()),
                        (float) -p.normal().dot(camera.back()),
                        (float) p.beyond(camera.eye())
                    })
                    .orElse(null);
            this.scene = scene;
            this.viewRows = camera.view().rows();
            this.focal = (float) camera.focal(height);
            this.near = (float) (camera.distance() * 1e-3);
            this.slopeX = width / (2.0 * focal);
            this.slopeY = height / (2.0 * focal);
            int parts = 4 * threads;
            Wanted[] wanted = new Wanted[parts];
            int count = scene.instances.size();
            parallel(
                    parts,
                    i -> wanted[i] = wanted((int) ((long) count * i / parts), (int) ((long) count * (i + 1) / parts)));
            int chunks = Arrays.stream(wanted).mapToInt(part -> part.size).sum();
            chunkUse = new int[chunks];
            chunkCluster = new int[chunks];
            chunkPlace = new float[3 * chunks];
            int at = 0;
            for (Wanted part : wanted) {
                System.arraycopy(part.uses, 0, chunkUse, at, part.size);
                System.arraycopy(part.clusters, 0, chunkCluster, at, part.size);
                System.arraycopy(part.places, 0, chunkPlace, 3 * at, 3 * part.size);
                at += part.size;
            }
        }

        /** Clusters to be drawn, by the numbers of their uses; {@link DrawInstance#DOT} for all of a use. */
        private static final class Wanted {
            private int[] uses = new int[64];
            private int[] clusters = new int[64];
            private float[] places = new float[3 * 64];
            private int size;

            void add(int use, int cluster) {
                if (size == uses.length) {
                    uses = Arrays.copyOf(uses, 2 * size);
                    clusters = Arrays.copyOf(clusters, 2 * size);
                    places = Arrays.copyOf(places, 6 * size);
                }
                uses[size] = use;
                clusters[size++] = cluster;
            }

            void addDot(int use, double x, double y, double z) {
                add(use, DrawInstance.DOT);
                places[3 * size - 3] = (float) x;
                places[3 * size - 2] = (float) y;
                places[3 * size - 1] = (float) z;
            }
        }

        /** A coordinate of a ball's centre in the camera's space: x, y or z. */
        private double seen(BoundingSphere sphere, int column) {
            return sphere.x() * viewRows[column]
                    + sphere.y() * viewRows[4 + column]
                    + sphere.z() * viewRows[8 + column]
                    + viewRows[12 + column];
        }

        /** Whether all of a ball is beyond the cut. */
        private boolean isCutOff(BoundingSphere sphere) {
            float[] plane = cut;
            return plane != null
                    && seen(sphere, 0) * plane[0] + seen(sphere, 1) * plane[1] + seen(sphere, 2) * plane[2] + plane[3]
                            > sphere.radius();
        }

        /** Whether a ball is out of the picture to one side. */
        private static boolean isBeside(double across, double forward, double reach, double slope) {
            return Math.abs(across) > (forward + reach) * slope + reach * Math.sqrt(1 + slope * slope);
        }

        /** What is to be drawn of some uses: nothing of what is out of sight, and far ones coarsely. */
        private Wanted wanted(int from, int to) {
            Wanted found = new Wanted();
            for (int u = from; u < to; u++) {
                DrawInstance used = scene.instances.get(u);
                BoundingSphere sphere = used.sphere();
                float reach = sphere.radius();
                float cz = (float) seen(sphere, 2);
                double cx = seen(sphere, 0);
                double cy = seen(sphere, 1);
                if (cz + reach < near
                        || isBeside(cx, cz, reach, slopeX)
                        || isBeside(cy, cz, reach, slopeY)
                        || isCutOff(sphere)) {
                    continue;
                }
                RenderMesh mesh = used.mesh();
                float pixels = cz <= reach ? Float.MAX_VALUE : focal / (cz - reach);
                if (reach * pixels < DOT_PIXELS && mesh.triangleCount() > 2) {
                    if (cz >= near) {
                        found.addDot(u, cx, cy, cz);
                    }
                    continue;
                }
                RenderMesh.Level fine = mesh.coarsest(sphere.stretch() * pixels, LEVEL_PIXELS);
                for (int c = 0; c < fine.clusterCount(); c++) {
                    found.add(u, fine.firstCluster() + c);
                }
            }
            return found;
        }

        void run() {
            while (next.get() < chunkUse.length && !stopped) {
                parallel(batches.length, i -> fill(batches[i]));
                parallel(tileCount, this::drawTile);
            }
        }

        private void fill(TriangleBatch batch) {
            batch.clear();
            int current = -1;
            float[] m = new float[12];
            float stretch = 1;
            while (batch.hasRoom()) {
                int chunk = next.getAndIncrement();
                if (chunk >= chunkUse.length) {
                    return;
                }
                DrawInstance used = scene.instances.get(chunkUse[chunk]);
                if (chunkCluster[chunk] == DrawInstance.DOT) {
                    dot(batch, used, chunk);
                    continue;
                }
                if (current != chunkUse[chunk]) {
                    current = chunkUse[chunk];
                    toView(used.world(), m);
                    stretch = used.sphere().stretch();
                }
                cluster(batch, used, current, used.mesh().clusters[chunkCluster[chunk]], m, stretch);
            }
        }

        /** From a mesh's space to the camera's: three rows and the shift, as {@link Matrix4#times} gives them. */
        private void toView(Matrix4 world, float[] into) {
            for (int row = 0; row < 4; row++) {
                double x = world.get(row, 0);
                double y = world.get(row, 1);
                double z = world.get(row, 2);
                double shift = row == 3 ? 1 : 0;
                for (int column = 0; column < 3; column++) {
                    into[row * 3 + column] = (float) (x * viewRows[column]
                            + y * viewRows[4 + column]
                            + z * viewRows[8 + column]
                            + shift * viewRows[12 + column]);
                }
            }
        }

        /** What is no larger than a few pixels: a square in the place of it. */
        private void dot(TriangleBatch batch, DrawInstance used, int chunk) {
            float x = chunkPlace[3 * chunk];
            float y = chunkPlace[3 * chunk + 1];
            float z = chunkPlace[3 * chunk + 2];
            float inverse = 1 / z;
            float across = width / 2f + x * focal * inverse;
            float down = height / 2f - y * focal * inverse;
            // A square of about the area that what is in the ball covers.
            float half = Math.max(0.5f, used.sphere().radius() * focal * inverse * 0.75f);
            int left = first(across - half);
            int right = last(across + half, width - 1);
            int top = first(down - half);
            int bottom = last(down + half, height - 1);
            if (left > right || top > bottom) {
                return;
            }
            int n = batch.count;
            batch.corners[9 * n] = inverse;
            batch.colour[n] = shading == null ? 0 : shading.dot(batch.row, used, x, y, z);
            int opacity = Math.round(used.surface().opacity() * 16);
            add(batch, left, top, right, bottom, chunkUse[chunk], DrawInstance.DOT, opacity);
        }

        private void cluster(
                TriangleBatch batch,
                DrawInstance used,
                int useNumber,
                RenderMesh.Cluster cluster,
                float[] m,
                float stretch) {
            float cx = cluster.x() * m[0] + cluster.y() * m[3] + cluster.z() * m[6] + m[9];
            float cy = cluster.x() * m[1] + cluster.y() * m[4] + cluster.z() * m[7] + m[10];
            float cz = cluster.x() * m[2] + cluster.y() * m[5] + cluster.z() * m[8] + m[11];
            float reach = cluster.radius() * stretch;
            if (cz + reach < near || isBeside(cx, cz, reach, slopeX) || isBeside(cy, cz, reach, slopeY)) {
                return;
            }
            float[] positions = used.mesh().positions;
            float[] seen = batch.seen;
            float[] screen = batch.screen;
            int[] vertices = cluster.vertices();
            for (int i = 0; i < vertices.length; i++) {
                int v = 3 * vertices[i];
                float x = positions[v];
                float y = positions[v + 1];
                float z = positions[v + 2];
                seen[3 * i] = x * m[0] + y * m[3] + z * m[6] + m[9];
                seen[3 * i + 1] = x * m[1] + y * m[4] + z * m[7] + m[10];
                seen[3 * i + 2] = x * m[2] + y * m[5] + z * m[8] + m[11];
                project(seen, 3 * i, screen, 3 * i);
            }
            int opacity = Math.round(used.surface().opacity() * 16);
            short[] local = cluster.local();
            for (int t = 0; t < local.length; t += 3) {
                int i = 3 * (local[t] & 0xffff);
                int j = 3 * (local[t + 1] & 0xffff);
                int k = 3 * (local[t + 2] & 0xffff);
                int number = cluster.firstTriangle() + t / 3;
                if (isWhole(seen, i) && isWhole(seen, j) && isWhole(seen, k)) {
                    emit(batch, screen, i, j, k, useNumber, number, opacity);
                } else {
                    clip(batch, i, j, k, useNumber, number, opacity);
                }
            }
        }

        private boolean isWhole(float[] seen, int vertex) {
            return seen[vertex + 2] >= near && (cut == null || kept(seen, vertex, 1) >= 0);
        }

        /** How far a point is on the drawn side of the near plane (0) or of the cut (1). */
        private float kept(float[] points, int at, int plane) {
            float[] section = cut;
            if (plane == 0 || section == null) {
                return points[at + 2] - near;
            }
            return -(points[at] * section[0] + points[at + 1] * section[1] + points[at + 2] * section[2] + section[3]);
        }

        /** From the camera's space to pixels and 1/z. */
        private void project(float[] seen, int from, float[] screen, int to) {
            float inverse = 1 / seen[from + 2];
            screen[to] = width / 2f + seen[from] * focal * inverse;
            screen[to + 1] = height / 2f - seen[from + 1] * focal * inverse;
            screen[to + 2] = inverse;
        }

        /** Keeps what lies on the drawn sides of the near plane and of the cut: a polygon of up to five corners. */
        private void clip(TriangleBatch batch, int a, int b, int c, int useNumber, int number, int opacity) {
            float[] polygon = new float[15];
            System.arraycopy(batch.seen, a, polygon, 0, 3);
            System.arraycopy(batch.seen, b, polygon, 3, 3);
            System.arraycopy(batch.seen, c, polygon, 6, 3);
            int size = 3;
            for (int plane = 0; plane < (cut == null ? 1 : 2) && size > 0; plane++) {
                float[] left = new float[15];
                int count = 0;
                for (int i = 0; i < size; i++) {
                    int p = 3 * i;
                    int q = 3 * ((i + 1) % size);
                    float in = kept(polygon, p, plane);
                    float out = kept(polygon, q, plane);
                    if (in >= 0) {
                        System.arraycopy(polygon, p, left, 3 * count++, 3);
                    }
                    if (in >= 0 != out >= 0) {
                        float k = in / (in - out);
                        for (int axis = 0; axis < 3; axis++) {
                            left[3 * count + axis] = polygon[p + axis] + k * (polygon[q + axis] - polygon[p + axis]);
                        }
                        count++;
                    }
                }
                polygon = left;
                size = count;
            }
            for (int i = 0; i < size; i++) {
                polygon[3 * i + 2] = Math.max(polygon[3 * i + 2], near);
                project(polygon, 3 * i, polygon, 3 * i);
            }
            for (int i = 2; i < size; i++) {
                emit(batch, polygon, 0, 3 * i - 3, 3 * i, useNumber, number, opacity);
            }
        }

        /** Puts a triangle of projected corners to the tiles that it may touch. */
        private void emit(TriangleBatch batch, float[] s, int a, int b, int c, int useNumber, int number, int opacity) {
            float x0 = s[a];
            float y0 = s[a + 1];
            float x1 = s[b];
            float y1 = s[b + 1];
            float x2 = s[c];
            float y2 = s[c + 1];
            int left = first(least(x0, x1, x2));
            int right = last(most(x0, x1, x2), width - 1);
            int top = first(least(y0, y1, y2));
            int bottom = last(most(y0, y1, y2), height - 1);
            if (left > right || top > bottom) {
                return;
            }
            int n = batch.count;
            System.arraycopy(s, a, batch.corners, 9 * n, 3);
            System.arraycopy(s, b, batch.corners, 9 * n + 3, 3);
            System.arraycopy(s, c, batch.corners, 9 * n + 6, 3);
            add(batch, left, top, right, bottom, useNumber, number, opacity);
        }

        /** Puts what has its corners already to the tiles that it may touch. */
        private void add(
                TriangleBatch batch, int left, int top, int right, int bottom, int useNumber, int number, int opacity) {
            int n = batch.count++;
            int[] bounds = batch.bounds;
            bounds[4 * n] = left;
            bounds[4 * n + 1] = top;
            bounds[4 * n + 2] = right;
            bounds[4 * n + 3] = bottom;
            batch.use[n] = useNumber;
            batch.triangle[n] = number;
            batch.opacity[n] = opacity;
            for (int ty = top / TILE; ty <= bottom / TILE; ty++) {
                for (int tx = left / TILE; tx <= right / TILE; tx++) {
                    batch.chain(ty * tilesAcross + tx, n);
                }
            }
        }

        private static float least(float a, float b, float c) {
            float ab = a < b ? a : b;
            return ab < c ? ab : c;
        }

        private static float most(float a, float b, float c) {
            float ab = a > b ? a : b;
            return ab > c ? ab : c;
        }

        /** The first pixel whose centre lies at or beyond a coordinate; centres lie at halves. */
        private static int first(float low) {
            float from = low - 0.5f;
            if (!(from > 0)) {
                return 0;
            }
            int whole = (int) from;
            return whole < from ? whole + 1 : whole;
        }

        /** The last pixel whose centre lies at or before a coordinate, none being -1. */
        private static int last(float high, int limit) {
            float to = high - 0.5f;
            return to < 0 ? -1 : to >= limit ? limit : (int) to;
        }

        private void drawTile(int tile) {
            int x0 = tile % tilesAcross * TILE;
            int y0 = tile / tilesAcross * TILE;
            int x1 = Math.min(width, x0 + TILE);
            int y1 = Math.min(height, y0 + TILE);
            for (TriangleBatch batch : batches) {
                for (int at = batch.last[tile]; at >= 0; at = batch.before[at]) {
                    int n = batch.entry[at];
                    if (batch.triangle[n] == DrawInstance.DOT) {
                        fillDot(batch, n, x0, y0, x1, y1);
                    } else {
                        fill(batch, n, x0, y0, x1, y1);
                    }
                }
            }
        }

        /** Sets the pixels of a tile that a dot covers and that see nothing nearer. */
        private void fillDot(TriangleBatch batch, int n, int tileX0, int tileY0, int tileX1, int tileY1) {
            int[] bounds = batch.bounds;
            int x0 = Math.max(tileX0, bounds[4 * n]);
            int y0 = Math.max(tileY0, bounds[4 * n + 1]);
            int x1 = Math.min(tileX1 - 1, bounds[4 * n + 2]);
            int y1 = Math.min(tileY1 - 1, bounds[4 * n + 3]);
            float inverse = batch.corners[9 * n];
            int opacity = batch.opacity[n];
            for (int y = y0; y <= y1; y++) {
                for (int x = x0; x <= x1; x++) {
                    int pixel = y * width + x;
                    if (inverse > depth[pixel] && (opacity >= 16 || SCREEN_DOOR[(y & 3) * 4 + (x & 3)] <= opacity)) {
                        depth[pixel] = inverse;
                        use[pixel] = batch.use[n];
                        triangle[pixel] = DrawInstance.DOT;
                        argb[pixel] = batch.colour[n];
                    }
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
            int[] bounds = batch.bounds;
            int x0 = Math.max(tileX0, bounds[4 * n]);
            int y0 = Math.max(tileY0, bounds[4 * n + 1]);
            int x1 = Math.min(tileX1 - 1, bounds[4 * n + 2]);
            int y1 = Math.min(tileY1 - 1, bounds[4 * n + 3]);
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

    /**
     * Draws a line of two pixels around what is selected.
     *
     * @param selected for each use
     */
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
        int seen = use[y * width + x];
        return seen >= 0 && selected[seen];
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
