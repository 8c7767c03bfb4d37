package pantry.bench;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import java.util.zip.Deflater;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.exchange.format.Imported;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.library.Library;
import pantry.library.Published;
import pantry.mesh.Mesh;
import pantry.model.Model;
import pantry.render.RenderCache;
import pantry.render.Thumbnails;
import pantry.workbench.Workbench;

/**
 * Measures receiving against what must be done at least, each part by itself on one core: reading the file (Assimp),
 * finding which faces meet (a radix sort of all edges), drawing the picture once its triangles are prepared (Pantry's own
 * renderer, for want of another), deflating the same numbers (zlib, level 1), and SHA-256 of all that is sealed, in memory.
 */
public final class ReceivingLimits {
    private static final int DIGIT = 11;

    private ReceivingLimits() {}

    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("pantry-bench-");
        try (Workbench workbench =
                new Workbench("bench", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL)) {
            Library library = workbench.createLibrary(folder.resolve("library"), "Bench");
            System.out.println(
                    "| file | reading | edges sorted | drawing | deflating | checksums | their sum | received in | of the sum |");
            System.out.println("|---|---|---|---|---|---|---|---|---|");
            for (String ending : arguments.length == 0 ? List.of("glb", "ply", "stl") : List.of(arguments)) {
                measure(Receiving.ball(folder, ending), workbench.intake(), library);
            }
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static void measure(Path file, Intake intake, Library library) throws Exception {
        Imported arrival = intake.read(file, Progress.NONE);
        Model model = arrival.model();
        Set<Mesh> meshes = model.meshes();
        RenderCache cache = new RenderCache();
        Published shelved = shelve(intake, arrival, library).published();
        List<byte[]> sealed = contents(shelved.asset().folder().resolve(shelved.version()));
        Map<String, Double> parts = new LinkedHashMap<>();
        parts.put("reading", Pairs.median(() -> {
            AIScene scene = Assimp.aiImportFile(file.toString(), 0);
            Assimp.aiReleaseImport(scene);
        }));
        parts.put("edges", Pairs.median(() -> meshes.forEach(ReceivingLimits::sortEdges)));
        parts.put("drawing", Pairs.median(() -> Thumbnails.picture(model, cache, Thumbnails.SIZE)));
        parts.put("deflating", Pairs.median(() -> meshes.forEach(ReceivingLimits::deflate)));
        parts.put("checksums", Pairs.median(() -> sealed.forEach(Sha256::of)));
        double received = Pairs.median(() -> shelve(intake, intake.read(file, Progress.NONE), library));
        double sum = parts.values().stream().mapToDouble(Double::doubleValue).sum();
        StringBuilder line = new StringBuilder("| ").append(file.getFileName());
        parts.values().forEach(seconds -> line.append(String.format(Locale.ROOT, " | %.3f s", seconds)));
        System.out.printf(Locale.ROOT, "%s | %.3f s | %.3f s | %.2f |%n", line, sum, received, received / sum);
    }

    private static Intake.Shelved shelve(Intake intake, Imported arrival, Library library) {
        return intake.shelve(arrival, Intake.suggested(arrival, "Bench", Neighbours.NONE), library, Progress.NONE);
    }

    private static List<byte[]> contents(Path folder) throws IOException {
        List<byte[]> contents = new ArrayList<>();
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                contents.add(Files.readAllBytes(file));
            }
        }
        return contents;
    }

    /** Sorts the edges of all faces by their two points, so that those that faces share stand together. */
    private static void sortEdges(Mesh mesh) {
        int[] corners = mesh.corners();
        long[] edges = new long[corners.length];
        int points = mesh.pointCount();
        int bits = 2 * (Integer.SIZE - Integer.numberOfLeadingZeros(points));
        int at = 0;
        for (int size : mesh.faceSizes()) {
            for (int i = 0; i < size; i++) {
                int a = corners[at + i];
                int b = corners[at + (i + 1) % size];
                edges[at + i] = (long) Math.min(a, b) << bits / 2 | Math.max(a, b);
            }
            at += size;
        }
        long[] other = new long[edges.length];
        for (int shift = 0; shift < bits; shift += DIGIT) {
            int[] starts = new int[(1 << DIGIT) + 1];
            for (long edge : edges) {
                starts[(int) (edge >>> shift & (1 << DIGIT) - 1) + 1]++;
            }
            for (int i = 1; i < starts.length; i++) {
                starts[i] += starts[i - 1];
            }
            for (long edge : edges) {
                other[starts[(int) (edge >>> shift & (1 << DIGIT) - 1)]++] = edge;
            }
            long[] sorted = other;
            other = edges;
            edges = sorted;
        }
        if (edges.length > 1 && edges[0] > edges[edges.length - 1]) {
            throw new IllegalStateException("not sorted");
        }
    }

    private static void deflate(Mesh mesh) {
        ByteBuffer numbers = ByteBuffer.allocate(4 * (mesh.points().length + mesh.corners().length))
                .order(ByteOrder.LITTLE_ENDIAN);
        for (float number : mesh.points()) {
            numbers.putFloat(number);
        }
        for (int corner : mesh.corners()) {
            numbers.putInt(corner);
        }
        Deflater deflater = new Deflater(Deflater.BEST_SPEED);
        deflater.setInput(numbers.array());
        deflater.finish();
        byte[] block = new byte[1 << 16];
        while (!deflater.finished()) {
            deflater.deflate(block);
        }
        deflater.end();
    }
}
