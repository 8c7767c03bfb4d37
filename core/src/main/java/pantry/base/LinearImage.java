package pantry.base;

import java.util.function.IntFunction;

/**
 * An image of linear light, without a limit above.
 *
 * @param rgb red, green and blue of each pixel, row by row from the top; not less than nothing
 */
public record LinearImage(int width, int height, float[] rgb) {
    public LinearImage {
        if (rgb.length != 3L * width * height) {
            throw new IllegalArgumentException(rgb.length + " numbers for " + width + " × " + height + " pixels");
        }
    }

    /**
     * An image, row by row, in as many pixels or fewer: each is the mean of those that it stands for. What is no light (less
     * than none, or no number) is none.
     *
     * @param wide how many pixels it has across at most
     * @param rows makes red, green and blue of each pixel of a row, counted from the top; called for several at once
     */
    public static LinearImage ofRows(int width, int height, int wide, IntFunction<float[]> rows) {
        int across = Math.min(width, wide);
        int down = Math.max(1, (int) Math.round((double) height * across / width));
        float[] rgb = new float[3 * across * down];
        Parallel.forEach(down, y -> {
            int top = (int) ((long) y * height / down);
            int bottom = Math.max(top + 1, (int) ((long) (y + 1) * height / down));
            double[] sums = new double[3 * across];
            for (int from = top; from < bottom; from++) {
                add(rows.apply(from), width, sums);
            }
            for (int i = 0; i < sums.length; i++) {
                int x = i / 3;
                int count = right(x, width, across) - left(x, width, across);
                rgb[y * sums.length + i] = (float) (sums[i] / ((double) count * (bottom - top)));
            }
        });
        return new LinearImage(across, down, rgb);
    }

    private static void add(float[] row, int width, double[] sums) {
        int across = sums.length / 3;
        for (int x = 0; x < across; x++) {
            for (int i = 3 * left(x, width, across); i < 3 * right(x, width, across); i++) {
                float light = row[i];
                sums[3 * x + i % 3] += light > 0 && Float.isFinite(light) ? light : 0;
            }
        }
    }

    private static int left(int x, int width, int across) {
        return (int) ((long) x * width / across);
    }

    private static int right(int x, int width, int across) {
        return left(x + 1, width, across);
    }
}
