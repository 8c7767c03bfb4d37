package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Material;
import pantry.model.Model;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** What a USD file has besides surfaces is still there when it is shelved. */
class KeptStructureTest extends WithWorkshop {
    private static final String MESH = """
                def Mesh "Shape"
                {
                    int[] faceVertexCounts = [4, 4]
                    int[] faceVertexIndices = [0, 1, 2, 3, 3, 2, 1, 0]
                    point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0.5), (0, 1, 0)]
                }
            """;

    private static String rack(String head, String transform) {
        return """
                #usda 1.0
                (
                    defaultPrim = "Rack"
                %s
                )
                def Xform "Rack" (
                    variantSets = "load"
                    variants = { string load = "full" }
                    customData = { string drawn = "by hand" }
                    prepend apiSchemas = ["CollectionAPI:steel"]
                )
                {
                    %s
                    uniform token collection:steel:expansionRule = "expandPrims"
                    rel collection:steel:includes = [</Rack/One>, </Rack/Two>]
                    class Scope "Shapes"
                    {
                        def Xform "Plate"
                        {
                %s
                        }
                    }
                    def Xform "One" (instanceable = true
                        references = </Rack/Shapes/Plate>) {}
                    def Xform "Two" (instanceable = true
                        references = </Rack/Shapes/Plate>)
                    {
                        double3 xformOp:translate = (3, 0, 0)
                        uniform token[] xformOpOrder = ["xformOp:translate"]
                    }
                    def PointInstancer "Many"
                    {
                        point3f[] positions = [(0, 2, 0), (2, 2, 0), (4, 2, 0)]
                        int[] protoIndices = [0, 0, 0]
                        rel prototypes = </Rack/Many/Proto>
                        def Xform "Proto" (references = </Rack/Shapes/Plate>) {}
                    }
                    def Mesh "Light" (prepend apiSchemas = ["PhysicsCollisionAPI"])
                    {
                        uniform token purpose = "proxy"
                        int[] faceVertexCounts = [3]
                        int[] faceVertexIndices = [0, 1, 2]
                        point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
                    }
                    def BasisCurves "Plan"
                    {
                        uniform token purpose = "guide"
                        uniform token type = "linear"
                        int[] curveVertexCounts = [2]
                        point3f[] points = [(0, 0, 0), (1, 0, 0)]
                    }
                    def SphereLight "Lamp" {}
                    variantSet "load" = {
                        "empty" {
                        }
                        "full" {
                            def Xform "Load" (references = </Rack/Shapes/Plate>)
                            {
                                double3 xformOp:translate = (0, 4, 0)
                                uniform token[] xformOpOrder = ["xformOp:translate"]
                            }
                        }
                    }
                }
                """.formatted(head, transform, MESH.indent(12));
    }

    private Asset shelved(Path file) {
        Imported arrival = workshop.readers().read(file, Progress.NONE);
        Slip slip = Intake.suggested(arrival, "Racks", Neighbours.on(workshop.library(), "Racks"));
        return workshop.intake()
                .shelve(arrival, slip, workshop.library(), Progress.NONE)
                .published()
                .asset();
    }

    private Stage stage(Asset asset) {
        LayerCache layers = new LayerCache();
        return Stage.open(layers.open(asset.entryLayer("v001")), layers);
    }

    private static Prim at(Stage stage, String path) {
        return stage.prim(SdfPath.of(path)).orElseThrow(() -> new AssertionError("no <" + path + ">"));
    }

    private void checkKept(Asset asset, String below, Path source) {
        Stage stage = stage(asset);
        assertThat(stage.problems()).isEmpty();
        assertThat(at(stage, below + "/One").isInstance()).isTrue();
        assertThat(at(stage, below + "/Two").prototype())
                .isEqualTo(at(stage, below + "/One").prototype());
        assertThat(at(stage, below + "/Many").typeName()).isEqualTo("PointInstancer");
        assertThat(at(stage, below + "/Many").targets("prototypes")).containsExactly(SdfPath.of(below + "/Many/Proto"));
        assertThat(at(stage, below + "/Shapes").isAbstract()).isTrue();
        assertThat(at(stage, below + "/Plan").typeName()).isEqualTo("BasisCurves");
        assertThat(at(stage, below + "/Light").text("purpose").or(() -> Optional.of("")))
                .isPresent();
        assertThat(at(stage, below).variantSets()).containsKey("load");
        assertThat(at(stage, below).targets("collection:steel:includes"))
                .containsExactly(SdfPath.of(below + "/One"), SdfPath.of(below + "/Two"));
        assertThat(at(stage, below).metadata("customData").toString()).contains("by hand");
        assertThat(at(stage, below + "/Lamp").isActive())
                .as("a lamp is not wanted")
                .isFalse();
        Model before = workshop.readers().read(source, Progress.NONE).model();
        Model after =
                workshop.readers().read(asset.entryLayer("v001"), Progress.NONE).model();
        assertThat(after.trianglesDrawn()).isEqualTo(before.trianglesDrawn()).isEqualTo(6 * 4);
        assertThat(stored(after)).isEqualTo(stored(before)).isEqualTo(4);
        assertThat(workshop.library().verify(Progress.NONE).problems()).isEmpty();
    }

    private static long stored(Model model) {
        Set<Mesh> meshes = Collections.newSetFromMap(new IdentityHashMap<>());
        model.visit((owner, part, world) -> meshes.add(part.mesh()));
        return meshes.stream().mapToLong(Mesh::triangleCount).sum();
    }

    @Test
    void inMetresTheFileIsTakenAsItIs() throws IOException {
        Path file =
                Files.writeString(folder.resolve("rack.usda"), rack("    metersPerUnit = 1\n    upAxis = \"Y\"", ""));
        checkKept(shelved(file), "/Rack", file);
    }

    @Test
    void inOtherUnitsAndAxesItIsTurnedAndSizedAsAWhole() throws IOException {
        Path file = Files.writeString(
                folder.resolve("rack.usda"), rack("    metersPerUnit = 0.01\n    upAxis = \"Z\"", ""));
        Imported arrival = workshop.readers().read(file, Progress.NONE);
        Slip slip = Slip.plain("Rack", AssetKind.MODEL, "Racks", 0.01, Axis.Z).withPivot(Pivot.BASE);
        Asset asset = workshop.intake()
                .shelve(arrival, slip, workshop.library(), Progress.NONE)
                .published()
                .asset();
        checkKept(asset, "/Rack/rack/Rack", file);
        Model after =
                workshop.readers().read(asset.entryLayer("v001"), Progress.NONE).model();
        assertThat(after.bounds().size().x()).isCloseTo(0.05, within(1e-6));
        assertThat(after.bounds().min().y()).isCloseTo(0, within(1e-6));
        assertThat(after.bounds().centre().x()).isCloseTo(0, within(1e-6));
    }

    @Test
    void layersThatItIsMadeOfComeAlong() throws IOException {
        Path parts = Files.createDirectories(folder.resolve("parts"));
        Files.writeString(parts.resolve("rack.usda"), rack("    metersPerUnit = 1\n    upAxis = \"Y\"", ""));
        Path file = Files.writeString(folder.resolve("two.usda"), """
                #usda 1.0
                (
                    defaultPrim = "Two"
                    metersPerUnit = 1
                    upAxis = "Y"
                )
                def Xform "Two"
                {
                    def "Left" (references = @parts/rack.usda@) {}
                    def "Right" (references = @parts/rack.usda@
                        variants = { string load = "empty" })
                    {
                        double3 xformOp:translate = (10, 0, 0)
                        uniform token[] xformOpOrder = ["xformOp:translate"]
                    }
                }
                """);
        Asset asset = shelved(file);
        Files.delete(parts.resolve("rack.usda"));
        Stage stage = stage(asset);
        assertThat(stage.problems()).isEmpty();
        assertThat(at(stage, "/Two/Right").variantSelection("load")).contains("empty");
        assertThat(at(stage, "/Two/Left").variantSets()).containsKey("load");
        assertThat(asset.data("v001").resolve("layers/rack.usdc")).exists();
        assertThat(workshop.library().verify(Progress.NONE).problems()).isEmpty();
    }

    @Test
    void choicesThatTakeSurfacesOnlySaySo() throws IOException {
        Path file =
                Files.writeString(folder.resolve("rack.usda"), rack("    metersPerUnit = 1\n    upAxis = \"Y\"", ""));
        Imported arrival = workshop.readers().read(file, Progress.NONE);
        Slip slip = Intake.suggested(arrival, "", Neighbours.NONE);
        assertThat(Intake.lostStructure(ArrivalSummary.of(arrival), slip)).isEmpty();
        assertThat(Intake.lostStructure(ArrivalSummary.of(arrival), slip.withParts(PartsMode.SINGLE)))
                .hasValueSatisfying(told -> assertThat(told).contains("instances"));
    }

    private static final Mesh BALL = Shapes.sphere(0.5, 8, 4);

    private static Model.Node ball(String name) {
        return Model.Node.of(name, Matrix4.IDENTITY, List.of(new Model.Part(BALL, Workshop.RED)), List.of());
    }

    @Test
    void meshesThatOtherFormatsShareStayShared() throws IOException {
        Mesh block = Shapes.block(1, 1, 1);
        Model.Part part = new Model.Part(block, Workshop.RED);
        Model model = new Model(
                "Wall",
                List.of(
                        Model.Node.of("Left", Matrix4.IDENTITY, List.of(part), List.of()),
                        Model.Node.of("Right", Matrix4.translation(new Vec3(2, 0, 0)), List.of(part), List.of()),
                        Model.Node.of("Cap", Matrix4.translation(new Vec3(0, 2, 0)), List.of(), List.of(ball("Left"))),
                        Model.Node.of("Top", Matrix4.translation(new Vec3(2, 2, 0)), List.of(), List.of(ball("Left")))),
                Model.Extras.NONE);
        Path file = folder.resolve("wall.glb");
        ModelWriters.write(model, file);
        Asset asset = shelved(file);
        Model after =
                workshop.readers().read(asset.entryLayer("v001"), Progress.NONE).model();
        assertThat(after.trianglesDrawn()).isEqualTo(24 + 2 * BALL.triangleCount());
        assertThat(stored(after)).isEqualTo(12 + BALL.triangleCount());
        assertThat(after.materials()).extracting(Material::name).containsExactly("Red");
        Layer geometry = LayerFiles.read(asset.data("v001").resolve(asset.slug() + ".geom.usdc"));
        assertThat(geometry.prim(SdfPath.of("/" + asset.card().name() + "/Shapes")))
                .isPresent();
    }
}
