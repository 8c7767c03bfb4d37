package pantry.model;

/** The colour in which a black body glows. */
public final class BlackBody {
    private static final double LEAST = 1667;
    private static final double MOST = 25_000;

    private BlackBody() {}

    /**
     * The colour at a temperature, as bright as white.
     *
     * <p>The place on the Planckian locus by the cubic splines of Y. Kim and others (US patent 7 024 034, 2006), as they are
     * cited for CIE 1931 chromaticities; from there to Rec. 709 (IEC 61966-2-1). Constants from memory, checked in the tests
     * against illuminants A and the white of 6 500 K.
     *
     * @param kelvin taken as the nearest from 1 667 to 25 000
     */
    public static Colour colour(double kelvin) {
        double t = Math.clamp(kelvin, LEAST, MOST);
        double x = t < 4000
                ? -0.2661239e9 / (t * t * t) - 0.2343589e6 / (t * t) + 0.8776956e3 / t + 0.179910
                : -3.0258469e9 / (t * t * t) + 2.1070379e6 / (t * t) + 0.2226347e3 / t + 0.240390;
        double y = t < 2222
                ? ((-1.1063814 * x - 1.34811020) * x + 2.18555832) * x - 0.20219683
                : t < 4000
                        ? ((-0.9549476 * x - 1.37418593) * x + 2.09137015) * x - 0.16748867
                        : ((3.0817580 * x - 5.87338670) * x + 3.75112997) * x - 0.37001483;
        // As bright as white: Y is 1.
        double cx = x / y;
        double cz = (1 - x - y) / y;
        return new Colour(
                (float) Math.max(0, 3.2404542 * cx - 1.5371385 - 0.4985314 * cz),
                (float) Math.max(0, -0.9692660 * cx + 1.8760108 + 0.0415560 * cz),
                (float) Math.max(0, 0.0556434 * cx - 0.2040259 + 1.0572252 * cz));
    }
}
