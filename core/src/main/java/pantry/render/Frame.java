package pantry.render;

/**
 * A finished picture.
 *
 * @param argb display colours, row by row from the top, opaque unless the ground is clear; the renderer's own buffer, good until it draws
 *     again
 * @param ids per pixel the number of the object seen there, -1 for none; likewise shared
 */
public record Frame(int width, int height, int[] argb, int[] ids) {
    /** This frame at half its size, smoothed: each pixel the mean of four. Buffers of its own. */
    public Frame halved() {
        int w = width / 2;
        int h = height / 2;
        int[] colours = new int[w * h];
        int[] objects = new int[w * h];
        java.util.stream.IntStream.range(0, h).parallel().forEach(y -> {
            for (int x = 0; x < w; x++) {
                int at = 2 * y * width + 2 * x;
                colours[y * w + x] = mean(at);
                objects[y * w + x] = ids[at];
            }
        });
        return new Frame(w, h, colours, objects);
    }

    private int mean(int at) {
        return mean(argb[at], argb[at + 1], argb[at + width], argb[at + width + 1]);
    }

    /** The mean of four display colours, which count by their opacity. */
    static int mean(int p, int q, int r, int s) {
        int pa = p >>> 24;
        int qa = q >>> 24;
        int ra = r >>> 24;
        int sa = s >>> 24;
        int alpha = pa + qa + ra + sa;
        if (alpha == 0) {
            return 0;
        }
        int half = alpha / 2;
        int red = (p >> 16 & 0xff) * pa + (q >> 16 & 0xff) * qa + (r >> 16 & 0xff) * ra + (s >> 16 & 0xff) * sa;
        int green = (p >> 8 & 0xff) * pa + (q >> 8 & 0xff) * qa + (r >> 8 & 0xff) * ra + (s >> 8 & 0xff) * sa;
        int blue = (p & 0xff) * pa + (q & 0xff) * qa + (r & 0xff) * ra + (s & 0xff) * sa;
        return (alpha + 2) / 4 << 24 | (red + half) / alpha << 16 | (green + half) / alpha << 8 | (blue + half) / alpha;
    }

    /** The object under a pixel; -1 for none and outside the picture. */
    public int id(int x, int y) {
        return x < 0 || y < 0 || x >= width || y >= height ? -1 : ids[y * width + x];
    }
}
