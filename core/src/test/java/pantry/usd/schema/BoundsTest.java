package pantry.usd.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.testing.Stages.prim;

import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.testing.Stages;
import pantry.usd.compose.Stage;

/** Boxes against figures worked out by hand. */
class BoundsTest {
    private static Box3 world(String text, String path) {
        return world(text, path, Bounds.DRAWN);
    }

    private static Box3 world(String text, String path, Set<String> purposes) {
        Stage stage = Stages.of(text);
        return new Bounds(stage, purposes).world(prim(stage, path));
    }

    private static void isBox(Box3 box, double... corners) {
        double[] found = {
            box.min().x(),
            box.min().y(),
            box.min().z(),
            box.max().x(),
            box.max().y(),
            box.max().z()
        };
        assertThat(found).containsExactly(corners, within(1e-6));
    }

    static Stream<Arguments> shapes() {
        return Stream.of(
                Arguments.of("def Cube \"A\" { double size = 3 }", new double[] {-1.5, -1.5, -1.5, 1.5, 1.5, 1.5}),
                Arguments.of("def Cube \"A\" {}", new double[] {-1, -1, -1, 1, 1, 1}),
                Arguments.of("def Sphere \"A\" { double radius = 2 }", new double[] {-2, -2, -2, 2, 2, 2}),
                Arguments.of(
                        "def Cylinder \"A\" { double radius = 1 double height = 6 token axis = \"Y\" }",
                        new double[] {-1, -3, -1, 1, 3, 1}),
                Arguments.of("def Cone \"A\" { double height = 4 }", new double[] {-1, -1, -2, 1, 1, 2}),
                Arguments.of(
                        "def Capsule \"A\" { double radius = 1 double height = 4 token axis = \"X\" }",
                        new double[] {-3, -1, -1, 3, 1, 1}),
                Arguments.of("def Plane \"A\" { double width = 4 }", new double[] {-2, -1, 0, 2, 1, 0}),
                Arguments.of(
                        "def Mesh \"A\" { point3f[] points = [(0, 1, 2), (-3, 4, 5), (6, -7, 8)] }",
                        new double[] {-3, -7, 2, 6, 4, 8}),
                Arguments.of(
                        "def Mesh \"A\" { float3[] extent = [(0, 0, 0), (1, 1, 1)] point3f[] points = [(0, 9, 0)] }",
                        new double[] {0, 0, 0, 1, 1, 1}),
                Arguments.of(
                        "def BasisCurves \"A\" { point3f[] points = [(0, 0, 0), (10, 0, 0)] float[] widths = [1, 2] }",
                        new double[] {-1, -1, -1, 11, 1, 1}),
                Arguments.of(
                        "def Cube \"A\" { float xformOp:rotateZ = 45 uniform token[] xformOpOrder = [\"xformOp:rotateZ\"] }",
                        new double[] {-Math.sqrt(2), -Math.sqrt(2), -1, Math.sqrt(2), Math.sqrt(2), 1}));
    }

    @ParameterizedTest
    @MethodSource("shapes")
    void aShapeHasItsBox(String text, double[] corners) {
        isBox(world(text, "/A"), corners);
    }

    private static final String YARD = """
            def Xform "Yard" {
                double3 xformOp:translate = (100, 0, 0)
                uniform token[] xformOpOrder = ["xformOp:translate"]
                def Cube "Shown" {}
                def Cube "Hidden" { token visibility = "invisible" double size = 50 def Cube "Below" { double size = 60 } }
                def Cube "Proxy" { uniform token purpose = "proxy" double size = 10 def Cube "Below" { double size = 12 } }
                def Cube "Off" (active = false) { double size = 70 }
                over Cube "Only" { double size = 80 }
                def Cube "Free" {
                    double3 xformOp:translate = (0, 5, 0)
                    uniform token[] xformOpOrder = ["!resetXformStack!", "xformOp:translate"]
                }
            }
            """;

    @Test
    void onlyWhatIsSeenAndOfTheWantedPurposesCounts() {
        isBox(world(YARD, "/Yard/Shown"), 99, -1, -1, 101, 1, 1);
        isBox(world(YARD, "/Yard", Set.of("default", "proxy")), -1, -6, -6, 106, 6, 6);
        assertThat(world(YARD, "/Yard/Hidden/Below").isEmpty()).isTrue();
        assertThat(world(YARD, "/Yard/Proxy").isEmpty()).isTrue();
    }

    @Test
    void whatStartsFromTheStageStandsThere() {
        isBox(world(YARD, "/Yard"), -1, -1, -1, 101, 6, 1);
    }

    @Test
    void aPurposeBelowAnotherIsItsOwn() {
        String text = """
                def Xform "A" { uniform token purpose = "guide"
                    def Cube "Inherits" { double size = 8 } def Cube "Own" { uniform token purpose = "default" } }
                """;
        isBox(world(text, "/A"), -1, -1, -1, 1, 1, 1);
    }

    @Test
    void aModelsHintStandsForAllBelowIt() {
        String text = """
                def Xform "A" (kind = "component") {
                    float3[] extentsHint = [(0, 0, 0), (1, 2, 3), (0, 0, 0), (4, 1, 1), (0, 0, 0), (9, 9, 9)]
                    def Cube "Inner" { double size = 100 }
                }
                """;
        isBox(world(text, "/A"), 0, 0, 0, 4, 2, 3);
        isBox(world(text.replace("(kind = \"component\")", ""), "/A"), -50, -50, -50, 50, 50, 50);
    }

    @Test
    void instancesHaveTheBoxOfWhatTheyShare() {
        String text = """
                class "_Box" { def Cube "Inner" { double size = 4 } }
                def Xform "A" {
                    def Xform "One" (instanceable = true inherits = </_Box>) {}
                    def Xform "Two" (instanceable = true inherits = </_Box>) {
                        double3 xformOp:translate = (10, 0, 0)
                        uniform token[] xformOpOrder = ["xformOp:translate"]
                    }
                }
                """;
        isBox(world(text, "/A"), -2, -2, -2, 12, 2, 2);
    }

    private static final String INSTANCER = """
            def PointInstancer "A" {
                rel prototypes = [</A/Box>, </A/Ball>]
                int[] protoIndices = [0, 1, 0]
                point3f[] positions = [(0, 0, 0), (10, 0, 0), (0, 100, 0)]
                quath[] orientations = [(1, 0, 0, 0), (1, 0, 0, 0), (0.70710678, 0, 0, 0.70710678)]
                float3[] scales = [(1, 1, 1), (2, 2, 2), (1, 1, 1)]
                %s
                def Cube "Box" { double3 xformOp:translate = (5, 0, 0) uniform token[] xformOpOrder = ["xformOp:translate"] }
                def Sphere "Ball" {}
            }
            """;

    @Test
    void usesOfAPointInstancerAreScaledTurnedAndMovedAfterTheirPrototypesOwnTransform() {
        // The third use turns the box at (5, 0, 0) to (0, 5, 0) and moves it up by 100.
        isBox(world(INSTANCER.formatted(""), "/A"), -1, -2, -2, 12, 106, 2);
    }

    @Test
    void invisibleAndInactiveUsesDoNotCount() {
        isBox(world(INSTANCER.formatted("int64[] invisibleIds = [2]"), "/A"), 4, -2, -2, 12, 2, 2);
        isBox(
                world(INSTANCER.formatted("int64[] ids = [7, 8, 9] int64[] invisibleIds = [9, 8]"), "/A"),
                4,
                -1,
                -1,
                6,
                1,
                1);
        isBox(
                world(INSTANCER.formatted("").replace("\"A\" {", "\"A\" (inactiveIds = [1, 2]) {"), "/A"),
                4,
                -1,
                -1,
                6,
                1,
                1);
    }

    @Test
    void arraysThatDoNotAgreeAreNamed() {
        Stage stage = Stages.of(INSTANCER.formatted("").replace("[0, 1, 0]", "[0, 1]"));
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> PointInstancer.of(prim(stage, "/A")))
                .hasMessageContaining("</A> has 3 positions for 2 instances");
        Stage outside = Stages.of(INSTANCER.formatted("").replace("[0, 1, 0]", "[0, 2, 0]"));
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> PointInstancer.of(prim(outside, "/A")))
                .hasMessageContaining("prototype 2 of 2");
    }

    @Test
    void anEmptyStageHasNoBox() {
        assertThat(world("def Xform \"A\" {}", "/A")).isEqualTo(Box3.EMPTY);
        assertThat(Box3.EMPTY.union(new Box3(Vec3.ZERO, Vec3.ONE))).isEqualTo(new Box3(Vec3.ZERO, Vec3.ONE));
    }
}
