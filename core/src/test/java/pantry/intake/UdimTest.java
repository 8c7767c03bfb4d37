package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import pantry.base.Progress;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.exchange.usd.MeshCache;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.VersionStatus;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.model.UdimTiles;
import pantry.render.RenderCache;
import pantry.scene.ImportSource;
import pantry.scene.Prefab;
import pantry.scene.Scene;
import pantry.scene.SceneImport;
import pantry.testing.WithWorkshop;
import pantry.usd.compose.Stage;
import pantry.workpiece.Shelving;
import pantry.workpiece.Workpiece;

/** Images in tiles: tile 1001 + u + 10 v, as UsdPreviewSurface's specification and common practice have it. */
class UdimTest extends WithWorkshop {
    private static final Map<Integer, Integer> COLOURS = Map.of(1001, 0xff0000, 1002, 0x00ff00, 1011, 0x0000ff);

    @BeforeEach
    void images() throws IOException {
        Files.createDirectories(folder.resolve("maps"));
        COLOURS.forEach((number, colour) -> {
            BufferedImage image = new BufferedImage(8, 8, BufferedImage.TYPE_INT_RGB);
            for (int i = 0; i < 64; i++) {
                image.setRGB(i % 8, i / 8, colour);
            }
            try {
                ImageIO.write(
                        image,
                        "png",
                        folder.resolve("maps/hull." + number + ".png").toFile());
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            }
        });
    }

    /** Four squares in a row, on the tiles 1001, 1002, 1011 and 1012, of which the last has no image. */
    private Path hull() throws IOException {
        return Files.writeString(folder.resolve("hull.usda"), """
                #usda 1.0
                ( defaultPrim = "Hull" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Hull" {
                    def Mesh "Plates" ( prepend apiSchemas = ["MaterialBindingAPI"] ) {
                        int[] faceVertexCounts = [4, 4, 4, 4]
                        int[] faceVertexIndices = [0, 1, 6, 5, 1, 2, 7, 6, 2, 3, 8, 7, 3, 4, 9, 8]
                        point3f[] points = [(0, 0, 0), (1, 0, 0), (2, 0, 0), (3, 0, 0), (4, 0, 0),
                            (0, 1, 0), (1, 1, 0), (2, 1, 0), (3, 1, 0), (4, 1, 0)]
                        texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1), (1, 0), (2, 0), (2, 1), (1, 1),
                            (0, 1), (1, 1), (1, 2), (0, 2), (1, 1), (2, 1), (2, 2), (1, 2)]
                            ( interpolation = "faceVarying" )
                        rel material:binding = </Hull/Paint>
                    }
                    def Material "Paint" {
                        token outputs:surface.connect = </Hull/Paint/S.outputs:surface>
                        def Shader "S" {
                            uniform token info:id = "UsdPreviewSurface"
                            color3f inputs:diffuseColor.connect = </Hull/Paint/I.outputs:rgb>
                            token outputs:surface
                        }
                        def Shader "I" {
                            uniform token info:id = "UsdUVTexture"
                            asset inputs:file = @./maps/hull.<UDIM>.png@
                            float3 outputs:rgb
                        }
                    }
                }
                """);
    }

    private Imported read(Path file) {
        return workshop.readers().read(file, Progress.NONE);
    }

    private static List<Model.Part> parts(Model model) {
        return model.roots().stream().flatMap(UdimTest::parts).toList();
    }

    private static Stream<Model.Part> parts(Model.Node node) {
        return Stream.concat(node.parts().stream(), node.children().stream().flatMap(UdimTest::parts));
    }

    /** The colour of each part's image, by the least x of the part's points. */
    private static Map<Integer, Integer> colours(Model model) throws IOException {
        Map<Integer, Integer> colours = new java.util.TreeMap<>();
        for (Model.Part part : parts(model)) {
            Texture image = part.material().texture(Slot.BASE).orElse(null);
            int colour = image == null
                    ? 0
                    : ImageIO.read(image.file().orElseThrow().toFile()).getRGB(4, 4) & 0xffffff;
            colours.put((int) Math.round(part.mesh().bounds().min().x()), colour);
            for (float uv : part.mesh().uvs().orElseThrow().data()) {
                assertThat(uv).isBetween(0f, 1f);
            }
        }
        return colours;
    }

    @Test
    void eachTileHasItsImage() throws IOException {
        Model model = read(hull()).model();
        assertThat(colours(model)).isEqualTo(Map.of(0, 0xff0000, 1, 0x00ff00, 2, 0x0000ff, 3, 0));
        assertThat(model.textures())
                .allSatisfy(texture -> assertThat(texture.found()).isTrue());
        Model again = read(hull()).model();
        assertThat(parts(UdimTiles.split(again))).as("split once").hasSize(4);
    }

    @ParameterizedTest
    @EnumSource(
            value = PartsMode.class,
            names = {"KEEP", "SINGLE"})
    void aVersionHasAllTiles(PartsMode mode) throws IOException {
        Imported arrival = read(hull());
        assertThat(Intake.missing(arrival)).isEmpty();
        Slip slip = Intake.suggested(arrival, "Hulls", Neighbours.NONE).withParts(mode);
        Asset asset = workshop.intake()
                .shelve(arrival, slip, library, Progress.NONE)
                .published()
                .asset();
        Model sealed = read(asset.entryLayer("v001")).model();
        assertThat(colours(sealed)).isEqualTo(Map.of(0, 0xff0000, 1, 0x00ff00, 2, 0x0000ff, 3, 0));
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
    }

    /** A material by itself goes along with all its tiles, whichever of them is shown. */
    @Test
    void aPackageOfAModelHasAllTilesOfAnImage() throws IOException {
        Texture all =
                Texture.of("maps/hull.<UDIM>.png", Texture.Sampling.USUAL, name -> Optional.of(folder.resolve(name))
                        .filter(Files::exists));
        Material paint = Material.plain("Paint", Colour.WHITE, 0, 1).with(Slot.BASE, all);
        Path file = folder.resolve("ball.usdz");
        ModelWriters.write(Samples.balls("Ball", List.of(paint)), file);
        var layers = workshop.layers();
        Stage stage = Stage.open(layers.open(file), layers);
        var images = stage.prims()
                .flatMap(prim -> prim.attribute("inputs:file").stream())
                .toList();
        assertThat(images).hasSize(1);
        for (int number : COLOURS.keySet()) {
            assertThat(images.getFirst().image("./hull." + number + ".png"))
                    .as("tile " + number)
                    .isPresent();
        }
    }

    @Test
    void glTfHasAMaterialForEachTile() throws IOException {
        Path file = folder.resolve("hull.glb");
        ModelWriters.write(read(hull()).model(), file);
        assertThat(colours(read(file).model())).isEqualTo(Map.of(0, 0xff0000, 1, 0x00ff00, 2, 0x0000ff, 3, 0));
    }

    /** What is shown on a ball, which is on the first tile, keeps the others for whoever wears it. */
    @Test
    void aMaterialKeepsTilesThatItsBallDoesNotShow() throws IOException {
        Path file = Files.writeString(folder.resolve("hull.mtlx"), """
                <materialx version="1.39">
                  <image name="map" type="color3"><input name="file" type="filename" value="maps/hull.<UDIM>.png"/></image>
                  <standard_surface name="S" type="surfaceshader">
                    <input name="base_color" type="color3" nodename="map"/>
                  </standard_surface>
                  <surfacematerial name="Hull paint" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="S"/>
                  </surfacematerial>
                </materialx>
                """.replace("<UDIM>", "&lt;UDIM&gt;"));
        Imported arrival = read(file);
        Slip slip = Intake.suggested(arrival, "Materials", Neighbours.NONE);
        Asset asset = workshop.intake()
                .shelve(arrival, slip, library, Progress.NONE)
                .published()
                .asset();
        Material sealed =
                read(asset.entryLayer("v001")).model().materials().iterator().next();
        assertThat(sealed.texture(Slot.BASE).orElseThrow().tiles()).containsOnlyKeys(1001, 1002, 1011);
        Path out = folder.resolve("out/hull.usda");
        Files.createDirectories(out.getParent());
        ModelWriters.write(read(asset.entryLayer("v001")).model(), out);
        assertThat(read(out)
                        .model()
                        .materials()
                        .iterator()
                        .next()
                        .texture(Slot.BASE)
                        .orElseThrow()
                        .tiles())
                .containsOnlyKeys(1001, 1002, 1011);
    }

    /** A next version from a working copy, what is imported into a scene, and what is made of that, have all tiles too. */
    @Test
    void tilesGoAlongWhereverTheirMaterialGoes() throws IOException {
        Map<Integer, Integer> expected = Map.of(0, 0xff0000, 1, 0x00ff00, 2, 0x0000ff, 3, 0);
        Imported arrival = read(hull());
        Asset asset = workshop.intake()
                .shelve(arrival, Intake.suggested(arrival, "Hulls", Neighbours.NONE), library, Progress.NONE)
                .published()
                .asset();
        Workpiece.Sources sources = new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache());
        Workpiece piece = Workpiece.of(new Workpiece.Shelved(library, asset, "v001"), sources);
        Shelving.publish(piece, VersionStatus.READY, "again", new RenderCache(), Progress.NONE);
        assertThat(colours(read(asset.entryLayer("v002")).model())).isEqualTo(expected);

        Path file = Files.createDirectories(folder.resolve("project")).resolve("scene.usda");
        Scene scene = workshop.newScene(file);
        ImportSource source = ImportSource.of(hull(), ImportSource.Links.COPIED, sources, Progress.NONE);
        SceneImport.bring(scene, source, Set.of(), SceneImport.Options.named("Hull"));
        scene.save();
        assertThat(colours(workshop.openScene(file).model())).isEqualTo(expected);
        assertThat(file.resolveSibling("textures/hull.1011.png")).exists();

        Asset prefab = new Prefab(scene, workshop.layers(), List.of(scene.root()), library, new RenderCache())
                .shelve("Plates", AssetKind.PREFAB, "Hulls", List.of(), Progress.NONE)
                .asset();
        assertThat(colours(read(prefab.entryLayer("v001")).model()).values())
                .containsExactlyInAnyOrderElementsOf(expected.values());
    }

    @Test
    void whatIsNoImageIsNoTile() throws IOException {
        Files.writeString(folder.resolve("maps/hull.1003.png"), "no image");
        Imported arrival = read(hull());
        assertThat(arrival.refused()).hasSize(1);
        assertThat(arrival.refused().getFirst().line()).contains("hull.1003.png");
    }

    @Test
    void withoutAnyTileTheImageIsMissingByItsName() throws IOException {
        for (int number : COLOURS.keySet()) {
            Files.delete(folder.resolve("maps/hull." + number + ".png"));
        }
        assertThat(Intake.missing(read(hull()))).containsExactly("./maps/hull.<UDIM>.png");
    }
}
