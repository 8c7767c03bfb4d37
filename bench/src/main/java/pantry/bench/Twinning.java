package pantry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import pantry.base.AtomicFiles;
import pantry.base.Json;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.mesh.ConvexHull;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.twins.TwinGroup;
import pantry.twins.TwinOptions;
import pantry.twins.Twins;

/**
 * Measures finding twins: among 10,000 meshes of 5 million triangles with turns baked in and points shuffled, of which
 * it is known which are alike; and exact copies alone, against glTF-Transform's {@code dedup} on the same file.
 */
public final class Twinning {
    private static final int MESHES = 10_000;
    private static final int SHAPES = 40;
    private static final int TRIANGLES = 500;

    private final Random random = new Random(11);

    private Twinning() {}

    public static void main(String[] arguments) throws Exception {
        new Twinning().run();
    }

    private void run() throws Exception {
        List<Mesh> shapes = shapes();
        List<Mesh> turned = new ArrayList<>();
        for (int i = 0; i < MESHES; i++) {
            turned.add(shuffled(shapes.get(i % SHAPES).transformed(place())));
        }
        long triangles = turned.stream().mapToLong(Mesh::triangleCount).sum();
        List<Twins.Surface> surfaces = surfaces(turned);
        List<TwinGroup> groups = Twins.find(surfaces, TwinOptions.USUAL, Progress.NONE);
        System.out.printf(Locale.ROOT, "%d meshes, %d triangles, %s%n", MESHES, triangles, exact(groups));
        System.out.printf(
                Locale.ROOT,
                "twins of turned and shuffled meshes: %.2f s%n",
                Pairs.median(() -> Twins.find(surfaces, TwinOptions.USUAL, Progress.NONE)));
        copies(shapes);
    }

    private record Deduplicated(int before, int after, double seconds) {}

    /** Exact copies: the same file for both, after reading. */
    private static void copies(List<Mesh> shapes) throws Exception {
        List<Mesh> copies = new ArrayList<>();
        for (int i = 0; i < MESHES; i++) {
            Mesh shape = shapes.get(i % SHAPES);
            copies.add(new Mesh(
                    shape.points().clone(),
                    shape.faceSizes().clone(),
                    shape.corners().clone(),
                    null,
                    null));
        }
        Path folder = Files.createTempDirectory("pantry-bench-");
        try {
            Path file = folder.resolve("copies.glb");
            ModelWriters.write(model(copies), file);
            List<Twins.Surface> surfaces = surfaces(copies);
            List<Double> ratios = new ArrayList<>();
            for (int round = 0; round < 5; round++) {
                double ours = Pairs.seconds(() -> Twins.find(surfaces, TwinOptions.USUAL, Progress.NONE));
                Process process = new ProcessBuilder("node", "oracle/dedup.mjs", file.toString())
                        .redirectError(ProcessBuilder.Redirect.INHERIT)
                        .start();
                Deduplicated answer =
                        Json.read(new String(process.getInputStream().readAllBytes()), "dedup.mjs", Deduplicated.class);
                double theirs = answer.seconds();
                ratios.add(ours / theirs);
                System.out.printf(
                        Locale.ROOT,
                        "exact copies: %.3f s; dedup %.3f s, %d of %d meshes left%n",
                        ours,
                        theirs,
                        answer.after(),
                        answer.before());
            }
            Collections.sort(ratios);
            System.out.printf(Locale.ROOT, "ratio %.3f%n", ratios.get(ratios.size() / 2));
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static Model model(List<Mesh> meshes) {
        List<Model.Node> nodes = new ArrayList<>();
        for (Mesh mesh : meshes) {
            nodes.add(Model.Node.of(
                    "Part " + nodes.size(),
                    Matrix4.translation(new Vec3(nodes.size(), 0, 0)),
                    List.of(new Model.Part(mesh, Material.PLAIN)),
                    List.of()));
        }
        return new Model("Copies", nodes, Model.Extras.NONE);
    }

    private static List<Twins.Surface> surfaces(List<Mesh> meshes) {
        return meshes.stream().map(mesh -> new Twins.Surface(mesh, false, 1)).toList();
    }

    /** Whether each group has all the copies of one shape and nothing else. */
    private static String exact(List<TwinGroup> groups) {
        boolean exact = groups.size() == SHAPES
                && groups.stream()
                        .allMatch(group -> group.members().size() == MESHES / SHAPES
                                && group.members().stream()
                                        .allMatch(member -> member.index() % SHAPES
                                                == group.members().getFirst().index() % SHAPES));
        return groups.size() + " groups, " + (exact ? "every one exact" : "NOT exact");
    }

    /** About 500 triangles each: bolts, rings, gears and lumps of chance, some with the same counts. */
    private List<Mesh> shapes() {
        List<Mesh> shapes = new ArrayList<>();
        for (int i = 0; i < SHAPES; i++) {
            shapes.add(
                    switch (i % 4) {
                        case 0 -> Shapes.cylinder(0.2 + 0.02 * i, 1, TRIANGLES / 3);
                        case 1 -> Shapes.torus(1, 0.1 + 0.01 * i, 28, 11);
                        case 2 -> Shapes.sphere(0.3 + 0.05 * i, 24, 12 + i / 8);
                        default -> lump();
                    });
        }
        List<Mesh> bare = new ArrayList<>();
        for (int i = 0; i < SHAPES; i++) {
            Mesh mesh = shapes.get(i);
            // Otherwise the spheres and tori would be of one shape but for their size.
            Mesh uneven = mesh.transformed(Matrix4.scale(new Vec3(1, 1 + 0.02 * i, 1)));
            bare.add(new Mesh(uneven.points(), uneven.faceSizes(), uneven.corners(), null, null));
        }
        return bare;
    }

    private Mesh lump() {
        return ConvexHull.of(random.doubles(3L * 1200).map(x -> x * x - 0.3).toArray())
                .map(hull -> hull.triangleCount() > 0 ? hull : null)
                .orElseThrow();
    }

    private Matrix4 place() {
        Vec3 turn = new Vec3(random.nextDouble(), random.nextDouble(), random.nextDouble()).times(360);
        Vec3 move = new Vec3(random.nextDouble(), random.nextDouble(), random.nextDouble()).times(40);
        return Matrix4.rotationXyz(turn).times(Matrix4.translation(move));
    }

    private Mesh shuffled(Mesh mesh) {
        int[] number = order(mesh.pointCount());
        float[] points = new float[mesh.points().length];
        for (int i = 0; i < number.length; i++) {
            System.arraycopy(mesh.points(), 3 * i, points, 3 * number[i], 3);
        }
        int[] starts = new int[mesh.faceCount()];
        for (int f = 1; f < starts.length; f++) {
            starts[f] = starts[f - 1] + mesh.faceSizes()[f - 1];
        }
        int[] faces = order(starts.length);
        int[] sizes = new int[starts.length];
        int[] corners = new int[mesh.corners().length];
        int at = 0;
        for (int f = 0; f < sizes.length; f++) {
            sizes[f] = mesh.faceSizes()[faces[f]];
            for (int i = 0; i < sizes[f]; i++) {
                corners[at++] = number[mesh.corners()[starts[faces[f]] + i]];
            }
        }
        return new Mesh(points, sizes, corners, null, null);
    }

    private int[] order(int count) {
        int[] order = new int[count];
        for (int i = 0; i < count; i++) {
            int at = random.nextInt(i + 1);
            order[i] = order[at];
            order[at] = i;
        }
        return order;
    }
}
