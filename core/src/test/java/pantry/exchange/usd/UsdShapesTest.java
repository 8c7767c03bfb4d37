package pantry.exchange.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.mesh.Measures;
import pantry.mesh.Mesh;
import pantry.testing.Stages;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Bounds;

/** The shapes of UsdGeom that are no meshes, against closed forms of solid geometry (handbook formulas). */
class UsdShapesTest {
    private static UsdModelReader.Result read(String prim) {
        return UsdModelReader.read(Stages.of(prim), new MeshCache());
    }

    private static Mesh mesh(String prim) {
        UsdModelReader.Result result = read(prim);
        assertThat(result.problems()).isEmpty();
        return result.model().meshes().iterator().next();
    }

    private static Measures measures(String prim) {
        return read(prim).model().measures();
    }

    /** A polygon of 48 sides has 0.3 % less area than its circle. */
    private static void near(double value, double exact) {
        assertThat(value).isCloseTo(exact, within(0.01 * exact));
    }

    @Test
    void aCapsuleIsACylinderWithHalfSpheres() {
        Measures usual = measures("def Capsule \"C\" {}");
        assertThat(usual.closed()).isTrue();
        near(usual.volume(), Math.PI * 0.25 + 4.0 / 3 * Math.PI * 0.125);
        near(usual.area(), Math.PI + Math.PI);
        assertThat(usual.bounds().size().z()).isCloseTo(2, within(1e-6));
        assertThat(usual.bounds().size().x()).isCloseTo(1, within(1e-2));
        Measures lying =
                measures("def Capsule \"C\" { uniform token axis = \"X\" double radius = 1 double height = 4 }");
        assertThat(lying.bounds().size().x()).isCloseTo(6, within(1e-6));
        near(lying.volume(), Math.PI * 4 + 4.0 / 3 * Math.PI);
    }

    @Test
    void aCapsuleOfTwoRadiiIsTheHullOfItsSpheres() {
        Measures hull = measures("""
                def Capsule_1 "C" {
                    uniform token axis = "Y" double height = 3 double radiusBottom = 1 double radiusTop = 0.5
                }
                """);
        assertThat(hull.closed()).isTrue();
        assertThat(hull.bounds().min().y()).isCloseTo(-2.5, within(1e-6));
        assertThat(hull.bounds().max().y()).isCloseTo(2, within(1e-6));
        // The frustum between the circles where the straight side touches, and the two caps beyond these.
        double sine = 0.5 / 3;
        double cosine = Math.sqrt(1 - sine * sine);
        double low = -1.5 + sine;
        double high = 1.5 + 0.5 * sine;
        double frustum = Math.PI * (high - low) / 3 * (cosine * cosine) * (1 + 0.5 + 0.25);
        double below = cap(1, 1 + sine);
        double above = cap(0.5, 0.5 * (1 - sine));
        near(hull.volume(), frustum + below + above);
        Measures swallowed =
                measures("def Capsule_1 \"C\" { double height = 1 double radiusBottom = 2 double radiusTop = 0.5 }");
        near(swallowed.volume(), 4.0 / 3 * Math.PI * 8);
    }

    private static double cap(double radius, double height) {
        return Math.PI * height * height * (3 * radius - height) / 3;
    }

    @Test
    void aCylinderOfTwoRadiiIsAFrustum() {
        Measures frustum =
                measures("def Cylinder_1 \"C\" { double height = 6 double radiusBottom = 2 double radiusTop = 1 }");
        near(frustum.volume(), Math.PI * 6 / 3 * (4 + 2 + 1));
        assertThat(frustum.bounds().size().z()).isCloseTo(6, within(1e-6));
    }

    @ParameterizedTest
    @CsvSource({"X,0,5,3", "Y,3,0,5", "Z,3,5,0"})
    void aPlaneLiesAcrossItsAxis(String axis, double x, double y, double z) {
        String plane = "def Plane \"P\" { uniform token axis = \"" + axis + "\" double width = 3 double length = 5 }";
        Mesh mesh = mesh(plane);
        Vec3 size = mesh.bounds().size();
        assertThat(size.x()).isCloseTo(x, within(1e-6));
        assertThat(size.y()).isCloseTo(y, within(1e-6));
        assertThat(size.z()).isCloseTo(z, within(1e-6));
        assertThat(measures(plane).area()).isCloseTo(15, within(1e-6));
        assertThat(mesh.doubleSided()).as("the schema's fallback").isTrue();
        float[] normal = mesh.normals().orElseThrow().data();
        assertThat(normal["XYZ".indexOf(axis)]).isCloseTo(1, within(1e-6f));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "def Cube \"S\" { double size = 3 }",
                "def Sphere \"S\" { double radius = 2 }",
                "def Cylinder \"S\" { double radius = 2 uniform token axis = \"X\" }",
                "def Cone \"S\" { double height = 5 uniform token axis = \"Y\" }",
                "def Capsule \"S\" { double height = 3 double radius = 1 }",
                "def Cylinder_1 \"S\" { double radiusTop = 3 double radiusBottom = 1 uniform token axis = \"X\" }",
                "def Capsule_1 \"S\" { double radiusTop = 1 double radiusBottom = 1 uniform token axis = \"Y\" }",
                "def Plane \"S\" { double width = 4 double length = 1 }",
                "def BasisCurves \"S\" { uniform token type = \"linear\" int[] curveVertexCounts = [2]"
                        + " point3f[] points = [(0, 0, 0), (0, 0, 4)] float[] widths = [2] }",
                "def Points \"S\" { point3f[] points = [(0, 0, 0), (1, 2, 3)] float[] widths = [2, 2] }",
            })
    void boundsAreThoseOfWhatIsDrawn(String prim) {
        Stage stage = Stages.of(prim);
        Box3 told = new Bounds(stage, Set.of("default"))
                .world(stage.root().child("S").orElseThrow());
        Box3 drawn = UsdModelReader.read(stage, new MeshCache()).model().bounds();
        double slack = prim.contains("Curves") ? 1 : 0.02 * told.radius();
        assertThat(told.min().minus(drawn.min()).length()).isLessThanOrEqualTo(slack * 1.5);
        assertThat(told.max().minus(drawn.max()).length()).isLessThanOrEqualTo(slack * 1.5);
    }

    @Test
    void straightCurvesAreTubes() {
        Measures tube = measures("""
                def BasisCurves "C" {
                    uniform token type = "linear"
                    int[] curveVertexCounts = [2, 3]
                    point3f[] points = [(0, 0, 0), (0, 0, 10), (5, 0, 0), (5, 5, 0), (5, 5, 0)]
                    float[] widths = [0.2] (interpolation = "constant")
                }
                """);
        // A prism of six sides: a hexagon's perimeter is 3 of its diameters.
        assertThat(tube.area()).isCloseTo(0.6 * 15, within(1e-4));
        assertThat(tube.parts()).isEqualTo(2);
    }

    @ParameterizedTest
    @CsvSource({"bezier,nonperiodic", "catmullRom,pinned", "bspline,pinned"})
    void roundedCurvesReachTheirEnds(String basis, String wrap) {
        Mesh tube = mesh("""
                def BasisCurves "C" {
                    uniform token type = "cubic"
                    uniform token basis = "%s"
                    uniform token wrap = "%s"
                    int[] curveVertexCounts = [4]
                    point3f[] points = [(0, 0, 0), (1, 2, 0), (3, 2, 0), (4, 0, 0)]
                    float[] widths = [0.02]
                }
                """.formatted(basis, wrap));
        assertThat(tube.bounds().min().x()).isCloseTo(0, within(0.02));
        assertThat(tube.bounds().max().x()).isCloseTo(4, within(0.02));
        assertThat(tube.bounds().max().y()).isBetween(1.0, 2.3);
        assertThat(tube.doubleSided()).isTrue();
    }

    @Test
    void aPeriodicCurveClosesItself() {
        Measures ring = measures("""
                def BasisCurves "C" {
                    uniform token type = "cubic"
                    uniform token basis = "catmullRom"
                    uniform token wrap = "periodic"
                    int[] curveVertexCounts = [4]
                    point3f[] points = [(1, 0, 0), (0, 0, 1), (-1, 0, 0), (0, 0, -1)]
                    float[] widths = [0.1]
                }
                """);
        assertThat(ring.boundaryEdges()).isZero();
        assertThat(ring.parts()).isEqualTo(1);
    }

    @Test
    void pointsAreOctahedra() {
        Measures points = measures("""
                def Points "P" { point3f[] points = [(0, 0, 0), (5, 0, 0)] float[] widths = [2, 1] }
                """);
        assertThat(points.triangles()).isEqualTo(16);
        // An octahedron of radius r holds 4/3 r³.
        assertThat(points.volume()).isCloseTo(4.0 / 3 * (1 + 0.125), within(1e-6));
        assertThat(points.closed()).isTrue();
    }

    @Test
    void whatIsNotDrawnIsSaidWhereItStands() {
        UsdModelReader.Result result = read("""
                def Xform "A" { def NurbsPatch "Sail" {} }
                def BasisCurves "Torn" { int[] curveVertexCounts = [3] point3f[] points = [(0, 0, 0), (1, 0, 0)] }
                def Points "Gone" { point3f[] points = [(nan, 0, 0)] }
                """);
        assertThat(result.problems())
                .anySatisfy(line -> assertThat(line).contains("</A/Sail>", "NurbsPatch", "not drawn"))
                .anySatisfy(line -> assertThat(line).contains("</Torn>", "come to 3 points; there are 2"))
                .anySatisfy(line -> assertThat(line).contains("</Gone>", "not a number"));
        assertThat(result.model().extras().foreign()).contains("NurbsPatch /A/Sail");
    }

    @Test
    void manyCurvesAreRefusedRatherThanHangTheProgram() {
        StringBuilder points = new StringBuilder();
        for (int i = 0; i < 40_000; i++) {
            points.append(i == 0 ? "" : ", ").append("(").append(i).append(", 0, 0)");
        }
        UsdModelReader.Result result = read(
                "def BasisCurves \"Hair\" { int[] curveVertexCounts = [40000] point3f[] points = [" + points + "] }");
        assertThat(result.problems()).singleElement().satisfies(line -> assertThat(line)
                .contains("</Hair>", "too many to be drawn"));
    }
}
