package pantry.shading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.awt.image.Raster;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.stream.IntStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.DeepImage;
import pantry.base.ImageDecoder;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.testing.Workshop;

/** Images of more than eight bits before a surface: their numbers are looked up whole, and heights are written whole. */
class DeepImagesTest {
    @TempDir
    private Path folder;

    private Workshop workshop;

    @BeforeEach
    void open() {
        workshop = new Workshop(folder.resolve("workshop"));
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    /** Greys of sixteen bits, 0 to 512 from left to right: less than three steps of eight bits. */
    private Path slope() throws IOException {
        BufferedImage image = new BufferedImage(513, 2, BufferedImage.TYPE_USHORT_GRAY);
        for (int x = 0; x < 513; x++) {
            image.getRaster().setSample(x, 0, 0, x);
            image.getRaster().setSample(x, 1, 0, x);
        }
        return Files.write(folder.resolve("slope.png"), Png.of(image));
    }

    /** A picture of light of one colour, as Radiance writes it: three mantissas and their exponent (its file format). */
    private Path light(int red, int green, int blue, int exponent) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.write("#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 2 +X 16\n".getBytes(StandardCharsets.US_ASCII));
        for (int y = 0; y < 2; y++) {
            out.write(new byte[] {2, 2, 0, 16});
            for (int component : new int[] {red, green, blue, exponent}) {
                // A run of sixteen.
                out.write(new byte[] {(byte) (128 + 16), (byte) component});
            }
        }
        return Files.write(folder.resolve("light.hdr"), out.toByteArray());
    }

    private Material material(String nodes) throws IOException {
        Path file = Files.writeString(folder.resolve("made.mtlx"), """
                <?xml version="1.0"?>
                <materialx version="1.39">%s
                  <surfacematerial name="Made" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="S"/>
                    <input name="displacementshader" type="displacementshader" nodename="D"/>
                  </surfacematerial>
                </materialx>
                """.formatted(nodes));
        return workshop.readers().read(file, Progress.NONE).model().materials().stream()
                .filter(each -> each.name().equals("Made"))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void heightsOfSixteenBitsKeepTheirSteps() throws IOException {
        slope();
        Material made = material("""
                <image name="I" type="float">
                  <input name="file" type="filename" value="slope.png"/>
                  <input name="uaddressmode" type="string" value="clamp"/>
                </image>
                <add name="A" type="float">
                  <input name="in1" type="float" nodename="I"/>
                  <input name="in2" type="float" value="0.5"/>
                </add>
                <displacement name="D" type="displacementshader">
                  <input name="displacement" type="float" nodename="A"/>
                </displacement>
                <standard_surface name="S" type="surfaceshader"/>
                """);
        Path file = made.texture(Slot.DISPLACEMENT).orElseThrow().file().orElseThrow();
        Raster heights = ImageIO.read(file.toFile()).getRaster();
        long steps = IntStream.range(0, heights.getWidth())
                .map(x -> heights.getSample(x, 1, 0))
                .distinct()
                .count();
        assertThat(heights.getSampleModel().getSampleSize(0)).isEqualTo(16);
        assertThat(steps).as("of which eight bits could tell three").isGreaterThan(500);
        assertThat(made.texture(Slot.DISPLACEMENT).orElseThrow().sampling().strength())
                .isCloseTo(512 / 65535f, within(2e-4f));
    }

    @Test
    void lightThatIsBrighterThanWhiteStaysSo() throws IOException {
        light(128, 64, 32, 131);
        Material made = material("""
                <image name="I" type="color3"><input name="file" type="filename" value="light.hdr"/></image>
                <ramplr name="R" type="color3">
                  <input name="valuel" type="color3" value="0, 0, 0"/>
                  <input name="valuer" type="color3" value="1, 1, 1"/>
                </ramplr>
                <multiply name="M" type="color3">
                  <input name="in1" type="color3" nodename="I"/>
                  <input name="in2" type="color3" nodename="R"/>
                </multiply>
                <displacement name="D" type="displacementshader"/>
                <standard_surface name="S" type="surfaceshader">
                  <input name="emission" type="float" value="1"/>
                  <input name="emission_color" type="color3" nodename="M"/>
                </standard_surface>
                """);
        // 128/256 of 2 to the power of 131 - 128.
        assertThat(made.emissive().r()).isCloseTo(4, within(0.05f));
        assertThat(made.emissive().g()).isEqualTo(made.emissive().r());
        BufferedImage image = ImageIO.read(made.texture(Slot.EMISSIVE)
                .flatMap(texture -> texture.file())
                .orElseThrow()
                .toFile());
        int brightest = image.getRGB(image.getWidth() - 1, 0);
        assertThat(brightest >> 16 & 0xff).isBetween(250, 255);
        assertThat(brightest & 0xff)
                .as("a quarter of the red, as a display stores it (IEC 61966-2-1)")
                .isCloseTo(137, within(3));
    }

    @Test
    void onlyWhatHasMoreThanEightBitsIsReadSo() throws IOException {
        BufferedImage eight = new BufferedImage(4, 4, BufferedImage.TYPE_INT_ARGB);
        Path plain = Files.write(folder.resolve("plain.png"), Png.of(eight));
        assertThat(ImageDecoder.readDeep(plain, 4096)).isEmpty();
        DeepImage greys = ImageDecoder.readDeep(slope(), 4096).orElseThrow();
        assertThat(greys.component(300, 1, 0)).isEqualTo(300 / 65535f);
        assertThat(greys.component(300, 1, 2)).as("grey is in all colours").isEqualTo(300 / 65535f);
        assertThat(greys.component(300, 1, 3)).as("and is not clear").isEqualTo(1);
        assertThat(ImageDecoder.readDeep(slope(), 200)).map(DeepImage::width).isEqualTo(Optional.of(171));
        DeepImage light = ImageDecoder.readDeep(light(128, 64, 32, 131), 4096).orElseThrow();
        assertThat(light.linear()).isTrue();
        assertThat(light.component(2, 1, 1)).isCloseTo(2, within(0.02f));
    }
}
