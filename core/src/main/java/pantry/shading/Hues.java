package pantry.shading;

/** Colours as hue, saturation and value, each from 0 to 1, and back (A. Smith, Color gamut transform pairs, 1978); in place. */
final class Hues {
    private Hues() {}

    static void toHsv(float[] c) {
        float most = Math.max(c[0], Math.max(c[1], c[2]));
        float range = most - Math.min(c[0], Math.min(c[1], c[2]));
        float hue;
        if (range <= 0) {
            hue = 0;
        } else if (most == c[0]) {
            hue = (c[1] - c[2]) / range;
        } else if (most == c[1]) {
            hue = 2 + (c[2] - c[0]) / range;
        } else {
            hue = 4 + (c[0] - c[1]) / range;
        }
        c[0] = hue < 0 ? hue / 6 + 1 : hue / 6;
        c[1] = most > 0 ? range / most : 0;
        c[2] = most;
    }

    static void toRgb(float[] c) {
        float hue = 6 * (float) (c[0] - Math.floor(c[0]));
        float saturation = c[1];
        float value = c[2];
        for (int i = 0; i < 3; i++) {
            // Each component is a trapezoid of the hue: red at 0, green at 2, blue at 4.
            float away = Math.abs((hue - 2 * i + 9) % 6 - 3);
            float share = Math.clamp(2 - away, 0f, 1f);
            c[i] = value * (1 - saturation * (1 - share));
        }
    }
}
