package pantry.model;

import pantry.base.DisplayCurve;

/** A colour with linear components, Rec. 709 primaries; 1 is white. */
public record Colour(float r, float g, float b) {
    public static final Colour BLACK = new Colour(0, 0, 0);
    public static final Colour WHITE = new Colour(1, 1, 1);

    /** From display components 0 to 255, as in {@code 0xRRGGBB}. */
    public static Colour ofDisplay(int rgb) {
        return new Colour(linear(rgb >> 16 & 0xff), linear(rgb >> 8 & 0xff), linear(rgb & 0xff));
    }

    /** The luminance by ITU-R BT.709, of which white has 1. */
    public double luminance() {
        return 0.2126 * r + 0.7152 * g + 0.0722 * b;
    }

    public Colour plus(Colour o) {
        return new Colour(r + o.r, g + o.g, b + o.b);
    }

    /** Each component as many times as strong. */
    public Colour times(double factor) {
        return new Colour((float) (r * factor), (float) (g * factor), (float) (b * factor));
    }

    /** Through a filter of another colour. */
    public Colour times(Colour o) {
        return new Colour(r * o.r, g * o.g, b * o.b);
    }

    /** A display component as a linear one (IEC 61966-2-1). */
    public static float linear(int component) {
        return DisplayCurve.linear(component);
    }

    /** A linear component as a display one, 0 to 255 (IEC 61966-2-1). */
    public static int display(float component) {
        return DisplayCurve.coded(component);
    }
}
