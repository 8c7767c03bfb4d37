package pantry.exchange.gltf;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import org.junit.jupiter.api.Test;
import pantry.model.Colour;

class SpecularGlossinessTest {
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
