package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;
import pantry.base.PantryException;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.exchange.usd.UsdModelWriter;
import pantry.exchange.worker.ForeignReader;
import pantry.exchange.worker.WorkerLimits;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Facts;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

class ForeignFilesTest {
    @TempDir
    private Path folder;

    @TempDir
    private static Path scratch;

    private static ForeignReader foreign;
    private static FileReaders readers;

    @BeforeAll
    static void start() {
        foreign = new ForeignReader(WorkerLimits.USUAL, scratch.resolve("shared"));
        readers = new FileReaders(foreign);
    }

    @AfterAll
    static void stop() {
        foreign.close();
    }

    /** A red block 1 × 2 × 3 under a grey ball of radius 0.5, each an object of its own. */
    private static Model twoThings() {
        Material red = Material.plain("Red", new Colour(0.5f, 0.02f, 0.02f), 0, 0.5);
        Material grey = Material.plain("Grey", new Colour(0.3f, 0.3f, 0.3f), 0.9f, 0.2);
        return new Model(
                "Two things",
                List.of(
                        Model.Node.of(
                                "Block",
                                Matrix4.IDENTITY,
                                List.of(new Model.Part(Shapes.block(1, 2, 3), red)),
                                List.of()),
                        Model.Node.of(
                                "Ball",
                                Matrix4.translation(new Vec3(0, 2.5, 0)),
                                List.of(new Model.Part(Shapes.sphere(0.5, 24, 12), grey)),
                                List.of())),
                Model.Extras.NONE);
    }

    private Path written(String ending) {
        Path file = folder.resolve("things." + ending);
        switch (ending) {
            case "dae" -> converted(file, "collada");
            case "fbx" -> converted(file, "fbx");
            case "3ds" -> converted(file, "3ds");
            case "usda" -> UsdModelWriter.write(twoThings(), file);
            default -> ModelWriters.write(twoThings(), file);
        }
        return file;
    }

    /** Lets Assimp, which Pantry's authors did not write, make a file of another format. */
    private void converted(Path file, String format) {
        Path source = written("glb");
        AIScene scene = Assimp.aiImportFile(source.toString(), 0);
        try {
            int result = Assimp.aiExportScene(scene, format, file.toString(), 0);
            assertThat(result).isEqualTo(Assimp.aiReturn_SUCCESS);
        } finally {
            Assimp.aiReleaseImport(scene);
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"glb", "gltf", "obj", "ply", "stl", "dae", "fbx", "3ds", "usda"})
    void everyFormatBringsTheSameShapes(String ending) {
        Facts facts = readers.read(written(ending), Progress.NONE).facts();
        double scale = ending.equals("fbx") ? facts.bounds().size().y() / 3 : 1;
        assertThat(facts.triangles()).isEqualTo(12 + 2 * 24 * 11);
        // glTF and PLY split points at edges and seams, and are read as they are written.
        boolean split = ending.startsWith("gl") || ending.equals("ply");
        assertThat(facts.vertices()).isEqualTo(split ? 347 : 8 + 24 * 11 + 2);
        assertThat(facts.closed()).isTrue();
        assertThat(facts.parts()).isEqualTo(2);
        // Assimp writes 3DS, which has Z up, without turning it, and turns it upright when reading: x alone stays.
        int axes = ending.equals("3ds") ? 1 : 3;
        double[] low = {-0.5, 0, -1.5};
        double[] high = {0.5, 3, 1.5};
        for (int axis = 0; axis < axes; axis++) {
            assertThat(facts.bounds().min()[axis]).isCloseTo(low[axis] * scale, within(1e-5 * scale));
            assertThat(facts.bounds().max()[axis]).isCloseTo(high[axis] * scale, within(1e-5 * scale));
        }
    }

    @ParameterizedTest
    @CsvSource({"glb,1", "dae,1", "obj,0", "stl,0", "usda,1"})
    void theUnitIsTheFilesOwnOrUnknown(String ending, double unit) {
        assertThat(readers.read(written(ending), Progress.NONE).unit().orElse(0.0))
                .isEqualTo(unit);
    }

    @Test
    void materialsKeepTheirColours() {
        Model model = readers.read(written("glb"), Progress.NONE).model();
        Material red = model.materials().stream()
                .filter(m -> m.name().equals("Red"))
                .findFirst()
                .orElseThrow();
        assertThat(red.base().r()).isCloseTo(0.5f, within(1e-4f));
        Material grey = model.materials().stream()
                .filter(m -> m.name().equals("Grey"))
                .findFirst()
                .orElseThrow();
        assertThat(grey.metallic()).isCloseTo(0.9f, within(1e-4f));
    }

    @Test
    void texturesAreFoundBesideTheFileInAnyCaseAndMissingOnesAreNamed() throws IOException {
        Path file = written("obj");
        Files.writeString(
                folder.resolve("things.mtl"),
                "newmtl Red\nmap_Kd C:\\\\work\\\\images\\\\PAINT.PNG\nnewmtl Grey\nmap_Kd lost.png\n");
        Path image = folder.resolve("paint.png");
        Files.write(image, Png.of(new java.awt.image.BufferedImage(2, 2, 1)));
        Imported read = readers.read(file, Progress.NONE);
        assertThat(read.model().textures())
                .anySatisfy(texture -> assertThat(texture.file()).contains(image))
                .anySatisfy(texture -> assertThat(texture).isEqualTo(new Texture("lost.png", Optional.empty())));
        assertThat(read.companions()).containsExactly(folder.resolve("things.mtl"));
    }

    @Test
    void embeddedImagesAreUnpacked() throws IOException {
        Path image = folder.resolve("checks.png");
        Files.write(image, Png.of(new java.awt.image.BufferedImage(4, 4, 1)));
        Material textured = textured(image);
        Model model = new Model(
                "Box",
                List.of(Model.Node.of(
                        "Box", Matrix4.IDENTITY, List.of(new Model.Part(Shapes.block(1, 1, 1), textured)), List.of())),
                Model.Extras.NONE);
        Path file = folder.resolve("box.glb");
        ModelWriters.write(model, file);
        Files.delete(image);
        Texture texture =
                readers.read(file, Progress.NONE).model().textures().iterator().next();
        assertThat(texture.found()).isTrue();
        assertThat(javax.imageio.ImageIO.read(texture.file().orElseThrow().toFile())
                        .getWidth())
                .isEqualTo(4);
    }

    private static Material textured(Path image) {
        return Material.plain("Textured", Colour.WHITE, 0, 1)
                .with(Material.Slot.BASE, new Texture(image.getFileName().toString(), Optional.of(image)));
    }

    @ParameterizedTest
    @ValueSource(strings = {"glb", "gltf", "obj", "ply", "stl", "dae", "fbx", "3ds", "usda"})
    void damagedFilesAreRefusedOrReadButNeverMore(String ending) throws IOException {
        byte[] whole = Files.readAllBytes(written(ending));
        Random random = new Random(ending.hashCode());
        for (int i = 0; i < 12; i++) {
            byte[] bytes = Arrays.copyOf(whole, i % 3 == 0 ? whole.length / (i / 3 + 2) : whole.length);
            for (int k = 0; k < i; k++) {
                bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(256);
            }
            Path damaged = folder.resolve("damaged-" + i + "." + ending);
            Files.write(damaged, bytes);
            try {
                Model model = readers.read(damaged, Progress.NONE).model();
                assertThat(model.bounds().min().isFinite()).isTrue();
            } catch (PantryException e) {
                assertThat(e.line()).contains("damaged-" + i);
            }
        }
        assertThat(readers.read(written(ending), Progress.NONE).model().meshes())
                .isNotEmpty();
    }

    @Test
    void emptyMissingForeignAndShapelessFilesAreRefusedInOneLine() throws IOException {
        Path empty = Files.createFile(folder.resolve("empty.glb"));
        assertRefused(empty, "empty (0 bytes)");
        assertRefused(folder.resolve("nowhere.obj"), "no such file");
        assertRefused(Files.writeString(folder.resolve("notes.txt"), "hello"), "known are");
        assertRefused(Files.writeString(folder.resolve("points.obj"), "v 0 0 0\nv 1 0 0\nv 0 1 0\n"), "");
        assertRefused(
                Files.writeString(
                        folder.resolve("points.ply"),
                        "ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float y\n"
                                + "property float z\nend_header\n0 0 0\n"),
                "no extent");
        assertRefused(
                Files.writeString(folder.resolve("nan.obj"), "v nan 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"), "not a number");
        assertRefused(Files.writeString(folder.resolve("far.obj"), "v 1e300 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"), "");
    }

    private void assertRefused(Path file, String words) {
        assertThatThrownBy(() -> readers.read(file, Progress.NONE)).isInstanceOfSatisfying(PantryException.class, e -> {
            assertThat(e.file()).contains(file.toString());
            assertThat(e.line()).contains(words).doesNotContain("\n");
        });
    }

    @Test
    void aWorkerKilledWhileItReadsIsReplacedAndOnlyThatFileFails() throws IOException {
        Path small = written("stl");
        foreign.read(small, Progress.NONE);
        long before = foreign.workerPid().orElseThrow();
        Path large = largeFile();
        CompletableFuture<Imported> reading = CompletableFuture.supplyAsync(() -> foreign.read(large, new Progress() {
            @Override
            public void report(String what, double fraction) {
                // It is at work now: whatever kills it does so in mid-read.
                ProcessHandle.of(before).ifPresent(ProcessHandle::destroyForcibly);
            }

            @Override
            public boolean cancelled() {
                return false;
            }
        }));
        assertThatThrownBy(reading::join)
                .isInstanceOf(CompletionException.class)
                .cause()
                .isInstanceOfSatisfying(
                        ExchangeException.class,
                        e -> assertThat(e.line()).contains("large.obj").contains("signal 9"));
        assertThat(foreign.read(small, Progress.NONE).model().meshes()).hasSize(1);
        assertThat(foreign.workerPid().orElseThrow()).isNotEqualTo(before);
    }

    private Path largeFile() throws IOException {
        Path large = folder.resolve("large.obj");
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 1_500_000; i++) {
            text.append("v ").append(i).append(" 0.123456 ").append(i % 7).append('\n');
        }
        return Files.writeString(large, text.append("f 1 2 3\n"));
    }

    @Test
    void aFileThatTakesTooMuchMemoryIsGivenUp() throws IOException {
        // A count that no file of this size can mean, which is nevertheless believed and filled.
        Path absurd =
                Files.writeString(folder.resolve("absurd.off"), "OFF\n900000000 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n");
        try (ForeignReader narrow =
                new ForeignReader(new WorkerLimits(Duration.ofSeconds(60), 640L << 20), folder.resolve("narrow"))) {
            assertThatThrownBy(() -> narrow.read(absurd, Progress.NONE))
                    .isInstanceOf(ExchangeException.class)
                    .hasMessageContaining("640 MiB");
            assertThat(narrow.read(written("stl"), Progress.NONE).model().meshes())
                    .hasSize(1);
        }
    }

    @Test
    void everyKnownEndingIsOneThatCanBeRead() {
        List<String> own = List.of("usd", "usda", "usdc", "usdz", "mtlx");
        List<String> images = List.of(ImageIO.getReaderFileSuffixes());
        for (String ending : FileKind.endings()) {
            assertThat(own.contains(ending)
                            || images.contains(ending)
                            || ending.equals("exr")
                            || Assimp.aiIsExtensionSupported("." + ending))
                    .as(ending)
                    .isTrue();
        }
    }

    @Test
    void limitsCanBeSetFromOutside() {
        assertThat(WorkerLimits.ofEnvironment(java.util.Map.of())).isEqualTo(WorkerLimits.USUAL);
        assertThat(WorkerLimits.ofEnvironment(java.util.Map.of("PANTRY_READ_SECONDS", "5"))
                        .time())
                .isEqualTo(Duration.ofSeconds(5));
        assertThatThrownBy(() -> WorkerLimits.ofEnvironment(java.util.Map.of("PANTRY_READ_MEGABYTES", "much")))
                .hasMessageContaining("PANTRY_READ_MEGABYTES");
    }

    @Test
    void aFileThatTakesTooLongIsGivenUp() throws IOException {
        Path large = largeFile();
        try (ForeignReader hasty =
                new ForeignReader(new WorkerLimits(Duration.ofMillis(150), 1L << 30), folder.resolve("hasty"))) {
            assertThatThrownBy(() -> hasty.read(large, Progress.NONE))
                    .isInstanceOf(ExchangeException.class)
                    .hasMessageContaining("given up");
        }
    }

    /** Such a worker says nothing about the file. */
    @Test
    void aWorkerThatStandsStillIsReplacedAndTheFileIsRead() throws Exception {
        Path file = written("stl");
        try (ForeignReader reader =
                new ForeignReader(new WorkerLimits(Duration.ofSeconds(5), 1L << 30), folder.resolve("still"))) {
            reader.read(file, Progress.NONE);
            long first = reader.workerPid().orElseThrow();
            new ProcessBuilder("kill", "-STOP", String.valueOf(first)).start().waitFor();
            assertThat(reader.read(file, Progress.NONE).model().meshes()).hasSize(1);
            assertThat(reader.workerPid()).isPresent().isNotEqualTo(java.util.Optional.of(first));
        }
    }
}
