package pantry.prep.tools;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.prep.Made;
import pantry.prep.fix.Check;
import pantry.prep.fix.Tidy;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.Fix;
import pantry.prep.inspect.RuleSet;
import pantry.render.Camera;
import pantry.render.Frame;
import pantry.render.RenderCache;
import pantry.render.RenderOptions;
import pantry.render.RenderScene;
import pantry.render.Renderer;
import pantry.testing.Oracle;
import pantry.twins.TwinOptions;
import pantry.usd.SdfPath;
import pantry.usd.file.LayerFiles;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.Subject;
import pantry.workpiece.Workpiece;

@DisplayName("Instances")
class InstancesTest {
    @TempDir
    Path folder;

    /** Bolts with baked transforms in two colours, some larger and some mirrored. */
    private Workpiece bolts(int count) {
        Made made = Made.mast(folder);
        made.material("Brass", 0.3);
        MeshBuilder builder = new MeshBuilder();
        builder.add(Shapes.cylinder(0.03, 0.2, 12), Matrix4.IDENTITY);
        builder.add(Shapes.block(0.1, 0.03, 0.08), Matrix4.translation(new Vec3(0.01, 0.2, 0.02)));
        Mesh bolt = builder.build();
        SplittableRandom random = new SplittableRandom(5);
        for (int i = 0; i < count; i++) {
            double size = i % 5 == 4 ? 1.5 : 1;
            Matrix4 baked = Matrix4.scale(new Vec3(i % 3 == 2 ? -size : size, size, size))
                    .times(Matrix4.rotationXyz(new Vec3(360 * random.nextDouble(), 360 * random.nextDouble(), 0)))
                    .times(Matrix4.translation(
                            new Vec3(2 * random.nextDouble() - 1, 2 * random.nextDouble(), random.nextDouble())));
            made.bound(made.mesh("Bolt" + (char) ('A' + i), bolt.transformed(baked)), i % 2 == 0 ? "Steel" : "Brass");
        }
        return made.open();
    }

    private static Frame picture(Workpiece piece) {
        RenderScene scene = RenderScene.of(piece.model(), new RenderCache());
        Camera camera = Camera.START.framing(new Box3(new Vec3(-1, 0, 0), new Vec3(1, 2, 1)), 1);
        return new Renderer().draw(scene, camera, 400, 400, RenderOptions.bare(0xFFFFFF));
    }

    private static List<TwinSets.Set> twins(Workpiece piece) {
        return TwinSets.find(piece, TwinOptions.USUAL, Progress.NONE);
    }

    @Test
    @DisplayName("leave every vertex and the picture as they were, and store one shape")
    void samePicture() {
        Workpiece piece = bolts(15);
        List<TwinSets.Set> sets = twins(piece);
        assertThat(sets).hasSize(1);
        assertThat(sets.getFirst().members()).hasSize(15);
        assertThat(sets.getFirst().materials()).isEqualTo(2);
        assertThat(sets.getFirst().mirrored()).isTrue();
        assertThat(sets.getFirst().scale()).isCloseTo(1.5, within(1e-3));
        Check check = Check.of(new Subject(piece, Progress.NONE));
        Frame before = picture(piece);
        var weight = piece.weight();

        Instances.make(piece, sets);

        assertThat(check.fault(Fix.Keeps.EVERY_VERTEX, 1e-5, piece.model())).isEmpty();
        Frame after = picture(piece);
        int differing = 0;
        for (int i = 0; i < before.argb().length; i++) {
            int one = before.argb()[i];
            int other = after.argb()[i];
            int most = Math.max(
                    Math.abs((one & 255) - (other & 255)),
                    Math.max(
                            Math.abs((one >> 8 & 255) - (other >> 8 & 255)),
                            Math.abs((one >> 16 & 255) - (other >> 16 & 255))));
            differing += most > 4 ? 1 : 0;
        }
        // Edges may fall on the other side of a pixel's middle where a vertex moves by less than can be told apart.
        assertThat(differing).isLessThan(before.argb().length / 2000);
        assertThat(piece.weight().trianglesDrawn()).isEqualTo(weight.trianglesDrawn());
        assertThat(piece.weight().trianglesStored())
                .isEqualTo(weight.trianglesStored() - sets.getFirst().saved());
        Map<SdfPath, List<SdfPath>> shared = Instances.shared(piece);
        assertThat(shared).hasSize(1);
        assertThat(shared.values().iterator().next()).hasSize(15);
    }

    @Test
    @DisplayName("have a pivot of their own each, in the middle of the base")
    void pivots() {
        Workpiece piece = bolts(6);
        Instances.make(piece, twins(piece));
        Subject subject = new Subject(piece, Progress.NONE);
        List<InspectedPrim> instances =
                subject.items().filter(item -> item.prim().isInstance()).toList();
        assertThat(instances).hasSize(6);
        assertThat(instances.stream().map(InspectedPrim::pivot).distinct()).hasSize(6);
        InspectedPrim first = instances.getFirst();
        assertThat(first.pivot().minus(Instances.base(first.bounds())).length()).isLessThan(1e-5);
    }

    @Test
    @DisplayName("are broken out again, and are then what they were")
    void brokenOut() {
        Workpiece piece = bolts(4);
        Check check = Check.of(new Subject(piece, Progress.NONE));
        Instances.make(piece, twins(piece));
        List<SdfPath> all = Instances.shared(piece).values().iterator().next();
        Instances.breakOut(piece, List.of(all.get(1)));
        assertThat(Instances.shared(piece).values().iterator().next()).hasSize(3);
        assertThat(check.fault(Fix.Keeps.EVERY_VERTEX, 1e-5, piece.model())).isEmpty();
        Instances.breakOut(piece, Instances.shared(piece).values().iterator().next());
        assertThat(Made.rules(Made.inspect(piece))).contains("unused-definition");
    }

    @Test
    @DisplayName("of parts of one mesh are taken apart without moving anything")
    void partsOfOneMesh() {
        Made made = Made.mast(folder);
        MeshBuilder builder = new MeshBuilder();
        for (int i = 0; i < 40; i++) {
            builder.add(
                    Shapes.cylinder(0.02, 0.05, 30),
                    Matrix4.rotation(0, 9 * i).times(Matrix4.translation(new Vec3(0.1 * i, 0.4, 0))));
        }
        builder.add(Shapes.block(4, 0.1, 1), Matrix4.IDENTITY);
        made.bound(made.mesh("Joined", builder.build()), "Steel");
        Workpiece piece = made.open();
        long before = piece.weight().trianglesStored();
        List<Finding> found = Made.inspect(piece).stream()
                .filter(finding -> finding.rule().id().equals("twin-parts"))
                .toList();
        Tidy.Result result = Tidy.apply(piece, RuleSet.USUAL, java.util.Optional.empty(), found, Progress.NONE);
        assertThat(result.count(Tidy.Outcome.FIXED)).isEqualTo(1);
        int each = Shapes.cylinder(0.02, 0.05, 30).triangleCount();
        assertThat(result.after().trianglesStored()).isEqualTo(before - 39L * each);
        assertThat(result.after().trianglesDrawn()).isEqualTo(result.before().trianglesDrawn());
    }

    @Test
    @DisplayName("are still there when the file is saved and read again")
    void saved() {
        Workpiece piece = bolts(5);
        Instances.make(piece, twins(piece));
        Path out = folder.resolve("bolts.usdc");
        piece.save(out);
        Workpiece again = Workpiece.of(out, Made.sources(), Progress.NONE);
        assertThat(Instances.shared(again).values().iterator().next()).hasSize(5);
        assertThat(again.layer().sameAs(LayerFiles.read(out))).isTrue();
        assertThat(Check.of(new Subject(piece, Progress.NONE)).fault(Fix.Keeps.EVERY_VERTEX, 0, again.model()))
                .isEmpty();
    }

    @Test
    @DisplayName("of exact copies are as many as an independent de-duplicator leaves meshes")
    void asManyAsTheDeduplicator() {
        List<Model.Node> nodes = new java.util.ArrayList<>();
        for (int i = 0; i < 60; i++) {
            Mesh shape =
                    switch (i % 4) {
                        case 0 -> Shapes.block(1, 2, 3);
                        case 1 -> Shapes.sphere(1, 12, 6);
                        case 2 -> Shapes.cylinder(1, 2, 9);
                        default -> Shapes.cone(1, 0.5, 1 + i, 7);
                    };
            nodes.add(Model.Node.of(
                    "Part" + i,
                    Matrix4.translation(new Vec3(i, 0, 0)),
                    List.of(new Model.Part(shape, Material.PLAIN)),
                    List.of()));
        }
        Path file = folder.resolve("copies.glb");
        ModelWriters.write(new Model("Copies", nodes, Model.Extras.NONE), file);
        Map<?, ?> told = Json.read(Oracle.run("dedup.mjs", file.toString()), "dedup.mjs", Map.class);
        Workpiece piece = Workpiece.of(file, Made.sources(), Progress.NONE);
        List<TwinSets.Set> sets = TwinSets.find(piece, new TwinOptions(0, false, false), Progress.NONE);
        int left = 60 - sets.stream().mapToInt(set -> set.members().size() - 1).sum();
        assertThat(told.get("after")).isEqualTo(left);
        assertThat(left).isEqualTo(3 + 15);
    }
}
