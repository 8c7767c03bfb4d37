package pantry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.FileReaders;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelWriter;
import pantry.exchange.worker.ForeignReader;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.intake.Slip;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Material;
import pantry.model.Model;
import pantry.prep.inspect.Inspection;
import pantry.prep.inspect.KeptInspections;
import pantry.prep.inspect.RuleSet;
import pantry.prep.inspect.ShelfInspection;
import pantry.prep.tools.Proxy;
import pantry.render.RenderCache;
import pantry.usd.compose.LayerCache;
import pantry.workpiece.Workpiece;

/**
 * Measures inspecting an asset of a million triangles, as one mesh and as two hundred, by all rules, reading included;
 * beside it, reading alone. And fitting boxes to it.
 */
public final class Inspecting {
    private static final int TRIANGLES = 1_000_000;
    private static final int ASSETS = 1000;

    private Inspecting() {}

    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("pantry-bench-");
        try (ForeignReader foreign = new ForeignReader(WorkerLimits.USUAL, folder)) {
            FileReaders readers = new FileReaders(foreign);
            measure(folder.resolve("one.usdc"), readers, 1);
            measure(folder.resolve("many.usdc"), readers, 200);
            library(folder, readers);
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static void measure(Path file, FileReaders readers, int meshes) throws Exception {
        List<Model.Node> nodes = new ArrayList<>();
        int segments = (int) Math.sqrt((double) TRIANGLES / meshes);
        for (int i = 0; i < meshes; i++) {
            // No two are alike.
            double[] radii = {0, 0.3 + 0.001 * i, 0.5, 0.2 + 0.0007 * i, 0};
            double[] fine = new double[segments / 2 + 1];
            double[] heights = new double[fine.length];
            for (int r = 0; r < fine.length; r++) {
                double at = 4.0 * r / (fine.length - 1);
                int from = Math.min(3, (int) at);
                fine[r] = r == 0 || r == fine.length - 1
                        ? 0
                        : radii[from] + (at - from) * (radii[from + 1] - radii[from]) + 1e-3 * Math.sin(9 * at + i);
                heights[r] = at / 4;
            }
            Mesh mesh = Shapes.lathe(fine, heights, segments, true);
            nodes.add(Model.Node.of(
                    "Vase" + i,
                    Matrix4.translation(new Vec3(i % 20, 0, i / 20)),
                    List.of(new Model.Part(mesh, Material.PLAIN)),
                    List.of()));
        }
        Model model = new Model("Vases", nodes, Model.Extras.NONE);
        UsdModelWriter.write(model, file);
        double reading = Pairs.median(() -> workpiece(file, readers).model());
        double inspecting = Pairs.median(
                () -> Inspection.of(workpiece(file, readers), RuleSet.USUAL, Optional.empty(), Progress.NONE));
        int found = Inspection.of(workpiece(file, readers), RuleSet.USUAL, Optional.empty(), Progress.NONE)
                .findings()
                .size();
        double boxes = Pairs.median(() -> Proxy.boxes(model, 6, Progress.NONE));
        System.out.printf(
                Locale.ROOT,
                "%d meshes, %d triangles: read in %.2f s, read and inspected in %.2f s (%d findings), six boxes in %.2f s%n",
                meshes,
                model.trianglesDrawn(),
                reading,
                inspecting,
                found,
                boxes);
    }

    /** A library of a thousand assets, for the first time and once more. */
    private static void library(Path folder, FileReaders readers) throws Exception {
        Library library = Library.create(folder.resolve("library"), "Bench", "bench", Clock.systemUTC());
        Intake intake = new Intake(readers, new RenderCache());
        for (int i = 0; i < ASSETS; i++) {
            Mesh mesh = Shapes.sphere(0.5 + 0.001 * i, 24, 20);
            Model model = new Model(
                    "Ball " + i,
                    List.of(Model.Node.of(
                            "Ball", Matrix4.IDENTITY, List.of(new Model.Part(mesh, Material.PLAIN)), List.of())),
                    Model.Extras.NONE);
            intake.shelve(
                    model,
                    Slip.plain("Ball " + i, AssetKind.MODEL, "Shelf " + i % 20, 1, Axis.Y),
                    library,
                    Progress.NONE);
        }
        for (String time : List.of("for the first time", "again")) {
            ShelfInspection inspection = new ShelfInspection(
                    library,
                    RuleSet.USUAL,
                    new KeptInspections(folder.resolve("kept")),
                    new Workpiece.Sources(readers, new LayerCache(), new MeshCache()));
            int[] findings = {0};
            double seconds = Pairs.seconds(() -> inspection.all(
                    (asset, result) -> findings[0] += result.findings().size(), Progress.NONE));
            System.out.printf(
                    Locale.ROOT, "%d assets inspected %s: %.2f s, %d findings%n", ASSETS, time, seconds, findings[0]);
        }
    }

    private static Workpiece workpiece(Path file, FileReaders readers) {
        return Workpiece.of(file, new Workpiece.Sources(readers, new LayerCache(), new MeshCache()), Progress.NONE);
    }
}
