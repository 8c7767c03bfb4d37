package pantry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.intake.Listing;
import pantry.intake.Neighbours;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.workbench.Workbench;

/**
 * Measures receiving against Assimp's own reading of the same file, in one run; and many small files in a row. Named
 * formats, {@code listing} or {@code small} are measured alone.
 */
public final class Receiving {
    private static final int SMALL = 1000;
    private static final int LISTED = 2000;
    private static final List<String> FORMATS = List.of("glb", "obj", "ply", "stl");

    private Receiving() {}

    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("pantry-bench-");
        Pairs.header();
        try {
            receive(folder, arguments.length == 0 ? FORMATS : List.of(arguments));
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

    /** Writes a ball of a million triangles, of a quarter of a million where it is written as text. */
    static Path ball(Path folder, String ending) {
        Path file = folder.resolve("ball." + ending);
        ModelWriters.write(ball(ending.equals("obj") ? 500 : 1000), file);
        return file;
    }

    /** Receiving a model against Assimp's own reading of the same file in this process. */
    private static void receive(Path folder, List<String> formats) throws Exception {
        try (Workbench workbench =
                new Workbench("bench", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL)) {
            Library library = workbench.createLibrary(folder.resolve("library"), "Bench");
            Intake intake = workbench.intake();
            for (String ending : formats.stream().filter(FORMATS::contains).toList()) {
                Path file = ball(folder, ending);
                Pairs.pair(
                        String.format(
                                Locale.ROOT,
                                "receive %s, %d MB",
                                ending.toUpperCase(Locale.ROOT),
                                Files.size(file) / 1_000_000),
                        () -> {
                            Imported arrival = intake.read(file, Progress.NONE);
                            intake.shelve(
                                    arrival,
                                    Intake.suggested(arrival, "Bench", Neighbours.NONE),
                                    library,
                                    Progress.NONE);
                        },
                        "Assimp's own reading",
                        () -> {
                            AIScene scene = Assimp.aiImportFile(file.toString(), 0);
                            Assimp.aiReleaseImport(scene);
                        });
            }
            if (formats.equals(FORMATS) || formats.contains("listing")) {
                listing(folder);
            }
            if (formats.equals(FORMATS) || formats.contains("small")) {
                small(folder, library, intake);
            }
        }
    }

    /** Two thousand files in forty folders, told by their first bytes. */
    private static void listing(Path folder) throws Exception {
        Path seed = folder.resolve("seed.obj");
        ModelWriters.write(ball(12), seed);
        for (int i = 0; i < LISTED; i++) {
            Path target = folder.resolve("pack").resolve("folder-" + i % 40).resolve("ball-" + i + ".obj");
            Files.createDirectories(target.getParent());
            Files.copy(seed, target);
        }
        double seconds = Pairs.median(() -> Listing.of(List.of(folder.resolve("pack")), Progress.NONE));
        System.out.printf(Locale.ROOT, "%d files listed in %.3f s%n", LISTED, seconds);
    }

    /** A thousand small files of four formats, on all cores, as the command line does it. */
    private static void small(Path folder, Library library, Intake intake) throws Exception {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < SMALL; i++) {
            Path file = folder.resolve("small").resolve("ball-" + i + "." + FORMATS.get(i % 4));
            Files.createDirectories(file.getParent());
            ModelWriters.write(ball(12 + i % 12), file);
            files.add(file);
        }
        long start = System.nanoTime();
        int workers = 2 * Runtime.getRuntime().availableProcessors();
        try (ExecutorService pool = Executors.newFixedThreadPool(workers)) {
            List<Future<?>> all = new ArrayList<>();
            for (Path file : files) {
                all.add(pool.submit(() -> {
                    Imported arrival = intake.read(file, Progress.NONE);
                    intake.shelve(arrival, Intake.suggested(arrival, "Small", Neighbours.NONE), library, Progress.NONE);
                }));
            }
            for (Future<?> each : all) {
                each.get();
            }
        }
        double seconds = (System.nanoTime() - start) / 1e9;
        System.out.printf(Locale.ROOT, "%d small files: %.1f s, %.1f a second%n", SMALL, seconds, SMALL / seconds);
    }
}
