package pantry.usd.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.UsdModelWriter;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.testing.Oracle;
import pantry.testing.TinyUsdz;
import pantry.usd.Layer;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

/** What Pantry writes, read by tinyusdz 0.9.0-rc10 and by three 0.187, which Pantry's authors did not write. */
@Tag("oracle")
class OutsideFormatsTest {
    @TempDir
    private Path folder;

    private Layer values;

    @BeforeEach
    void readValues() {
        values = UsdaReader.parse("""
                #usda 1.0
                (
                    defaultPrim = "World"
                    metersPerUnit = 1
                    upAxis = "Y"
                )
                def Xform "World" (kind = "assembly")
                {
                    bool flag = true
                    int whole = -5
                    uint unsigned = 7
                    uint64 longer = 18000000000000000000
                    half h = 0.5
                    float f = 1.25
                    double d = 3.141592653589793
                    string words = "a \\"quoted\\" word"
                    token name = "render"
                    asset image = @./paint.png@
                    float2 f2 = (1, 2)
                    double3 d3 = (1, 2, 3)
                    color3f colour = (0.25, 0.5, 0.75)
                    quatf turn = (1, 0, 0, 0)
                    matrix4d place = ((1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 0), (4, 5, 6, 1))
                    int[] numbers = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18]
                    float[] weights = [0.5, 0.25, 0.125]
                    double[] doubles = [1.5, 2.5]
                    point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0)]
                    token[] order = ["b", "a"]
                    string[] texts = ["x", "y"]
                    bool[] flags = [true, false]
                    quatf[] turns = [(1, 0, 0, 0), (0, 1, 0, 0)]
                    int[] none = []
                    double moving.timeSamples = { 1: 10, 2: 20 }
                    rel target = </World/Child>
                    float connected.connect = </World/Child.out>

                    def Mesh "Child"
                    {
                        float out = 2
                    }
                }
                """);
    }

    @Test
    void tinyusdzReadsTheSameFromEveryFormat() {
        List<Path> files = List.of(folder.resolve("a.usda"), folder.resolve("a.usdc"), folder.resolve("a.usd"));
        files.forEach(file -> LayerFiles.write(values, file));
        Map<String, String> ours = TinyUsdz.facts(values);
        List<Map<String, String>> theirs = TinyUsdz.read(files);
        assertThat(theirs).hasSize(3);
        for (Map<String, String> each : theirs) {
            assertThat(each).isEqualTo(ours);
        }
    }

    @Test
    void whatWasWrittenReadsBackEqual() {
        for (String name : List.of("a.usda", "a.usdc", "a.usd")) {
            LayerFiles.write(values, folder.resolve(name));
            assertThat(LayerFiles.read(folder.resolve(name)).sameAs(values))
                    .as(name)
                    .isTrue();
        }
        assertThat(UsdaWriter.write(LayerFiles.read(folder.resolve("a.usdc")))).isEqualTo(UsdaWriter.write(values));
    }

    private static Model model() {
        Material red = Material.plain("Red", new Colour(1, 0, 0), 0, 1);
        return new Model(
                "Yard",
                List.of(
                        Model.Node.of(
                                "Ball",
                                Matrix4.IDENTITY,
                                List.of(new Model.Part(Shapes.sphere(1, 24, 12), red)),
                                List.of()),
                        Model.Node.of(
                                "Block",
                                Matrix4.translation(new Vec3(5, 0, 0)),
                                List.of(new Model.Part(Shapes.block(1, 4, 1), red)),
                                List.of())),
                Model.Extras.NONE);
    }

    private record ThreeMesh(String name, long triangles, double[] min, double[] max) {}

    private record ThreeReport(List<ThreeMesh> meshes) {}

    @Test
    void threeReadsTheMeshesOfLayersAndPackages() {
        for (String name : List.of("yard.usda", "yard.usdc", "yard.usdz")) {
            Path file = folder.resolve(name);
            UsdModelWriter.write(model(), file);
            ThreeReport report = Json.read(Oracle.run("read-three.mjs", file.toString()), "report", ThreeReport.class);
            assertThat(report.meshes()).as(name).hasSize(2);
            assertThat(report.meshes().stream().mapToLong(ThreeMesh::triangles).sum())
                    .as(name)
                    .isEqualTo(model().trianglesDrawn());
            double[] max = {-1e9, -1e9, -1e9};
            report.meshes().forEach(mesh -> {
                for (int axis = 0; axis < 3; axis++) {
                    max[axis] = Math.max(max[axis], mesh.max()[axis]);
                }
            });
            for (int axis = 0; axis < 3; axis++) {
                assertThat(max[axis]).as(name).isCloseTo(model().bounds().max().get(axis), within(1e-5));
            }
        }
    }

    @Test
    void tinyusdzReadsPackages() {
        Path file = folder.resolve("yard.usdz");
        UsdModelWriter.write(model(), file);
        Layer inside = UsdPackage.open(file).layer(UsdPackage.open(file).firstLayer());
        assertThat(TinyUsdz.read(List.of(file))).singleElement().isEqualTo(TinyUsdz.facts(inside));
    }
}
