package pantry.prep.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static pantry.prep.Made.image;
import static pantry.prep.Made.texture;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.mesh.SmoothNormals;
import pantry.prep.Made;
import pantry.prep.fix.Tidy;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.file.LayerAssets;
import pantry.usd.schema.Xforms;
import pantry.workpiece.Workpiece;

@DisplayName("Each rule finds its own flaw in a mast that has none otherwise")
class RulesTest {
    @TempDir
    Path folder;

    private static final Mesh BOX = Shapes.block(0.2, 0.2, 0.2);

    private static Matrix4 at(double x, double y, double z) {
        return Matrix4.translation(new Vec3(x, y, z));
    }

    /** A flaw that has a fix, and what makes it. */
    private static Arguments flaw(String rule, Consumer<Made> flaw) {
        return Arguments.of(rule, flaw);
    }

    static Stream<Arguments> flawsWithAFix() {
        return Stream.of(
                flaw("hidden-object", made -> made.mesh("Spare", BOX, at(0, 0.5, 0))
                        .set("token", "visibility", new Value.Token("invisible"))),
                flaw(
                        "inactive-object",
                        made -> made.mesh("Spare", BOX).metadata().put("active", new Value.Bool(false))),
                flaw("light", made -> made.root.define("SphereLight", "Lamp")),
                flaw("camera", made -> made.root.define("Camera", "View")),
                flaw("sky", made -> made.root.define("DomeLight", "Sky")),
                flaw("ground", made -> made.mesh("Ground", Shapes.plate(8, 8))),
                flaw("render-settings", made -> made.root.define("RenderSettings", "Final")),
                flaw("script", made -> made.root
                        .set("string", "onOpenScript", new Value.Text("beep()"))
                        .setCustom(true)),
                flaw("foreign-data", made -> made.root
                        .set("string", "layerColour", new Value.Text("7"))
                        .setCustom(true)),
                flaw("stray-edge", made -> made.root.define("BasisCurves", "Guides")),
                flaw("stray-edge", RulesTest::edges),
                flaw("loose-point", RulesTest::loosePoint),
                flaw("unused-variant", RulesTest::equalVariants),
                flaw("unused-texture", made -> texture(made, "Steel", "plate.png", "", "auto")),
                flaw("unused-material", made -> made.material("Brass", 0.5)),
                flaw("unused-definition", made -> {
                    PrimSpec shapes = made.root.add(new PrimSpec(Specifier.CLASS, "Scope", "Shapes"));
                    Made.mesh(shapes, "Bolt", BOX, Matrix4.IDENTITY);
                }),
                flaw("broken-face", RulesTest::brokenFace),
                flaw("empty-mesh", made -> made.root.define("Mesh", "Nothing")),
                flaw("flat-face", RulesTest::flatFace),
                flaw("double-face", RulesTest::doubleFace),
                flaw("doubled-point", made -> split(made, "Crate")),
                flaw("uneven-winding", made -> turned(made, 1)),
                flaw("inside-out", made -> turned(made, 6)),
                flaw("bad-normal", RulesTest::badNormal),
                flaw("no-normal", made -> made.mesh("Ball", bare(Shapes.sphere(0.2, 24, 12)), at(0, 0.5, 0))),
                flaw("open-edge", RulesTest::hole),
                flaw("no-uv", made -> {
                    texture(made, "Steel", "plate.png", "diffuseColor", "sRGB");
                    made.root.child("Tube").orElseThrow().removeProperty("primvars:st");
                }),
                flaw("flat-region", made -> made.mesh("Plate", grid(40), at(0, 0.5, 0))),
                flaw("too-heavy", made -> {
                    made.mesh("Ball", dense(Shapes.sphere(0.01, 200, 100)), at(0, 0.5, 0));
                }),
                flaw("equal-material", made -> {
                    made.material("Steel_copy", 0.8);
                    made.bound(made.mesh("Foot", Shapes.block(0.3, 0.1, 0.3)), "Steel_copy");
                }),
                flaw(
                        "absolute-texture",
                        made -> texture(
                                made,
                                "Steel",
                                image(made, "plate.png", 64, false).toString(),
                                "diffuseColor",
                                "sRGB")),
                flaw("same-image", made -> {
                    texture(made, "Steel", "plate.png", "diffuseColor", "sRGB");
                    made.material("Brass", 0.5);
                    texture(made, "Brass", "plate2.png", "diffuseColor", "sRGB");
                    made.bound(made.mesh("Foot", Shapes.block(0.3, 0.1, 0.3)), "Brass");
                }),
                flaw("oversized-texture", made -> {
                    image(made, "large.png", 16384, false);
                    texture(made, "Steel", "large.png", "diffuseColor", "sRGB");
                }),
                flaw("colour-space", made -> texture(made, "Steel", "plate.png", "roughness", "sRGB")),
                flaw("unused-channel", made -> {
                    image(made, "clear.png", 64, true);
                    texture(made, "Steel", "clear.png", "diffuseColor", "sRGB");
                }),
                flaw("separate-numbers", RulesTest::numbersApart),
                flaw("missing-texture", made -> {
                    image(made, "elsewhere/lost.png", 64, false);
                    texture(made, "Steel", "maps/lost.png", "diffuseColor", "sRGB");
                }),
                flaw("empty-group", made -> made.root.define("Xform", "Old").define("Xform", "Older")),
                flaw("no-single-root", made -> Made.mesh(made.layer.root(), "Foot", BOX, Matrix4.IDENTITY)),
                flaw("group-of-one", made -> Made.mesh(made.root.define("Xform", "Arm"), "Bar", BOX, at(0, 1, 0))),
                flaw("root-moved", made -> Xforms.setMatrix(made.root, Matrix4.rotation(1, 90))),
                flaw(
                        "scale-mirrored",
                        made -> made.mesh("Vane", Shapes.cone(0.1, 0.05, 0.3, 12), Matrix4.scale(new Vec3(-1, 1, 1)))),
                flaw(
                        "scale-uneven",
                        made -> made.mesh(
                                "Vane", BOX, Matrix4.scale(new Vec3(1, 3, 1)).times(Matrix4.rotation(2, 30)))),
                flaw("scale-unapplied", made -> made.mesh("Vane", BOX, Matrix4.scale(new Vec3(2, 2, 2)))),
                flaw("same-place", made -> made.bound(made.mesh("Tube_again", Shapes.cylinder(0.1, 2, 24)), "Steel")),
                flaw("far-part", made -> {
                    made.mesh("Foot", Shapes.block(0.3, 0.1, 0.3));
                    made.mesh("Forgotten", BOX, at(60, 0, 0));
                }),
                flaw("off-axes", made -> made.mesh("Beam", Shapes.block(3, 0.1, 0.1), Matrix4.rotation(1, 30))),
                flaw("off-ground", made -> {
                    made.root.removeChild("Tube");
                    made.bound(made.mesh("Raised", Shapes.cylinder(0.1, 2, 24), at(0, 0.3, 0)), "Steel");
                }),
                flaw("off-centre", made -> {
                    made.root.removeChild("Tube");
                    made.bound(made.mesh("Beside", Shapes.cylinder(0.1, 2, 24), at(2, 0, 0)), "Steel");
                }),
                flaw("pivots-in-one-place", made -> {
                    for (int i = 0; i < 7; i++) {
                        made.mesh(
                                "Foot" + "ABCDEFG".charAt(i),
                                Shapes.block(0.2 + 0.1 * i, 0.2, 0.2).transformed(at(1 + i, 0, 0)));
                    }
                }),
                flaw("pivot-outside", made -> made.mesh("Foot", BOX.transformed(at(0.4, 0, 0)), at(0, 1, 0))),
                flaw("twins", made -> {
                    Mesh bolt = Shapes.cylinder(0.05, 0.1, 40);
                    made.mesh("BoltA", bolt.transformed(at(0.3, 0, 0)), at(-0.02, 0, 0));
                    made.mesh("BoltB", bolt.transformed(Matrix4.rotation(0, 90).times(at(0, 0.5, 0))), at(0.01, 0, 0));
                }),
                flaw("twin-parts", made -> made.mesh("Rivets", rivets(60), at(0, 0.5, 0))),
                flaw("foreign-name", made -> made.root
                        .child("Tube")
                        .orElseThrow()
                        .metadata()
                        .put("displayName", new Value.Text("tube|<7>*"))),
                flaw("copy-number", made -> made.mesh("Foot_001", Shapes.block(0.3, 0.1, 0.3))),
                flaw("empty-name", made -> made.mesh("Object12", Shapes.block(0.3, 0.1, 0.3))),
                flaw("name-clash", made -> made.mesh("tube", Shapes.block(0.3, 0.1, 0.3))));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("flawsWithAFix")
    @DisplayName("is found, put right, and undone to the last figure")
    void foundAndFixed(String rule, Consumer<Made> flaw) {
        Made made = Made.mast(folder);
        image(made, "plate.png", 64, false);
        image(made, "plate2.png", 64, false);
        flaw.accept(made);
        Workpiece piece = made.open();
        Layer before =
                LayerAssets.renamed(piece.layer(), piece.layer().location().orElseThrow(), path -> path);

        List<Finding> found = of(rule, Made.inspect(piece));
        assertThat(found).as("findings of %s", rule).isNotEmpty().allMatch(Finding::fixable);
        Tidy.Result result = Tidy.apply(piece, RuleSet.USUAL, Optional.empty(), found, Progress.NONE);

        assertThat(result.done()).allMatch(done -> done.outcome() == Tidy.Outcome.FIXED, "fixed: " + result.done());
        assertThat(of(rule, Made.inspect(piece))).isEmpty();
        while (piece.editor().undoName().isPresent()) {
            piece.editor().undo();
        }
        assertThat(piece.layer().sameAs(before)).isTrue();
    }

    private static List<Finding> of(String rule, List<Finding> findings) {
        return findings.stream()
                .filter(finding -> finding.rule().id().equals(rule))
                .toList();
    }

    @Test
    @DisplayName("and nothing in the mast itself")
    void cleanMast() {
        assertThat(Made.inspect(Made.mast(folder).open())).isEmpty();
    }

    @Test
    @DisplayName("also where there can be no fix")
    void withoutFix() {
        Made made = Made.mast(folder);
        image(made, "odd.png", 100, false);
        texture(made, "Steel", "odd.png", "diffuseColor", "sRGB");
        PrimSpec deep = made.root;
        for (int i = 0; i < 9; i++) {
            deep = deep.define("Xform", "Level" + "ABCDEFGHI".charAt(i));
            deep.metadata().put("kind", new Value.Token("group"));
        }
        Made.mesh(deep, "Cap", Shapes.block(0.3, 0.1, 0.3), Matrix4.IDENTITY);
        Made.mesh(made.root, "Fins", fins(), at(0, 0.3, 0));
        assertThat(Made.rules(Made.inspect(made.open()))).contains("power-of-two", "deep-chain", "tangled-edge");
    }

    /** Roughness and metallic of the steel by an image each. */
    private static void numbersApart(Made made) {
        PrimSpec steel = made.root
                .child("Materials")
                .flatMap(scope -> scope.child("Steel"))
                .orElseThrow();
        for (String input : List.of("roughness", "metallic")) {
            texture(made, "Steel", input.equals("roughness") ? "plate.png" : "plate2.png", input, "raw");
            PrimSpec image = steel.removeChild("Image").orElseThrow().copyAs("Image_" + input);
            steel.add(image);
            steel.child("Surface")
                    .orElseThrow()
                    .put(new AttributeSpec("inputs:" + input, "float")
                            .setConnections(ListEdit.explicit(List.of(Made.ROOT
                                    .child("Materials")
                                    .child("Steel")
                                    .child("Image_" + input)
                                    .property("outputs:r")))));
        }
        // Two files of the same bytes are told by another rule.
        recolour(made.layer.file().orElseThrow().resolveSibling("plate2.png"));
    }

    private static void recolour(java.nio.file.Path file) {
        java.awt.image.BufferedImage grey =
                new java.awt.image.BufferedImage(64, 64, java.awt.image.BufferedImage.TYPE_INT_RGB);
        java.awt.Graphics2D graphics = grey.createGraphics();
        graphics.setColor(java.awt.Color.GRAY);
        graphics.fillRect(0, 0, 64, 64);
        graphics.dispose();
        try {
            javax.imageio.ImageIO.write(grey, "png", file.toFile());
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private static Mesh bare(Mesh mesh) {
        return new Mesh(mesh.points(), mesh.faceSizes(), mesh.corners(), null, null);
    }

    private static Mesh dense(Mesh mesh) {
        return bare(mesh);
    }

    private static void edges(Made made) {
        PrimSpec prim = made.mesh("Crate", Shapes.block(0.3, 0.1, 0.3));
        int[] sizes = {4, 4, 4, 4, 4, 4, 2};
        Value.Ints corners = (Value.Ints) prim.attribute("faceVertexIndices")
                .flatMap(AttributeSpec::value)
                .orElseThrow();
        int[] more = java.util.Arrays.copyOf(corners.data(), corners.data().length + 2);
        more[more.length - 1] = 1;
        bareArrays(prim, sizes, more);
    }

    private static void bareArrays(PrimSpec prim, int[] sizes, int[] corners) {
        for (PropertySpec property : List.copyOf(prim.properties())) {
            if (property.name().equals("normals") || property.name().startsWith("primvars:")) {
                prim.removeProperty(property.name());
            }
        }
        prim.set("int[]", "faceVertexCounts", new Value.Ints(sizes, 1));
        prim.set("int[]", "faceVertexIndices", new Value.Ints(corners, 1));
    }

    private static float[] points(PrimSpec prim) {
        return ((Value.Floats)
                        prim.attribute("points").flatMap(AttributeSpec::value).orElseThrow())
                .data();
    }

    private static void loosePoint(Made made) {
        PrimSpec prim = made.mesh("Crate", bare(Shapes.block(0.3, 0.1, 0.3)));
        float[] points = points(prim);
        float[] more = java.util.Arrays.copyOf(points, points.length + 3);
        prim.set("point3f[]", "points", new Value.Floats(more, 3));
    }

    private static void equalVariants(Made made) {
        made.root.setVariantSetNames("finish");
        made.root.select("finish", "new");
        for (String name : List.of("new", "fresh")) {
            made.root.variant("finish", name).contents().set("int", "userProperties:wear", new Value.Int(0));
        }
    }

    private static void brokenFace(Made made) {
        PrimSpec prim = made.mesh("Crate", bare(Shapes.block(0.3, 0.1, 0.3)));
        int[] sizes = {4, 4, 4, 4, 4, 4, 3};
        Value.Ints corners = (Value.Ints) prim.attribute("faceVertexIndices")
                .flatMap(AttributeSpec::value)
                .orElseThrow();
        int[] more = java.util.Arrays.copyOf(corners.data(), corners.data().length + 3);
        more[more.length - 1] = 99;
        bareArrays(prim, sizes, more);
    }

    /** A box of welded points with further faces. */
    private static Mesh withFaces(int[]... faces) {
        Mesh box = pantry.mesh.Welding.exact(bare(Shapes.block(0.3, 0.1, 0.3)));
        int[] sizes = java.util.Arrays.copyOf(box.faceSizes(), box.faceCount() + faces.length);
        int[] corners = box.corners();
        for (int i = 0; i < faces.length; i++) {
            sizes[box.faceCount() + i] = faces[i].length;
            int at = corners.length;
            corners = java.util.Arrays.copyOf(corners, at + faces[i].length);
            System.arraycopy(faces[i], 0, corners, at, faces[i].length);
        }
        return new Mesh(box.points(), sizes, corners, null, null);
    }

    private static void flatFace(Made made) {
        Mesh box = withFaces();
        made.mesh("Crate", withFaces(new int[] {box.corners()[0], box.corners()[1], box.corners()[0]}));
    }

    private static void doubleFace(Made made) {
        Mesh box = withFaces();
        int[] c = box.corners();
        made.mesh("Crate", withFaces(new int[] {c[1], c[2], c[3], c[0]}));
    }

    private static void split(Made made, String name) {
        Mesh box = withFaces();
        float[] points = new float[3 * box.corners().length];
        int[] corners = new int[box.corners().length];
        for (int c = 0; c < corners.length; c++) {
            corners[c] = c;
            System.arraycopy(box.points(), 3 * box.corners()[c], points, 3 * c, 3);
        }
        made.mesh(name, new Mesh(points, box.faceSizes(), corners, null, null));
    }

    private static void turned(Made made, int faces) {
        Mesh box = withFaces();
        int[] corners = box.corners().clone();
        for (int face = 0; face < faces; face++) {
            int spare = corners[4 * face + 1];
            corners[4 * face + 1] = corners[4 * face + 3];
            corners[4 * face + 3] = spare;
        }
        made.mesh("Crate", new Mesh(box.points(), box.faceSizes(), corners, null, null));
    }

    private static void badNormal(Made made) {
        Mesh ball = bare(Shapes.sphere(0.2, 24, 12));
        float[] normals = SmoothNormals.of(ball).data().clone();
        normals[0] = normals[1] = normals[2] = 0;
        made.mesh(
                "Ball",
                new Mesh(
                        ball.points(),
                        ball.faceSizes(),
                        ball.corners(),
                        new Channel(normals, 3, SmoothNormals.of(ball).per()),
                        null),
                at(0, 0.5, 0));
    }

    private static void hole(Made made) {
        Mesh ball = pantry.mesh.Welding.exact(bare(Shapes.sphere(0.2, 24, 12)));
        int[] kept = new int[ball.faceCount() - 1];
        for (int i = 0; i < kept.length; i++) {
            kept[i] = i < 100 ? i : i + 1;
        }
        made.mesh("Ball", ball.faces(kept), at(0, 0.5, 0));
    }

    private static Mesh grid(int cells) {
        pantry.mesh.MeshBuilder builder = new pantry.mesh.MeshBuilder();
        for (int i = 0; i <= cells; i++) {
            for (int j = 0; j <= cells; j++) {
                builder.point(new Vec3(0.01 * (i - cells / 2.0), 0, 0.01 * (j - cells / 2.0)));
            }
        }
        for (int i = 0; i < cells; i++) {
            for (int j = 0; j < cells; j++) {
                int p = i * (cells + 1) + j;
                builder.face(p, p + 1, p + cells + 2, p + cells + 1);
            }
        }
        return bare(builder.build());
    }

    private static Mesh rivets(int count) {
        pantry.mesh.MeshBuilder builder = new pantry.mesh.MeshBuilder();
        for (int i = 0; i < count; i++) {
            builder.add(
                    bare(Shapes.sphere(0.02, 16, 8)),
                    Matrix4.rotation(0, 7.0 * i).times(at(0.05 * (i % 8) - 0.2, 0.05 * (i / 8), 0)));
        }
        return bare(builder.build());
    }

    private static Mesh fins() {
        pantry.mesh.MeshBuilder builder = new pantry.mesh.MeshBuilder();
        builder.point(new Vec3(0, 0, 0));
        builder.point(new Vec3(0, 0.4, 0));
        for (int i = 0; i < 3; i++) {
            double angle = Math.toRadians(120 * i);
            int p = builder.point(new Vec3(0.2 * Math.cos(angle), 0.2, 0.2 * Math.sin(angle)));
            builder.face(0, 1, p);
        }
        return bare(builder.build());
    }

    @Test
    @DisplayName("and every rule has words, a fix or a reason, and a test here")
    void everyRuleIsTested() {
        Map<String, Boolean> tested = new LinkedHashMap<>();
        flawsWithAFix().forEach(flaw -> tested.put((String) flaw.get()[0], true));
        List<String> elsewhere = List.of(
                "uneven-weight",
                "unheld-point",
                "many-influences",
                "idle-joint",
                "still-motion",
                "power-of-two",
                "does-not-tile",
                "deep-chain",
                "tangled-edge",
                "name-prefix",
                "name-pattern",
                "twin-asset",
                "no-licence",
                "no-tag",
                "card-incomplete",
                "no-thumbnail",
                "odd-size",
                "no-proxy",
                "proxy-off");
        assertThat(Rules.ALL).allMatch(rule -> tested.containsKey(rule.id()) || elsewhere.contains(rule.id()));
        assertThat(Rules.ALL)
                .allMatch(rule -> !rule.title().isBlank() && rule.why().endsWith("."));
    }
}
