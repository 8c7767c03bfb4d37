package pantry.usd.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.model.Texture;
import pantry.testing.TinyUsdz;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/** Images in tiles go along whole, under names that still differ only in their numbers. */
class PackagedTilesTest {
    @TempDir
    private Path folder;

    private Path layer;
    private final List<String> told = new ArrayList<>();

    @BeforeEach
    void write() throws IOException {
        for (String image : List.of("wood/hull.1001", "wood/hull.1002", "wood/hull.1012", "rust/hull.1001")) {
            image(image + ".png", "png");
        }
        layer = Files.writeString(folder.resolve("hull.usda"), """
                #usda 1.0
                ( defaultPrim = "Hull" )
                def Scope "Hull" {
                    def Shader "Wood" { asset inputs:file = @./wood/hull.<UDIM>.png@ }
                    def Shader "Again" { asset inputs:file = @./wood/hull.<UDIM>.png@ }
                    def Shader "Rust" { asset inputs:file = @./rust/hull.<UDIM>.png@ }
                }
                """);
    }

    private void image(String name, String format) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        ImageIO.write(new BufferedImage(2, 2, BufferedImage.TYPE_INT_RGB), format, file.toFile());
    }

    /** The numbers of the tiles that a prim's image has. */
    private static TreeSet<Integer> tiles(Stage stage, String name) {
        Prim prim = stage.prim(SdfPath.of("/Hull/" + name)).orElseThrow();
        var file = prim.attribute("inputs:file").orElseThrow();
        String written = ((pantry.usd.Value.Asset) file.value().orElseThrow()).path();
        return new TreeSet<>(
                Texture.of(written, Texture.Sampling.USUAL, file::image).tiles().keySet());
    }

    private static Stage stage(Path file) {
        LayerCache layers = new LayerCache();
        return Stage.open(layers.open(file), layers);
    }

    private void allAreThere(Path packed) {
        Stage stage = stage(packed);
        assertThat(tiles(stage, "Wood")).containsExactly(1001, 1002, 1012);
        assertThat(tiles(stage, "Again")).containsExactly(1001, 1002, 1012);
        assertThat(tiles(stage, "Rust")).containsExactly(1001);
        assertThat(told).isEmpty();
    }

    @Test
    void aPackageHoldsEachTileOnce() {
        LayerCache layers = new LayerCache();
        Path packed = folder.resolve("hull.usdz");
        int files = UsdPackager.write(layers.open(layer), layers, packed, Optional.of(told::add));
        assertThat(files).isEqualTo(5);
        allAreThere(packed);
        assertThat(TinyUsdz.read(List.of(packed)).getFirst())
                .as("it is a package for others too")
                .containsKey("/Hull/Wood");
    }

    @Test
    void aFolderHoldsThemToo() {
        LayerCache layers = new LayerCache();
        Path packed = folder.resolve("packed");
        UsdPackager.writeFolder(layers.open(layer), layers, packed, Optional.of(told::add));
        allAreThere(packed.resolve("hull.usdc"));
    }

    @Test
    void tilesOfAKindThatPackagesDoNotHoldBecomeSuchOfOneThatTheyDo() throws IOException {
        for (String name : List.of("wood/hull.1001", "wood/hull.1002", "wood/hull.1012", "rust/hull.1001")) {
            Files.delete(folder.resolve(name + ".png"));
            image(name + ".bmp", "bmp");
        }
        Files.writeString(layer, Files.readString(layer).replace(".png", ".bmp"));
        LayerCache layers = new LayerCache();
        Path packed = folder.resolve("hull.usdz");
        UsdPackager.write(layers.open(layer), layers, packed, Optional.of(told::add));
        assertThat(tiles(stage(packed), "Wood")).containsExactly(1001, 1002, 1012);
        assertThat(told).hasSize(4).allSatisfy(line -> assertThat(line).contains("is a PNG in the package"));
    }

    @Test
    void whereNoTileIsThereTheImageIsMissing() throws IOException {
        Files.delete(folder.resolve("rust/hull.1001.png"));
        LayerCache layers = new LayerCache();
        UsdPackager.write(layers.open(layer), layers, folder.resolve("hull.usdz"), Optional.of(told::add));
        assertThat(told).singleElement().asString().startsWith("./rust/hull.<UDIM>.png: ");
    }
}
