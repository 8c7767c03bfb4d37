package pantry.usd.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/** The asset paths of layers, wherever they stand in these: value clips, dictionaries and metadata of the layer. */
class LayerAssetsTest {
    private static final String WALK = """
            #usda 1.0
            (
                defaultPrim = "Gull"
                customLayerData = {
                    asset notes = @./notes.txt@
                }
            )
            def "Gull" (
                clips = {
                    dictionary default = {
                        string templateAssetPath = "./walk.###.usda"
                        asset manifestAssetPath = @./manifest.usda@
                        string primPath = "/Gull"
                    }
                }
            )
            {
            }
            """;
    private static final String CLIP = "#usda 1.0\ndef \"Gull\" {\n    double height = 1\n}\n";

    @TempDir
    private Path folder;

    private Path walk;

    @BeforeEach
    void write() throws IOException {
        Path deep = Files.createDirectories(folder.resolve("deep"));
        walk = Files.writeString(deep.resolve("walk.usda"), WALK);
        Files.writeString(deep.resolve("notes.txt"), "n");
        for (String clip : List.of("walk.001.usda", "walk.002.usda", "walk.1000.usda", "manifest.usda")) {
            Files.writeString(deep.resolve(clip), CLIP);
        }
        Files.writeString(deep.resolve("walk.x.usda"), CLIP);
    }

    private static Map<String, Value.Dictionary.Entry> clips(Layer layer) {
        Value.Dictionary all = (Value.Dictionary)
                layer.prim(SdfPath.of("/Gull")).orElseThrow().metadata().get("clips");
        return ((Value.Dictionary) all.entries().get("default").value()).entries();
    }

    @Test
    void theFilesThatAPatternStandsForAreAmongThem() {
        assertThat(LayerAssets.of(LayerFiles.read(walk)))
                .containsExactlyInAnyOrder(
                        "./notes.txt", "./manifest.usda", "./walk.001.usda", "./walk.002.usda", "./walk.1000.usda");
    }

    @Test
    void aFlattenedLayerNamesThemFromWhereItIs() {
        LayerCache layers = new LayerCache();
        Stage stage = Stage.open(layers.open(walk), layers);
        Layer flat = Flattener.flatten(stage, Flattener.Instances.EXPANDED, folder.resolve("flat.usda"));
        assertThat(clips(flat).get("templateAssetPath").value()).isEqualTo(new Value.Text("./deep/walk.###.usda"));
        assertThat(clips(flat).get("manifestAssetPath").value()).isEqualTo(new Value.Asset("./deep/manifest.usda"));
        Value.Dictionary data = (Value.Dictionary) flat.metadata().get("customLayerData");
        assertThat(data.entries().get("notes").value()).isEqualTo(new Value.Asset("./deep/notes.txt"));
    }

    @Test
    void aPackedFolderHoldsTheClipsUnderAPatternThatFindsThem() {
        Path packed = folder.resolve("packed");
        LayerCache layers = new LayerCache();
        UsdPackager.writeFolder(layers.open(walk), layers, packed, Optional.of(line -> {
            throw new AssertionError(line);
        }));
        Layer layer = LayerFiles.read(packed.resolve("walk.usdc"));
        assertThat(clips(layer).get("templateAssetPath").value()).isEqualTo(new Value.Text("./walk.###.usdc"));
        assertThat(packed).isDirectoryContaining(file -> file.endsWith("walk.002.usdc"));
        assertThat(packed).isDirectoryContaining(file -> file.endsWith("walk.1000.usdc"));
    }

    @Test
    void aPatternWithoutFilesIsMissingAsAFileWouldBe() throws IOException {
        Files.delete(walk.resolveSibling("walk.001.usda"));
        Files.delete(walk.resolveSibling("walk.002.usda"));
        Files.delete(walk.resolveSibling("walk.1000.usda"));
        List<String> missing = new java.util.ArrayList<>();
        LayerCache layers = new LayerCache();
        UsdPackager.writeFolder(layers.open(walk), layers, folder.resolve("packed"), Optional.of(missing::add));
        assertThat(missing).singleElement().satisfies(line -> assertThat(line).startsWith("./walk.###.usda"));
    }
}
