package pantry.bench;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.catalogue.IndexDatabase;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.project.ChangePlan;
import pantry.project.ChangeRuns;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.Updates;
import pantry.project.UseIndex;
import pantry.usd.AssetPaths;

/**
 * Indexes what 10,000 scene files in 100 projects use of 1,000 assets, three levels deep, and asks who uses one, beside
 * {@code grep -r} for its path over the same files. With a number behind it, so many files.
 */
public final class Reaching {
    private static final int ASSETS = 1_000;
    private static final int PLACEMENTS = 50;

    private final Path folder;
    private final Random random = new Random(7);
    private final List<String> slugs = new ArrayList<>();

    private Reaching(Path folder) {
        this.folder = folder;
    }

    public static void main(String[] arguments) throws Exception {
        int files = arguments.length > 0 ? Integer.parseInt(arguments[0]) : 10_000;
        Path folder = Files.createTempDirectory("pantry-bench-");
        try {
            new Reaching(folder).run(files);
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static void write(Path file, String text) throws IOException {
        Files.createDirectories(file.getParent());
        Files.write(file, text.getBytes(StandardCharsets.UTF_8));
    }

    /** A tenth of the assets are made of nine others each, and a tenth of those of others that are made of others. */
    private void library(Path root) throws IOException {
        Library.create(root, "Bench", "bench", Clock.systemUTC());
        for (int i = 0; i < ASSETS; i++) {
            String slug = String.format(Locale.ROOT, "asset-%04d", i);
            slugs.add(slug);
            Path asset = root.resolve("assets/Things").resolve(slug);
            for (String version : List.of("v001", "v002")) {
                StringBuilder parts = new StringBuilder();
                if (i >= 900) {
                    for (int part = 0; part < 9; part++) {
                        String used = slugs.get(i >= 990 ? 900 + random.nextInt(90) : random.nextInt(900));
                        write(
                                asset.resolve("uses").resolve(used + ".usda"),
                                layer("def \"asset\" (references = @../../" + used
                                        + "/ready.usda@\n assetInfo = { string identifier = \"id-" + used
                                        + "\" }) {}"));
                        parts.append(" def Xform \"P")
                                .append(part)
                                .append("\" (references = @../../uses/")
                                .append(used)
                                .append(".usda@ instanceable = true) {}\n");
                    }
                } else {
                    parts.append(" def Mesh \"Body\" { point3f[] points = [(0,0,0),(1,0,0),(0,1,0)]"
                            + " int[] faceVertexCounts = [3] int[] faceVertexIndices = [0,1,2] }\n");
                }
                write(
                        asset.resolve(version).resolve("data/" + slug + ".usda"),
                        layer("def Xform \"asset\" {\n" + parts + "}"));
            }
            write(
                    asset.resolve("ready.usda"),
                    layer("def \"asset\" (references = @./v002/data/" + slug + ".usda@) {}"));
            write(
                    asset.resolve("card.json"),
                    "{\"id\":\"id-" + slug + "\",\"name\":\"" + slug
                            + "\",\"kind\":\"model\",\"tags\":[],\"notes\":\"\",\"licence\":\"CC0-1.0\",\"credit\":\"\","
                            + "\"fields\":{},\"versions\":{\"v001\":\"ready\",\"v002\":\"ready\"},\"ready\":\"v002\","
                            + "\"shelf\":\"Things\"}");
        }
    }

    private static String layer(String body) {
        return "#usda 1.0\n(defaultPrim = \"asset\"\n metersPerUnit = 1\n upAxis = \"Y\")\n" + body + "\n";
    }

    private void scenes(int files) throws IOException {
        for (int i = 0; i < files; i++) {
            StringBuilder text =
                    new StringBuilder("#usda 1.0\n(defaultPrim = \"scene\"\n metersPerUnit = 1\n upAxis = \"Y\"");
            if (i % 10 == 0 && i > 0) {
                // A tenth stand on one shared layer.
                text.append("\n subLayers = [@../shared/lamps.usda@]");
            }
            text.append(")\ndef Xform \"scene\" {\n");
            for (int p = 0; p < PLACEMENTS; p++) {
                String slug = slugs.get(random.nextInt(ASSETS));
                String target = random.nextInt(4) == 0 ? slug + "/v001/data/" + slug + ".usda" : slug + "/ready.usda";
                text.append("    def Xform \"P")
                        .append(p)
                        .append("\" (\n        prepend references = @../library/assets/Things/")
                        .append(target)
                        .append("@\n        instanceable = true\n    )\n    {\n        double3 xformOp:translate = (")
                        .append(p)
                        .append(", 0, ")
                        .append(i)
                        .append(")\n        uniform token[] xformOpOrder = [\"xformOp:translate\"]\n    }\n");
            }
            write(
                    folder.resolve("work")
                            .resolve(String.format(Locale.ROOT, "project-%02d/scene-%05d.usda", i % 100, i)),
                    text.append("}\n").toString());
        }
        write(
                folder.resolve("work/shared/lamps.usda"),
                "#usda 1.0\ndef Xform \"Lamps\" { def DistantLight \"Sun\" {} }\n");
    }

    private interface Timed {
        void run() throws Exception;
    }

    private static double timed(String what, Timed work) throws Exception {
        long start = System.nanoTime();
        work.run();
        double seconds = (System.nanoTime() - start) / 1e9;
        System.out.printf(Locale.ROOT, "| %s | %.3f s |%n", what, seconds);
        return seconds;
    }

    private void run(int files) throws Exception {
        Path libraryFolder = folder.resolve("work/library");
        library(libraryFolder);
        scenes(files);
        System.out.printf(
                Locale.ROOT,
                "%,d files with %,d placements of %,d assets%n| work | time |%n|---|---|%n",
                files,
                (long) files * PLACEMENTS,
                ASSETS);
        Library library = Library.open(libraryFolder, "bench", Clock.systemUTC());
        try (IndexDatabase database = IndexDatabase.open(folder.resolve("index.sqlite"))) {
            UseIndex index = new UseIndex(database);
            List<Project> projects = projects();
            List<Library> libraries = List.of(library);
            timed("indexed", () -> System.out.println(index.refresh(projects, libraries, Progress.NONE)));
            timed("again, with nothing changed", () -> index.refresh(projects, libraries, Progress.NONE));
            Path one = folder.resolve("work/project-01/scene-00001.usda");
            Files.writeString(one, Files.readString(one) + "# changed\n");
            timed(
                    "again, one file changed",
                    () -> System.out.println(index.refresh(projects, libraries, Progress.NONE)));
            Path shared = folder.resolve("work/shared/lamps.usda");
            Files.writeString(shared, Files.readString(shared) + "# changed\n");
            timed(
                    "again, a layer changed that a tenth of the files stand on",
                    () -> System.out.println(index.refresh(projects, libraries, Progress.NONE)));
            Reach[] reach = new Reach[1];
            timed("the libraries' cards read", () -> reach[0] = new Reach(index, libraries, projects));
            Asset asked = library.find("asset-0042");
            timed("who uses an asset, the first time", () -> reach[0].uses(asked, Optional.empty()));
            double ours = timed(
                    "who uses an asset",
                    () -> System.out.println(
                            reach[0].uses(asked, Optional.empty()).size() + " uses"));
            double grep = timed("grep -rl for its path", () -> new ProcessBuilder(
                            "grep", "-rl", "asset-0042/", folder.resolve("work").toString(), "--include=scene-*.usda")
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start()
                    .waitFor());
            System.out.printf(Locale.ROOT, "| as a ratio | %.4f |%n", ours / grep);
            timed("who is behind", () -> System.out.println(reach[0].outdated().size() + " placements"));
            timed("what is unused", () -> reach[0].unused(library));
            List<Path> thousand = reach[0].files().stream().limit(1_000).toList();
            ChangePlan plan = new Updates(reach[0], List.of(), thousand).toReady();
            timed(
                    "update of 1,000 files",
                    () -> System.out.println(new ChangeRuns(folder.resolve("changes"), Clock.systemUTC())
                                    .run(plan, file -> AssetPaths.PLAIN, file -> "", Progress.NONE)
                                    .changed()
                                    .size()
                            + " files"));
        }
    }

    private List<Project> projects() throws IOException {
        try (var folders = Files.list(folder.resolve("work"))) {
            return folders.filter(
                            path -> path.getFileName().toString().startsWith("project-") || path.endsWith("shared"))
                    .sorted()
                    .map(Project::open)
                    .toList();
        }
    }
}
