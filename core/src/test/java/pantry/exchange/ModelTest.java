package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Png;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.exchange.usd.UsdModelWriter;
import pantry.mesh.Measures;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Facts;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

class ModelTest {
    private static final Material RED = Material.plain("Red", new Colour(0.5f, 0.1f, 0.1f), 0, 0.4);
    private static final Material GREY = Material.plain("Grey", new Colour(0.3f, 0.3f, 0.3f), 0.8, 0.2);

    @TempDir
    private Path folder;

    private static Model.Node leaf(String name, Mesh mesh, Matrix4 local) {
        return Model.Node.of(name, local, List.of(new Model.Part(mesh, RED)), List.of());
    }

    /** A turned, unevenly scaled and mirrored hierarchy with two materials on one object. */
    private static Model nested() {
        Mesh block = Shapes.block(1, 2, 3);
        Model.Node inner = leaf(
                "Inner part", block, Matrix4.scale(new Vec3(-1, 2, 0.5)).times(Matrix4.translation(new Vec3(1, 2, 3))));
        Model.Node both = Model.Node.of(
                "Both",
                Matrix4.rotationXyz(new Vec3(10, 20, 30)),
                List.of(
                        new Model.Part(Shapes.sphere(0.5, 12, 6), RED),
                        new Model.Part(Shapes.block(0.2, 0.2, 0.2), GREY)),
                List.of(inner, leaf("Inner part", block, Matrix4.translation(new Vec3(-4, 0, 0)))));
        return new Model("Nested", List.of(both), Model.Extras.NONE);
    }

    private static Model throughUsd(Model model) {
        var layer = UsdModelWriter.layer(model, "Root", Path.of("/nowhere/root.usda"), Texture::name);
        Stage stage = Stage.open(UsdaReader.parse(UsdaWriter.write(layer)), new LayerCache());
        UsdModelReader.Result result = UsdModelReader.read(stage, new MeshCache());
        assertThat(stage.problems()).isEmpty();
        assertThat(result.problems()).isEmpty();
        return result.model();
    }

    private static List<Vec3> worldPoints(Model model) {
        List<Vec3> points = new ArrayList<>();
        model.visit((owner, part, world) -> {
            for (int i = 0; i < part.mesh().pointCount(); i++) {
                points.add(world.point(part.mesh().point(i)));
            }
        });
        return points;
    }

    private static void assertSamePlaces(List<Vec3> found, List<Vec3> expected) {
        assertThat(found).hasSameSizeAs(expected);
        for (int i = 0; i < found.size(); i++) {
            assertThat(found.get(i).minus(expected.get(i)).length()).isLessThan(1e-5);
        }
    }

    @Test
    void usdGivesBackEveryPointMaterialAndName() {
        Model model = nested();
        Model again = throughUsd(model);
        assertSamePlaces(worldPoints(again), worldPoints(model));
        assertThat(again.materials()).containsExactlyInAnyOrder(RED, GREY);
        assertThat(again.trianglesStored()).isEqualTo(2 * 12 + 2 * 12 * 5 + 12);
        List<String> names = new ArrayList<>();
        again.visit((owner, part, world) -> names.add(owner.name()));
        assertThat(names).as("also what prims cannot be called").contains("Inner part");
    }

    @Test
    void anotherFrameMovesNothingButTheNumbers() {
        Model model = nested();
        Matrix4 change = Axis.Z.toYUp().times(Matrix4.scale(new Vec3(0.01, 0.01, 0.01)));
        Model changed = model.reframed(change);
        List<Vec3> expected = worldPoints(model).stream().map(change::point).toList();
        assertSamePlaces(worldPoints(changed), expected);
        assertThat(model.reframed(Matrix4.IDENTITY)).isSameAs(model);
        Model.Node inner = changed.roots().getFirst().children().getLast();
        assertThat(inner.local().determinant3())
                .as("no scale is left on the objects")
                .isCloseTo(1, within(1e-9));
    }

    @Test
    void whatIsSharedStaysSharedAndIsCountedAsOftenAsItStands() {
        List<Model.Node> contents = List.of(leaf("Body", Shapes.block(1, 1, 1), Matrix4.IDENTITY));
        List<Model.Node> uses = new ArrayList<>();
        for (int i = 0; i < 10; i++) {
            uses.add(new Model.Node(
                    "Use " + i, "/W/U" + i, Matrix4.translation(new Vec3(2 * i, 0, 0)), List.of(), contents, true));
        }
        Model model = new Model("Uses", uses, Model.Extras.NONE);
        assertThat(model.trianglesStored()).isEqualTo(12);
        assertThat(model.trianglesDrawn()).isEqualTo(120);
        assertThat(model.objects()).isEqualTo(20);
        assertThat(model.bounds().size()).isEqualTo(new Vec3(19, 1, 1));
        assertThat(model.measures().volume()).isCloseTo(10, within(1e-9));
        Model moved = model.reframed(Matrix4.scale(new Vec3(2, 2, 2)));
        assertThat(moved.roots().get(3).children())
                .isSameAs(moved.roots().get(7).children());
        Model painted = moved.withMaterials(material -> GREY);
        assertThat(painted.materials()).containsExactly(GREY);
        assertThat(painted.roots().get(3).children())
                .isSameAs(painted.roots().get(7).children());
        List<String> owners = new ArrayList<>();
        model.visit((owner, part, world) -> owners.add(owner.path()));
        assertThat(owners)
                .as("the use owns what it shows")
                .contains("/W/U0", "/W/U9")
                .doesNotContain("Body");
    }

    @Test
    void solidsSubsetsIndicesAndPurposesOfForeignUsdAreUnderstood() {
        Stage stage = Stage.open(UsdaReader.parse("""
                        #usda 1.0
                        def Xform "W" {
                            def Cube "Cube" { double size = 3 }
                            def Sphere "Ball" { double radius = 2 }
                            def Cylinder "Pipe" { double radius = 0.5 double height = 4 token axis = "X" }
                            def Cone "Cone" { double height = 6 token axis = "Y" }
                            def Mesh "Quad" (prepend apiSchemas = ["MaterialBindingAPI"]) {
                                point3f[] points = [(0,0,0),(1,0,0),(1,1,0),(0,1,0),(2,0,0),(2,1,0)]
                                int[] faceVertexCounts = [4, 4]
                                int[] faceVertexIndices = [0,1,2,3,1,4,5,2]
                                texCoord2f[] primvars:st = [(0,0),(1,1)] ( interpolation = "faceVarying" )
                                int[] primvars:st:indices = [0,0,1,1,0,0,1,1]
                                rel material:binding = </W/Looks/A>
                                def GeomSubset "Right" { int[] indices = [1] token familyName = "materialBind" rel material:binding = </W/Looks/B> }
                            }
                            def Mesh "Stand" { token purpose = "proxy" point3f[] points = [(0,0,0),(1,0,0),(1,1,0)] int[] faceVertexCounts = [3] int[] faceVertexIndices = [0,1,2] }
                            def Mesh "Hidden" { token visibility = "invisible" point3f[] points = [(0,0,0),(1,0,0),(1,1,0)] int[] faceVertexCounts = [3] int[] faceVertexIndices = [0,1,2] }
                            def SphereLight "Lamp" {}
                            def Camera "Eye" {}
                            def Scope "Looks" {
                                def Material "A" { token outputs:surface.connect = </W/Looks/A/S.outputs:surface>
                                    def Shader "S" { uniform token info:id = "UsdPreviewSurface" color3f inputs:diffuseColor = (1, 0, 0) float inputs:opacity = 0.5 token outputs:surface } }
                                def Material "B" {}
                            }
                        }
                        """), new LayerCache());
        Model model = UsdModelReader.read(stage, new MeshCache()).model();
        assertThat(model.extras().lights()).isOne();
        assertThat(model.extras().cameras()).isOne();
        assertThat(model.extras().hidden()).isOne();
        List<Model.Node> things = model.roots().getFirst().children();
        assertThat(box(things, "Cube").size()).isEqualTo(new Vec3(3, 3, 3));
        assertThat(box(things, "Ball").max().y()).isCloseTo(2, within(1e-6));
        assertThat(box(things, "Pipe").size().x()).isCloseTo(4, within(1e-6));
        assertThat(box(things, "Cone").size().y()).isCloseTo(6, within(1e-6));
        Model.Node quad = node(things, "Quad");
        assertThat(quad.parts())
                .hasSize(2)
                .allSatisfy(part -> assertThat(part.mesh().faceCount()).isEqualTo(1));
        assertThat(quad.parts()).extracting(part -> part.material().name()).containsExactly("B", "A");
        assertThat(quad.parts().getLast().material().opacity()).isEqualTo(0.5f);
        assertThat(quad.parts().getFirst().mesh().uvs()).isPresent();
        assertThat(things).extracting(Model.Node::name).doesNotContain("Stand", "Hidden", "A");
    }

    private static Model.Node node(List<Model.Node> nodes, String name) {
        return nodes.stream().filter(n -> n.name().equals(name)).findFirst().orElseThrow();
    }

    private static Box3 box(List<Model.Node> nodes, String name) {
        return new Model("One", List.of(node(nodes, name)), Model.Extras.NONE).bounds();
    }

    @Test
    void damagedMeshesOfForeignUsdAreNamedAndTheRestIsShown() {
        Stage stage = Stage.open(UsdaReader.parse("""
                        #usda 1.0
                        def Mesh "Bad" { point3f[] points = [(0,0,0)] int[] faceVertexCounts = [3] int[] faceVertexIndices = [0,1,2] }
                        def Mesh "Nan" { point3f[] points = [(nan,0,0),(1,0,0),(1,1,0)] int[] faceVertexCounts = [3] int[] faceVertexIndices = [0,1,2] }
                        def Mesh "Few" { point3f[] points = [(0,0,0),(1,0,0),(1,1,0)] int[] faceVertexCounts = [3] int[] faceVertexIndices = [0,1,2] normal3f[] normals = [(0,0,1)] ( interpolation = "vertex" ) }
                        def Cube "Good" {}
                        """), new LayerCache());
        UsdModelReader.Result result = UsdModelReader.read(stage, new MeshCache());
        assertThat(result.problems()).hasSize(3).anySatisfy(problem -> assertThat(problem)
                .contains("/Bad", "point 1 of 1"));
        assertThat(result.model().meshes()).hasSize(1);
    }

    @Test
    void meshesAreMadeOnceHoweverOftenTheStageIsOpened() {
        var layer = UsdModelWriter.layer(nested(), "Root", Path.of("/nowhere/root.usda"), Texture::name);
        MeshCache cache = new MeshCache();
        Model first =
                UsdModelReader.read(Stage.open(layer, new LayerCache()), cache).model();
        Model second =
                UsdModelReader.read(Stage.open(layer, new LayerCache()), cache).model();
        assertThat(second.meshes()).containsExactlyElementsOf(first.meshes());
    }

    @Test
    void everyTextureFindsItsWayThroughUsd() throws IOException {
        Material painted = RED;
        for (Material.Slot slot : Material.Slot.values()) {
            Path image = folder.resolve(slot.name() + ".png");
            Files.write(image, Png.of(new java.awt.image.BufferedImage(1, 1, 1)));
            painted = painted.with(slot, new Texture(slot.name() + ".png", Optional.of(image)));
        }
        Model model = new Model(
                "Painted",
                List.of(Model.Node.of(
                        "Body", Matrix4.IDENTITY, List.of(new Model.Part(Shapes.block(1, 1, 1), painted)), List.of())),
                Model.Extras.NONE);
        Path file = folder.resolve("painted.usda");
        UsdModelWriter.write(model, file);
        LayerCache layers = new LayerCache();
        Model again = UsdModelReader.read(Stage.open(layers.open(file), layers), new MeshCache())
                .model();
        Map<Material.Slot, Texture> textures =
                again.materials().iterator().next().textures();
        assertThat(textures).hasSize(Material.Slot.values().length);
        textures.forEach((slot, texture) -> {
            assertThat(texture.file()).contains(folder.resolve(slot.name() + ".png"));
            assertThat(texture.name()).isEqualTo("./" + slot.name() + ".png");
        });
        assertThat(layers.open(file)
                        .prim(SdfPath.of("/Painted/Materials/Red/Image_normal"))
                        .orElseThrow()
                        .attribute("inputs:sourceColorSpace")
                        .orElseThrow()
                        .value())
                .contains(new pantry.usd.Value.Token("raw"));
    }

    @Test
    void stlIsFiftyBytesATriangleWithNormalsThatFit() throws IOException {
        Path file = folder.resolve("block.stl");
        ModelWriters.write(
                new Model("Block", List.of(leaf("Block", Shapes.block(1, 1, 1), Matrix4.IDENTITY)), Model.Extras.NONE),
                file);
        ByteBuffer bytes = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
        assertThat(bytes.capacity()).isEqualTo(84 + 12 * 50);
        assertThat(bytes.getInt(80)).isEqualTo(12);
        for (int t = 0; t < 12; t++) {
            int at = 84 + t * 50;
            Vec3 normal = new Vec3(bytes.getFloat(at), bytes.getFloat(at + 4), bytes.getFloat(at + 8));
            assertThat(normal.length()).isCloseTo(1, within(1e-6));
        }
    }

    @Test
    void objNumbersRunThroughTheFileAndNameTheirMaterials() throws IOException {
        Path file = folder.resolve("nested.obj");
        ModelWriters.write(nested(), file);
        List<String> lines = Files.readAllLines(file);
        long points = lines.stream().filter(line -> line.startsWith("v ")).count();
        long highest = lines.stream()
                .filter(line -> line.startsWith("f "))
                .flatMap(line -> java.util.Arrays.stream(line.substring(2).split(" ")))
                .mapToLong(corner -> Long.parseLong(corner.split("/")[0]))
                .max()
                .orElseThrow();
        assertThat(highest).isEqualTo(points);
        assertThat(lines).contains("mtllib nested.mtl", "usemtl Red", "usemtl Grey");
        assertThat(folder.resolve("nested.mtl"))
                .content()
                .contains("newmtl Red")
                .contains("newmtl Grey");
    }

    @Test
    void aTargetThatCannotBeWrittenIsNamedAndNothingIsLeftBehind() throws IOException {
        Path inTheWay = Files.createDirectories(folder.resolve("way.glb/inside"));
        assertThatThrownBy(() -> ModelWriters.write(nested(), inTheWay.getParent()))
                .isInstanceOf(ExchangeException.class)
                .hasMessageContaining("cannot be written");
        assertThatThrownBy(() -> ModelWriters.write(nested(), folder.resolve("a.doc")))
                .hasMessageContaining("known endings");
        try (var files = Files.list(folder)) {
            assertThat(files).containsExactly(folder.resolve("way.glb"));
        }
    }

    @Test
    void factsCountWhatIsThere() {
        Facts facts = Facts.of("nested", nested(), 1, "Y");
        assertThat(facts.meshes()).isEqualTo(4);
        assertThat(facts.materials()).extracting(Facts.MaterialFact::name).containsExactlyInAnyOrder("Red", "Grey");
        assertThat(facts.closed()).isTrue();
        assertThat(facts.parts()).isEqualTo(4);
        assertThat(Facts.of("empty", new Model("Empty", List.of(), Model.Extras.NONE), 0, "")
                        .bounds()
                        .size())
                .isEqualTo(Vec3.ZERO);
    }

    @Test
    void aBodyThatIsSplitByMaterialIsMeasuredAsOne() {
        Mesh block = Shapes.block(2, 3, 4);
        Model.Part top = new Model.Part(block.faces(new int[] {0, 1, 2}), Workshop.RED);
        Model.Part rest = new Model.Part(block.faces(new int[] {3, 4, 5}), Material.PLAIN);
        Model primitives = new Model(
                "Block",
                List.of(Model.Node.of("Block", Matrix4.translation(new Vec3(5, 0, 0)), List.of(top, rest), List.of())),
                Model.Extras.NONE);
        Model siblings = new Model(
                "Block",
                List.of(Model.Node.of(
                        "Block",
                        Matrix4.IDENTITY,
                        List.of(),
                        List.of(
                                Model.Node.of("Top", Matrix4.IDENTITY, List.of(top), List.of()),
                                Model.Node.of("Rest", Matrix4.IDENTITY, List.of(rest), List.of())))),
                Model.Extras.NONE);
        for (Model model : List.of(primitives, siblings)) {
            Measures measures = model.measures();
            assertThat(measures.closed()).isTrue();
            assertThat(measures.volume()).isCloseTo(24, within(1e-9));
            assertThat(measures.parts()).isEqualTo(1);
            assertThat(measures.area()).isCloseTo(52, within(1e-9));
        }
        Model half = new Model(
                "Half", List.of(Model.Node.of("Half", Matrix4.IDENTITY, List.of(top), List.of())), Model.Extras.NONE);
        assertThat(half.measures().closed()).isFalse();
    }
}
