package pantry.exchange.worker;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.ImageDecoder;
import pantry.base.LinearImage;
import pantry.base.Progress;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.testing.Mutations;
import pantry.testing.Oracle;
import pantry.testing.Workshop;

/** OpenEXR images that three's exporter writes, and damaged ones. */
class ExrReaderTest {
    private static final int SIZE = 32;

    @TempDir
    private static Path made;

    @TempDir
    private Path folder;

    @BeforeAll
    static void write() {
        Oracle.run("write-exr.mjs", made.resolve("sky.exr").toString(), String.valueOf(SIZE));
        Oracle.run("write-exr.mjs", made.resolve("zips.exr").toString(), String.valueOf(SIZE), "zips");
        Oracle.run("write-exr.mjs", made.resolve("plain.exr").toString(), String.valueOf(SIZE), "none");
    }

    /** How linear light is stored in eight bits, by IEC 61966-2-1. */
    private static int stored(double linear) {
        double c = Math.clamp(linear, 0, 1);
        return (int) Math.round(255 * (c <= 0.0031308 ? 12.92 * c : 1.055 * Math.pow(c, 1 / 2.4) - 0.055));
    }

    @Test
    void lightIsShownAsADisplayShowsItHoweverTheFileIsPacked() throws IOException {
        for (String name : new String[] {"sky.exr", "zips.exr", "plain.exr"}) {
            BufferedImage image = ImageDecoder.read(made.resolve(name));
            assertThat(image.getWidth()).isEqualTo(SIZE);
            for (int y = 0; y < SIZE; y++) {
                for (int x = 0; x < SIZE; x++) {
                    int c = image.getRGB(x, y);
                    assertThat(c >>> 24).isEqualTo(255);
                    // Half floats have ten bits behind the point.
                    assertThat(c >> 16 & 0xff).as(name + " red").isCloseTo(stored(2.0 * x / (SIZE - 1)), within(1));
                    assertThat(c >> 8 & 0xff)
                            .as(name + " green")
                            .isCloseTo(stored(1 - (double) y / (SIZE - 1)), within(1));
                    assertThat(c & 0xff).isCloseTo(stored(0.25), within(1));
                }
            }
        }
    }

    @Test
    void numbersAreAsTheyAreStored() throws IOException {
        BufferedImage numbers = ImageDecoder.readNumbers(made.resolve("sky.exr"));
        for (int x = 0; x < SIZE; x++) {
            assertThat(numbers.getRGB(x, 3) >> 16 & 0xff)
                    .isCloseTo((int) Math.round(255 * Math.min(1, 2.0 * x / (SIZE - 1))), within(2));
        }
        assertThat(numbers.getRGB(5, 5) & 0xff).isCloseTo(64, within(1));
    }

    @Test
    void lightIsReadWithoutALimitAbove() throws IOException {
        LinearImage light = ImageDecoder.readLinear(made.resolve("sky.exr"), SIZE);
        assertThat(light.width()).isEqualTo(SIZE);
        for (int x = 0; x < SIZE; x++) {
            assertThat(light.rgb()[3 * (3 * SIZE + x)]).isCloseTo(2f * x / (SIZE - 1), within(2e-3f));
        }
        LinearImage fewer = ImageDecoder.readLinear(made.resolve("sky.exr"), SIZE / 2);
        assertThat(fewer.rgb()[3 * (SIZE / 2 - 1)]).isCloseTo(2f * (SIZE - 1.5f) / (SIZE - 1), within(2e-3f));
    }

    @Test
    void itsSizeIsKnownWithoutDecodingAndFewerRowsAreTakenWhereFewAreWanted() throws IOException {
        assertThat(ImageDecoder.size(made.resolve("sky.exr")))
                .hasValueSatisfying(size -> assertThat(size).containsExactly(SIZE, SIZE));
        BufferedImage few = ImageDecoder.read(made.resolve("sky.exr"), SIZE / 4);
        assertThat(few.getWidth()).isEqualTo(SIZE / 2);
        assertThat(few.getRGB(8, 3) >> 16 & 0xff).isCloseTo(stored(2.0 * 16 / (SIZE - 1)), within(1));
    }

    @Test
    void anArrivalIsABoardThatShowsIt() throws IOException {
        try (Workshop workshop = new Workshop(folder)) {
            assertThat(FileKind.of(made.resolve("sky.exr"))).isEqualTo(FileKind.IMAGE);
            Imported read = workshop.readers().read(made.resolve("sky.exr"), Progress.NONE);
            assertThat(read.holds()).isEqualTo(Imported.Holds.IMAGE);
            assertThat(read.model().bounds().size().x()).isCloseTo(1, within(1e-6));
            assertThat(read.model().materials().iterator().next().texture(Material.Slot.BASE))
                    .isPresent();
        }
    }

    /** glTF holds no OpenEXR: colours become colours for a display there, and numbers stay what they are. */
    @Test
    void aGltfGetsColoursOfTheOneAndNumbersOfTheOther() throws IOException {
        Texture sky = new Texture("sky.exr", Optional.of(made.resolve("sky.exr")));
        Material material = Material.plain("Sky", Colour.WHITE, 0, 1)
                .with(Material.Slot.BASE, sky)
                .with(Material.Slot.ROUGHNESS, sky.with(Texture.Sampling.USUAL.with(Texture.Channel.RED)))
                .with(Material.Slot.OCCLUSION, sky);
        Model block = Workshop.model("Block", Shapes.block(1, 1, 1)).withMaterials(any -> material);
        Path file = folder.resolve("block.glb");
        ModelWriters.write(block, file);
        try (Workshop workshop = new Workshop(folder.resolve("shop"))) {
            Material again = workshop.readers()
                    .read(file, Progress.NONE)
                    .model()
                    .materials()
                    .iterator()
                    .next();
            int x = 10;
            double red = 2.0 * x / (SIZE - 1);
            assertThat(component(again, Material.Slot.BASE, x, 16)).isCloseTo(stored(red), within(1));
            assertThat(component(again, Material.Slot.ROUGHNESS, x, 8))
                    .isCloseTo((int) Math.round(255 * red), within(2));
            assertThat(component(again, Material.Slot.OCCLUSION, x, 16))
                    .isCloseTo((int) Math.round(255 * red), within(2));
        }
    }

    private static int component(Material material, Material.Slot slot, int x, int shift) throws IOException {
        Path image = material.texture(slot).flatMap(Texture::file).orElseThrow();
        return ImageDecoder.read(image).getRGB(x, 7) >> shift & 0xff;
    }

    @Test
    void whatClaimsToBeHugeIsRefusedBeforeAnythingIsRead() throws IOException {
        Path file = Files.write(folder.resolve("huge.exr"), header(100_000, 100_000));
        assertThatThrownBy(() -> ImageDecoder.read(file))
                .isInstanceOf(IOException.class)
                .hasMessageContaining("100,000 × 100,000");
        Path negative = Files.write(folder.resolve("negative.exr"), header(-5, 7));
        assertThatThrownBy(() -> ImageDecoder.read(negative)).isInstanceOf(IOException.class);
        Path endless = Files.write(folder.resolve("endless.exr"), new byte[] {0x76, 0x2f, 0x31, 1, 2, 0, 0, 0});
        assertThatThrownBy(() -> ImageDecoder.read(endless)).isInstanceOf(IOException.class);
    }

    /** A header that says little but how large the image is. */
    private static byte[] header(int width, int height) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.write(new byte[] {0x76, 0x2f, 0x31, 1, 2, 0, 0, 0});
        out.write("dataWindow\0box2i\0".getBytes(StandardCharsets.US_ASCII));
        out.write(ByteBuffer.allocate(20)
                .order(ByteOrder.LITTLE_ENDIAN)
                .putInt(16)
                .putInt(0)
                .putInt(0)
                .putInt(width - 1)
                .putInt(height - 1)
                .array());
        out.write(0);
        return out.toByteArray();
    }

    /** Whatever is wrong with a file, this process goes on, and the next image is read; seed kept. */
    @Test
    void damagedImagesAreRefused() throws IOException {
        Mutations mutations =
                new Mutations(new Random(20_261_201), List.of(Files.readAllBytes(made.resolve("zips.exr"))));
        Path file = folder.resolve("damaged.exr");
        int read = 0;
        int refused = 0;
        for (int i = 0; i < 60; i++) {
            Files.write(file, mutations.next());
            try {
                assertThat(ImageDecoder.read(file).getWidth()).isPositive();
                read++;
            } catch (IOException e) {
                assertThat(e.getMessage()).isNotBlank();
                refused++;
            }
        }
        assertThat(read + refused).isEqualTo(60);
        assertThat(refused).isPositive();
        assertThat(ImageDecoder.read(made.resolve("sky.exr")).getWidth()).isEqualTo(SIZE);
    }
}
