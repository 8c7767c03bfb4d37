package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A flag that is pulled up, as a picture, as pictures, and as a model that stands still. */
class PoseCommandTest {
    @TempDir
    private Path folder;

    private Shell shell;

    @BeforeEach
    void start() throws IOException {
        shell = new Shell(folder);
        Files.writeString(folder.resolve("flag.usda"), """
                #usda 1.0
                (
                    defaultPrim = "Flag"
                    metersPerUnit = 1
                    upAxis = "Y"
                )
                def SkelRoot "Flag" (prepend apiSchemas = ["SkelBindingAPI"]) {
                    rel skel:skeleton = </Flag/Bones>
                    def Skeleton "Bones" {
                        uniform token[] joints = ["Rope"]
                        uniform matrix4d[] bindTransforms = [((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,0,1))]
                        uniform matrix4d[] restTransforms = [((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,0,1))]
                        def SkelAnimation "Hoist" {
                            uniform token[] joints = ["Rope"]
                            float3[] translations.timeSamples = { 0: [(0,0,0)], 48: [(0,4,0)] }
                            quatf[] rotations = [(1,0,0,0)]
                            half3[] scales = [(1,1,1)]
                        }
                    }
                    def Mesh "Cloth" (prepend apiSchemas = ["SkelBindingAPI"]) {
                        int[] faceVertexCounts = [3]
                        int[] faceVertexIndices = [0, 1, 2]
                        point3f[] points = [(0,0,0), (1,0,0), (0,1,0)]
                        int[] primvars:skel:jointIndices = [0] ( interpolation = "constant" )
                        float[] primvars:skel:jointWeights = [1] ( interpolation = "constant" )
                    }
                }
                """);
    }

    @AfterEach
    void stop() {
        shell.close();
    }

    private String path(String name) {
        return folder.resolve(name).toString();
    }

    @Test
    void aMomentIsWrittenAsAModelThatStandsStill() {
        Map<?, ?> told = shell.json("pose", path("flag.usda"), "--at", "0.5", "--to", path("half.glb"), "--json");
        assertThat(told.get("motion")).isEqualTo("Hoist");
        assertThat(told.get("seconds")).isEqualTo(2.0);
        Map<?, ?> facts = shell.json("facts", path("half.glb"), "--json");
        assertThat((List<?>) ((Map<?, ?>) facts.get("bounds")).get("min"))
                .element(1)
                .isEqualTo(1.0);
        assertThat(facts.get("bones")).isEqualTo(0);
        Map<?, ?> before = shell.json("facts", path("flag.usda"), "--json");
        assertThat(before.get("bones")).isEqualTo(1);
        assertThat((List<?>) before.get("motions")).singleElement().satisfies(motion -> assertThat(
                        ((Map<?, ?>) motion).get("name"))
                .isEqualTo("Hoist"));
    }

    /** What rises by 4 m takes 4 m more room than it has. */
    @Test
    void theRoomThatItTakesInMotionIsToldWhereThatIsAskedFor() {
        Map<?, ?> without = shell.json("facts", path("flag.usda"), "--json");
        assertThat(without.get("reach")).isNull();
        Map<?, ?> facts = shell.json("facts", path("flag.usda"), "--reach", "--json");
        assertThat(height(facts.get("reach"))).isCloseTo(height(facts.get("bounds")) + 4, within(1e-6));
        assertThat(shell.run("facts", path("flag.usda"), "--reach")).isZero();
        assertThat(shell.printed()).contains("in motion");
    }

    private static double height(Object box) {
        List<?> min = (List<?>) ((Map<?, ?>) box).get("min");
        List<?> max = (List<?>) ((Map<?, ?>) box).get("max");
        return ((Number) max.get(1)).doubleValue() - ((Number) min.get(1)).doubleValue();
    }

    @Test
    void aMotionIsWrittenAsPicturesFromOnePlace() throws IOException {
        Map<?, ?> told =
                shell.json("pose", path("flag.usda"), "--per-second", "2", "--to", path("hoist.png"), "--json");
        assertThat((List<?>) told.get("files")).hasSize(5);
        int highest = Integer.MAX_VALUE;
        for (int i = 1; i <= 5; i++) {
            BufferedImage picture =
                    ImageIO.read(folder.resolve("hoist.000" + i + ".png").toFile());
            int top = top(picture);
            assertThat(top).as("picture " + i).isLessThan(highest);
            highest = top;
        }
    }

    /** The first line that is not as the corner is. */
    private static int top(BufferedImage picture) {
        for (int y = 0; y < picture.getHeight(); y++) {
            for (int x = 0; x < picture.getWidth(); x++) {
                int colour = picture.getRGB(x, y);
                int ground = picture.getRGB(0, y);
                if (Math.abs((colour & 0xff) - (ground & 0xff)) > 40) {
                    return y;
                }
            }
        }
        return picture.getHeight();
    }

    @Test
    void whatIsNotThereIsSaidWithWhatIs() throws IOException {
        assertThat(shell.run("pose", path("flag.usda"), "--motion", "Lower", "--to", path("x.glb")))
                .isEqualTo(1);
        assertThat(shell.said()).contains("has no motion \"Lower\"; there are Hoist");
        Files.writeString(folder.resolve("plain.obj"), "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        assertThat(shell.run("pose", path("plain.obj"), "--to", path("x.glb"))).isEqualTo(1);
        assertThat(shell.said()).contains("plain.obj: has no motions");
        assertThat(shell.run("pose", path("flag.usda"), "--at", "-1", "--to", path("x.glb")))
                .isEqualTo(2);
        assertThat(shell.run("pose", path("flag.usda"), "--per-second", "0", "--to", path("x.png")))
                .isEqualTo(2);
        assertThat(shell.run("pose", path("flag.usda"), "--per-second", "2", "--to", path("x.glb")))
                .isEqualTo(1);
        assertThat(Files.exists(folder.resolve("x.glb"))).isFalse();
    }

    /** What is handed out in another format still moves. */
    @Test
    void anExportKeepsTheMotion() {
        shell.json("export", path("flag.usda"), "--to", path("flag.glb"), "--json");
        Map<?, ?> facts = shell.json("facts", path("flag.glb"), "--json");
        assertThat(facts.get("bones")).isEqualTo(1);
        assertThat((List<?>) facts.get("motions")).hasSize(1);
        Map<?, ?> left = shell.json("export", path("flag.usda"), "--to", path("flag.obj"), "--json");
        assertThat(left.get("left").toString()).contains("no skeletons: 1 bone and 1 motion left out");
    }

    /** Two flags in a scene, one of them hoisted later and faster, told and pictured. */
    @Test
    void placementsOfASceneMoveByCommand() throws IOException {
        assertThat(shell.run("new-library", path("lib"), "--name", "L")).isZero();
        assertThat(shell.run("receive", path("flag.usda"), "--library", path("lib"), "--shelf", "Flags"))
                .as(shell.said())
                .isZero();
        String scene = path("yard.usda");
        assertThat(shell.run("new-scene", scene)).isZero();
        for (String at : List.of("0,0,0", "5,0,0")) {
            assertThat(shell.run("reference", scene, "Flag", "--library", path("lib"), "--at", at))
                    .as(shell.said())
                    .isZero();
        }
        assertThat(shell.run("pose", scene, "--to", path("yard.obj"))).isZero();
        assertThat(shell.run("motion", scene, "Flag", "Flag_2", "--do", "Hoist"))
                .as(shell.said())
                .isZero();
        assertThat(shell.run("motion", scene, "Flag_2", "--from", "1", "--speed", "2"))
                .isZero();
        Map<?, ?> told = shell.json("motion", scene, "--json");
        assertThat(told.get("told"))
                .isEqualTo(List.of(
                        "/yard/Flag: Hoist, 2.00 s from 0.00 s at × 1.00",
                        "/yard/Flag_2: Hoist, 2.00 s from 1.00 s at × 2.00"));
        assertThat(highest(scene, "1.5", "half.obj")).isCloseTo(4, within(1e-3));
        assertThat(highest(scene, "1", "one.obj")).isCloseTo(3, within(1e-3));
        Map<?, ?> pictures = shell.json("pose", scene, "--per-second", "1", "--to", path("yard.png"), "--json");
        assertThat((List<?>) pictures.get("files")).hasSize(3);

        assertThat(shell.run("motion", scene, "Flag", "--do", "Swim")).isEqualTo(1);
        assertThat(shell.said()).contains("has no motion \"Swim\"");
        assertThat(shell.run("motion", scene, "--rest")).isEqualTo(2);
        assertThat(shell.run("motion", scene, "Flag", "--do", "Hoist", "--rest"))
                .isEqualTo(2);
        assertThat(shell.run("motion", scene, "Flag", "--speed", "0")).isEqualTo(1);
        assertThat(shell.run("pose", scene, "--motion", "Hoist", "--to", path("x.obj")))
                .isEqualTo(1);
        assertThat(shell.run("motion", scene, "Flag", "Flag_2", "--rest")).isZero();
        assertThat(highest(scene, "1.5", "rest.obj")).isCloseTo(1, within(1e-3));
    }

    private double highest(String scene, String at, String name) throws IOException {
        assertThat(shell.run("pose", scene, "--at", at, "--to", path(name)))
                .as(shell.said())
                .isZero();
        return Files.readAllLines(folder.resolve(name)).stream()
                .filter(line -> line.startsWith("v "))
                .mapToDouble(line -> Double.parseDouble(line.split(" ")[2]))
                .max()
                .orElseThrow();
    }

    @Test
    void aThingDoesTheMotionOfAnotherFile() throws IOException {
        Files.writeString(folder.resolve("sink.usda"), """
                #usda 1.0
                ( defaultPrim = "Sink" metersPerUnit = 1 upAxis = "Y" )
                def SkelAnimation "Sink" {
                    uniform token[] joints = ["Rope"]
                    float3[] translations.timeSamples = { 0: [(0, 0, 0)], 24: [(0, -7, 0)] }
                    quatf[] rotations = [(1, 0, 0, 0)]
                    half3[] scales = [(1, 1, 1)]
                }
                """);
        String[] pose = {
            "pose", path("flag.usda"), "--of", path("sink.usda"), "--at", "1", "--to", path("sunk.usda"), "--json"
        };
        assertThat(shell.json(pose).get("motion")).isEqualTo("Sink");
        Map<?, ?> facts = shell.json("facts", path("sunk.usda"), "--json");
        List<?> most = (List<?>) ((Map<?, ?>) facts.get("bounds")).get("max");
        assertThat(((Number) most.get(1)).doubleValue()).isCloseTo(-6, within(1e-4));
        Files.writeString(
                folder.resolve("other.usda"),
                Files.readString(folder.resolve("sink.usda")).replace("Rope", "Mast"));
        assertThat(shell.run("pose", path("flag.usda"), "--of", path("other.usda"), "--to", path("no.usda")))
                .isNotZero();
        assertThat(shell.said()).contains("other.usda").contains("has no motion of joints that flag.usda has");
    }
}
