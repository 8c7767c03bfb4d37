package pantry.exchange.gltf;

import java.awt.image.BufferedImage;
import pantry.model.Colour;

/**
 * Turns the specular-glossiness model into the metallic-roughness one, as the Khronos extension
 * {@code KHR_materials_pbrSpecularGlossiness} publishes it (its example {@code convert-between-workflows}): the
 * metalness that explains diffuse and specular reflection at once, then the base colour that goes with it.
 */
final class SpecularGlossiness {
    /** What a surface that is no metal reflects when looked at straight. */
    private static final double DIELECTRIC = 0.04;

    private static final double LEAST = 1e-6;

    private SpecularGlossiness() {}

    /** A surface of the metallic-roughness model; components linear. */
    record Metallic(Colour base, double metallic, double roughness) {}

    static Metallic convert(Colour diffuse, Colour specular, double glossiness) {
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
                metallic,
                1 - glossiness);
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

    /**
     * The images of a surface: base colour with opacity, and one whose green is roughness and blue metalness.
     *
     * @param diffuse may be of another size than the other; null where the plain colour holds everywhere
     * @param specular its alpha is glossiness; null likewise
     */
    static BufferedImage[] convert(
            BufferedImage diffuse, BufferedImage specular, Colour diffuseBy, Colour specularBy, double glossinessBy) {
        int width = Math.max(diffuse.getWidth(), specular.getWidth());
        int height = Math.max(diffuse.getHeight(), specular.getHeight());
        BufferedImage base = new BufferedImage(width, height, BufferedImage.TYPE_INT_ARGB);
        BufferedImage numbers = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                int d = at(diffuse, x, y, width, height);
                int s = at(specular, x, y, width, height);
                Metallic m = convert(
                        times(Colour.ofDisplay(d), diffuseBy),
                        times(Colour.ofDisplay(s), specularBy),
                        (s >>> 24) / 255.0 * glossinessBy);
                base.setRGB(
                        x,
                        y,
                        d & 0xff000000
                                | Colour.display(m.base().r()) << 16
                                | Colour.display(m.base().g()) << 8
                                | Colour.display(m.base().b()));
                numbers.setRGB(x, y, (int) Math.round(m.roughness() * 255) << 8 | (int) Math.round(m.metallic() * 255));
            }
        }
        return new BufferedImage[] {base, numbers};
    }

    private static int at(BufferedImage image, int x, int y, int width, int height) {
        return image.getRGB((int) ((long) x * image.getWidth() / width), (int) ((long) y * image.getHeight() / height));
    }

    private static Colour times(Colour a, Colour b) {
        return new Colour(a.r() * b.r(), a.g() * b.g(), a.b() * b.b());
    }
}
