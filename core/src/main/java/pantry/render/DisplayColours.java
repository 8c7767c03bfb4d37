package pantry.render;

import pantry.model.Colour;

/** Linear light as the display shows it: sRGB, eight bits. */
final class DisplayColours {
    private static final int STEPS = 4096;
    private static final int[] DISPLAY = new int[STEPS + 1];

    static {
        for (int i = 0; i <= STEPS; i++) {
            DISPLAY[i] = Colour.display((float) i / STEPS);
        }
    }

    private DisplayColours() {}

    /** Opaque, as ARGB; what is brighter than 1 is shown as 1. */
    static int pack(double r, double g, double b) {
        return 0xff000000 | display(r) << 16 | display(g) << 8 | display(b);
    }

    private static int display(double linear) {
        int step = (int) (linear * STEPS);
        return DISPLAY[step < 0 ? 0 : step > STEPS ? STEPS : step];
    }
}
