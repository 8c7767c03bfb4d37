package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.Json;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;
import pantry.usd.text.UsdaWriter;

/** The commands that look into layers and carry them to other formats. */
class LayerCommandsTest {
    @TempDir
    private Path folder;

    private Shell shell;

    @BeforeEach
    void start() throws IOException {
        shell = new Shell(folder);
        Files.createDirectories(folder.resolve("parts"));
        write("parts/mast.usda", """
                (defaultPrim="Mast")
                def Xform "Mast" (variantSets="size" variants={string size="tall"}) {
                    int height = 9
                    asset image = @./paint.png@
                    variantSet "size" = { "tall" { int height = 12 int steps = 40 } }
                }
                """);
        Files.write(folder.resolve("parts/paint.png"), new byte[] {1, 2, 3});
        write("yard.usda", """
                (defaultPrim="Yard")
                def Xform "Yard" (kind="assembly") {
                    def Xform "One" (instanceable=true references=@parts/mast.usda@) {}
                    def Xform "Two" (references=@parts/mast.usda@) { int height = 15 }
                    def Xform "Lost" (references=@parts/none.usda@) {}
                }
                """);
    }

    @AfterEach
    void stop() {
        shell.close();
    }

    private void write(String name, String text) throws IOException {
        Files.writeString(folder.resolve(name), "#usda 1.0\n" + text);
    }

    private String path(String name) {
        return folder.resolve(name).toString();
    }

    private Map<?, ?> json(String... arguments) {
        assertThat(shell.run(arguments)).as(shell.said()).isZero();
        return Json.read(shell.printed(), "output", Map.class);
    }

    private static List<?> list(Map<?, ?> map, String field) {
        return (List<?>) map.get(field);
    }

    private static Map<?, ?> map(List<?> list, int index) {
        return (Map<?, ?>) list.get(index);
    }

    private static String arc(Object entry) {
        return String.valueOf(((Map<?, ?>) entry).get("arc"));
    }

    @Test
    void aValueIsExplainedLayerByLayer() {
        Map<?, ?> told = json("explain", path("yard.usda"), "/Yard/Two.height", "--json");
        assertThat(told.get("value")).isEqualTo("15");
        assertThat(told.get("what")).isEqualTo("attribute");
        assertThat(list(told, "opinions").stream().map(LayerCommandsTest::arc))
                .containsExactly("root", "reference", "variant");
        Map<?, ?> weakest = map(list(told, "opinions"), 2);
        assertThat(weakest.get("path")).isEqualTo("/Mast{size=tall}.height");
        assertThat(weakest.get("says")).isEqualTo("int height = 12");
        assertThat(String.valueOf(weakest.get("layer"))).endsWith("mast.usda");
        assertThat(shell.run("explain", path("yard.usda"), "/Yard/Two")).isZero();
        assertThat(shell.printed()).contains("def Xform", "references = @parts/mast.usda@");
    }

    @Test
    void whatIsNotThereIsNotExplained() {
        assertThat(shell.run("explain", path("yard.usda"), "/Yard/Two.width")).isEqualTo(1);
        assertThat(shell.said()).contains("yard.usda", "</Yard/Two.width>");
        assertThat(shell.run("explain", path("yard.usda"), "Yard//Two")).isEqualTo(1);
        assertThat(shell.said()).contains("not an absolute prim or property path");
    }

    @Test
    void theTreeTellsArcsPrototypesAndWhatIsMissing() {
        Map<?, ?> tree = json("tree", path("yard.usda"), "--json");
        Map<?, ?> one = map(list(tree, "prims"), 1);
        assertThat(one.get("instance")).isEqualTo(true);
        assertThat(String.valueOf(one.get("prototype"))).startsWith("/__Prototype");
        assertThat(list(one, "arcs").stream().map(LayerCommandsTest::arc)).containsExactly("reference", "variant");
        assertThat(map(list(tree, "errors"), 0).get("kind")).isEqualTo("missing_layer");
    }

    @ParameterizedTest
    @ValueSource(strings = {"out/yard.usda", "out/yard.usdc", "out/yard.usd"})
    void aConvertedLayerComposesToTheSameFromItsNewPlace(String target) throws IOException {
        Files.createDirectories(folder.resolve("out"));
        json("convert", path("yard.usda"), "--to", path(target), "--json");
        assertThat(flat(target)).isEqualTo(flat("yard.usda"));
    }

    private String flat(String file) {
        LayerCache layers = new LayerCache();
        Stage stage = Stage.open(layers.open(folder.resolve(file)), layers);
        return UsdaWriter.write(Flattener.flatten(stage, Flattener.Instances.EXPANDED, folder.resolve("flat.usda")));
    }

    @Test
    void aPackageTakesAlongWhatTheLayerNames() {
        json("convert", path("parts/mast.usda"), "--to", path("mast.usdz"), "--json");
        assertThat(json("explain", path("mast.usdz"), "/Mast.height", "--json").get("value"))
                .isEqualTo("9");
        assertThat(shell.run("convert", path("yard.usda"), "--to", path("yard.usdz")))
                .isEqualTo(1);
        assertThat(shell.said()).contains("none.usda");
        assertThat(folder.resolve("yard.usdz")).doesNotExist();
    }

    @Test
    void aSceneIsFlattenedIntoAnyFormat() {
        for (String name : List.of("flat.usdc", "flat.usdz")) {
            json("flatten", path("yard.usda"), "--out", path(name), "--json");
            assertThat(json("explain", path(name), "/Yard/Two.height", "--json").get("value"))
                    .isEqualTo("15");
        }
        assertThat(LayerFiles.read(folder.resolve("flat.usdc")).defaultPrim()).contains("Yard");
        assertThat(shell.run("convert", path("yard.usda"), "--to", path("yard.txt")))
                .isEqualTo(1);
        assertThat(shell.said()).contains(".usda, .usdc, .usd or .usdz");
    }
}
