package pantry.bench;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.FileReaders;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.exchange.worker.ForeignReader;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Preparation;
import pantry.intake.Survey;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.usd.compose.Budget;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/**
 * Damaged files of all formats, through what {@code facts}, {@code receive --dry-run} and {@code flatten} do: bytes
 * changed, cut off, swapped, numbers made absurd. Each has to be read, or refused with its name and a reason, within the
 * time that a file may take.
 *
 * <p>Arguments: {@code [COUNT [SEED [FROM]]]}; ends with 1 where one was not.
 */
public final class Mutations {
    private static final Duration MOST = Duration.ofSeconds(65);
    private static final List<String> ABSURD =
            List.of("nan", "-1", "1e999", "99999999999", "-2147483648", "0.0.0", "", "\0");

    private final FileReaders readers;
    private final Path folder;
    private final Map<String, int[]> counts = new TreeMap<>();
    private final List<String> faults = new ArrayList<>();
    private final Map<String, Integer> reasons = new HashMap<>();
    private long slowest;
    private String slowestFile = "";

    private Mutations(FileReaders readers, Path folder) {
        this.readers = readers;
        this.folder = folder;
    }

    public static void main(String[] arguments) throws Exception {
        int count = arguments.length > 0 ? Integer.parseInt(arguments[0]) : 10_000;
        long seed = arguments.length > 1 ? Long.parseLong(arguments[1]) : 20_261_129;
        int from = arguments.length > 2 ? Integer.parseInt(arguments[2]) : 0;
        Path folder = Files.createTempDirectory("pantry-bench-");
        try (ForeignReader foreign = new ForeignReader(WorkerLimits.USUAL, folder.resolve("scratch"))) {
            Mutations mutations = new Mutations(new FileReaders(foreign), folder);
            List<Path> seeds = seeds(Files.createDirectories(folder.resolve("seeds")));
            for (int i = from; i < from + count; i++) {
                mutations.one(seeds.get(i % seeds.size()), i, new SplittableRandom(seed + i));
            }
            mutations.tell(count, seed);
            System.exit(mutations.faults.isEmpty() ? 0 : 1);
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    /** A small thing with two materials in each format that can be written here, and by Assimp in those that it writes. */
    private static List<Path> seeds(Path to) throws IOException {
        Model model = new Model(
                "Hut",
                List.of(
                        Model.Node.of(
                                "Body",
                                Matrix4.IDENTITY,
                                List.of(new Model.Part(
                                        Shapes.block(2, 1, 1),
                                        Material.plain("Red", Colour.ofDisplay(0xB23A2E), 0, 0.5))),
                                List.of()),
                        Model.Node.of(
                                "Ball",
                                Matrix4.translation(new Vec3(3, 0, 0)),
                                List.of(new Model.Part(
                                        Shapes.sphere(0.5, 8, 5),
                                        Material.plain("Grey", Colour.ofDisplay(0x808080), 1, 0.3))),
                                List.of())),
                Model.Extras.NONE);
        List<Path> seeds = new ArrayList<>();
        for (String ending : List.of("usda", "usdc", "usdz", "glb", "gltf", "obj", "ply", "stl")) {
            Path file = to.resolve("hut." + ending);
            ModelWriters.write(model, file);
            seeds.add(file);
        }
        AIScene scene = Assimp.aiImportFile(to.resolve("hut.obj").toString(), 0);
        for (Map.Entry<String, String> format : new TreeMap<>(
                        Map.of("collada", "dae", "3ds", "3ds", "fbx", "fbx", "x", "x", "x3d", "x3d", "3mf", "3mf"))
                .entrySet()) {
            Path file = to.resolve("assimp-hut." + format.getValue());
            if (scene != null
                    && Assimp.aiExportScene(scene, format.getKey(), file.toString(), 0) == Assimp.aiReturn_SUCCESS) {
                seeds.add(file);
            }
        }
        seeds.add(Files.writeString(to.resolve("paint.mtlx"), """
                <?xml version="1.0"?>
                <materialx version="1.38">
                  <standard_surface name="S" type="surfaceshader">
                    <input name="base_color" type="color3" value="0.8, 0.1, 0.1" />
                  </standard_surface>
                  <surfacematerial name="M" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="S" />
                  </surfacematerial>
                </materialx>
                """));
        return seeds;
    }

    private void one(Path seed, int number, SplittableRandom random) throws IOException {
        String name = seed.getFileName().toString();
        String ending = name.substring(name.lastIndexOf('.') + 1);
        Path file = Files.write(
                folder.resolve("mutated-" + number + "." + ending), mutated(Files.readAllBytes(seed), random));
        int[] tally = counts.computeIfAbsent(ending, key -> new int[2]);
        long start = System.nanoTime();
        try {
            Imported read = readers.read(file, Progress.NONE);
            Survey survey = Survey.of(read);
            Preparation.prepared(read, Intake.suggested(survey.outline(), "", Neighbours.NONE));
            if (FileKind.of(file) == FileKind.USD) {
                LayerCache layers = new LayerCache(readers.gate(file));
                Stage stage =
                        Stage.open(layers.open(file), layers, Budget.forReading(Budget.Limits.USUAL, Progress.NONE));
                Flattener.flatten(stage, Flattener.Instances.SHARED, folder.resolve("flat.usda"));
            }
            tally[0]++;
        } catch (PantryException e) {
            tally[1]++;
            reasons.merge(ending + ": " + e.getMessage().replaceAll("[0-9]+", "#"), 1, Integer::sum);
            if (!e.line().contains("mutated-" + number)
                    || !IoProblems.saysSomething(e.getMessage())
                    || e.line().contains("not understood")) {
                fault(number, e.line());
            }
        } catch (RuntimeException | Error e) {
            fault(number, e + " at " + List.of(e.getStackTrace()).subList(0, Math.min(4, e.getStackTrace().length)));
        }
        long took = System.nanoTime() - start;
        if (took > slowest) {
            slowest = took;
            slowestFile = file.getFileName().toString();
        }
        if (took > MOST.toNanos()) {
            fault(number, "took " + took / 1_000_000_000 + " s");
        }
        Files.delete(file);
    }

    private void fault(int number, String what) {
        faults.add(number + ": " + what);
    }

    private static byte[] mutated(byte[] bytes, SplittableRandom random) {
        byte[] made = bytes.clone();
        int times = 1 + random.nextInt(2);
        for (int i = 0; i < times && made.length > 8; i++) {
            int at = random.nextInt(made.length);
            switch (random.nextInt(6)) {
                case 0 -> made[at] = (byte) random.nextInt(256);
                case 1 -> made[at] ^= (byte) (1 << random.nextInt(8));
                case 2 -> made = Arrays.copyOf(made, at);
                case 3 -> {
                    int length = Math.min(made.length - at, 1 + random.nextInt(64));
                    int other = random.nextInt(made.length - length + 1);
                    System.arraycopy(bytes.clone(), Math.min(other, bytes.length - length), made, at, length);
                }
                case 4 -> {
                    for (int k = at; k < Math.min(made.length, at + 4); k++) {
                        made[k] = (byte) (random.nextBoolean() ? 0xff : 0x7f);
                    }
                }
                default -> made = numberReplaced(made, at, random);
            }
        }
        return made;
    }

    /** The next number from a place on, in a text, made absurd. */
    private static byte[] numberReplaced(byte[] bytes, int from, SplittableRandom random) {
        int start = from;
        while (start < bytes.length && (bytes[start] < '0' || bytes[start] > '9')) {
            start++;
        }
        int end = start;
        while (end < bytes.length && (bytes[end] >= '0' && bytes[end] <= '9' || bytes[end] == '.')) {
            end++;
        }
        byte[] instead = ABSURD.get(random.nextInt(ABSURD.size())).getBytes(StandardCharsets.ISO_8859_1);
        byte[] made = new byte[bytes.length - (end - start) + instead.length];
        System.arraycopy(bytes, 0, made, 0, start);
        System.arraycopy(instead, 0, made, start, instead.length);
        System.arraycopy(bytes, end, made, start + instead.length, bytes.length - end);
        return made;
    }

    private void tell(int count, long seed) {
        System.out.printf(Locale.ROOT, "%,d damaged files, seed %d%n", count, seed);
        counts.forEach((ending, tally) ->
                System.out.printf(Locale.ROOT, "  %-5s %6d read %6d refused%n", ending, tally[0], tally[1]));
        System.out.println("the most common reasons:");
        reasons.entrySet().stream()
                .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
                .limit(30)
                .forEach(reason -> System.out.printf(Locale.ROOT, "  %5d %s%n", reason.getValue(), reason.getKey()));
        System.out.printf(Locale.ROOT, "slowest: %.2f s (%s)%nfaults: %d%n", slowest / 1e9, slowestFile, faults.size());
        faults.stream().limit(40).forEach(fault -> System.out.println("  " + fault));
    }
}
