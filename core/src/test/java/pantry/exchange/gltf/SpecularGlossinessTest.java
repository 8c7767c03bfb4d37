package pantry.exchange.gltf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import org.junit.jupiter.api.Test;
import pantry.model.Colour;

/**
 * The conversion against the formula that the Khronos extension KHR_materials_pbrSpecularGlossiness publishes: the
 * metallic-roughness surface must reflect what the specular-glossiness one does, diffuse = base (1 - 0.04) (1 - metal)
 * / (1 - strongest specular) and specular = 0.04 + (base - 0.04) metal.
 */
class SpecularGlossinessTest {
    @Test
    void aPlainSurfaceKeepsItsColour() {
        SpecularGlossiness.Metallic m =
                SpecularGlossiness.convert(new Colour(0.2f, 0.5f, 0.7f), new Colour(0.04f, 0.04f, 0.04f), 0.75);
        assertThat(m.metallic()).isCloseTo(0, within(1e-6));
        assertThat(m.roughness()).isEqualTo(0.25);
        assertThat(m.base().g()).isCloseTo(0.5f, within(1e-5f));
    }

    @Test
    void aMetalTakesItsColourFromWhatItReflects() {
        SpecularGlossiness.Metallic m = SpecularGlossiness.convert(Colour.BLACK, new Colour(0.9f, 0.6f, 0.3f), 1);
        assertThat(m.metallic()).isCloseTo(1, within(1e-6));
        assertThat(m.base().r()).isCloseTo(0.9f, within(1e-5f));
        assertThat(m.base().b()).isCloseTo(0.3f, within(1e-5f));
    }

    /** Grey surfaces, for which the extension's metalness solves its equation exactly. */
    @Test
    void whatIsBetweenReflectsTheSame() {
        for (double specular : new double[] {0.1, 0.3, 0.5}) {
            float diffuse = 0.2f;
            float s = (float) specular;
            SpecularGlossiness.Metallic m =
                    SpecularGlossiness.convert(new Colour(diffuse, diffuse, diffuse), new Colour(s, s, s), 0.5);
            double base = diffuse * (1 - specular) / (1 - 0.04) / (1 - m.metallic());
            double reflected = 0.04 + (base - 0.04) * m.metallic();
            assertThat(reflected).as("specular " + specular).isCloseTo(specular, within(1e-4));
        }
    }

    @Test
    void imagesAreConvertedPixelByPixelWhateverTheirSizes() {
        BufferedImage diffuse = new BufferedImage(2, 1, BufferedImage.TYPE_INT_ARGB);
        diffuse.setRGB(0, 0, 0xff808080);
        diffuse.setRGB(1, 0, 0x80000000);
        BufferedImage specular = new BufferedImage(4, 2, BufferedImage.TYPE_INT_ARGB);
        for (int i = 0; i < 8; i++) {
            specular.setRGB(i % 4, i / 4, i % 4 < 2 ? 0xff000000 : 0x40ffffff);
        }
        BufferedImage[] made = SpecularGlossiness.convert(diffuse, specular, Colour.WHITE, Colour.WHITE, 1);
        assertThat(made[0].getWidth()).isEqualTo(4);
        assertThat(made[0].getRGB(3, 1) >>> 24).as("opacity stays").isEqualTo(0x80);
        assertThat(made[1].getRGB(0, 0) & 0xff).as("no metal").isZero();
        assertThat(made[1].getRGB(3, 0) & 0xff).as("metal").isEqualTo(255);
        assertThat(made[1].getRGB(0, 0) >> 8 & 0xff).as("glossy").isZero();
        assertThat(made[1].getRGB(3, 0) >> 8 & 0xff)
                .as("roughness is what gloss is not")
                .isEqualTo(191);
    }
}
