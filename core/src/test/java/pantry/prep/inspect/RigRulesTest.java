package pantry.prep.inspect;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.exchange.usd.MeshCache;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.prep.Made;
import pantry.testing.WithWorkshop;
import pantry.workpiece.Workpiece;

/** Lights and cameras are left over in a model, and not in a rig, which is there for them. */
class RigRulesTest extends WithWorkshop {
    private static final String POST = "def Cylinder \"Post\" { double height = 2 double radius = 0.05 }";

    private List<String> rules(Path file, AssetKind kind) {
        Imported arrival = workshop.intake().read(file, Progress.NONE);
        var slip = Intake.suggested(arrival, "Lights", Neighbours.NONE).withKind(kind);
        Asset asset = workshop.intake()
                .shelve(
                        arrival,
                        slip.withMaking(slip.making()
                                .keeping(pantry.intake.Carried.Kind.LIGHTS, true)
                                .keeping(pantry.intake.Carried.Kind.CAMERAS, true)),
                        library,
                        Progress.NONE)
                .published()
                .asset();
        Workpiece.Sources sources = new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache());
        Workpiece piece = Workpiece.of(new Workpiece.Shelved(library, asset, "v001"), sources);
        return Made.rules(Made.inspect(piece));
    }

    private Path lamps(String more) throws IOException {
        return Files.writeString(folder.resolve("lamps.usda"), """
                #usda 1.0
                ( defaultPrim = "Lamps" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Lamps" {
                    def SphereLight "Lamp" {}
                    def DomeLight "Sky" {}
                    def Camera "View" {}
                    %s
                }
                """.formatted(more));
    }

    @Test
    void aRigIsThereForItsLights() throws IOException {
        assertThat(rules(lamps(POST), AssetKind.LIGHT_RIG)).doesNotContain("light", "sky", "camera");
    }

    @Test
    void whatShowsNothingElseIsThereForThemWhateverItIsCalled() throws IOException {
        assertThat(rules(lamps(""), AssetKind.MODEL)).doesNotContain("light", "sky", "camera");
    }

    @Test
    void inAModelTheyAreLeftOver() throws IOException {
        assertThat(rules(lamps(POST), AssetKind.MODEL)).contains("light", "sky", "camera");
    }

    @Test
    void thePictureOfASkyIsNothingToBePutRight() throws IOException {
        BufferedImage picture = new BufferedImage(64, 32, BufferedImage.TYPE_INT_ARGB);
        for (int i = 0; i < 64 * 32; i++) {
            picture.setRGB(i % 64, i / 64, 0xff6080a0);
        }
        Path sky = folder.resolve("ridge-sky.exr");
        // What it is is told by its first bytes, and what it holds by its ending.
        ImageIO.write(picture, "png", sky.toFile());
        assertThat(rules(sky, AssetKind.LIGHT_RIG))
                .doesNotContain("light", "sky", "colour-space", "unused-channel", "unused-file");
    }
}
