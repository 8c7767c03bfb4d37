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

    /** Colours count by their opacity. */
    private int mean(int at) {
        int alpha = 0;
        int red = 0;
        int green = 0;
        int blue = 0;
        for (int i = 0; i < 4; i++) {
            int c = argb[at + (i & 1) + (i >> 1) * width];
            int a = c >>> 24;
            alpha += a;
            red += (c >> 16 & 0xff) * a;
            green += (c >> 8 & 0xff) * a;
            blue += (c & 0xff) * a;
        }
        if (alpha == 0) {
            return 0;
        }
        int half = alpha / 2;
        return (alpha + 2) / 4 << 24 | (red + half) / alpha << 16 | (green + half) / alpha << 8 | (blue + half) / alpha;
    }

    /** The object under a pixel; -1 for none and outside the picture. */
    public int id(int x, int y) {
        return x < 0 || y < 0 || x >= width || y >= height ? -1 : ids[y * width + x];
    }
}
