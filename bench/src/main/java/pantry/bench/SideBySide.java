package pantry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.Imported;
import pantry.exchange.Material;
import pantry.exchange.Model;
import pantry.exchange.ModelWriters;
import pantry.exchange.UsdModelWriter;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.usd.text.UsdaReader;
import pantry.workbench.Workbench;

/**
 * Measures Pantry and a named peer in turn, in one run, and prints medians and their ratio as a table for
 * {@code docs/benchmarks.md}.
 */
public final class SideBySide {
    private static final int ROUNDS = 5;

    private SideBySide() {}

    private interface Run {
        void run() throws Exception;
    }

    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("pantry-bench-");
        System.out.println("| work | Pantry | peer | ratio |\n|---|---|---|---|");
        try {
            readText(folder);
            receive(folder);
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static Model ball(int segments) {
        Mesh mesh = Shapes.sphere(1, segments, segments / 2);
        return new Model(
                "Ball",
                List.of(Model.Node.of(
                        "Ball", Matrix4.IDENTITY, List.of(new Model.Part(mesh, Material.PLAIN)), List.of())),
                Model.Extras.NONE);
    }

    /** A text layer of meshes against counting the words of the same file. */
    private static void readText(Path folder) throws Exception {
        Path file = folder.resolve("ball.usda");
        UsdModelWriter.write(ball(1400), file);
        List<String> words = List.of("sh", "-c", "LC_ALL=C wc -w < '" + file + "'");
        pair(
                String.format(Locale.ROOT, "read a %d MB text layer into arrays", Files.size(file) / 1_000_000),
                () -> UsdaReader.read(file),
                "`LC_ALL=C wc -w`",
                () -> new ProcessBuilder(words).start().waitFor());
    }

    /** Receiving a model against Assimp's own reading of the same file in this process. */
    private static void receive(Path folder) throws Exception {
        Path file = folder.resolve("ball.glb");
        ModelWriters.write(ball(1000), file);
        try (Workbench workbench =
                new Workbench("bench", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL)) {
            Library library = workbench.createLibrary(folder.resolve("library"), "Bench");
            Intake intake = workbench.intake();
            pair(
                    String.format(Locale.ROOT, "receive a GLB of %d MB", Files.size(file) / 1_000_000),
                    () -> {
                        Imported arrival = intake.read(file, Progress.NONE);
                        intake.shelve(arrival, Intake.suggested(arrival, "Bench", List.of()), library, Progress.NONE);
                    },
                    "Assimp's own reading",
                    () -> {
                        AIScene scene = Assimp.aiImportFile(file.toString(), 0);
                        Assimp.aiReleaseImport(scene);
                    });
        }
    }

    private static void pair(String work, Run ours, String peerName, Run peer) throws Exception {
        List<Double> mine = new ArrayList<>();
        List<Double> theirs = new ArrayList<>();
        List<Double> ratios = new ArrayList<>();
        for (int round = 0; round <= ROUNDS; round++) {
            double a = seconds(ours);
            double b = seconds(peer);
            // The first round warms up.
            if (round > 0) {
                mine.add(a);
                theirs.add(b);
                ratios.add(a / b);
            }
        }
        System.out.printf(
                Locale.ROOT,
                "| %s | %.2f s | %s: %.2f s | %.2f |%n",
                work,
                median(mine),
                peerName,
                median(theirs),
                median(ratios));
    }

    private static double seconds(Run run) throws Exception {
        long start = System.nanoTime();
        run.run();
        return (System.nanoTime() - start) / 1e9;
    }

    private static double median(List<Double> figures) {
        return figures.stream().sorted().skip(figures.size() / 2).findFirst().orElseThrow();
    }
}
