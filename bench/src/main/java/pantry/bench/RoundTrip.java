package pantry.bench;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.FileGate;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.FileReaders;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.worker.ForeignReader;
import pantry.exchange.worker.WorkerLimits;
import pantry.model.Axis;
import pantry.model.Model;
import tools.jackson.databind.JsonNode;

/**
 * Foreign files through every writer: each is read, written in all formats, and compared with what was made of it as the
 * independent programs of {@code oracle/} find both. Prints a table of how many files keep what in each format, and every
 * difference.
 *
 * <p>Arguments: {@code DIR [ORACLE]}; {@code ORACLE} is the folder with the programs.
 */
public final class RoundTrip {
    /** What the independent programs read. */
    private static final Set<String> ENDINGS =
            Set.of("glb", "gltf", "usda", "usdc", "usdz", "obj", "ply", "stl", "dae", "fbx", "3ds", "3mf");

    private static final List<String> FORMATS = List.of("glb", "gltf", "usda", "usdc", "usdz", "obj", "ply", "stl");

    private final List<String> pairs = new ArrayList<>();
    private final List<String> refused = new ArrayList<>();
    private int read;

    private RoundTrip() {}

    public static void main(String[] arguments) throws Exception {
        Path source = Path.of(arguments[0]).toAbsolutePath();
        Path oracle = Path.of(arguments.length > 1 ? arguments[1] : "oracle").toAbsolutePath();
        Path folder = Files.createTempDirectory("pantry-bench-");
        try (ForeignReader foreign = new ForeignReader(WorkerLimits.USUAL, folder.resolve("scratch"));
                Stream<Path> all = Files.walk(source)) {
            RoundTrip trip = new RoundTrip();
            FileReaders readers =
                    new FileReaders(foreign, file -> FileGate.beside(file).and(List.of(source)));
            int number = 0;
            for (Path file : all.sorted().toList()) {
                String ending = Names.ending(file.getFileName().toString()).toLowerCase(Locale.ROOT);
                if (Files.isRegularFile(file) && ENDINGS.contains(ending)) {
                    trip.one(file, Files.createDirectories(folder.resolve("file-" + number++)), readers);
                }
            }
            trip.tell(folder, oracle);
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private void one(Path file, Path to, FileReaders readers) {
        try {
            Imported imported = readers.read(file, Progress.NONE);
            Model model = imported.model()
                    .reframed(imported.up()
                            .orElse(Axis.Y)
                            .toMetres(imported.unit().orElse(1.0)));
            for (String format : FORMATS) {
                Path target = to.resolve(format).resolve("made." + format);
                Files.createDirectories(target.getParent());
                ModelWriters.write(model, target, ModelWriters.Options.of(file));
                pairs.add(file + "\t" + target);
            }
            read++;
        } catch (PantryException | IOException e) {
            refused.add(file + ": " + e.getMessage());
        }
    }

    private void tell(Path folder, Path oracle) throws IOException, InterruptedException {
        Path list = Files.write(folder.resolve("list.txt"), pairs);
        Path out = folder.resolve("compared.txt");
        Process process = new ProcessBuilder(
                        "node", oracle.resolve("compare.mjs").toString(), list.toString())
                .redirectOutput(out.toFile())
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        process.waitFor();
        Map<String, Map<String, int[]>> table = new TreeMap<>();
        List<String> differences = new ArrayList<>();
        for (String line : Files.readAllLines(out, StandardCharsets.UTF_8)) {
            JsonNode result = Json.read(line, "compare.mjs", JsonNode.class);
            String format = Names.ending(result.path("out").asString());
            for (JsonNode aspect : result.path("compared")) {
                counts(table, aspect.asString(), format)[0]++;
            }
            for (JsonNode difference : result.path("differences")) {
                counts(table, difference.path("aspect").asString(), format)[1]++;
                differences.add(result.path("in").asString() + " -> " + format + " "
                        + difference.path("aspect").asString() + ": " + shortened(difference.path("was")) + " -> "
                        + shortened(difference.path("is")));
            }
        }
        Map<String, int[]> reading = table.getOrDefault("reading", Map.of());
        table.remove("reading");
        System.out.printf(
                "%d files read, %d refused; of %d the other programs could not read the file, or what was made of it%n%n",
                read,
                refused.size(),
                reading.values().stream().mapToInt(each -> each[1]).max().orElse(0));
        System.out.println("| | " + String.join(" | ", FORMATS) + " |");
        System.out.println("|---|" + "---|".repeat(FORMATS.size()));
        table.forEach((aspect, byFormat) -> {
            StringBuilder row = new StringBuilder("| " + aspect + " |");
            for (String format : FORMATS) {
                int[] found = byFormat.getOrDefault(format, new int[2]);
                row.append(found[0] + found[1] == 0 ? " |" : " " + (found[0] - found[1]) + " of " + found[0] + " |");
            }
            System.out.println(row);
        });
        System.out.println();
        differences.forEach(System.out::println);
        refused.forEach(line -> System.out.println("refused " + line));
    }

    private static int[] counts(Map<String, Map<String, int[]>> table, String aspect, String format) {
        return table.computeIfAbsent(aspect, key -> new TreeMap<>()).computeIfAbsent(format, key -> new int[2]);
    }

    private static String shortened(JsonNode value) {
        String text = value.toString();
        return text.length() > 160 ? text.substring(0, 160) + "…" : text;
    }
}
