package pantry.bench;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/**
 * How composition grows: scenes of instances in nested groups of ten, the layers being at hand, a tenth as many of them
 * as there are instances. Prints time and heap for 1, 10 and 100 thousand placements.
 */
public final class Placements {
    private static final Path FOLDER = Path.of("bench").toAbsolutePath();

    private Placements() {}

    public static void main(String[] arguments) throws Exception {
        System.out.println("| placements | distinct references | prims | time | heap |\n|---|---|---|---|---|");
        for (int placements : new int[] {1000, 10_000, 100_000}) {
            Map<AssetLocation, Layer> layers = layers(placements / 10);
            Layer scene = scene(placements, placements / 10);
            double seconds = Pairs.median(() -> walk(Stage.open(scene, layers::get)));
            long before = used();
            Stage stage = Stage.open(scene, layers::get);
            long prims = walk(stage);
            long heap = used() - before;
            System.out.printf(
                    Locale.ROOT,
                    "| %,d | %,d | %,d | %.0f ms | %.1f MB |%n",
                    placements,
                    placements / 10,
                    prims,
                    seconds * 1000,
                    heap / 1e6);
            java.lang.ref.Reference.reachabilityFence(stage);
        }
    }

    private static Map<AssetLocation, Layer> layers(int count) {
        Map<AssetLocation, Layer> layers = new HashMap<>();
        for (int i = 0; i < count; i++) {
            Path file = FOLDER.resolve("asset" + i + ".usda");
            Layer layer = Layer.inMetres(file, "Asset");
            PrimSpec root = layer.root().define("Xform", "Asset");
            root.metadata().put("kind", new Value.Token("component"));
            PrimSpec mesh = root.define("Mesh", "Body");
            mesh.set("point3f[]", "points", new Value.Floats(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, 3));
            layers.put(AssetLocation.of(file), layer);
        }
        return layers;
    }

    /** Groups of ten in groups of ten, down to the placements. */
    private static Layer scene(int placements, int assets) {
        Layer layer = Layer.inMetres(FOLDER.resolve("scene.usda"), "Scene");
        int[] next = {0};
        fill(layer.root().define("Xform", "Scene"), placements, assets, next);
        return layer;
    }

    private static void fill(PrimSpec group, int placements, int assets, int[] next) {
        for (int i = 0; i < 10; i++) {
            if (placements > 10) {
                fill(group.define("Xform", "Group_" + i), placements / 10, assets, next);
            } else {
                int number = next[0]++;
                PrimSpec prim = group.define("Xform", "Use_" + i);
                prim.setReferences(Reference.to("./asset" + number % assets + ".usda"));
                prim.metadata().put("instanceable", new Value.Bool(true));
                prim.set("double3", "xformOp:translate", new Value.Tuple(number, 0, 0));
            }
        }
    }

    /** Composes everything, what instances share included; returns the number of prims. */
    private static long walk(Stage stage) {
        long prims = stage.prims().peek(Prim::prototype).count();
        for (Prim prototype : stage.prototypes()) {
            prims += 1 + prototype.children().size();
        }
        return prims;
    }

    private static long used() throws InterruptedException {
        for (int i = 0; i < 3; i++) {
            System.gc();
            Thread.sleep(50);
        }
        Runtime runtime = Runtime.getRuntime();
        return runtime.totalMemory() - runtime.freeMemory();
    }
}
