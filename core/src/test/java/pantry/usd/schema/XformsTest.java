package pantry.usd.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.testing.Stages.prim;

import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.base.math.Matrix4;
import pantry.testing.Stages;
import pantry.usd.compose.Stage;

/** Transforms against matrices worked out by hand, for row vectors as OpenUSD has them. */
class XformsTest {
    private static final double HALF = Math.sqrt(0.5);

    private static Arguments ops(String name, String ops, double... rows) {
        return Arguments.of(name, ops, rows);
    }

    static Stream<Arguments> cases() {
        return Stream.of(
                ops("moved", "double3 xformOp:translate = (1, 2, 3)", 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 1, 2, 3, 1),
                ops(
                        "scaled, then moved: the first op of the order is applied last",
                        "double3 xformOp:translate = (1, 2, 3) float3 xformOp:scale = (2, 3, 4)",
                        2,
                        0,
                        0,
                        0,
                        0,
                        3,
                        0,
                        0,
                        0,
                        0,
                        4,
                        0,
                        1,
                        2,
                        3,
                        1),
                ops(
                        "moved, then scaled: the move is scaled too",
                        "float3 xformOp:scale = (2, 3, 4) double3 xformOp:translate = (1, 2, 3)",
                        2,
                        0,
                        0,
                        0,
                        0,
                        3,
                        0,
                        0,
                        0,
                        0,
                        4,
                        0,
                        2,
                        6,
                        12,
                        1),
                ops(
                        "a quarter turn about z takes x to y",
                        "float xformOp:rotateZ = 90",
                        0,
                        1,
                        0,
                        0,
                        -1,
                        0,
                        0,
                        0,
                        0,
                        0,
                        1,
                        0,
                        0,
                        0,
                        0,
                        1),
                ops(
                        "half precision",
                        "half3 xformOp:scale = (0.5, 0.25, 2)",
                        0.5,
                        0,
                        0,
                        0,
                        0,
                        0.25,
                        0,
                        0,
                        0,
                        0,
                        2,
                        0,
                        0,
                        0,
                        0,
                        1),
                ops(
                        "rotateXYZ turns about x first: y goes to z, which a turn about y by 90 takes to x",
                        "float3 xformOp:rotateXYZ = (90, 90, 0)",
                        0,
                        0,
                        -1,
                        0,
                        1,
                        0,
                        0,
                        0,
                        0,
                        -1,
                        0,
                        0,
                        0,
                        0,
                        0,
                        1),
                ops(
                        "rotateZYX turns about z first: x goes to y, which the turn about x takes to z",
                        "float3 xformOp:rotateZYX = (90, 0, 90)",
                        0,
                        0,
                        1,
                        0,
                        -1,
                        0,
                        0,
                        0,
                        0,
                        -1,
                        0,
                        0,
                        0,
                        0,
                        0,
                        1),
                ops(
                        "a quaternion of 45 degrees about z",
                        "quatf xformOp:orient = (0.9238795325112867, 0, 0, 0.3826834323650898)",
                        HALF,
                        HALF,
                        0,
                        0,
                        -HALF,
                        HALF,
                        0,
                        0,
                        0,
                        0,
                        1,
                        0,
                        0,
                        0,
                        0,
                        1),
                ops(
                        "one axis each",
                        "double xformOp:translateY = 5 float xformOp:scaleX = 2",
                        2,
                        0,
                        0,
                        0,
                        0,
                        1,
                        0,
                        0,
                        0,
                        0,
                        1,
                        0,
                        0,
                        5,
                        0,
                        1));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("cases")
    void opsGiveTheMatrix(String name, String ops, double[] rows) {
        String order = Stream.of(ops.split(" "))
                .filter(word -> word.startsWith("xformOp:"))
                .map(word -> '"' + word + '"')
                .reduce((a, b) -> a + ", " + b)
                .orElseThrow();
        Stage stage = Stages.of("def Xform \"A\" { " + ops + " uniform token[] xformOpOrder = [" + order + "] }");
        assertThat(Xforms.local(prim(stage, "/A")).rows()).containsExactly(rows, within(1e-7));
    }

    @Test
    void aPivotIsTheFixedPointOfATurn() {
        Stage stage = Stages.of("""
                def Xform "A" {
                    float3 xformOp:translate:pivot = (1, 0, 0)
                    float xformOp:rotateZ = 180
                    uniform token[] xformOpOrder = ["xformOp:translate:pivot", "xformOp:rotateZ", "!invert!xformOp:translate:pivot"]
                }
                """);
        assertThat(Xforms.local(prim(stage, "/A")).rows())
                .containsExactly(new double[] {-1, 0, 0, 0, 0, -1, 0, 0, 0, 0, 1, 0, 2, 0, 0, 1}, within(1e-12));
    }

    private static final Stage NESTED = Stages.of("""
            def Xform "Yard" {
                double3 xformOp:translate = (10, 0, 0)
                uniform token[] xformOpOrder = ["xformOp:translate"]
                def Xform "Shed" {
                    float xformOp:rotateY = 90
                    uniform token[] xformOpOrder = ["xformOp:rotateY"]
                    def Xform "Lamp" {
                        double3 xformOp:translate = (0, 3, 2)
                        uniform token[] xformOpOrder = ["xformOp:translate"]
                    }
                    def Xform "Free" {
                        double3 xformOp:translate = (0, 0, 7)
                        uniform token[] xformOpOrder = ["!resetXformStack!", "xformOp:translate"]
                    }
                    def Xform "Unlisted" { double3 xformOp:translate = (9, 9, 9) }
                }
            }
            """);

    @Test
    void transformsOfThoseAboveApplyAfterOnesOwn() {
        Matrix4 world = Xforms.world(prim(NESTED, "/Yard/Shed/Lamp"));
        // (0, 3, 2) turned by 90 degrees about y is (2, 3, 0); then moved by 10.
        assertThat(world.translationPart().x()).isCloseTo(12, within(1e-12));
        assertThat(world.translationPart().y()).isCloseTo(3, within(1e-12));
        assertThat(world.translationPart().z()).isCloseTo(0, within(1e-12));
    }

    @Test
    void aResetStackStartsFromTheStage() {
        assertThat(Xforms.resets(prim(NESTED, "/Yard/Shed/Free"))).isTrue();
        assertThat(Xforms.world(prim(NESTED, "/Yard/Shed/Free")).rows())
                .containsExactly(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 7, 1);
    }

    @Test
    void opsThatTheOrderDoesNotNameDoNotCount() {
        assertThat(Xforms.local(prim(NESTED, "/Yard/Shed/Unlisted"))).isEqualTo(Matrix4.IDENTITY);
    }

    @Test
    void whatStandsBeforeAResetIsIgnored() {
        Stage stage = Stages.of("""
                def Xform "A" {
                    double3 xformOp:translate:a = (1, 0, 0)
                    double3 xformOp:translate:b = (0, 1, 0)
                    uniform token[] xformOpOrder = ["xformOp:translate:a", "!resetXformStack!", "xformOp:translate:b"]
                }
                """);
        assertThat(Xforms.local(prim(stage, "/A")).translationPart().x()).isZero();
        assertThat(Xforms.local(prim(stage, "/A")).translationPart().y()).isEqualTo(1);
    }

    @Test
    void timedOpsMoveBetweenTheirSamples() {
        Stage stage = Stages.of("""
                def Xform "A" {
                    double3 xformOp:translate.timeSamples = { 0: (0, 0, 0), 10: (0, 20, 0) }
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                }
                """);
        assertThat(Xforms.local(prim(stage, "/A"), 2.5).translationPart().y()).isEqualTo(5);
        assertThat(Xforms.local(prim(stage, "/A"), 40).translationPart().y()).isEqualTo(20);
    }
}
