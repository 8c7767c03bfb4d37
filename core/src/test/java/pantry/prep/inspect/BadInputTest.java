package pantry.prep.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Shapes;
import pantry.prep.Made;
import pantry.prep.fix.Tidy;
import pantry.prep.tools.PlanSymbol;
import pantry.prep.tools.Proxy;
import pantry.usd.PrimSpec;
import pantry.usd.Value;
import pantry.workpiece.Workpiece;

@DisplayName("Bad input is inspected, told, and harms nothing")
class BadInputTest {
    @TempDir
    Path folder;

    private static PrimSpec raw(Made made, float[] points, int[] sizes, int[] corners) {
        PrimSpec prim = made.root.define("Mesh", "Odd");
        prim.set("point3f[]", "points", new Value.Floats(points, 3));
        prim.set("int[]", "faceVertexCounts", new Value.Ints(sizes, 1));
        prim.set("int[]", "faceVertexIndices", new Value.Ints(corners, 1));
        return prim;
    }

    private static List<Finding> of(Made made, String rule) {
        return Made.inspect(made.open()).stream()
                .filter(finding -> finding.rule().id().equals(rule))
                .toList();
    }

    @Test
    @DisplayName("a mesh with nothing in it")
    void nothing() {
        Made made = Made.mast(folder);
        raw(made, new float[0], new int[0], new int[0]);
        assertThat(of(made, "empty-mesh")).hasSize(1);
    }

    @Test
    @DisplayName("all points in one place")
    void onePlace() {
        Made made = Made.mast(folder);
        raw(made, new float[12], new int[] {4, 4}, new int[] {0, 1, 2, 3, 3, 2, 1, 0});
        assertThat(Made.rules(Made.inspect(made.open()))).contains("flat-face");
        Workpiece piece = made.open();
        Tidy.all(piece, RuleSet.USUAL, Optional.empty(), finding -> true, Progress.NONE);
        assertThat(piece.model().trianglesDrawn())
                .isEqualTo(Made.mast(folder).open().model().trianglesDrawn());
    }

    @Test
    @DisplayName("points that are no numbers, faces of two corners, and faces with points that are not there")
    void noNumbers() {
        Made made = Made.mast(folder);
        raw(
                made,
                new float[] {0, 0, 0, 1, 0, 0, 1, 0, 1, Float.NaN, 0, 1, Float.POSITIVE_INFINITY, 0, 0},
                new int[] {3, 3, 2, 3, 3},
                new int[] {0, 1, 2, 0, 1, 3, 0, 1, 0, 1, 17, 0, 2, 4});
        List<Finding> found = of(made, "broken-face");
        assertThat(found).hasSize(1);
        assertThat(found.getFirst().message())
                .contains("2 faces with points that are no numbers")
                .contains("1 face with points that are not there")
                .contains("1 face of fewer than three corners");
        Workpiece piece = made.open();
        Tidy.Result result = Tidy.apply(piece, RuleSet.USUAL, Optional.empty(), found, Progress.NONE);
        assertThat(result.count(Tidy.Outcome.FIXED)).isEqualTo(1);
        assertThat(piece.model().trianglesDrawn())
                .isEqualTo(Made.mast(folder).open().model().trianglesDrawn() + 1);
    }

    @Test
    @DisplayName("faces whose corners do not add up")
    void corners() {
        Made made = Made.mast(folder);
        raw(made, new float[9], new int[] {3, 3}, new int[] {0, 1, 2});
        assertThat(of(made, "empty-mesh")).singleElement().satisfies(finding -> assertThat(finding.message())
                .contains("6 corners, but 3 are given"));
    }

    @Test
    @DisplayName("a face of a thousand corners")
    void thousandCorners() {
        Made made = Made.mast(folder);
        made.mesh("Disc", Shapes.cylinder(1, 0.1, 1000));
        Workpiece piece = made.open();
        Tidy.all(piece, RuleSet.USUAL, Optional.empty(), finding -> true, Progress.NONE);
        assertThat(PlanSymbol.of(piece.model(), 0.001, true, Progress.NONE).area())
                .isCloseTo(Math.PI, org.assertj.core.api.Assertions.within(0.01));
        assertThat(Proxy.boxes(piece.model(), 2, Progress.NONE).mean()).isGreaterThan(0.5);
    }

    @Test
    @DisplayName("thousands of tiny parts, far from the origin")
    void tinyParts() {
        Made made = Made.mast(folder);
        MeshBuilder builder = new MeshBuilder();
        for (int i = 0; i < 4000; i++) {
            builder.add(
                    Shapes.block(1e-4, 1e-4, 1e-4), Matrix4.translation(new Vec3(1e-3 * (i % 80), 1e-3 * (i / 80), 0)));
        }
        Mesh mesh = builder.build();
        made.mesh("Dust", mesh, Matrix4.translation(new Vec3(1000, 0, 0)));
        Workpiece piece = made.open();
        List<Finding> found = Made.inspect(piece);
        assertThat(Made.rules(found)).contains("twin-parts");
        Tidy.Result result = Tidy.apply(
                piece,
                RuleSet.USUAL,
                Optional.empty(),
                found.stream()
                        .filter(finding -> finding.rule().id().equals("twin-parts"))
                        .toList(),
                Progress.NONE);
        assertThat(result.count(Tidy.Outcome.REFUSED)).isZero();
        assertThat(piece.model().trianglesDrawn()).isEqualTo(made.open().model().trianglesDrawn());
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 3, 9, 27})
    @DisplayName("cancelled at any moment")
    void cancelled(int after) {
        Made made = Made.mast(folder);
        for (int i = 0; i < 30; i++) {
            made.mesh("Ball" + "ABCDEFGHIJKLMNOPQRSTUVWXYZabcd".charAt(i), Shapes.sphere(0.1 + 0.01 * i, 24, 12));
        }
        Workpiece piece = made.open();
        int[] left = {after};
        Progress impatient = new Progress() {
            @Override
            public void report(String what, double fraction) {}

            @Override
            public boolean cancelled() {
                return left[0]-- <= 0;
            }
        };
        assertThatThrownBy(() -> Inspection.of(piece, RuleSet.USUAL, Optional.empty(), impatient))
                .isInstanceOf(CancellationException.class);
        left[0] = 0;
        assertThatThrownBy(() -> Proxy.boxes(piece.model(), 4, impatient)).isInstanceOf(CancellationException.class);
        left[0] = 0;
        assertThatThrownBy(() -> PlanSymbol.of(piece.model(), 0.01, true, impatient))
                .isInstanceOf(CancellationException.class);
    }

    @Test
    @DisplayName("files that are none are told by name and place")
    void noFile() throws Exception {
        Path broken = folder.resolve("broken.usda");
        Files.writeString(broken, "#usda 1.0\n\ndef Xform \"A\" {\n  bad = =\n}");
        assertThatThrownBy(() -> Workpiece.of(broken, Made.sources(), Progress.NONE))
                .isInstanceOfSatisfying(
                        PantryException.class,
                        e -> assertThat(e.line()).contains("broken.usda").contains("line 4"));
        assertThatThrownBy(() -> Workpiece.of(folder.resolve("none.obj"), Made.sources(), Progress.NONE))
                .isInstanceOfSatisfying(
                        PantryException.class, e -> assertThat(e.line()).contains("none.obj"));
    }
}
