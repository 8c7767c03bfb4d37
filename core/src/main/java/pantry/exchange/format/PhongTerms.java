package pantry.exchange.format;

/** Turns what older formats say of a surface into the terms of UsdPreviewSurface. */
public final class PhongTerms {
    private static final float LEAST_OPACITY = 0.01f;

    private PhongTerms() {}

    /**
     * A Phong exponent as a roughness: alpha = sqrt(2 / (n + 2)) (B. Walter et al., Microfacet Models for Refraction,
     * EGSR 2007), and UsdPreviewSurface's roughness is the root of alpha.
     */
    public static float roughness(float exponent) {
        return (float) Math.sqrt(Math.sqrt(2 / (Math.max(0, exponent) + 2)));
    }

    /** What is wholly clear was meant to be solid (common practice): exporters write transparency and opacity for each other. */
    public static float opacity(float written) {
        return written < LEAST_OPACITY ? 1 : Math.min(written, 1);
    }
}
