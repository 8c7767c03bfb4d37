package pantry.exchange.format;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import pantry.base.ImageDecoder;
import pantry.model.Texture;

/** Images of heights, of formats that do not say how high white stands above black. */
public final class HeightImages {
    /** What white is taken to stand above black, metres: the relief of bark, cobbles or corrugated iron. */
    public static final float USUAL = 0.02f;

    /** How far red and blue of a pixel may be apart that counts as grey, of 255. */
    private static final int GREY = 24;

    private static final int LOOKED_AT = 64;

    private HeightImages() {}

    /** An image as one of heights; the strength that a file says is a factor, and no length. */
    public static Texture of(Texture image) {
        return image.with(image.sampling().withStrength(image.sampling().strength() * USUAL));
    }

    /** Whether an image is grey all over, as heights are and directions are not. */
    public static boolean isGrey(Path image) {
        try {
            BufferedImage seen = ImageDecoder.read(image, LOOKED_AT);
            for (int y = 0; y < seen.getHeight(); y++) {
                for (int x = 0; x < seen.getWidth(); x++) {
                    int rgb = seen.getRGB(x, y);
                    if (Math.abs((rgb >> 16 & 0xff) - (rgb & 0xff)) > GREY) {
                        return false;
                    }
                }
            }
            return true;
        } catch (IOException e) {
            return false;
        }
    }
}
