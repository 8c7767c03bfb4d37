package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Json;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.library.Asset;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Motion;
import pantry.testing.Moving;
import pantry.testing.Oracle;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;

/** A scene with one skeleton of all that moves stands at each moment as the scene does, point by point. */
class RiggedSceneTest extends WithWorkshop {
    /** At frames of 24 in a second, where both say the same; between them one goes along the other's chords. */
    private static final double[] TIMES = {0, 0.25, 0.5, 1, 1.25, 2};

    private static final String MILL = """
            #usda 1.0
            ( defaultPrim = "Mill" metersPerUnit = 1 upAxis = "Y" timeCodesPerSecond = 24 )
            def Xform "Mill" {
                def Xform "Head" {
                    double3 xformOp:translate.timeSamples = { 0: (0, 2, 0), 48: (0, 4, 0) }
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                    def Xform "Rotor" {
                        float xformOp:rotateZ.timeSamples = { 0: 0, 48: 360 }
                        uniform token[] xformOpOrder = ["xformOp:rotateZ"]
                        def Cube "Blade" {
                            double size = 1
                            float3 xformOp:scale = (2, 0.2, 0.1)
                            uniform token[] xformOpOrder = ["xformOp:scale"]
                        }
                    }
                }
                def Cube "Post" { double size = 0.2 }
            }
            """;

    private Scene scene;

    @BeforeEach
    void build() throws IOException {
        Path vaneFile = folder.resolve("vane.glb");
        ModelWriters.write(Moving.vane(), vaneFile);
        Asset vane = workshop.received(vaneFile, "Wind");
        Asset mill = workshop.received(Files.writeString(folder.resolve("mill.usda"), MILL), "Wind");
        scene = workshop.newScene(folder.resolve("s.usda"));
        Workshop.stand(scene, vane, 0);
        SdfPath second = Workshop.stand(scene, vane, 20);
        scene.motions().bind(List.of(second), Optional.of("Gust"));
        scene.motions().time(List.of(second), 0.5, 0.5);
        SdfPath third = Workshop.stand(scene, vane, 40);
        scene.motions().bind(List.of(third), Optional.empty());
        Workshop.stand(scene, mill, 60);
        SdfPath late = Workshop.stand(scene, mill, 80);
        scene.motions().time(List.of(late), 1, 2);
        Workshop.stand(scene, workshop.block("Block", "Blocks", 1), 100);
    }

    private static void check(SceneMotion expected, Model rigged, double error) {
        Posing posing = Posing.of(rigged).orElseThrow();
        Motion motion = posing.skeleton().motions().getFirst();
        assertThat(motion.seconds()).isCloseTo(expected.end() - expected.start(), within(1e-4));
        for (double seconds : TIMES) {
            List<Vec3> found = Moving.points(posing.at(motion, seconds));
            for (Vec3 point : Moving.points(expected.at(seconds))) {
                assertThat(found.stream()
                                .mapToDouble(each -> each.minus(point).length())
                                .min()
                                .orElseThrow())
                        .as("at " + seconds + " s, near x = " + Math.round(point.x()))
                        .isLessThan(error);
            }
        }
    }

    @Test
    void itStandsAsTheSceneDoesAtEachMoment() {
        SceneMotion motion = SceneMotion.of(scene, scene.model()).orElseThrow();
        Model rigged = RiggedScene.of(motion, 24).orElseThrow();
        assertThat(rigged.trianglesDrawn()).isEqualTo(scene.model().trianglesDrawn());
        assertThat(rigged.extras().skeleton().orElseThrow().joints()).hasSize(3 * 2 + 2 * 2);
        check(motion, rigged, 1e-3);
    }

    /** glTF knows no placements with a time of their own. */
    @Test
    void itGoesOutToGltfSo() {
        SceneMotion motion = SceneMotion.of(scene, scene.model()).orElseThrow();
        Path glb = folder.resolve("s.glb");
        ModelWriters.write(RiggedScene.of(motion, 24).orElseThrow(), glb);
        check(motion, workshop.readers().read(glb, Progress.NONE).model(), 1e-3);
    }

    /** What three tells of a glTF file: where points come to at each time. */
    record Posed(List<List<Double>> poses) {}

    /** three poses what is exported as the scene stands here, and the format's own validator finds no error in it. */
    @Test
    void anExportMovesInThreeAsTheSceneDoes() {
        SceneMotion motion = SceneMotion.of(scene, scene.model()).orElseThrow();
        Path glb = folder.resolve("s.glb");
        ModelWriters.write(RiggedScene.of(motion, 24).orElseThrow(), glb);
        assertThat(Oracle.run("validate-gltf.mjs", glb.toString())).contains("\"errors\":0");
        String[] arguments = Stream.concat(
                        Stream.of(glb.toString()), Arrays.stream(TIMES).mapToObj(Double::toString))
                .toArray(String[]::new);
        Posed posed = Json.read(Oracle.run("pose.mjs", arguments), "pose", Posed.class);
        for (int time = 0; time < TIMES.length; time++) {
            List<Vec3> here = Moving.points(motion.at(TIMES[time]));
            List<Double> there = posed.poses().get(time);
            assertThat(there).isNotEmpty();
            for (int i = 0; i < there.size(); i += 3) {
                Vec3 point = new Vec3(there.get(i), there.get(i + 1), there.get(i + 2));
                assertThat(here.stream()
                                .mapToDouble(each -> each.minus(point).length())
                                .min()
                                .orElseThrow())
                        .as("a vertex at %s s", TIMES[time])
                        .isLessThan(1e-4);
            }
        }
    }

    /** The shape of each vane is its own, since they reach it at other times. */
    @Test
    void shapesOfOneNameAreToldApart() {
        SceneMotion motion = SceneMotion.of(scene, scene.model()).orElseThrow();
        Model rigged = RiggedScene.of(motion, 24).orElseThrow();
        assertThat(Posing.of(rigged).orElseThrow().shapes()).hasSize(3).doesNotHaveDuplicates();
    }
}
