package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LinearImageTest {
    @TempDir
    private Path folder;

    @Test
    void fewerPixelsAreMeansOfWhatTheyStandFor() {
        LinearImage image = LinearImage.ofRows(6, 4, 3, y -> {
            float[] row = new float[18];
            for (int i = 0; i < row.length; i++) {
                row[i] = 100 * y + i;
            }
            return row;
        });
        assertThat(image.width()).isEqualTo(3);
        assertThat(image.height()).isEqualTo(2);
        // Of the columns 2 and 3 in the rows 2 and 3, the green.
        assertThat(image.rgb()[3 * (3 + 1) + 1]).isEqualTo(250 + (7 + 10) / 2f);
    }

    @Test
    void widthsThatDoNotDivideLeaveNothingOut() {
        LinearImage image = LinearImage.ofRows(7, 5, 3, y -> {
            float[] row = new float[21];
            Arrays.fill(row, 2);
            return row;
        });
        for (float light : image.rgb()) {
            assertThat(light).isEqualTo(2);
        }
    }

    @Test
    void whatIsNoLightIsNone() {
        float[] row = {Float.NaN, -3, Float.POSITIVE_INFINITY};
        assertThat(LinearImage.ofRows(1, 1, 1, y -> row).rgb()).containsExactly(0, 0, 0);
        assertThatThrownBy(() -> new LinearImage(2, 2, row)).hasMessageContaining("3 numbers for 2 × 2");
    }

    /** By IEC 61966-2-1: 188 of 255 is half of the light. */
    @Test
    void coloursAreTheLightThatADisplayMakesOfThem() throws IOException {
        BufferedImage colours = new BufferedImage(4, 2, BufferedImage.TYPE_INT_RGB);
        colours.setRGB(1, 1, 0xBC00FF);
        Path file = folder.resolve("colours.png");
        ImageIO.write(colours, "png", file.toFile());
        LinearImage image = ImageDecoder.readLinear(file, 100);
        assertThat(image.width()).isEqualTo(4);
        assertThat(image.rgb()[3 * 5]).isCloseTo(0.5f, within(0.005f));
        assertThat(image.rgb()[3 * 5 + 1]).isZero();
        assertThat(image.rgb()[3 * 5 + 2]).isEqualTo(1);
    }

    /** Radiance's format: mantissas and an exponent, each packed by runs; (128, 64, 0) at exponent 130 is 2, 1 and 0. */
    @Test
    void radiancePicturesHaveMoreLightThanADisplayShows() throws IOException {
        Path file = folder.resolve("bright.hdr");
        byte[] head = "#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 1 +X 8\n".getBytes(StandardCharsets.US_ASCII);
        byte[] run = {2, 2, 0, 8, (byte) 136, (byte) 128, (byte) 136, 64, (byte) 136, 0, (byte) 136, (byte) 130};
        byte[] all = Arrays.copyOf(head, head.length + run.length);
        System.arraycopy(run, 0, all, head.length, run.length);
        Files.write(file, all);
        LinearImage light = ImageDecoder.readLinear(file, 4);
        assertThat(light.width()).isEqualTo(4);
        assertThat(light.rgb()[3]).isCloseTo(2, within(0.03f));
        assertThat(light.rgb()[4]).isCloseTo(1, within(0.03f));
        assertThat(light.rgb()[5]).isCloseTo(0, within(0.03f));
    }

    @Test
    void whatIsNoImageIsRefused() throws IOException {
        Path file = Files.writeString(folder.resolve("none.exr"), "not an image");
        assertThatThrownBy(() -> ImageDecoder.readLinear(file, 10))
                .isInstanceOf(IOException.class)
                .hasMessage("is no image that can be read");
    }
}
