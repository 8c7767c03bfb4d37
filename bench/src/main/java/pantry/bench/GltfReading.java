package pantry.bench;

import de.javagl.jgltf.model.AccessorData;
import de.javagl.jgltf.model.AccessorFloatData;
import de.javagl.jgltf.model.AccessorModel;
import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.io.GltfModelReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.SplittableRandom;
import pantry.base.AtomicFiles;
import pantry.base.FileGate;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.gltf.GltfReader;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;

/**
 * Why GLB is read by Pantry's own reader and not by jgltf, by whose classes it is written: the time of one large mesh and
 * of many small ones, and what becomes of damaged files. The peer brings each accessor into an array of floats, which is
 * less than Pantry does.
 *
 * <p>Arguments: {@code [DAMAGED]}, how many damaged files; 2,000 unless told otherwise.
 */
public final class GltfReading {
    private static final long SEED = 20_261_129;

    private GltfReading() {}

    public static void main(String[] arguments) throws Exception {
        int damaged = arguments.length == 0 ? 2000 : Integer.parseInt(arguments[0]);
        Path folder = Files.createTempDirectory("pantry-bench-");
        try {
            Pairs.header();
            pair(folder, "one mesh", spheres(1, 1000));
            pair(folder, "20,000 meshes", spheres(20_000, 12));
            damage(folder, damaged);
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static Model spheres(int count, int segments) {
        List<Model.Node> nodes = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            // Each a little larger, so that none is shared.
            Mesh mesh = Shapes.sphere(1 + i * 1e-3, segments, segments / 2);
            nodes.add(Model.Node.of(
                    "Ball " + i,
                    Matrix4.translation(new Vec3(i % 100, 0, i / 100)),
                    List.of(new Model.Part(mesh, Material.PLAIN)),
                    List.of()));
        }
        return new Model("Balls", nodes, Model.Extras.NONE);
    }

    private static void pair(Path folder, String what, Model model) throws Exception {
        Path file = folder.resolve("balls.glb");
        ModelWriters.write(model, file);
        Pairs.pair(
                String.format(Locale.ROOT, "read a GLB of %d MB, %s", Files.size(file) / 1_000_000, what),
                () -> ours(file, folder),
                "jgltf, numbers in arrays",
                () -> theirs(file));
    }

    private static void ours(Path file, Path folder) throws IOException {
        Path images = Files.createTempDirectory(folder, "images");
        GltfReader.read(file, FileGate.beside(file), images, Progress.NONE).orElseThrow();
    }

    private static long theirs(Path file) throws IOException {
        GltfModel model = new GltfModelReader().read(file);
        long numbers = 0;
        for (AccessorModel accessor : model.getAccessorModels()) {
            AccessorData data = accessor.getAccessorData();
            if (data instanceof AccessorFloatData floats) {
                float[] values = new float[floats.getNumElements() * floats.getNumComponentsPerElement()];
                for (int i = 0; i < values.length; i++) {
                    values[i] = floats.get(i);
                }
                numbers += values.length;
            }
        }
        return numbers;
    }

    /** How a reader fails on a damaged file. */
    private static final class Tally {
        private int read;
        private int refused;
        private int broke;

        void count(Pairs.Run reading, Class<? extends Exception> declared) {
            try {
                reading.run();
                read++;
            } catch (Exception | StackOverflowError | OutOfMemoryError e) {
                if (declared.isInstance(e)) {
                    refused++;
                } else {
                    broke++;
                }
            }
        }

        void tell(String reader) {
            System.out.printf(
                    Locale.ROOT,
                    "%s: %d read, %d refused as declared, %d ended by an exception of the runtime%n",
                    reader,
                    read,
                    refused,
                    broke);
        }
    }

    /** One to four bytes of a small file changed, half of the time in its JSON. */
    private static void damage(Path folder, int count) throws Exception {
        Path whole = folder.resolve("whole.glb");
        ModelWriters.write(spheres(2, 8), whole);
        byte[] bytes = Files.readAllBytes(whole);
        Path file = folder.resolve("damaged.glb");
        Tally ours = new Tally();
        Tally theirs = new Tally();
        for (int i = 0; i < count; i++) {
            SplittableRandom random = new SplittableRandom(SEED + i);
            byte[] damaged = bytes.clone();
            int reach = random.nextBoolean() ? Math.min(1500, bytes.length) : bytes.length;
            for (int k = random.nextInt(1, 5); k > 0; k--) {
                damaged[random.nextInt(reach)] = (byte) random.nextInt(256);
            }
            Files.write(file, damaged);
            ours.count(() -> ours(file, folder), PantryException.class);
            theirs.count(() -> theirs(file), IOException.class);
        }
        System.out.println();
        System.out.println(count + " damaged files");
        ours.tell("Pantry");
        theirs.tell("jgltf");
    }
}
