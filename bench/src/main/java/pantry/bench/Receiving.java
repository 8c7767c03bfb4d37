package pantry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
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
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.workbench.Workbench;

/**
 * Measures receiving against Assimp's own reading of the same file, in one run.
 */
public final class Receiving {
    private Receiving() {}

    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("pantry-bench-");
        Pairs.header();
        try {
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

    /** Receiving a model against Assimp's own reading of the same file in this process. */
    private static void receive(Path folder) throws Exception {
        Path file = folder.resolve("ball.glb");
        ModelWriters.write(ball(1000), file);
        try (Workbench workbench =
                new Workbench("bench", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL)) {
            Library library = workbench.createLibrary(folder.resolve("library"), "Bench");
            Intake intake = workbench.intake();
            Pairs.pair(
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
}
