package pantry.usd;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.management.ThreadMXBean;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.testing.Mutations;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;
import pantry.usd.text.UsdaWriter;

/**
 * Files that were valid and have been damaged: read or refused with a {@link UsdException}, in time and in memory that
 * the size of the file bounds. The number of files is {@code pantry.damaged}; {@code bench/damaged-files} asks for many.
 */
class DamagedFilesTest {
    private static final int FILES = Integer.getInteger("pantry.damaged", 3000) / 3;
    private static final long SEED = Long.getLong("pantry.damaged.seed", 20261125);
    private static final int SECONDS = 5;

    /** Bytes that reading, composing and writing out a file may take: a fixed part, and per byte of the file. */
    private static final long FIXED = 64L << 20;

    private static final long PER_BYTE = 20_000;

    @TempDir
    private Path folder;

    @ParameterizedTest
    @ValueSource(strings = {"usda", "usdc", "usdz"})
    void damagedFilesAreReadOrRefusedWithinBounds(String ending) throws Exception {
        Mutations mutations = new Mutations(new Random(SEED), seeds(ending));
        Path file = folder.resolve("damaged." + ending);
        ThreadMXBean threads = (ThreadMXBean) ManagementFactory.getThreadMXBean();
        int refused = 0;
        try (ExecutorService reader = Executors.newSingleThreadExecutor()) {
            for (int i = 0; i < FILES; i++) {
                byte[] bytes = mutations.next();
                Files.write(file, bytes);
                try {
                    long[] taken = reader.submit(() -> {
                                long before = threads.getCurrentThreadAllocatedBytes();
                                boolean bad = !isRead(file);
                                return new long[] {threads.getCurrentThreadAllocatedBytes() - before, bad ? 1 : 0};
                            })
                            .get(SECONDS, TimeUnit.SECONDS);
                    refused += (int) taken[1];
                    assertThat(taken[0])
                            .as("memory for file %d of %d bytes", i, bytes.length)
                            .isLessThan(FIXED + PER_BYTE * bytes.length);
                } catch (TimeoutException | ExecutionException e) {
                    reader.shutdownNow();
                    throw new AssertionError("seed " + SEED + ", file " + i + ": " + describe(bytes), e);
                }
            }
        }
        assertThat(refused).as("most damage is found").isBetween(FILES / 10, FILES - FILES / 100);
    }

    private static String describe(byte[] bytes) {
        return HexFormat.of().formatHex(bytes, 0, Math.min(bytes.length, 4000));
    }

    private boolean isRead(Path file) {
        try {
            Layer layer = LayerFiles.read(file);
            UsdaWriter.write(layer);
            Stage stage = Stage.open(layer, LayerFiles::read);
            UsdaWriter.write(Flattener.flatten(stage, Flattener.Instances.SHARED, folder.resolve("flat.usda")));
            return true;
        } catch (UsdException refused) {
            assertThat(refused.file()).as(refused.getMessage()).isPresent();
            return false;
        }
    }

    private List<byte[]> seeds(String ending) throws IOException {
        List<byte[]> seeds = new ArrayList<>();
        Files.write(folder.resolve("paint.png"), new byte[] {1, 2, 3, 4});
        for (int seed = 0; seed < 12; seed++) {
            Layer layer = ending.equals("usdz") ? small(seed) : new GeneratedLayers(new Random(seed)).layer();
            Path file = folder.resolve("seed" + seed + "." + ending);
            LayerFiles.write(layer, file);
            seeds.add(Files.readAllBytes(file));
        }
        return seeds;
    }

    /** A layer that names only what is there, so that it can be packed. */
    private Layer small(int seed) {
        Layer layer = new Layer(folder.resolve("small.usda"));
        PrimSpec prim = layer.root().define("Mesh", "Mast");
        prim.set("asset", "image", new Value.Asset("./paint.png"));
        float[] points = new float[3 * (seed + 20)];
        prim.set("point3f[]", "points", new Value.Floats(points, 3));
        prim.setReferences(Reference.internal(SdfPath.of("/Other")));
        layer.root().define("Xform", "Other").variant("size", "tall").contents().set("int", "v", new Value.Int(seed));
        return layer;
    }
}
