package pantry.demo;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.UsdModelWriter;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.Xforms;

/** What comes from the drafting office: all that Prep is for. */
final class FlawedArrivals {
    private static final int BOLTS = 96;

    private final Path folder;

    FlawedArrivals(Path folder) {
        this.folder = folder;
    }

    void make() {
        rack();
        hut();
    }

    /** A rack from a drawing program: every bolt and every battery its own mesh, modelled in place, pivots at the origin. */
    private void rack() {
        List<Model.Node> parts = new ArrayList<>();
        for (int level = 0; level < 4; level++) {
            parts.add(part("Shelf", Shapes.block(2.2, 0.03, 0.6), Paints.GALVANISED, at(0, 0.2 + 0.5 * level, 0)));
        }
        for (int post = 0; post < 4; post++) {
            Matrix4 place = at(post % 2 == 0 ? -1.08 : 1.08, 0, post < 2 ? -0.28 : 0.28);
            parts.add(part("Post", Shapes.block(0.05, 1.95, 0.05), Paints.DARK_STEEL, place));
        }
        Mesh battery = battery();
        for (int i = 0; i < 32; i++) {
            Matrix4 place = Matrix4.rotation(1, i % 3 == 0 ? 180 : 0)
                    .times(at(-0.9 + 0.257 * (i % 8), 0.23 + 0.5 * (i / 8), 0));
            parts.add(part("Battery", battery, i % 5 == 0 ? Paints.TEAL : Paints.RUBBER, place));
        }
        Mesh bolt = bolt();
        SplittableRandom random = new SplittableRandom(31);
        for (int i = 0; i < BOLTS; i++) {
            boolean front = i % 2 == 0;
            Matrix4 place = Matrix4.rotation(1, 360 * random.nextDouble())
                    .times(Matrix4.rotation(0, front ? 90 : -90))
                    .times(at(
                            (i / 2 % 2 == 0 ? -1.08 : 1.08) + 0.012 * (i / 4 % 2 == 0 ? -1 : 1),
                            0.14 + 0.5 * (i / 24) + 0.03 * (i / 8 % 3),
                            front ? 0.305 : -0.305));
            parts.add(part("Bolt", bolt, i % 7 == 0 ? Paints.ALUMINIUM : Paints.GALVANISED, place));
        }
        Mesh bracket = bracket();
        for (int i = 0; i < 8; i++) {
            Matrix4 hand = i % 2 == 0 ? Matrix4.IDENTITY : Matrix4.scale(new Vec3(-1, 1, 1));
            parts.add(part(
                    "Bracket",
                    bracket,
                    Paints.SIGNAL_RED,
                    hand.times(at(i % 2 == 0 ? -1.0 : 1.0, 0.12 + 0.5 * (i / 2), 0.2))));
        }
        Model model = new Model(
                "Battery rack",
                List.of(Model.Node.of("Battery rack", Matrix4.IDENTITY, List.of(), parts)),
                Model.Extras.NONE);
        UsdModelWriter.write(model, folder.resolve("battery-rack-as-drawn.usdc"));
    }

    private static Matrix4 at(double x, double y, double z) {
        return Matrix4.translation(new Vec3(x, y, z));
    }

    /** With the place in its points, as drawing programs write it. */
    private static Model.Node part(String name, Mesh mesh, Material material, Matrix4 baked) {
        return Model.Node.of(
                name, Matrix4.IDENTITY, List.of(new Model.Part(mesh.transformed(baked), material)), List.of());
    }

    private static Mesh battery() {
        MeshBuilder builder = new MeshBuilder();
        builder.add(Shapes.block(0.2, 0.3, 0.4), Matrix4.IDENTITY);
        builder.add(Shapes.block(0.18, 0.02, 0.38), at(0, 0.3, 0));
        builder.add(Shapes.cylinder(0.018, 0.03, 24), at(0.05, 0.32, 0.14));
        builder.add(Shapes.cylinder(0.014, 0.03, 24), at(-0.05, 0.32, 0.14));
        builder.add(Shapes.torus(0.04, 0.008, 24, 8), Matrix4.rotation(0, 90).times(at(0, 0.33, -0.05)));
        return builder.build();
    }

    private static Mesh bolt() {
        MeshBuilder builder = new MeshBuilder();
        builder.add(Shapes.cylinder(0.009, 0.008, 6), at(0, 0, 0));
        builder.add(Shapes.cylinder(0.013, 0.002, 24), at(0, -0.002, 0));
        builder.add(Shapes.cylinder(0.005, 0.03, 20), at(0, -0.032, 0));
        return builder.build();
    }

    private static Mesh bracket() {
        MeshBuilder builder = new MeshBuilder();
        builder.add(Shapes.block(0.14, 0.02, 0.05), at(0.05, 0, 0.01));
        builder.add(Shapes.block(0.02, 0.1, 0.05), at(-0.01, 0, 0));
        builder.add(Shapes.cylinder(0.012, 0.03, 16), at(0.09, 0.02, 0.02));
        return builder.build();
    }

    /** A hut that was worked on in haste. */
    private void hut() {
        List<Model.Node> parts = new ArrayList<>();
        parts.add(part("Walls", Shapes.block(3, 2.2, 2.2), Paints.OCHRE, at(0, 0, 0)));
        parts.add(part("Roof", Shapes.block(3.3, 0.12, 2.5), Paints.DARK_STEEL, at(0, 2.2, 0)));
        parts.add(part("Door", Shapes.block(0.8, 1.9, 0.06), Paints.STATION_WHITE, at(0.6, 0.1, 1.1)));
        parts.add(part("Window", Shapes.block(0.7, 0.6, 0.05), Paints.GLASS, at(-0.8, 1.0, 1.1)));
        parts.add(part("Window copy 2", Shapes.block(0.7, 0.6, 0.05), Paints.GLASS, at(-0.8, 1.0, 1.1)));
        Model model = new Model(
                "Met hut", List.of(Model.Node.of("Met hut", Matrix4.IDENTITY, List.of(), parts)), Model.Extras.NONE);
        Path file = folder.resolve("met-hut-left-over.usda");
        Layer layer = UsdModelWriter.layer(model, "Met_hut", file, texture -> texture.name());
        PrimSpec root = layer.prim(SdfPath.of("/Met_hut")).orElseThrow();
        // What the writer put below a node of the same name stands directly below the root here.
        PrimSpec inner = root.child("Met_hut").orElse(root);
        PrimSpec old = inner.define("Mesh", "Old_roof");
        UsdModelWriter.writeSurface(old, Shapes.sphere(1.7, 48, 24).transformed(at(0, 1.4, 0)));
        old.set("token", "visibility", new Value.Token("invisible"));
        inner.define("Xform", "Group_1").define("Xform", "Group_2");
        PrimSpec lines = inner.define("BasisCurves", "Construction_lines");
        lines.set("token", "type", new Value.Token("linear")).setUniform(true);
        lines.set("int[]", "curveVertexCounts", new Value.Ints(new int[] {2, 2, 4}, 1));
        lines.set(
                "point3f[]",
                "points",
                new Value.Floats(
                        new float[] {
                            -2.5f, 0, -1.1f, 2.5f, 0, -1.1f, -2.5f, 0, 1.1f, 2.5f, 0, 1.1f, -1.5f, 0, -1.8f, -1.5f,
                            2.9f, -1.8f, 1.5f, 2.9f, -1.8f, 1.5f, 0, -1.8f
                        },
                        3));
        inner.define("SphereLight", "Work_lamp").set("float", "inputs:intensity", new Value.Real(30));
        inner.define("Camera", "View_from_the_door");
        PrimSpec chimney = inner.define("Mesh", "Chimney");
        UsdModelWriter.writeSurface(chimney, Shapes.cylinder(0.1, 0.5, 32));
        Xforms.setMatrix(chimney, Matrix4.scale(new Vec3(1, 2, 1)).times(at(0.9, 2.3, -0.5)));
        inner.set("string", "draftingLayer", new Value.Text("0-plan")).setCustom(true);
        LayerFiles.write(layer, file);
    }
}
