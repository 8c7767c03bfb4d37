package pantry.model;

/**
 * Turns surfaces that say their specular colour into such that say how metallic they are, as the Khronos extension
 * {@code KHR_materials_pbrSpecularGlossiness} publishes it (its example {@code convert-between-workflows}).
 */
public final class SpecularWorkflow {
    /** What a surface that is no metal reflects when looked at straight. */
    private static final double DIELECTRIC = 0.04;

    private static final double LEAST = 1e-6;

    private SpecularWorkflow() {}

    /** A surface of the metallic workflow. */
    public record Metallic(Colour base, double metallic) {}

    /**
     * The metalness that explains diffuse and specular reflection at once, and the base colour that goes with it.
     *
     * @param specular what is reflected of light that falls on it straight
     */
    public static Metallic metallic(Colour diffuse, Colour specular) {
        double strongest = Math.max(specular.r(), Math.max(specular.g(), specular.b()));
        double oneMinus = 1 - strongest;
        double metallic = metallic(brightness(diffuse), brightness(specular), oneMinus);
        double fromDiffuse = oneMinus / (1 - DIELECTRIC) / Math.max(1 - metallic, LEAST);
        double weight = metallic * metallic;
        return new Metallic(
                new Colour(
                        base(diffuse.r(), specular.r(), fromDiffuse, metallic, weight),
                        base(diffuse.g(), specular.g(), fromDiffuse, metallic, weight),
                        base(diffuse.b(), specular.b(), fromDiffuse, metallic, weight)),
                metallic);
    }

    private static float base(double diffuse, double specular, double fromDiffuse, double metallic, double weight) {
        double byDiffuse = diffuse * fromDiffuse;
        double bySpecular = (specular - DIELECTRIC * (1 - metallic)) / Math.max(metallic, LEAST);
        return (float) Math.clamp(byDiffuse + (bySpecular - byDiffuse) * weight, 0.0, 1.0);
    }

    /** How bright a colour is seen (the extension's weights). */
    private static double brightness(Colour c) {
        return Math.sqrt(0.299 * c.r() * c.r() + 0.587 * c.g() * c.g() + 0.114 * c.b() * c.b());
    }

    private static double metallic(double diffuse, double specular, double oneMinus) {
        if (specular < DIELECTRIC) {
            return 0;
        }
        double b = diffuse * oneMinus / (1 - DIELECTRIC) + specular - 2 * DIELECTRIC;
        double c = DIELECTRIC - specular;
        double root = Math.sqrt(Math.max(0, b * b - 4 * DIELECTRIC * c));
        return Math.clamp((-b + root) / (2 * DIELECTRIC), 0.0, 1.0);
    }

    /** The index of refraction at which so much is reflected of light that falls on a surface straight (Fresnel). */
    public static double ior(double reflected) {
        double root = Math.sqrt(Math.clamp(reflected, 0, 0.99));
        return (1 + root) / (1 - root);
    }
}
