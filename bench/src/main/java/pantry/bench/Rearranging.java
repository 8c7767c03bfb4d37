package pantry.bench;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.stream.IntStream;
import pantry.base.math.Vec3;
import pantry.exchange.usd.MeshCache;
import pantry.scene.Layout;
import pantry.scene.Scene;
import pantry.scene.SceneClipboard;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Population;
import pantry.usd.edit.StageEditor;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.TransformComponents;

/**
 * Many objects of a scene moved below another prim, copied and removed in one edit, beside the same by one edit for each;
 * and what grouping, pasting and laying out of many takes.
 */
public final class Rearranging {
    private static final String POST = """
            #usda 1.0
            (defaultPrim="Post" metersPerUnit=1 upAxis="Y")
            def Xform "Post" (kind="component") {
                def Mesh "Body" { int[] faceVertexCounts=[3] int[] faceVertexIndices=[0,1,2]
                    point3f[] points=[(0,0,0),(1,0,0),(0,1,0)] }
            }
            """;

    private Rearranging() {}

    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("pantry-bench-");
        Path post = Files.writeString(folder.resolve("post.usda"), POST);
        Pairs.header();
        for (int count : new int[] {250, 500, 1000}) {
            Path file = saved(folder, post, count);
            List<SdfPath> uses = uses(count);
            Map<SdfPath, SdfPath> moves = new LinkedHashMap<>();
            Map<SdfPath, SdfPath> copies = new LinkedHashMap<>();
            uses.forEach(use -> moves.put(use, SdfPath.of("/yard/Other").child(use.name())));
            uses.forEach(use -> copies.put(use.parent().child(use.name() + "_c"), use));
            pair(count + " moved", file, edits -> edits.moveAll(moves), edits -> moves.forEach(edits::move));
            pair(
                    count + " copied",
                    file,
                    edits -> edits.copyAll(copies),
                    edits -> copies.forEach((to, from) -> edits.copy(from, to)));
            pair(count + " removed", file, edits -> edits.removeAll(uses), edits -> uses.forEach(edits::remove));
        }
        System.out.println("\n| work | 1,000 | 10,000 | 100,000 |\n|---|---|---|---|");
        row("laid out", folder, post, (scene, all) -> {});
        row("grouped", folder, post, (scene, all) -> scene.structure().group(all, "Pile"));
        row("hung on the root", folder, post, (scene, all) -> scene.structure().reparent(all, scene.root()));
        row("duplicated", folder, post, (scene, all) -> scene.structure().duplicate(all, new Vec3(1, 0, 0)));
        row("copied and pasted", folder, post, (scene, all) -> SceneClipboard.of(scene, all)
                .paste(scene, Optional.empty()));
        row("removed", folder, post, (scene, all) -> scene.structure().remove(all));
        row("forked", folder, post, (scene, all) -> scene.fork());
    }

    private static void pair(String work, Path file, Edit atOnce, Edit each) throws Exception {
        Pairs.pair(work + " at once", () -> edited(file, atOnce), "one by one", () -> edited(file, each));
    }

    private interface Edit {
        void on(Transaction edits);
    }

    private static void edited(Path file, Edit edit) {
        StageEditor editor = StageEditor.open(file, new LayerCache(), Population.ALL);
        editor.changeAll("other", edits -> edits.define(SdfPath.of("/yard/Other"), "Xform"));
        editor.changeAll("edit", edit::on);
    }

    private static List<SdfPath> uses(int count) {
        return IntStream.range(0, count)
                .mapToObj(i -> SdfPath.of("/yard/Row").child(i == 0 ? "Post" : "Post_" + (i + 1)))
                .toList();
    }

    private static Path saved(Path folder, Path post, int count) {
        Scene scene = laidOut(folder.resolve("yard-" + count + "/yard.usda"), post, count);
        scene.save();
        return scene.file();
    }

    private static Scene laidOut(Path file, Path post, int count) {
        try {
            Files.createDirectories(file.getParent());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        Scene scene = Scene.create(file, new LayerCache(), new MeshCache());
        SdfPath first = scene.placements()
                .placeFile(post, Optional.empty(), "Post", TransformComponents.ORIGIN, Optional.empty());
        scene.layouts()
                .lay(first, "Row", new Layout.Grid(new int[] {count, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE);
        return scene;
    }

    /** The time of an operation on all uses of a layout, the median of three; of the layout itself where it is none. */
    private static void row(String work, Path folder, Path post, BiConsumer<Scene, List<SdfPath>> operation)
            throws Exception {
        StringBuilder line = new StringBuilder("| " + work);
        int run = 0;
        for (int count : new int[] {1000, 10_000, 100_000}) {
            double[] seconds = new double[3];
            for (int i = 0; i < seconds.length; i++) {
                Path file = folder.resolve(work.replace(' ', '-') + "/" + count + "-" + ++run + "/yard.usda");
                Scene[] scene = new Scene[1];
                double laid = Pairs.seconds(() -> scene[0] = laidOut(file, post, count));
                List<SdfPath> all = scene[0].childNames(SdfPath.of("/yard/Row")).stream()
                        .map(SdfPath.of("/yard/Row")::child)
                        .toList();
                scene[0].model();
                double done = Pairs.seconds(() -> operation.accept(scene[0], all));
                seconds[i] = work.equals("laid out") ? laid : done;
            }
            Arrays.sort(seconds);
            line.append(String.format(Locale.ROOT, " | %.3f s", seconds[1]));
        }
        System.out.println(line + " |");
    }
}
