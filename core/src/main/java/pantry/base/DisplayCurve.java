package pantry.base;

/** How linear light is stored in eight bits for a display, and back (IEC 61966-2-1). */
public final class DisplayCurve {
    /** Linear numbers from 0 to 1 in so many steps, finer than eight bits can tell. */
    private static final int STEPS = 1 << 16;

    private static final byte[] CODED = new byte[STEPS + 1];

    private static final float[] LINEAR = new float[256];

    static {
        for (int i = 0; i < LINEAR.length; i++) {
            LINEAR[i] = reckoned(i);
        }
        for (int i = 0; i <= STEPS; i++) {
            CODED[i] = (byte) coded((float) i / STEPS);
        }
    }

    private DisplayCurve() {}

    /** Made once an image has so many. */
    private static final class SixteenBits {
        private static final float[] LINEAR = new float[1 << 16];

        static {
            for (int i = 0; i < LINEAR.length; i++) {
                LINEAR[i] = (float) decoded(i / 65535.0);
            }
        }
    }

    /** A stored component, 0 to 255, as a linear one, 0 to 1. */
    public static float linear(int component) {
        return component >= 0 && component < LINEAR.length ? LINEAR[component] : reckoned(component);
    }

    private static float reckoned(int component) {
        return (float) decoded(component / 255.0);
    }

    private static double decoded(double stored) {
        return stored <= 0.04045 ? stored / 12.92 : Math.pow((stored + 0.055) / 1.055, 2.4);
    }

    private static double encoded(double linear) {
        return linear <= 0.0031308 ? linear * 12.92 : 1.055 * Math.pow(linear, 1 / 2.4) - 0.055;
    }

    /** A stored component, 0 to 1, as a linear one; below and above the curve goes on. */
    public static float linear(float stored) {
        return (float) decoded(stored);
    }

    /** A stored component of sixteen bits, 0 to 1, as a linear one; quickly, for the many of an image. */
    public static float linearQuickly(float stored) {
        float c = stored > 0 ? Math.min(stored, 1) : 0;
        return SixteenBits.LINEAR[(int) (c * 0xffff + 0.5f)];
    }

    /** A linear component as a stored one, 0 to 1; below and above the curve goes on. */
    public static float stored(float linear) {
        return (float) encoded(linear);
    }

    /** A linear component as a stored one, 0 to 255. */
    public static int coded(float component) {
        return (int) Math.round(encoded(Math.clamp(component, 0f, 1f)) * 255);
    }

    /** As above, quickly, for the many of an image; what is no number is 0. */
    public static int codedQuickly(float component) {
        float c = component > 0 ? Math.min(component, 1) : 0;
        return CODED[(int) (c * STEPS + 0.5f)] & 0xff;
    }
}
