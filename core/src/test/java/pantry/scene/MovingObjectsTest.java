package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Motion;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;

/**
 * Objects of USD whose transforms have time samples: a rotor two metres up that turns once in two seconds, with a blade two
 * metres long; a lift on a post that rises by three metres. What is expected follows from the figures of the file.
 */
class MovingObjectsTest extends WithWorkshop {
    private static final String MILL = """
            #usda 1.0
            ( defaultPrim = "Mill" metersPerUnit = 1 upAxis = "Y" timeCodesPerSecond = 24 startTimeCode = 0 endTimeCode = 48 )
            def Xform "Mill" {
                def Xform "Rotor" {
                    float xformOp:rotateZ.timeSamples = { 0: 0, 48: 360 }
                    double3 xformOp:translate = (0, 2, 0)
                    uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateZ"]
                    def Cube "Blade" {
                        double size = 1
                        float3 xformOp:scale = (2, 0.2, 0.1)
                        uniform token[] xformOpOrder = ["xformOp:scale"]
                    }
                }
                def Cube "Lift" {
                    double size = 0.1
                    double3 xformOp:translate.timeSamples = { 0: (5, 0, 0), 24: (5, 3, 0) }
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                }
            }
            """;

    private Path mill() throws IOException {
        return Files.writeString(folder.resolve("mill.usda"), MILL);
    }

    /** The box around what stands left of x = 3, the blade, or right of it, the lift. */
    private static Box3 box(Model model, boolean lift, double from) {
        Box3[] box = {Box3.EMPTY};
        model.visit((owner, part, world) -> {
            Box3 own = part.mesh().transformed(world).bounds();
            if (own.centre().x() - from > 3 == lift && Math.abs(own.centre().x() - from) < 9) {
                box[0] = box[0].union(own);
            }
        });
        return box[0];
    }

    private static Posing posing(Imported read) {
        return Posing.of(read.model()).orElseThrow();
    }

    private static void check(Model at, double seconds, double from) {
        double turned = Math.toRadians(180 * seconds);
        double half = Math.abs(Math.sin(turned)) + 0.1 * Math.abs(Math.cos(turned));
        assertThat(box(at, false, from).max().y()).isCloseTo(2 + half, within(2e-3));
        assertThat(box(at, true, from).min().y()).isCloseTo(3 * Math.min(1, seconds) - 0.05, within(1e-4));
    }

    @Test
    void anArrivalPlaysThemAndItsSealedVersionStillSaysThem() throws IOException {
        Imported arrival = workshop.readers().read(mill(), Progress.NONE);
        Asset asset = workshop.received(mill(), "Wind");
        Imported sealed = workshop.readers().read(asset.entryLayer("v001"), Progress.NONE);
        for (Imported each : List.of(arrival, sealed)) {
            Motion motion = posing(each).skeleton().motions().getFirst();
            assertThat(motion.seconds()).isCloseTo(2, within(1e-6));
            for (double seconds : new double[] {0, 0.3, 0.5, 1, 1.7}) {
                check(posing(each).at(motion, seconds), seconds, 0);
            }
        }
        assertThat(asset.facts("v001").motions()).hasSize(1);
    }

    /** Out to glTF, whose turns go along the shorter arc, it still goes all the way round. */
    @Test
    void theyGoOutToOtherFormats() throws IOException {
        Imported arrival = workshop.readers().read(mill(), Progress.NONE);
        Path glb = folder.resolve("mill.glb");
        ModelWriters.write(arrival.model(), glb);
        Imported again = workshop.readers().read(glb, Progress.NONE);
        Motion motion = posing(again).skeleton().motions().getFirst();
        check(posing(again).at(motion, 0.5), 0.5, 0);
        check(posing(again).at(motion, 1.25), 1.25, 0);
    }

    @Test
    void inASceneEachPlacementMovesInItsOwnTime() throws IOException {
        Asset asset = workshop.received(mill(), "Wind");
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        SdfPath first = Workshop.stand(scene, asset, 0);
        SdfPath second = Workshop.stand(scene, asset, 20);
        PlacedMotions.Playing playing = scene.motions().of(first).orElseThrow();
        assertThat(playing.isByItself()).isTrue();
        assertThat(playing.bound().orElseThrow().seconds()).isCloseTo(2, within(1e-6));
        scene.motions().time(List.of(second), 1, 2);
        SceneMotion motion = SceneMotion.of(scene, scene.model()).orElseThrow();
        assertThat(motion.end()).isCloseTo(2, within(1e-6));
        for (double seconds : new double[] {0, 0.4, 1.25, 2}) {
            check(motion.at(seconds), seconds, 0);
            check(motion.at(seconds), Math.max(0, 2 * (seconds - 1)), 20);
        }
        scene.save();
        Scene again = workshop.openScene(folder.resolve("s.usda"));
        check(SceneMotion.of(again, again.model()).orElseThrow().at(1.25), 0.5, 20);
        assertThatThrownBy(() -> scene.motions().bind(List.of(first), Optional.empty()))
                .isInstanceOf(SceneException.class)
                .hasMessageContaining("cannot move otherwise");
    }

    /** A lamp that goes out after a second and comes on again half a second later; what is unseen takes no room. */
    @Test
    void whatIsNotSeenForAWhileIsGoneMeanwhile() throws IOException {
        Path lamp = Files.writeString(folder.resolve("lamp.usda"), """
                #usda 1.0
                ( defaultPrim = "Lamp" metersPerUnit = 1 upAxis = "Y" timeCodesPerSecond = 24 )
                def Xform "Lamp" {
                    def Cube "Post" { double size = 0.2 }
                    def Cube "Light" {
                        double size = 1
                        double3 xformOp:translate = (0, 3, 0)
                        uniform token[] xformOpOrder = ["xformOp:translate"]
                        token visibility.timeSamples = { 0: "inherited", 24: "invisible", 36: "inherited" }
                    }
                }
                """);
        Imported arrival = workshop.readers().read(lamp, Progress.NONE);
        Motion motion = posing(arrival).skeleton().motions().getFirst();
        Scene scene = workshop.newScene(folder.resolve("s.usda"));
        Workshop.stand(scene, workshop.received(lamp, "Wind"), 0);
        SceneMotion placed = SceneMotion.of(scene, scene.model()).orElseThrow();
        for (double seconds : new double[] {0, 0.9, 1, 1.2, 1.5, 9}) {
            double width = seconds >= 1 && seconds < 1.5 ? 0.2 : 1;
            assertThat(posing(arrival).at(motion, seconds).bounds().size().x())
                    .as("at " + seconds)
                    .isCloseTo(width, within(1e-4));
            assertThat(placed.at(seconds).bounds().size().x()).isCloseTo(width, within(1e-4));
        }
    }

    @Test
    void whatStandsStillHasNoMotion() throws IOException {
        Path still = Files.writeString(
                folder.resolve("still.usda"),
                MILL.replace(".timeSamples = { 0: 0, 48: 360 }", " = 30")
                        .replace(".timeSamples = { 0: (5, 0, 0), 24: (5, 3, 0) }", ".timeSamples = { 0: (5, 0, 0) }"));
        assertThat(workshop.readers()
                        .read(still, Progress.NONE)
                        .model()
                        .extras()
                        .skeleton())
                .isEmpty();
    }
}
