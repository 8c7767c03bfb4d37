package pantry.render;

import java.util.List;

/** Finds the nearest triangle at every pixel of a tile. */
final class TileRasterizer {
    /** Thresholds from 1 to 16, spread so that any share of them is even (Bayer's 4×4 matrix). */
    private static final int[] SCREEN_DOOR = {1, 9, 3, 11, 13, 5, 15, 7, 4, 12, 2, 10, 16, 8, 14, 6};

    /** Stands for the opacity of what has an image of it. */
    static final int MAPPED = -1;

    private final List<DrawInstance> uses;
    private final int width;
    private final int height;
    private final int tilesAcross;
    private final TriangleBatch[] batches;
    private final float[] depth;
    private final int[] use;
    private final int[] triangle;
    private final int[] argb;

    /** @param uses by their numbers in the batches */
    TileRasterizer(FrameBuffers buffers, List<DrawInstance> uses) {
        this.uses = uses;
        this.width = buffers.width;
        this.height = buffers.height;
        this.tilesAcross = buffers.tilesAcross;
        this.batches = buffers.batches;
        this.depth = buffers.depth;
        this.use = buffers.use;
        this.triangle = buffers.triangle;
        this.argb = buffers.argb;
    }

    /** Draws what waits for a tile. */
    void draw(int tile) {
        int x0 = tile % tilesAcross * FrameBuffers.TILE;
        int y0 = tile / tilesAcross * FrameBuffers.TILE;
        int x1 = Math.min(width, x0 + FrameBuffers.TILE);
        int y1 = Math.min(height, y0 + FrameBuffers.TILE);
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
                if (inverse > depth[pixel] && (opacity >= TriangleBatch.SOLID || isThrough(opacity, x, y))) {
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
        MaskedFace mask = opacity == MAPPED ? MaskedFace.of(uses.get(batch.use[n]), batch.triangle[n], whole) : null;
        for (int y = y0; y <= y1; y++) {
            double ea = rowA;
            double eb = rowB;
            double ec = rowC;
            int pixel = y * width + x0;
            for (int x = x0; x <= x1; x++, pixel++) {
                if (ea >= 0 && eb >= 0 && ec >= 0) {
                    float inverse = (float) ea * wa + (float) eb * wb + (float) ec * wc;
                    if (inverse > depth[pixel]
                            && (opacity >= TriangleBatch.SOLID
                                    || isThrough(
                                            mask == null
                                                    ? opacity
                                                    : mask.opacity(
                                                            (float) eb * wb / inverse, (float) ec * wc / inverse),
                                            x,
                                            y))) {
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

    /** Whether a pixel is one of those that what lets light through is seen at. */
    private static boolean isThrough(int opacity, int x, int y) {
        return SCREEN_DOOR[(y & 3) * 4 + (x & 3)] <= opacity;
    }
}
