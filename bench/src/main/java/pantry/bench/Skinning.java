package pantry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.IntStream;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Slip;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Material;
import pantry.model.Model;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;
import pantry.workbench.Workbench;

/**
 * A hundred figures of 10,000 vertices and 60 bones, posed on all cores: pictures a second, and beside three's CPU skinning of
 * the same data on one core, of points alone; and what a minute of motion costs when it is received. Needs Node and {@code oracle/}, run from the project's root.
 */
public final class Skinning {
    private static final int FIGURES = 100;
    private static final int BONES = 60;
    private static final int INFLUENCES = 4;

    private Skinning() {}

    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("pantry-bench-");
        try {
            Model figure = figure();
            Path file = folder.resolve("figure.glb");
            ModelWriters.write(figure, file);
            Skeleton skeleton = figure.extras().skeleton().orElseThrow();
            Motion motion = skeleton.motions().getFirst();
            Mesh mesh = figure.meshes().iterator().next();
            Skin skin = Skin.of(mesh).orElseThrow();
            System.out.printf(
                    Locale.ROOT,
                    "%,d vertices, %d bones%n",
                    mesh.pointCount(),
                    skeleton.joints().size());
            float[] normals = mesh.normals().orElseThrow().data();
            double whole =
                    Pairs.median(() -> IntStream.range(0, FIGURES).parallel().forEach(i -> {
                        Matrix4[] changes = skeleton.skinning(skeleton.posed(motion, i % 30 / 30.0));
                        skin.deformed(mesh.points(), normals, changes);
                    }));
            System.out.printf(
                    Locale.ROOT,
                    "%d figures posed, with normals, on all cores: %.1f ms, %.1f pictures a second%n",
                    FIGURES,
                    1000 * whole,
                    1 / whole);
            Pairs.header();
            double[] theirs = {0};
            List<Double> ratios = new ArrayList<>();
            for (int round = 0; round <= 5; round++) {
                double ours = Pairs.seconds(() -> {
                    for (int i = 0; i < FIGURES; i++) {
                        skin.deformed(mesh.points(), skeleton.skinning(skeleton.posed(motion, i % 30 / 30.0)));
                    }
                });
                theirs[0] = three(file);
                if (round > 0) {
                    ratios.add(ours / theirs[0]);
                    System.out.printf(
                            Locale.ROOT,
                            "| %d figures posed, points alone, one core | %.3f s | three: %.3f s | %.3f |%n",
                            FIGURES,
                            ours,
                            theirs[0],
                            ours / theirs[0]);
                }
            }
            ratios.sort(null);
            System.out.printf(Locale.ROOT, "median of the ratios: %.3f%n", ratios.get(ratios.size() / 2));
            receiving(folder);
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    /** A minute of motion, thirty keys a second, beside the same figure without any. */
    private static void receiving(Path folder) throws Exception {
        Model still = figure();
        Skeleton skeleton = still.extras().skeleton().orElseThrow();
        Motion minute = swaying("Minute", 1801, skeleton.joints());
        Path without = folder.resolve("still.glb");
        Path with = folder.resolve("minute.glb");
        ModelWriters.write(still.with(still.extras().with(Optional.empty())), without);
        ModelWriters.write(still.with(still.extras().with(Optional.of(skeleton.with(List.of(minute))))), with);
        try (Workbench workbench =
                new Workbench("bench", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL)) {
            Library library = workbench.createLibrary(folder.resolve("library"), "Bench");
            int[] number = {0};
            Pairs.header();
            Pairs.pair(
                    "a figure with a minute of motion received",
                    () -> receive(workbench, library, with, number[0]++),
                    "the same without",
                    () -> receive(workbench, library, without, number[0]++));
        }
    }

    private static void receive(Workbench workbench, Library library, Path file, int number) {
        Imported read = workbench.intake().read(file, Progress.NONE);
        Slip slip = Slip.plain("Figure " + number, AssetKind.MODEL, "Figures", 1, Axis.Y);
        workbench.intake().shelve(read, slip, library, Progress.NONE);
    }

    private static double three(Path file) throws Exception {
        Process process = new ProcessBuilder("node", "oracle/time-skin.mjs", file.toString(), String.valueOf(FIGURES))
                .redirectError(ProcessBuilder.Redirect.INHERIT)
                .start();
        return Double.parseDouble(new String(process.getInputStream().readAllBytes()).strip());
    }

    /** Each joint turned to and fro, thirty keys a second. */
    private static Motion swaying(String name, int keys, List<Skeleton.Joint> joints) {
        float[] times = new float[keys];
        for (int i = 0; i < times.length; i++) {
            times[i] = i / 30f;
        }
        return Motion.of(name, times, BONES, key -> {
            JointTransform[] pose = new JointTransform[BONES];
            for (int i = 0; i < BONES; i++) {
                pose[i] = JointTransform.of(Matrix4.rotation(2, 2 * Math.sin(key / 5.0 + i))
                        .times(joints.get(i).rest()));
            }
            return pose;
        });
    }

    /** A column of joints, each turned a little, within a long sphere whose points hang on the four joints nearest to them. */
    private static Model figure() {
        Mesh mesh = Shapes.sphere(1, 126, 78).transformed(Matrix4.scale(new Vec3(0.3, 1, 0.3)));
        double step = 2.0 / BONES;
        List<Skeleton.Joint> joints = new ArrayList<>();
        for (int i = 0; i < BONES; i++) {
            Matrix4 rest = Matrix4.translation(new Vec3(0, i == 0 ? -1 : step, 0));
            joints.add(
                    new Skeleton.Joint("Bone " + i, i - 1, rest, Matrix4.translation(new Vec3(0, -1 + i * step, 0))));
        }
        Motion sway = swaying("Sway", 31, joints);
        int points = mesh.pointCount();
        float[] numbers = new float[INFLUENCES * points];
        float[] weights = new float[INFLUENCES * points];
        for (int p = 0; p < points; p++) {
            int first = (int) Math.clamp((mesh.point(p).y() + 1) / step - 1.5, 0, BONES - INFLUENCES);
            for (int k = 0; k < INFLUENCES; k++) {
                numbers[INFLUENCES * p + k] = first + k;
                weights[INFLUENCES * p + k] = k == 1 || k == 2 ? 0.35f : 0.15f;
            }
        }
        return new Model(
                "Figure",
                List.of(Model.Node.of(
                        "Body",
                        Matrix4.IDENTITY,
                        List.of(new Model.Part(new Skin(INFLUENCES, numbers, weights).on(mesh), Material.PLAIN)),
                        List.of())),
                Model.Extras.NONE.with(Optional.of(new Skeleton(joints, List.of(sway)))));
    }
}
