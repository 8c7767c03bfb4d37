package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;
import pantry.base.FileGate;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.Imported;
import pantry.exchange.worker.ForeignReader;
import pantry.exchange.worker.WorkerLimits;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.testing.Oracle;
import tools.jackson.databind.JsonNode;

/**
 * What goes in comes out: things with every feature, alone and in pairs, in every format that can be made, read by Pantry
 * and written in every format that it writes; both files as three's loaders, glTF-Transform and the Khronos validator find
 * them. Files of COLLADA, FBX and 3DS, and some of the others, are written by Assimp. None of these is of Pantry's making.
 *
 * <p>What they cannot tell is listed in {@code known-limits.txt}, each with its reason; where a limit is gone, the test
 * says so. The table in docs/formats.md is what is measured here.
 */
@Tag("oracle")
class RoundTripMatrixTest {
    private static final Path LIMITS = Path.of("src/test/resources/pantry/exchange/known-limits.txt");
    private static final Path DOCUMENT = Path.of("../docs/formats.md");
    private static final List<String> OUT = List.of("glb", "gltf", "usda", "usdc", "usdz", "obj", "ply", "stl");

    /**
     * What files are written by Assimp. Its PLY is left out: the header has colours that the lines do not have.
     */
    private static final Map<String, String> BY_ASSIMP = Map.of(
            "dae", "collada",
            "fbx", "fbx",
            "3ds", "3ds",
            "assimp.obj", "obj",
            "assimp.stl", "stl",
            "assimp.glb", "glb2");

    private static final List<String> IN = List.of(
            "glb",
            "gltf",
            "usda",
            "usdc",
            "usdz",
            "obj",
            "ply",
            "stl",
            "dae",
            "fbx",
            "3ds",
            "assimp.obj",
            "assimp.stl",
            "assimp.glb");

    /** Pairs go through these: the two that hold most, and one of another's hand. */
    private static final List<String> IN_OF_PAIRS = List.of("glb", "usda", "dae");

    @TempDir
    private Path folder;

    /** A limit of a program: a feature, a format in, a format out ({@code *} for any), an aspect, and the reason. */
    private record Limit(String feature, String in, String out, String aspect, String reason) {
        boolean covers(String ofFeature, String from, String to, String what) {
            return matches(feature, ofFeature) && matches(in, from) && matches(out, to) && matches(aspect, what);
        }

        private static boolean matches(String pattern, String value) {
            return List.of(pattern.split("\\|")).stream()
                    .anyMatch(each -> each.equals("*")
                            || each.equals(value)
                            || List.of(value.split("\\+")).contains(each));
        }
    }

    @Test
    void everyFormatKeepsWhatItCan() throws IOException {
        Map<String, Path> images = images();
        List<String> lines = new ArrayList<>();
        ForeignReader foreign =
                new ForeignReader(new WorkerLimits(Duration.ofSeconds(60), 1L << 30), folder.resolve("scratch"));
        try {
            FileReaders readers =
                    new FileReaders(foreign, file -> FileGate.beside(file).and(List.of(folder)));
            List<Conversion> conversions = new ArrayList<>();
            for (Feature feature : Feature.values()) {
                for (String in : IN) {
                    conversions.add(new Conversion(feature.name(), Feature.of(images, feature), in));
                }
            }
            for (Feature one : Feature.values()) {
                for (Feature other : Feature.values()) {
                    if (one.compareTo(other) < 0 && one != Feature.PLAIN && one.goesWith(other)) {
                        for (String in : IN_OF_PAIRS) {
                            conversions.add(new Conversion(one + "+" + other, Feature.of(images, one, other), in));
                        }
                    }
                }
            }
            Parallel.map(conversions, conversion -> convert(conversion, readers))
                    .forEach(lines::addAll);
        } finally {
            foreign.close();
        }
        judge(String.join("", Parallel.map(halves(lines), half -> compared(half))));
    }

    /** A model with one or two features, and the format that it is read from. */
    private record Conversion(String name, Model model, String in) {}

    /** Two lists, for two cores. */
    private static List<List<String>> halves(List<String> lines) {
        int middle = lines.size() / 2;
        return List.of(lines.subList(0, middle), lines.subList(middle, lines.size()));
    }

    private String compared(List<String> lines) {
        try {
            Path list = Files.createTempFile(folder, "list", ".txt");
            Files.write(list, lines);
            return Oracle.run("compare.mjs", list.toString());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private Map<String, Path> images() throws IOException {
        Map<String, Path> images = new LinkedHashMap<>();
        int number = 0;
        for (String name : List.of("paint.png", "shade.png", "bumps.png", "numbers.png")) {
            BufferedImage image = new BufferedImage(8, 8, BufferedImage.TYPE_INT_RGB);
            for (int i = 0; i < 64; i++) {
                image.setRGB(i % 8, i / 8, 0x102030 * (number + 1) + i);
            }
            Path file = Files.createDirectories(folder.resolve("images")).resolve(name);
            ImageIO.write(image, "png", file.toFile());
            images.put(name, file);
            number++;
        }
        return images;
    }

    private List<String> convert(Conversion conversion, FileReaders readers) {
        try {
            return convert(conversion.name(), conversion.model(), conversion.in(), readers);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private List<String> convert(String name, Model model, String in, FileReaders readers) throws IOException {
        List<String> lines = new ArrayList<>();
        Path place = Files.createDirectories(folder.resolve(name).resolve(in));
        String ending = in.substring(in.lastIndexOf('.') + 1);
        Path source = place.resolve("things." + ending);
        String exporter = BY_ASSIMP.get(in);
        if (exporter == null) {
            ModelWriters.write(model, source);
        } else {
            Path binary = place.resolve("made-of.glb");
            ModelWriters.write(model, binary);
            byAssimp(binary, exporter, source);
        }
        Imported imported;
        try {
            imported = readers.read(source, Progress.NONE);
        } catch (ExchangeException e) {
            throw new AssertionError(name + " of " + in + " cannot be read", e);
        }
        Model read = imported.model()
                .reframed(imported.up().orElse(Axis.Y).toMetres(imported.unit().orElse(1.0)));
        for (String out : OUT) {
            Path target = Files.createDirectories(place.resolve("out")).resolve("things." + out);
            ModelWriters.write(read, target, ModelWriters.Options.of(source));
            lines.add(source + "\t" + target);
        }
        return lines;
    }

    private static void byAssimp(Path source, String exporter, Path target) {
        AIScene scene = Assimp.aiImportFile(source.toString(), 0);
        assertThat(scene).isNotNull();
        try {
            assertThat(Assimp.aiExportScene(scene, exporter, target.toString(), 0))
                    .isEqualTo(Assimp.aiReturn_SUCCESS);
        } finally {
            Assimp.aiReleaseImport(scene);
        }
    }

    private void judge(String printed) throws IOException {
        List<Limit> limits = limits();
        Set<Limit> met = new LinkedHashSet<>();
        Set<String> unexpected = new TreeSet<>();
        Map<String, Map<String, int[]>> table = new TreeMap<>();
        int compared = 0;
        for (String line : printed.split("\n")) {
            JsonNode result = Json.read(line, "compare.mjs", JsonNode.class);
            Path source = Path.of(result.path("in").asString());
            String in = source.getParent().getFileName().toString();
            String feature = source.getParent().getParent().getFileName().toString();
            String out = Names.ending(result.path("out").asString());
            compared++;
            for (JsonNode aspect : result.path("compared")) {
                table.computeIfAbsent(aspect.asString(), key -> new TreeMap<>())
                        .computeIfAbsent(out, key -> new int[3])[0]++;
            }
            for (JsonNode difference : result.path("differences")) {
                String aspect = difference.path("aspect").asString();
                List<Limit> known = limits.stream()
                        .filter(limit -> limit.covers(feature, in, out, aspect))
                        .toList();
                met.addAll(known);
                int[] counts =
                        table.computeIfAbsent(aspect, key -> new TreeMap<>()).computeIfAbsent(out, key -> new int[3]);
                counts[known.isEmpty() ? 2 : 1]++;
                if (known.isEmpty()) {
                    unexpected.add(feature + " " + in + " -> " + out + " " + aspect + ": " + difference.path("was")
                            + " -> " + difference.path("is"));
                }
            }
        }
        Files.write(Path.of("target/roundtrip.txt"), unexpected);
        assertThat(unexpected).isEmpty();
        assertThat(limits.stream().filter(limit -> !met.contains(limit)))
                .as("limits that are gone")
                .isEmpty();
        assertThat(compared).isGreaterThan(5000);
        String measured = table(table);
        assertThat(Files.readString(DOCUMENT))
                .as("docs/formats.md has another table than was measured:\n" + measured)
                .contains(measured);
    }

    private static List<Limit> limits() throws IOException {
        List<Limit> limits = new ArrayList<>();
        for (String line : Files.readAllLines(LIMITS)) {
            if (!line.isBlank() && !line.startsWith("#")) {
                String[] parts = line.split(";");
                limits.add(new Limit(
                        parts[0].strip(), parts[1].strip(), parts[2].strip(), parts[3].strip(), parts[4].strip()));
            }
        }
        return limits;
    }

    /** How many of the files that hold an aspect have it in each format; where a program cannot tell, that is said. */
    private static String table(Map<String, Map<String, int[]>> counts) {
        StringBuilder text = new StringBuilder("| | " + String.join(" | ", OUT) + " |\n|---|");
        text.append("---|".repeat(OUT.size())).append('\n');
        counts.forEach((aspect, byFormat) -> {
            if (byFormat.values().stream().allMatch(each -> each[0] == 0)) {
                return;
            }
            text.append("| ").append(aspect).append(" |");
            for (String out : OUT) {
                int[] found = byFormat.getOrDefault(out, new int[3]);
                int kept = found[0] - found[1] - found[2];
                text.append(found[0] == 0 ? " |" : " " + kept + " of " + found[0] + " |");
            }
            text.append('\n');
        });
        return text.toString();
    }
}
