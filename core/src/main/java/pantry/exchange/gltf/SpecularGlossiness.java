package pantry.exchange.gltf;

import java.awt.image.BufferedImage;
import pantry.model.Colour;
import pantry.model.SpecularWorkflow;

/** Turns images of the specular-glossiness model into such of the metallic-roughness one ({@link SpecularWorkflow}). */
final class SpecularGlossiness {
    private SpecularGlossiness() {}

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
                SpecularWorkflow.Metallic m = SpecularWorkflow.metallic(
                        Colour.ofDisplay(d).times(diffuseBy),
                        Colour.ofDisplay(s).times(specularBy));
                double roughness = 1 - (s >>> 24) / 255.0 * glossinessBy;
                base.setRGB(
                        x,
                        y,
                        d & 0xff000000
                                | Colour.display(m.base().r()) << 16
                                | Colour.display(m.base().g()) << 8
                                | Colour.display(m.base().b()));
                numbers.setRGB(x, y, (int) Math.round(roughness * 255) << 8 | (int) Math.round(m.metallic() * 255));
            }
        }
        return new BufferedImage[] {base, numbers};
    }

    private static int at(BufferedImage image, int x, int y, int width, int height) {
        return image.getRGB((int) ((long) x * image.getWidth() / width), (int) ((long) y * image.getHeight() / height));
    }
}
