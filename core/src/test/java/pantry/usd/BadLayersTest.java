package pantry.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.function.Consumer;
import java.util.stream.Stream;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.usd.file.LayerFiles;
import pantry.usd.file.UsdPackage;

/** Layers and packages that lie, each refused by an error that names the file and says what is wrong. */
class BadLayersTest {
    /** Where the head of a binary layer tells where its table of contents is (OpenUSD crate format; from memory). */
    private static final int TABLE_POINTER = 16;

    private static final int SECTION = 32;

    @TempDir
    private Path folder;

    private byte[] valid() throws IOException {
        Layer layer = Layer.anonymous();
        PrimSpec prim = layer.root().define("Mesh", "Mast");
        int[] corners = new int[400];
        Arrays.setAll(corners, i -> i % 7);
        prim.set("int[]", "corners", new Value.Ints(corners, 1));
        prim.set("token", "name", new Value.Token("head"));
        Path file = folder.resolve("valid.usdc");
        LayerFiles.write(layer, file);
        return Files.readAllBytes(file);
    }

    private static ByteBuffer figures(byte[] bytes) {
        return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
    }

    private static int table(byte[] bytes) {
        return (int) figures(bytes).getLong(TABLE_POINTER);
    }

    /** The place in the file of a section's entry in the table of contents. */
    private static int section(byte[] bytes, String name) {
        int table = table(bytes);
        int count = (int) figures(bytes).getLong(table);
        for (int i = 0; i < count; i++) {
            int at = table + 8 + i * SECTION;
            if (new String(bytes, at, 16, StandardCharsets.ISO_8859_1).startsWith(name)) {
                return at;
            }
        }
        throw new AssertionError("no section " + name);
    }

    private static Arguments lie(String what, Consumer<byte[]> lie, String words) {
        return Arguments.of(what, lie, words);
    }

    static Stream<Arguments> lies() {
        return Stream.of(
                lie(
                        "a table of contents outside the file",
                        b -> figures(b).putLong(TABLE_POINTER, 1L << 40),
                        "out of the file"),
                lie("a negative table of contents", b -> figures(b).putLong(TABLE_POINTER, -8), "out of the file"),
                lie("a newer version", b -> b[9] = 99, "version"),
                lie("absurdly many sections", b -> figures(b).putLong(table(b), Long.MAX_VALUE), "a count of"),
                lie(
                        "a section outside the file",
                        b -> figures(b).putLong(section(b, "TOKENS") + 16, b.length + 100L),
                        "out of the file"),
                lie(
                        "a section longer than the file",
                        b -> figures(b).putLong(section(b, "PATHS") + 24, 1L << 50),
                        "out of the file"),
                lie(
                        "sections that overlap",
                        b -> {
                            ByteBuffer figures = figures(b);
                            figures.putLong(section(b, "FIELDS") + 16, figures.getLong(section(b, "TOKENS") + 16));
                            figures.putLong(section(b, "FIELDS") + 24, figures.getLong(section(b, "TOKENS") + 24));
                        },
                        "overlap"),
                lie(
                        "absurdly many tokens",
                        b -> figures(b).putLong((int) figures(b).getLong(section(b, "TOKENS") + 16), 1L << 40),
                        "a count of"),
                lie(
                        "tokens that unpack to more than they say",
                        b -> {
                            int at = (int) figures(b).getLong(section(b, "TOKENS") + 16) + 8;
                            figures(b).putLong(at, figures(b).getLong(at) - 1);
                        },
                        ""),
                lie(
                        "a compressed size that lies",
                        b -> {
                            int at = (int) figures(b).getLong(section(b, "TOKENS") + 16) + 16;
                            figures(b).putLong(at, 1L << 33);
                        },
                        ""),
                lie(
                        "absurdly many paths",
                        b -> figures(b).putLong((int) figures(b).getLong(section(b, "PATHS") + 16), 1L << 45),
                        "a count of"));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("lies")
    void aBinaryLayerThatLiesIsRefused(String what, Consumer<byte[]> lie, String words) throws IOException {
        byte[] bytes = valid();
        lie.accept(bytes);
        Path file = Files.write(folder.resolve("lies.usdc"), bytes);
        isRefused(file, words);
    }

    @Test
    void aBinaryLayerCutOffAnywhereIsRefused() throws IOException {
        byte[] bytes = valid();
        for (int length = 0; length < bytes.length; length += 7) {
            Path file = Files.write(folder.resolve("cut.usdc"), Arrays.copyOf(bytes, length));
            assertThatThrownBy(() -> LayerFiles.read(file))
                    .as("%d bytes", length)
                    .isInstanceOf(UsdException.class);
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "/", "Mast", "/A//B", "/A/", "/A.", "/A..b", "/A{s=x", "/A{=x}B", "//", "/A/{s=x}"})
    void pathsWithEmptyPartsAreRefused(String path) {
        if (path.equals("/")) {
            assertThat(SdfPath.of(path)).isEqualTo(SdfPath.ROOT);
        } else {
            assertThatThrownBy(() -> SdfPath.of(path)).isInstanceOf(UsdException.class);
        }
    }

    /** A package of stored entries. */
    private Path zip(String name, Object... entries) throws IOException {
        Path file = folder.resolve(name);
        try (OutputStream out = Files.newOutputStream(file);
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (int i = 0; i < entries.length; i += 2) {
                byte[] bytes = (byte[]) entries[i + 1];
                ZipEntry entry = new ZipEntry((String) entries[i]);
                entry.setMethod(ZipEntry.STORED);
                entry.setSize(bytes.length);
                CRC32 sum = new CRC32();
                sum.update(bytes);
                entry.setCrc(sum.getValue());
                zip.putNextEntry(entry);
                zip.write(bytes);
            }
        }
        return file;
    }

    private static byte[] text(String text) {
        return ("#usda 1.0\n" + text).getBytes(StandardCharsets.UTF_8);
    }

    private static void isRefused(Path file, String words) {
        assertThatThrownBy(() -> LayerFiles.read(file))
                .isInstanceOfSatisfying(UsdException.class, refused -> assertThat(refused.line())
                        .contains(file.getFileName().toString())
                        .containsIgnoringCase(words));
    }

    @Test
    void aPackageWithinAPackageIsRefused() throws IOException {
        byte[] inner = Files.readAllBytes(zip("inner.usdz", "a.usda", text("def \"A\" {}")));
        isRefused(zip("outer.usdz", "a.usdz", inner), "package");
    }

    @Test
    void entriesThatLeaveThePackageAreRefused() throws IOException {
        isRefused(zip("out.usdz", "../a.usda", text("")), "../a.usda");
        isRefused(zip("abs.usdz", "/tmp/a.usda", text("")), "/tmp/a.usda");
    }

    @Test
    void packedEntriesAreRefusedSoThatNothingUnpacksToMore() throws IOException {
        Path file = folder.resolve("bomb.usdz");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(file))) {
            zip.putNextEntry(new ZipEntry("a.usda"));
            zip.write(new byte[10_000_000]);
        }
        isRefused(file, "a.usda");
    }

    @Test
    void encryptedEntriesAreRefused() throws IOException {
        Path file = zip("secret.usdz", "a.usda", text("def \"A\" {}"));
        byte[] bytes = Files.readAllBytes(file);
        for (int i = 0; i + 4 < bytes.length; i++) {
            boolean local = bytes[i] == 'P' && bytes[i + 1] == 'K' && bytes[i + 2] == 3 && bytes[i + 3] == 4;
            boolean central = bytes[i] == 'P' && bytes[i + 1] == 'K' && bytes[i + 2] == 1 && bytes[i + 3] == 2;
            if (local) {
                bytes[i + 6] |= 1;
            } else if (central) {
                bytes[i + 8] |= 1;
            }
        }
        Files.write(file, bytes);
        isRefused(file, "encrypted");
    }

    @Test
    void aPackageWithoutALayerIsRefused() throws IOException {
        isRefused(zip("images.usdz", "a.png", new byte[] {1, 2}), "layer");
        isRefused(Files.write(folder.resolve("not.usdz"), new byte[] {'P', 'K', 3, 4, 0, 0}), "");
        assertThatThrownBy(() -> UsdPackage.open(folder.resolve("none.usdz"))).isInstanceOf(UsdException.class);
    }
}
