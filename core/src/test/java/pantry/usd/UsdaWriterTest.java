package pantry.usd;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

/** The written text, to the letter: files are compared and kept by people and version control. */
class UsdaWriterTest {
    @Test
    void aLayerLooksAsPeopleWriteThem() {
        Layer layer = Layer.inMetres(null, "World");
        layer.subLayers().add(new Layer.SubLayer("./below.usda", LayerOffset.NONE));
        PrimSpec world = layer.root().define("Xform", "World");
        world.metadata().put("kind", new Value.Text("assembly"));
        Map<String, Value.Dictionary.Entry> info = new LinkedHashMap<>();
        info.put("name", new Value.Dictionary.Entry("string", new Value.Text("The yard")));
        info.put("odd key", new Value.Dictionary.Entry("int", new Value.Int(3)));
        world.metadata().put("assetInfo", new Value.Dictionary(info));
        PrimSpec mast = world.define("Xform", "Mast");
        mast.setReferences(Reference.to("./mast.usda"), Reference.internal(SdfPath.of("/Shared")));
        mast.setPayloads(new Reference("./heavy.usda", Optional.of(SdfPath.of("/H")), new LayerOffset(2, 1)));
        mast.metadata().put("instanceable", new Value.Bool(true));
        mast.set("double3", "xformOp:translate", new Value.Tuple(1, -0.5, 1e-7));
        mast.set("token[]", "xformOpOrder", new Value.Strings(List.of("xformOp:translate")))
                .setUniform(true);
        mast.relate("material:binding", SdfPath.of("/World/Looks/Red"));
        AttributeSpec level = new AttributeSpec("level", "float");
        level.setCustom(true);
        level.setValue(new Value.Real(2));
        level.timeSamples().put(1.0, new Value.Real(0.5));
        level.metadata().put("doc", new Value.Text("metres"));
        mast.put(level);
        mast.put(new AttributeSpec("inputs:file", "asset")
                .setConnections(ListEdit.explicit(List.of(SdfPath.of("/World/Looks/Red.outputs:file")))));
        PrimSpec tall = mast.variant("size", "tall").contents();
        tall.set("bool", "on", new Value.Bool(true));
        world.add(new PrimSpec(Specifier.OVER, "", "Later"));
        assertThat(UsdaWriter.write(layer)).isEqualTo("""
                        #usda 1.0
                        (
                            defaultPrim = "World"
                            metersPerUnit = 1
                            upAxis = "Y"
                            subLayers = [
                                @./below.usda@
                            ]
                        )

                        def Xform "World" (
                            kind = "assembly"
                            assetInfo = {
                                string name = "The yard"
                                int "odd key" = 3
                            }
                        )
                        {
                            def Xform "Mast" (
                                prepend references = [@./mast.usda@, </Shared>]
                                prepend payload = @./heavy.usda@</H> (offset = 2; scale = 1)
                                instanceable = true
                            )
                            {
                                double3 xformOp:translate = (1, -0.5, 1e-7)
                                uniform token[] xformOpOrder = ["xformOp:translate"]
                                rel material:binding = </World/Looks/Red>
                                custom float level = 2 (
                                    doc = "metres"
                                )
                                custom float level.timeSamples = {
                                    1: 0.5,
                                }
                                asset inputs:file.connect = </World/Looks/Red.outputs:file>
                                variantSet "size" = {
                                    "tall" {
                                        bool on = true
                                    }
                                }
                            }

                            over "Later"
                            {
                            }
                        }
                        """);
    }

    @Test
    void everyListOperationHasItsLine() {
        PrimSpec prim = new PrimSpec(Specifier.DEF, "", "A");
        ListEdit<SdfPath> paths = ListEdit.<SdfPath>none()
                .with(ListEdit.Operation.ADD, List.of(SdfPath.of("/A1")))
                .with(ListEdit.Operation.PREPEND, List.of(SdfPath.of("/P1"), SdfPath.of("/P2")))
                .with(ListEdit.Operation.APPEND, List.of(SdfPath.of("/E1")))
                .with(ListEdit.Operation.DELETE, List.of(SdfPath.of("/D1")))
                .with(ListEdit.Operation.REORDER, List.of(SdfPath.of("/P2"), SdfPath.of("/P1")));
        prim.metadata().put("inherits", new Value.PathEdit(paths));
        prim.setApiSchemas("One");
        prim.metadata().put("variants", new Value.Selections(Map.of("size", "tall")));
        prim.put(new RelationshipSpec("empty").setTargets(ListEdit.explicit(List.of())));
        prim.put(new RelationshipSpec("bare"));
        Layer layer = Layer.anonymous();
        layer.root().add(prim);
        String written = UsdaWriter.write(layer);
        assertThat(written)
                .contains("add inherits = </A1>\n")
                .contains("prepend inherits = [</P1>, </P2>]\n")
                .contains("append inherits = </E1>\n")
                .contains("delete inherits = </D1>\n")
                .contains("reorder inherits = [</P2>, </P1>]\n")
                .contains("prepend apiSchemas = [\"One\"]\n")
                .contains("string size = \"tall\"\n")
                .contains("rel empty = None\n")
                .contains("rel bare\n");
        PrimSpec again = UsdaReader.parse(written).prim(SdfPath.of("/A")).orElseThrow();
        assertThat(again.metadata().get("inherits")).isEqualTo(new Value.PathEdit(paths));
        assertThat(UsdaWriter.write(UsdaReader.parse(written))).isEqualTo(written);
    }

    @ParameterizedTest
    @CsvSource({
        "0,0",
        "-0.0,-0",
        "1,1",
        "0.1,0.1",
        "100000,100000",
        "1e7,1e7",
        "1.5e10,1.5e10",
        "1e-4,1e-4",
        "-2.5e-9,-2.5e-9",
        "0.001,0.001",
        "12345.678,12345.678",
        "Infinity,inf",
        "-Infinity,-inf",
        "NaN,nan",
        "3.4028235e38,3.4028235e38"
    })
    void numbersAreTheShortestThatComeBack(float number, String text) {
        Layer layer = Layer.anonymous();
        PrimSpec prim = layer.root().define("", "A");
        prim.set("float[]", "many", new Value.Floats(new float[] {number}, 1));
        prim.set("float", "one", new Value.Real(number));
        assertThat(UsdaWriter.write(layer))
                .contains("float[] many = [" + text + "]\n")
                .contains("float one = " + text + "\n");
    }

    @Test
    void metadataOfNoStandardFieldIsWrittenAsItLooks() {
        Layer layer = Layer.anonymous();
        layer.metadata().put("odd", new Value.Floats(new float[] {1, 2.5f, -3}, 3));
        assertThat(UsdaWriter.write(layer)).contains("odd = [(1, 2.5, -3)]");
    }

    @Test
    void assetPathsAreRelativeWithForwardSlashes() {
        assertThat(AssetPaths.relative(Path.of("/a/b"), Path.of("/a/b/c.usda"))).isEqualTo("./c.usda");
        assertThat(AssetPaths.relative(Path.of("/a/b"), Path.of("/a/x/c.usda"))).isEqualTo("../x/c.usda");
        Layer layer = new Layer(Path.of("/a/b/main.usda"));
        assertThat(AssetPaths.PLAIN.resolve(layer, "../x/./c.usda").file()).isEqualTo(Path.of("/a/x/c.usda"));
        assertThat(AssetPaths.PLAIN.resolve(layer, "tex\\c.png").file()).isEqualTo(Path.of("/a/b/tex/c.png"));
        assertThat(AssetPaths.PLAIN.resolve(layer, "/abs/c.usda").file()).isEqualTo(Path.of("/abs/c.usda"));
    }

    @Test
    void flatteningKeepsWhatAttributesSayAndMovesAssetPaths() {
        Layer main = UsdaReader.parse("""
                #usda 1.0
                ( customLayerData = { string note = "kept" } )
                class "C" { asset image = @tex/a.png@ token way = "x" }
                def Xform "A" (inherits = </C> variantSets = "s" variants = { string s = "on" }) {
                    uniform token purpose = "render"
                    float[] widths = [1, 2] ( interpolation = "vertex" )
                    int plug.connect = </A/In.out>
                    variantSet "s" = { "on" { int chosen = 1 def "In" { int out = 4 } } "off" {} }
                }
                """);
        Stage stage = Stage.open(main, new LayerCache());
        Layer flat = Flattener.flatten(
                stage, Flattener.Instances.SHARED, Path.of("").toAbsolutePath().resolve("out/flat.usda"));
        String written = UsdaWriter.write(flat);
        assertThat(written)
                .contains("string note = \"kept\"")
                .contains("asset image = @../tex/a.png@")
                .contains("uniform token purpose = \"render\"")
                .contains("interpolation = \"vertex\"")
                .contains("int plug.connect = </A/In.out>")
                .contains("int chosen = 1")
                .contains("class \"C\"")
                .doesNotContain("inherits")
                .doesNotContain("variant");
        assertThat(Stage.open(UsdaReader.parse(written), new LayerCache())
                        .prims()
                        .count())
                .isEqualTo(stage.prims().count());
    }
}
