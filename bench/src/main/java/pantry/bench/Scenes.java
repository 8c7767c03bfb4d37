package pantry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.Viewing;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.render.Camera;
import pantry.render.Frame;
import pantry.render.RenderCache;
import pantry.render.RenderOptions;
import pantry.render.RenderScene;
import pantry.render.Renderer;
import pantry.scene.Scene;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.TransformComponents;

/**
 * Work in a large scene: placements of ten assets in groups of ten within groups of ten, each asset a few hundred to
 * some thousand triangles. Prints what each step takes.
 */
public final class Scenes {
    private static final int WIDTH = 1280;
    private static final int HEIGHT = 800;
    private static final int ASSETS = 10;
    private static final int MOVED = 1000;

    private Scenes() {}

    public static void main(String[] arguments) throws Exception {
        int placements = arguments.length > 0 ? Integer.parseInt(arguments[0]) : 100_000;
        Path folder = Files.createTempDirectory("pantry-scenes");
        assets(folder);
        Path file = scene(folder, placements);
        System.out.printf(
                Locale.ROOT, "%,d placements, a scene file of %.1f MB%n%n", placements, Files.size(file) / 1e6);
        System.out.println("| work | time |\n|---|---|");
        LayerCache layers = new LayerCache();
        MeshCache meshes = new MeshCache();
        RenderCache cache = new RenderCache();
        Scene.open(file, layers, meshes).model();

        Scene scene = timed("open and compose, its layers being cached", 5, () -> {
            Scene opened = Scene.open(file, layers, meshes);
            opened.stage().prims().count();
            return opened;
        });
        Model model = timed("what is shown, read from the composed scene", 5, scene::model);
        timed("a snapshot of the open scene, which the next picture is made of", 5, scene::snapshot);
        timed("the snapshot composed and read", 5, () -> scene.snapshot().model());
        RenderScene drawn = timed("and made ready for drawing", 5, () -> RenderScene.of(model, cache));
        Camera camera = Camera.START.framing(drawn.boxes(), (double) WIDTH / HEIGHT);
        Renderer renderer = new Renderer();
        timed(
                "its first frame, with the shadow that it casts",
                5,
                () -> renderer.draw(
                        RenderScene.of(model, cache), camera, WIDTH, HEIGHT, RenderOptions.PLAIN.withGrid(true)));
        timed(
                "a frame of 1280×800, all in view (" + drawn.triangles() / 1000 + " 000 triangles)",
                30,
                () -> renderer.draw(drawn, camera, WIDTH, HEIGHT, RenderOptions.PLAIN.withGrid(true)));
        timed(
                "the same at half the size, as the live view draws while it moves",
                30,
                () -> renderer.draw(drawn, camera, WIDTH / 2, HEIGHT / 2, RenderOptions.PLAIN.withGrid(true)));
        timed(
                "a frame of 1280×800 from near by",
                30,
                () -> renderer.draw(drawn, camera.dollied(0.15), WIDTH, HEIGHT, RenderOptions.PLAIN.withGrid(true)));
        Frame frame = renderer.draw(drawn, camera, WIDTH, HEIGHT, RenderOptions.PLAIN);
        timed("a pick", 5, () -> drawn.owner(frame.id(WIDTH / 2, HEIGHT / 2)));

        List<SdfPath> chosen = scene.placements().all().stream()
                .map(placement -> placement.path())
                .limit(MOVED)
                .toList();
        Map<String, Matrix4> dragged = new LinkedHashMap<>();
        chosen.forEach(path -> dragged.put(path.toString(), Matrix4.translation(new Vec3(0.1, 0, 0))));
        RenderOptions outlined = RenderOptions.PLAIN.withSelected(dragged.keySet());
        timed(
                "a frame of 640×400 while " + MOVED + " selected ones are dragged",
                30,
                () -> renderer.draw(drawn.moved(dragged), camera, WIDTH / 2, HEIGHT / 2, outlined));
        timed("moving them for good, and the next frame of 640×400", 5, () -> {
            Map<SdfPath, TransformComponents> places = new LinkedHashMap<>();
            chosen.forEach(path -> {
                TransformComponents placing =
                        scene.placements().at(path).orElseThrow().placing();
                places.put(path, placing.withMove(placing.move().plus(new Vec3(0.1, 0, 0))));
            });
            scene.arranging().move(places);
            return renderer.drawSoon(placed(scene, drawn, chosen), camera, WIDTH / 2, HEIGHT / 2, outlined);
        });
        timed("undo of that, and the next frame", 5, () -> {
            scene.undo();
            return renderer.drawSoon(placed(scene, drawn, chosen), camera, WIDTH / 2, HEIGHT / 2, outlined);
        });
        scene.model(Viewing.WHOLE, path -> false);
        int[] copies = {0};
        timed("one copied, and what is shown, read again as far as that concerns it", 10, () -> {
            SdfPath copied = chosen.get(++copies[0]);
            scene.structure().duplicate(List.of(copied), new Vec3(0, 1, 0));
            return scene.model(Viewing.WHOLE, path -> false);
        });
        timed("save", 3, () -> {
            scene.arranging()
                    .move(Map.of(
                            chosen.getFirst(), TransformComponents.ORIGIN.withMove(new Vec3(Math.random(), 0, 0))));
            scene.saveOver();
            return scene;
        });
    }

    private static RenderScene placed(Scene scene, RenderScene drawn, List<SdfPath> moved) {
        return drawn.placed(moved.stream().map(SdfPath::toString).toList(), path -> scene.world(SdfPath.of(path))
                .orElseThrow());
    }

    private static <T> T timed(String what, int rounds, Callable<T> work) throws Exception {
        List<Long> times = new ArrayList<>();
        T result = work.call();
        for (int i = 0; i < rounds / 2; i++) {
            work.call();
        }
        for (int i = 0; i < rounds; i++) {
            long start = System.nanoTime();
            result = work.call();
            times.add(System.nanoTime() - start);
        }
        times.sort(null);
        System.out.printf(Locale.ROOT, "| %s | %.1f ms |%n", what, times.get(times.size() / 2) / 1e6);
        return result;
    }

    private static void assets(Path folder) {
        for (int i = 0; i < ASSETS; i++) {
            Path file = folder.resolve("asset" + i + ".usda");
            Layer layer = Layer.inMetres(file, "Asset");
            PrimSpec root = layer.root().define("Xform", "Asset");
            root.metadata().put("kind", new Value.Token("component"));
            Mesh mesh =
                    i % 2 == 0 ? Shapes.sphere(0.4, 16 + 4 * i, 8 + 2 * i) : Shapes.torus(0.35, 0.1, 16 + 2 * i, 12);
            PrimSpec body = root.define("Mesh", "Body");
            body.set("point3f[]", "points", new Value.Floats(mesh.points(), 3));
            body.set("int[]", "faceVertexCounts", new Value.Ints(mesh.faceSizes(), 1));
            body.set("int[]", "faceVertexIndices", new Value.Ints(mesh.corners(), 1));
            LayerFiles.write(layer, file);
        }
    }

    private static Path scene(Path folder, int placements) {
        Path file = folder.resolve("scene.usda");
        Layer layer = Layer.inMetres(file, "Scene");
        int[] next = {0};
        int across = (int) Math.ceil(Math.sqrt(placements));
        fill(layer.root().define("Xform", "Scene"), placements, across, next);
        LayerFiles.write(layer, file);
        return file;
    }

    private static void fill(PrimSpec group, int placements, int across, int[] next) {
        for (int i = 0; i < 10; i++) {
            if (placements > 10) {
                fill(group.define("Xform", "Group_" + i), placements / 10, across, next);
            } else {
                int number = next[0]++;
                PrimSpec prim = group.define("Xform", "Use_" + i);
                prim.setReferences(Reference.to("./asset" + number % ASSETS + ".usda"));
                prim.metadata().put("instanceable", new Value.Bool(true));
                TransformComponents.ORIGIN
                        .withMove(new Vec3(number % across, 0.5, number / across))
                        .write(prim);
            }
        }
    }
}
