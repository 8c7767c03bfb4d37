package pantry.bench;

import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.TimeUnit;
import pantry.base.AtomicFiles;
import pantry.base.math.Matrix4;
import pantry.exchange.usd.UsdModelWriter;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.file.LayerFiles;

/**
 * Measures reading of layers against named peers in one run, and how much heap ten million triangles need.
 *
 * <p>Run in the project's folder, after {@code npm ci} in {@code oracle/}.
 */
public final class Layers {
    private static final int HEAP_LIMIT = 600;

    private Layers() {}

    public static void main(String[] arguments) throws Exception {
        if (arguments.length == 2 && arguments[0].equals("heap")) {
            heap(Path.of(arguments[1]));
            return;
        }
        Path folder = Files.createTempDirectory("pantry-bench-");
        try {
            Pairs.header();
            text(folder);
            binary(folder);
            memory(folder);
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static Model balls(int segments, int count) {
        Mesh mesh = Shapes.sphere(1, segments, segments / 2);
        return new Model(
                "Balls",
                java.util.stream.IntStream.range(0, count)
                        .mapToObj(i -> Model.Node.of(
                                "Ball_" + i,
                                Matrix4.IDENTITY,
                                List.of(new Model.Part(mesh, Material.PLAIN)),
                                List.of()))
                        .toList(),
                Model.Extras.NONE);
    }

    private static void text(Path folder) throws Exception {
        Path file = folder.resolve("balls.usda");
        UsdModelWriter.write(balls(260, 10), file);
        String size = String.format(Locale.ROOT, "%d MB", Files.size(file) / 1_000_000);
        List<String> words = List.of("sh", "-c", "LC_ALL=C wc -w < '" + file + "'");
        Pairs.pair(
                "read a text layer of " + size + " into arrays",
                () -> readAll(file),
                "`LC_ALL=C wc -w`",
                () -> new ProcessBuilder(words).start().waitFor());
        // Its many seconds let the heap shrink and the processor slow down; so it comes at the end of the pairs above.
        double ours = Pairs.median(() -> readAll(file));
        double theirs = Double.parseDouble(output(List.of("node", "oracle/time-read.mjs", file.toString())));
        System.out.printf(
                Locale.ROOT, "| the same | %.3f s | `tinyusdz`, once: %.3f s | %.3f |%n", ours, theirs, ours / theirs);
    }

    private static String output(List<String> command) throws Exception {
        Process process = new ProcessBuilder(command)
                .redirectError(ProcessBuilder.Redirect.INHERIT)
                .start();
        String printed = new String(process.getInputStream().readAllBytes(), java.nio.charset.StandardCharsets.UTF_8);
        if (process.waitFor() != 0) {
            throw new IllegalStateException(command + " failed: " + printed);
        }
        return printed;
    }

    private static void binary(Path folder) throws Exception {
        Path file = folder.resolve("balls.usdc");
        LayerFiles.write(LayerFiles.read(folder.resolve("balls.usda")), file);
        String size = String.format(Locale.ROOT, "%d MB", Files.size(file) / 1_000_000);
        System.out.printf(
                Locale.ROOT,
                "| open the same as a binary layer of %s | %.1f ms | limit: 50 ms | |%n",
                size,
                Pairs.median(() -> LayerFiles.read(file)) * 1000);
        byte[] buffer = new byte[1 << 20];
        Pairs.pair("and read all of its arrays", () -> readAll(file), "reading the file's bytes", () -> {
            try (InputStream in = Files.newInputStream(file)) {
                while (in.read(buffer) >= 0) {
                    continue;
                }
            }
        });
    }

    /** Reads a layer with every value; returns the number of elements. */
    private static long readAll(Path file) {
        return elements(LayerFiles.read(file).root());
    }

    private static long elements(PrimSpec prim) {
        long elements = 0;
        for (PropertySpec property : prim.properties()) {
            if (property instanceof AttributeSpec attribute) {
                elements +=
                        attribute.value().map(value -> (long) value.elements()).orElse(0L);
            }
        }
        for (PrimSpec child : prim.children()) {
            elements += elements(child);
        }
        return elements;
    }

    /** Ten million triangles in a virtual machine with a small heap. */
    private static void memory(Path folder) throws Exception {
        Path file = folder.resolve("many.usdc");
        UsdModelWriter.write(balls(708, 20), file);
        Process process = new ProcessBuilder(
                        ProcessHandle.current().info().command().orElseThrow(),
                        "-Xmx" + HEAP_LIMIT + "m",
                        "--enable-native-access=ALL-UNNAMED",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Layers.class.getName(),
                        "heap",
                        file.toString())
                .inheritIO()
                .start();
        boolean fits = process.waitFor(120, TimeUnit.SECONDS) && process.exitValue() == 0;
        if (!fits) {
            System.out.println("| hold ten million triangles | does not fit | limit: " + HEAP_LIMIT + " MB | |");
        }
    }

    private static void heap(Path file) {
        Layer layer = LayerFiles.read(file);
        List<Object> held = new java.util.ArrayList<>();
        hold(layer.root(), held);
        System.gc();
        Runtime runtime = Runtime.getRuntime();
        System.out.printf(
                Locale.ROOT,
                "| hold the arrays of a binary layer of ten million triangles (%d arrays) | %d MB of heap | limit: %d MB | |%n",
                held.size(),
                (runtime.totalMemory() - runtime.freeMemory()) >> 20,
                HEAP_LIMIT);
        java.lang.ref.Reference.reachabilityFence(held);
    }

    private static void hold(PrimSpec prim, List<Object> held) {
        for (PropertySpec property : prim.properties()) {
            if (property instanceof AttributeSpec attribute) {
                attribute.value().ifPresent(held::add);
            }
        }
        prim.children().forEach(child -> hold(child, held));
    }
}
