package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.format.SkyImages;
import pantry.exchange.usd.LampReader;
import pantry.exchange.usd.MeshCache;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.mesh.Shapes;
import pantry.model.Fixture;
import pantry.model.Lamp;
import pantry.scene.Scene;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.compose.Stage;

/** Pictures of all that is around become skies that light scenes. */
class SkiesTest extends WithWorkshop {
    private Path image(String name, int width, int height) throws IOException {
        BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < height / 2; y++) {
            for (int x = 0; x < width; x++) {
                image.setRGB(x, y, 0x80A0FF);
            }
        }
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        ImageIO.write(image, "png", file.toFile());
        return file;
    }

    private Asset shelved(Path file) {
        Imported arrival = workshop.intake().read(file, Progress.NONE);
        Slip slip = Intake.suggested(arrival, "Lights", Neighbours.NONE);
        assertThat(slip.kind()).isEqualTo(AssetKind.LIGHT_RIG);
        return workshop.intake()
                .shelve(arrival, slip, library, Progress.NONE)
                .published()
                .asset();
    }

    @ParameterizedTest
    @CsvSource({
        "ridge-sky.png, 64, 32, true",
        "PolarPanorama_2k.png, 64, 32, true",
        "ridge-sky.png, 64, 48, false",
        "ridge.png, 64, 32, false",
        "skyway.png, 64, 32, false",
        "sky_normal.png, 64, 32, false",
    })
    void itIsTwiceAsWideAsHighAndSaysWhatItIs(String name, int width, int height, boolean sky) throws IOException {
        assertThat(SkyImages.isSky(image(name, width, height))).isEqualTo(sky);
    }

    @Test
    void whatIsNoImageIsNoSky() throws IOException {
        assertThat(SkyImages.isSky(Files.writeString(folder.resolve("sky.exr"), "no image")))
                .isFalse();
        assertThat(SkyImages.isSky(folder.resolve("sky.hdr"))).isFalse();
    }

    @Test
    void itsPictureIsKeptAndLightsAScene() throws IOException {
        Asset asset = shelved(image("ridge-sky.png", 64, 32));
        Imported again = workshop.readers().read(asset.entryLayer("v001"), Progress.NONE);
        assertThat(again.holds()).isEqualTo(Imported.Holds.FIXTURES);
        Fixture.Light dome = (Fixture.Light) again.model().extras().fixtures().getFirst();
        assertThat(dome.kind()).isEqualTo(Fixture.Light.Kind.DOME);
        assertThat(dome.picture().orElseThrow().found()).isTrue();
        Scene scene = workshop.newScene(folder.resolve("scene.usda"));
        Workshop.stand(scene, asset, 0);
        assertThat(scene.model().meshes()).isEmpty();
        Lamp.Dome lamp = (Lamp.Dome) scene.lamps(path -> false).getFirst();
        assertThat(lamp.picture().orElseThrow().getFileName()).hasToString("ridge-sky.png");
    }

    /** In a scene with Z up, the picture's upper edge is still above, whichever of the two schemas is used. */
    @ParameterizedTest
    @CsvSource({"DomeLight, 'rotateX', 90", "DomeLight_1, '', 0"})
    void upIsUp(String type, String op, double degrees) throws IOException {
        Path picture = image("sky.png", 64, 32);
        String turned = op.isEmpty()
                ? ""
                : "double xformOp:rotateX = " + degrees + " uniform token[] xformOpOrder = [\"xformOp:rotateX\"]";
        Path file = Files.writeString(folder.resolve("lit.usda"), """
                #usda 1.0
                ( defaultPrim = "Sky" metersPerUnit = 1 upAxis = "Z" )
                def %s "Sky" {
                    asset inputs:texture:file = @%s@
                    %s
                }
                """.formatted(type, picture.getFileName(), turned));
        Scene scene = Scene.open(file, workshop.layers(), new MeshCache());
        Lamp.Dome dome = (Lamp.Dome) scene.lamps(path -> false).getFirst();
        assertThat(dome.picture()).isPresent();
        assertThat(dome.turn().direction(Vec3.UP).unit().y()).isCloseTo(1, within(1e-9));
    }

    @Test
    void picturesThatLieOtherwiseOrMayNotBeReadCountAsWhite() throws IOException {
        image("sky.png", 64, 32);
        for (String said : List.of(
                "asset inputs:texture:file = @sky.png@ token inputs:texture:format = \"mirroredBall\"",
                "asset inputs:texture:file = @/etc/hosts@",
                "asset inputs:texture:file = @@")) {
            Path file = Files.writeString(
                    folder.resolve("lit.usda"),
                    "#usda 1.0\n( defaultPrim = \"Sky\" )\ndef DomeLight \"Sky\" { " + said + " }\n");
            var layers = workshop.layers();
            Stage stage = Stage.open(layers.open(file), layers);
            assertThat(LampReader.read(stage, path -> false))
                    .as(said)
                    .singleElement()
                    .satisfies(lamp -> assertThat(((Lamp.Dome) lamp).picture()).isEmpty());
        }
    }

    /** Images beside models belong to these; a sky does not. */
    @Test
    void besideModelsItIsAnArrivalOfItsOwn() throws IOException {
        image("pack/ridge-sky.png", 64, 32);
        image("pack/planks.png", 64, 32);
        ModelWriters.write(Workshop.model("Block", Shapes.block(1, 1, 1)), folder.resolve("pack/block.obj"));
        assertThat(Listing.of(List.of(folder.resolve("pack")), Progress.NONE).entries())
                .extracting(entry -> entry.file().getFileName().toString())
                .containsExactly("block.obj", "ridge-sky.png");
    }

    @Test
    void byItselfItIsAnImage() throws IOException {
        Imported alone = workshop.readers().readAlone(image("ridge-sky.png", 64, 32), Progress.NONE);
        assertThat(alone.holds()).isEqualTo(Imported.Holds.IMAGE);
    }
}
