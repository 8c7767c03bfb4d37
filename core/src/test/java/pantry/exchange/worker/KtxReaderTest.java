package pantry.exchange.worker;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.lwjgl.PointerBuffer;
import org.lwjgl.system.MemoryStack;
import org.lwjgl.util.ktx.KTX;
import org.lwjgl.util.ktx.ktxTexture2;
import pantry.base.ImageDecoder;
import pantry.base.Progress;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.model.Material;
import pantry.model.Texture;
import pantry.testing.Mutations;
import pantry.testing.Oracle;
import pantry.testing.Workshop;

/** KTX 2.0 textures that ktx-parse writes, the same as Basis Universal, and damaged ones. */
class KtxReaderTest {
    private static final int SIZE = 64;

    @TempDir
    private static Path made;

    @TempDir
    private Path folder;

    @BeforeAll
    static void write() {
        Oracle.run("write-ktx2.mjs", made.resolve("plain.ktx2").toString(), String.valueOf(SIZE));
        basis(made.resolve("plain.ktx2"), made.resolve("basis.ktx2"));
    }

    /** Packs a texture as Basis Universal by libktx. */
    private static void basis(Path from, Path to) {
        try (MemoryStack stack = MemoryStack.stackPush()) {
            PointerBuffer read = stack.callocPointer(1);
            assertThat(KTX.ktxTexture2_CreateFromNamedFile(
                            from.toString(), KTX.KTX_TEXTURE_CREATE_LOAD_IMAGE_DATA_BIT, read))
                    .isEqualTo(KTX.KTX_SUCCESS);
            ktxTexture2 texture = ktxTexture2.create(read.get(0));
            assertThat(KTX.ktxTexture2_CompressBasis(texture, 255)).isEqualTo(KTX.KTX_SUCCESS);
            assertThat(KTX.ktxTexture2_WriteToNamedFile(texture, to.toString())).isEqualTo(KTX.KTX_SUCCESS);
            KTX.ktxTexture2_Destroy(texture);
        }
    }

    private static void isTheGradient(BufferedImage image, int tolerance) {
        assertThat(image.getWidth()).isEqualTo(SIZE);
        assertThat(image.getHeight()).isEqualTo(SIZE);
        for (int y = 0; y < SIZE; y++) {
            for (int x = 0; x < SIZE; x++) {
                int c = image.getRGB(x, y);
                assertThat(c >> 16 & 0xff).isCloseTo(x, within(tolerance));
                assertThat(c >> 8 & 0xff).isCloseTo(y, within(tolerance));
                assertThat(c & 0xff).isCloseTo(200, within(tolerance));
            }
        }
    }

    @Test
    void plainPixelsAreThoseOfTheFirstLevel() throws IOException {
        isTheGradient(ImageDecoder.read(made.resolve("plain.ktx2")), 0);
        isTheGradient(ImageDecoder.readNumbers(made.resolve("plain.ktx2")), 0);
    }

    @Test
    void basisUniversalIsMadeIntoPixels() throws IOException {
        isTheGradient(ImageDecoder.read(made.resolve("basis.ktx2")), 24);
    }

    @Test
    void anArrivalIsABoardThatShowsIt() throws IOException {
        try (Workshop workshop = new Workshop(folder)) {
            assertThat(FileKind.of(made.resolve("basis.ktx2"))).isEqualTo(FileKind.IMAGE);
            Imported read = workshop.readers().read(made.resolve("basis.ktx2"), Progress.NONE);
            assertThat(read.holds()).isEqualTo(Imported.Holds.IMAGE);
        }
    }

    /** A glTF that needs KHR_texture_basisu names the texture in the extension alone. */
    @Test
    void aGltfMayHaveSuchTextures() throws IOException {
        Files.copy(made.resolve("basis.ktx2"), folder.resolve("basis.ktx2"));
        ByteBuffer corners = ByteBuffer.allocate(36).order(ByteOrder.LITTLE_ENDIAN);
        for (float each : new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}) {
            corners.putFloat(each);
        }
        Path file = Files.writeString(
                folder.resolve("sign.gltf"), """
                {"asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": [{"mesh": 0}],
                 "extensionsUsed": ["KHR_texture_basisu"], "extensionsRequired": ["KHR_texture_basisu"],
                 "images": [{"uri": "basis.ktx2", "mimeType": "image/ktx2"}],
                 "textures": [{"extensions": {"KHR_texture_basisu": {"source": 0}}}],
                 "materials": [{"pbrMetallicRoughness": {"baseColorTexture": {"index": 0}}}],
                 "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "material": 0}]}],
                 "accessors": [{"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3",
                                "min": [0, 0, 0], "max": [1, 1, 0]}],
                 "bufferViews": [{"buffer": 0, "byteLength": 36}],
                 "buffers": [{"byteLength": 36, "uri": "data:application/octet-stream;base64,%s"}]}
                """.formatted(Base64.getEncoder().encodeToString(corners.array())));
        try (Workshop workshop = new Workshop(folder.resolve("shop"))) {
            Material material = workshop.readers()
                    .read(file, Progress.NONE)
                    .model()
                    .materials()
                    .iterator()
                    .next();
            Path image =
                    material.texture(Material.Slot.BASE).flatMap(Texture::file).orElseThrow();
            isTheGradient(ImageDecoder.read(image), 24);
        }
    }

    @Test
    void formatsOfGraphicsCardsAndFalseSizesAreRefused() throws IOException {
        byte[] plain = Files.readAllBytes(made.resolve("plain.ktx2"));
        // Vulkan's number of BC7.
        Path card = Files.write(folder.resolve("card.ktx2"), changed(plain, 12, 145));
        assertThatThrownBy(() -> ImageDecoder.read(card)).isInstanceOf(IOException.class);
        Path huge = Files.write(folder.resolve("huge.ktx2"), changed(plain, 20, 100_000_000));
        assertThatThrownBy(() -> ImageDecoder.read(huge))
                .isInstanceOf(IOException.class)
                .hasMessageContaining("100,000,000");
        Path larger = Files.write(folder.resolve("larger.ktx2"), changed(plain, 20, 2 * SIZE));
        assertThatThrownBy(() -> ImageDecoder.read(larger)).isInstanceOf(IOException.class);
        Path levels = Files.write(folder.resolve("levels.ktx2"), changed(plain, 40, 30));
        assertThatThrownBy(() -> ImageDecoder.read(levels)).isInstanceOf(IOException.class);
    }

    private static byte[] changed(byte[] file, int at, int number) {
        byte[] changed = file.clone();
        ByteBuffer.wrap(changed).order(ByteOrder.LITTLE_ENDIAN).putInt(at, number);
        return changed;
    }

    /** Whatever is wrong with a file, this process goes on, and the next texture is read; seed kept. */
    @Test
    void damagedTexturesAreReadOrRefused() throws IOException {
        Mutations mutations =
                new Mutations(new Random(20_261_202), List.of(Files.readAllBytes(made.resolve("basis.ktx2"))));
        Path file = folder.resolve("damaged.ktx2");
        int refused = 0;
        for (int i = 0; i < 40; i++) {
            Files.write(file, mutations.next());
            try {
                assertThat(ImageDecoder.read(file).getWidth()).isPositive();
            } catch (IOException e) {
                assertThat(e.getMessage()).isNotBlank();
                refused++;
            }
        }
        assertThat(refused).isPositive();
        isTheGradient(ImageDecoder.read(made.resolve("plain.ktx2")), 0);
    }
}
