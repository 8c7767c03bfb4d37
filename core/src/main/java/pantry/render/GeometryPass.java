package pantry.render;

import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;
import pantry.base.Parallel;

/** Brings the triangles of a scene into the picture, and has them drawn round by round. */
final class GeometryPass {
    private final RenderScene scene;
    private final ViewSpace view;
    private final VisibleClusters clusters;
    private final FrameBuffers buffers;
    private final TileRasterizer tiles;
    private final int width;
    private final int height;
    private final int tilesAcross;

    /** Gives dots their colours; null where only depths are wanted. */
    private final @Nullable Shading shading;

    private final BooleanSupplier stopped;
    private final AtomicInteger next = new AtomicInteger();

    /**
     * @param shading gives dots their colours; null where only depths are wanted
     * @param stopped whether the picture is no longer wanted
     */
    GeometryPass(
            RenderScene scene,
            ViewSpace view,
            FrameBuffers buffers,
            @Nullable Shading shading,
            BooleanSupplier stopped) {
        this.scene = scene;
        this.view = view;
        this.buffers = buffers;
        this.shading = shading;
        this.stopped = stopped;
        this.width = buffers.width;
        this.height = buffers.height;
        this.tilesAcross = buffers.tilesAcross;
        this.tiles = new TileRasterizer(buffers, scene.instances);
        this.clusters = new VisibleClusters(scene, view, 4 * buffers.batches.length);
    }

    void run() {
        while (next.get() < clusters.size() && !stopped.getAsBoolean()) {
            Parallel.forEach(buffers.batches.length, i -> fill(buffers.batches[i]));
            Parallel.forEach(buffers.tileCount, tiles::draw);
        }
    }

    private void fill(TriangleBatch batch) {
        batch.clear();
        int current = -1;
        float[] m = new float[12];
        float stretch = 1;
        while (batch.hasRoom()) {
            int chunk = next.getAndIncrement();
            if (chunk >= clusters.size()) {
                return;
            }
            DrawInstance used = scene.instances.get(clusters.use[chunk]);
            if (clusters.cluster[chunk] == DrawInstance.DOT) {
                dot(batch, used, chunk);
                continue;
            }
            if (current != clusters.use[chunk]) {
                current = clusters.use[chunk];
                view.toView(used.world(), m);
                stretch = used.sphere().stretch();
            }
            cluster(batch, used, current, used.mesh().clusters[clusters.cluster[chunk]], m, stretch);
        }
    }

    /** What is no larger than a few pixels: a square in the place of it. */
    private void dot(TriangleBatch batch, DrawInstance used, int chunk) {
        float x = clusters.place[3 * chunk];
        float y = clusters.place[3 * chunk + 1];
        float z = clusters.place[3 * chunk + 2];
        float inverse = 1 / z;
        float across = view.across(x, inverse);
        float down = view.down(y, inverse);
        // A square of about the area that what is in the ball covers.
        float half = Math.max(0.5f, used.sphere().radius() * view.focal * inverse * 0.75f);
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
        int opacity = TriangleBatch.sixteenths(used.surface().opacity());
        add(batch, left, top, right, bottom, clusters.use[chunk], DrawInstance.DOT, opacity);
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
        if (view.isOutOfSight(cx, cy, cz, reach)) {
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
            view.project(seen, 3 * i, screen, 3 * i);
        }
        boolean mapped = used.surface().opacityMap() != null;
        int solid = TriangleBatch.sixteenths(used.surface().opacity());
        int opacity = mapped ? TileRasterizer.MAPPED : solid;
        short[] local = cluster.local();
        for (int t = 0; t < local.length; t += 3) {
            int i = 3 * (local[t] & 0xffff);
            int j = 3 * (local[t + 1] & 0xffff);
            int k = 3 * (local[t + 2] & 0xffff);
            int number = cluster.firstTriangle() + t / 3;
            if (view.isWhole(seen, i) && view.isWhole(seen, j) && view.isWhole(seen, k)) {
                emit(batch, screen, i, j, k, useNumber, number, opacity);
            } else {
                // Where the corners are others than the triangle's, the image is not looked up.
                clip(batch, i, j, k, useNumber, number, solid);
            }
        }
    }

    /** Keeps what lies on the drawn sides of the near plane and of the cut: a polygon of up to five corners. */
    private void clip(TriangleBatch batch, int a, int b, int c, int useNumber, int number, int opacity) {
        float[] polygon = new float[15];
        System.arraycopy(batch.seen, a, polygon, 0, 3);
        System.arraycopy(batch.seen, b, polygon, 3, 3);
        System.arraycopy(batch.seen, c, polygon, 6, 3);
        int size = 3;
        for (int plane = 0; plane < (view.isCut() ? 2 : 1) && size > 0; plane++) {
            float[] left = new float[15];
            int count = 0;
            for (int i = 0; i < size; i++) {
                int p = 3 * i;
                int q = 3 * ((i + 1) % size);
                float in = view.kept(polygon, p, plane);
                float out = view.kept(polygon, q, plane);
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
            polygon[3 * i + 2] = Math.max(polygon[3 * i + 2], view.near);
            view.project(polygon, 3 * i, polygon, 3 * i);
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
        for (int ty = top / FrameBuffers.TILE; ty <= bottom / FrameBuffers.TILE; ty++) {
            for (int tx = left / FrameBuffers.TILE; tx <= right / FrameBuffers.TILE; tx++) {
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
}
