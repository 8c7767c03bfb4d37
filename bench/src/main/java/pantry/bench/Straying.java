package pantry.bench;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import pantry.base.AtomicFiles;
import pantry.base.Json;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexDatabase;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Facts;
import pantry.model.Material;
import pantry.model.Model;
import pantry.project.Imagined;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.RipplePictures;
import pantry.project.Strays;
import pantry.project.UseIndex;
import pantry.project.WhatIf;
import pantry.render.RenderCache;

/**
 * Looks for copies of 10,000 assets in 1,000 scene files of ten meshes each, half of which are copies, turned and with their
 * points in another order; and tries a version of an asset in 100 scenes that follow it, with pictures before and after.
 */
public final class Straying {
    private static final int MESHES = 10;
    private static final int SHAPES = 997;
    private static final int RIPPLED = 100;
    private static final int PLACEMENTS = 50;
    private static final int WIDTH = 420;

    private final Path folder;
    private final Random random = new Random(11);

    private Straying(Path folder) {
        this.folder = folder;
    }

    public static void main(String[] arguments) throws Exception {
        int assets = arguments.length > 0 ? Integer.parseInt(arguments[0]) : 10_000;
        int files = arguments.length > 1 ? Integer.parseInt(arguments[1]) : 1_000;
        Path folder = Files.createTempDirectory("pantry-bench-");
        try {
            new Straying(folder).run(assets, files);
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static void write(Path file, String text) throws IOException {
        Files.createDirectories(file.getParent());
        Files.write(file, text.getBytes(StandardCharsets.UTF_8));
    }

    /** A lumpy cylinder; many have as many triangles as another, and none its shape. */
    private static Mesh shape(int number) {
        Mesh plain = Shapes.cylinder(1, 2, 8 + number % SHAPES / 10);
        Random lumps = new Random(number);
        float[] points = plain.points().clone();
        for (int i = 0; i < points.length; i++) {
            points[i] += (float) (0.2 * lumps.nextGaussian());
        }
        return new Mesh(points, plain.faceSizes(), plain.corners(), null, null);
    }

    private static String mesh(String name, Mesh mesh) {
        float[] points = mesh.points();
        return " def Mesh \"" + name + "\" {\n  point3f[] points = ["
                + IntStream.range(0, points.length / 3)
                        .mapToObj(i -> String.format(
                                Locale.ROOT, "(%.7f, %.7f, %.7f)", points[3 * i], points[3 * i + 1], points[3 * i + 2]))
                        .collect(Collectors.joining(", "))
                + "]\n  int[] faceVertexCounts = " + numbers(mesh.faceSizes()) + "\n  int[] faceVertexIndices = "
                + numbers(mesh.corners()) + "\n }\n";
    }

    private static String numbers(int[] values) {
        return IntStream.of(values).mapToObj(String::valueOf).collect(Collectors.joining(", ", "[", "]"));
    }

    private static String layer(String root, String body) {
        return "#usda 1.0\n(defaultPrim = \"" + root + "\"\n metersPerUnit = 1\n upAxis = \"Y\")\ndef Xform \"" + root
                + "\" {\n" + body + "}\n";
    }

    private void library(Path root, int assets) throws IOException {
        Library.create(root, "Bench", "bench", Clock.systemUTC());
        for (int i = 0; i < assets; i++) {
            String slug = String.format(Locale.ROOT, "asset-%05d", i);
            Path asset = root.resolve("assets/Things").resolve(slug);
            Mesh mesh = shape(i);
            // The first has a second version, which is half as large again.
            List<String> versions = i == 0 ? List.of("v001", "v002") : List.of("v001");
            for (String version : versions) {
                Mesh made = version.equals("v001") ? mesh : mesh.transformed(Matrix4.scale(new Vec3(1.5, 1.5, 1.5)));
                Path data = asset.resolve(version).resolve("data");
                write(data.resolve(slug + ".usda"), layer("asset", mesh("Body", made)));
                Model model = new Model(
                        slug,
                        List.of(Model.Node.of(
                                "Body", Matrix4.IDENTITY, List.of(new Model.Part(made, Material.PLAIN)), List.of())),
                        Model.Extras.NONE);
                write(data.resolve("facts.json"), Json.write(Facts.of(slug, model, 1, "Y")));
            }
            write(
                    asset.resolve("ready.usda"),
                    "#usda 1.0\n(defaultPrim = \"asset\")\ndef \"asset\" (references = @./v001/data/" + slug
                            + ".usda@) {}\n");
            write(
                    asset.resolve("card.json"),
                    "{\"id\":\"id-" + slug + "\",\"name\":\"" + slug
                            + "\",\"kind\":\"model\",\"tags\":[],\"notes\":\"\",\"licence\":\"CC0-1.0\",\"credit\":\"\","
                            + "\"fields\":{},\"versions\":{\"v001\":\"ready\"},\"ready\":\"v001\",\"shelf\":\"Things\"}");
        }
    }

    /** Turned, moved, and its points in another order. */
    private Mesh copied(Mesh mesh) {
        Mesh moved = mesh.transformed(
                Matrix4.rotationXyz(new Vec3(random.nextInt(360), random.nextInt(360), random.nextInt(360)))
                        .times(Matrix4.translation(new Vec3(random.nextInt(50), 0, random.nextInt(50)))));
        int count = moved.points().length / 3;
        List<Integer> order = new ArrayList<>(IntStream.range(0, count).boxed().toList());
        Collections.shuffle(order, random);
        float[] points = new float[moved.points().length];
        int[] corners = moved.corners().clone();
        for (int i = 0; i < count; i++) {
            System.arraycopy(moved.points(), 3 * i, points, 3 * order.get(i), 3);
        }
        for (int i = 0; i < corners.length; i++) {
            corners[i] = order.get(corners[i]);
        }
        return new Mesh(points, moved.faceSizes(), corners, null, null);
    }

    private void scenes(int assets, int files) throws IOException {
        for (int i = 0; i < files; i++) {
            StringBuilder body = new StringBuilder();
            for (int m = 0; m < MESHES; m++) {
                Mesh mesh = m % 2 == 0 ? copied(shape(random.nextInt(assets))) : shape(assets + random.nextInt(assets));
                body.append(mesh("M" + m, mesh));
            }
            write(
                    folder.resolve("project").resolve(String.format(Locale.ROOT, "old-%04d.usda", i)),
                    layer("scene", body.toString()));
        }
        for (int i = 0; i < RIPPLED; i++) {
            StringBuilder body = new StringBuilder();
            for (int p = 0; p < PLACEMENTS; p++) {
                int asset = p % 5 == 0 ? 0 : random.nextInt(assets);
                body.append(String.format(
                        Locale.ROOT,
                        " def Xform \"P%d\" (references = @../library/assets/Things/asset-%05d/ready.usda@"
                                + " instanceable = true) {\n  double3 xformOp:translate = (%d, 0, %d)\n"
                                + "  uniform token[] xformOpOrder = [\"xformOp:translate\"]\n }\n",
                        p,
                        asset,
                        3 * (p % 10),
                        3 * (p / 10)));
            }
            write(
                    folder.resolve("follows").resolve(String.format(Locale.ROOT, "scene-%03d.usda", i)),
                    layer("scene", body.toString()));
        }
    }

    private interface Timed {
        void run() throws Exception;
    }

    private static void timed(String what, Timed work) throws Exception {
        long start = System.nanoTime();
        work.run();
        System.out.printf(Locale.ROOT, "| %s | %.1f s |%n", what, (System.nanoTime() - start) / 1e9);
    }

    private void run(int assets, int files) throws Exception {
        Path libraryFolder = folder.resolve("library");
        library(libraryFolder, assets);
        scenes(assets, files);
        Library library = Library.open(libraryFolder, "bench", Clock.systemUTC());
        System.out.printf(
                Locale.ROOT, "%,d files of %d meshes, %,d assets%n| work | time |%n|---|---|%n", files, MESHES, assets);
        try (IndexDatabase database = IndexDatabase.open(folder.resolve("index.sqlite"))) {
            UseIndex index = new UseIndex(database);
            List<Project> old = List.of(Project.open(folder.resolve("project")));
            List<Project> follows = List.of(Project.open(folder.resolve("follows")));
            index.refresh(old, List.of(library), Progress.NONE);
            index.refresh(follows, List.of(library), Progress.NONE);
            Reach reach = new Reach(index, List.of(library), old);
            timed(
                    "copies of assets found",
                    () -> System.out.println(Strays.find(reach, Progress.NONE).stream()
                                    .mapToInt(group -> group.copies().size())
                                    .sum()
                            + " copies"));
            Reach following = new Reach(index, List.of(library), follows);
            Imagined change = Imagined.ready(library.find("asset-00000"), "v002");
            WhatIf.Ripple[] ripple = new WhatIf.Ripple[1];
            timed("a version tried in " + RIPPLED + " scenes", () -> {
                ripple[0] = WhatIf.of(following, change, Progress.NONE);
                System.out.println(ripple[0].placements() + " placements");
            });
            RenderCache cache = new RenderCache();
            timed("their pictures before and after, with what differs marked", () -> {
                for (WhatIf.Effect effect : ripple[0].effects()) {
                    RipplePictures.of(following, change, effect.file(), WIDTH, cache);
                }
            });
        }
    }
}
