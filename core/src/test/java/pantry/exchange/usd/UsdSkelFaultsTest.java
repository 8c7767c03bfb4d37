package pantry.exchange.usd;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** Skeletons that are not as they should be: what can be read is, and the rest is told. */
class UsdSkelFaultsTest {
    private static final String ONE = "((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,0,1))";

    @TempDir
    private Path folder;

    private Model read(String skeleton, String joints, String weights) throws IOException {
        Path file = Files.writeString(folder.resolve("flag.usda"), """
                #usda 1.0
                (defaultPrim = "Flag")
                def SkelRoot "Flag" (prepend apiSchemas = ["SkelBindingAPI"]) {
                    rel skel:skeleton = </Flag/Bones>
                    def Skeleton "Bones" {
                        %s
                    }
                    def Mesh "Cloth" {
                        int[] faceVertexCounts = [3]
                        int[] faceVertexIndices = [0, 1, 2]
                        point3f[] points = [(0,0,0), (1,0,0), (0,1,0)]
                        int[] primvars:skel:jointIndices = %s ( elementSize = 1 interpolation = "vertex" )
                        float[] primvars:skel:jointWeights = %s ( elementSize = 1 interpolation = "vertex" )
                    }
                }
                """.formatted(skeleton, joints, weights));
        Stage stage = Stage.open(LayerFiles.read(file), new LayerCache());
        return UsdSkelReader.rigged(
                stage, UsdModelReader.read(stage, new MeshCache()).model());
    }

    private static String bones(String names, int count, String more) {
        String matrices = IntStream.range(0, count).mapToObj(i -> ONE).collect(Collectors.joining(", "));
        return "uniform token[] joints = [%s]\nuniform matrix4d[] bindTransforms = [%s]\n%s"
                .formatted(names, matrices, more);
    }

    @Test
    void withoutPlacesAtRestThoseWhereItWasBoundHold() throws IOException {
        Model model = read(bones("\"A\", \"A/B\"", 2, ""), "[0, 1, 1]", "[1, 1, 1]");
        assertThat(model.extras().skeleton().orElseThrow().paths()).containsExactly("A", "A/B");
        assertThat(Posing.of(model).orElseThrow().atRest().bounds()).isEqualTo(model.bounds());
    }

    @Test
    void aSkeletonWithoutEnoughPlacesIsToldAndLeftOut() throws IOException {
        Model model = read(bones("\"A\", \"A/B\"", 1, ""), "[0, 1, 1]", "[1, 1, 1]");
        assertThat(model.extras().skeleton()).isEmpty();
        assertThat(model.extras().foreign()).anyMatch(line -> line.contains("not as many places"));
    }

    @Test
    void pointsThatHangOnJointsThatAreNotThereStay() throws IOException {
        Model model = read(bones("\"A\"", 1, ""), "[0, 7, -3]", "[1, 1, 1]");
        assertThat(model.extras().foreign()).anyMatch(line -> line.contains("joints that its skeleton does not have"));
        assertThat(Posing.of(model).orElseThrow().atRest().bounds()).isEqualTo(model.bounds());
    }

    @Test
    void aMotionOfOtherJointsOrOfNoNumbersIsToldAndLeftOut() throws IOException {
        String motions = """
                def SkelAnimation "Other" {
                    uniform token[] joints = ["Z"]
                    float3[] translations.timeSamples = { 0: [(0,0,0)] }
                }
                def SkelAnimation "Wrong" {
                    uniform token[] joints = ["A"]
                    float3[] translations.timeSamples = { 0: [(nan,0,0)] }
                    quatf[] rotations = [(1,0,0,0)]
                }
                """;
        Model model = read(bones("\"A\"", 1, motions), "[0, 0, 0]", "[1, 1, 1]");
        assertThat(model.extras().skeleton().orElseThrow().motions()).isEmpty();
        assertThat(model.extras().foreign())
                .anyMatch(line -> line.contains("moves joints and shapes that nothing here has"))
                .anyMatch(line -> line.contains("no number"));
    }

    @Test
    void tenThousandsOfJointsAreReadInTime() throws IOException {
        String names = IntStream.range(0, 20_000)
                .mapToObj(i -> "\"A" + i + (i % 2 == 1 ? "/B" : "") + "\"")
                .collect(Collectors.joining(", "));
        Model model = read(bones(names, 20_000, ""), "[0, 1, 19999]", "[1, 1, 1]");
        assertThat(model.extras().skeleton().orElseThrow().joints()).hasSize(20_000);
    }
}
