package pantry.prep.tools;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.prep.Made;
import pantry.testing.Oracle;
import pantry.testing.Workshop;
import pantry.workpiece.PrepException;
import pantry.workpiece.Workpiece;

@DisplayName("A plan symbol")
class PlanSymbolTest {
    @TempDir
    Path folder;

    private static PlanSymbol plan(Mesh mesh, double tolerance) {
        return PlanSymbol.of(Workshop.model("Thing", mesh), tolerance, false, Progress.NONE);
    }

    @Test
    @DisplayName("of a ring has the ring's area, and its hole")
    void ringWithHole() {
        // A regular polygon of n sides in a circle of radius r has the area n r² sin(2π/n) / 2 (Euclid).
        double segments = 96;
        double unit = segments / 2 * Math.sin(2 * Math.PI / segments);
        PlanSymbol plan = plan(Shapes.torus(1, 0.25, (int) segments, 32), 1e-4);
        assertThat(plan.area()).isCloseTo(unit * (1.25 * 1.25 - 0.75 * 0.75), within(2e-3));
        assertThat(plan.rings()).hasSize(2).allMatch(PlanSymbol.Line::isClosed);
        assertThat(plan.width()).isCloseTo(2.5, within(1e-3));
    }

    @Test
    @DisplayName("of two boxes that overlap has the area of their union")
    void overlapping() {
        List<Model.Part> parts = List.of(
                new Model.Part(Shapes.block(2, 1, 1), Material.PLAIN),
                new Model.Part(
                        Shapes.block(1, 0.5, 3).transformed(Matrix4.translation(new Vec3(0.5, 0, 0))), Material.PLAIN));
        Model model = new Model(
                "Cross", List.of(Model.Node.of("Cross", Matrix4.IDENTITY, parts, List.of())), Model.Extras.NONE);
        PlanSymbol plan = PlanSymbol.of(model, 1e-3, true, Progress.NONE);
        assertThat(plan.area()).isCloseTo(2 + 3 - 1, within(1e-6));
        // The lower box's edges are hidden where the higher one lies over it; the higher one's are seen.
        assertThat(plan.edges().stream().mapToDouble(PlanSymbol.Line::length).sum())
                .isCloseTo(2, within(0.05));
    }

    @Test
    @DisplayName("grows with width and depth separately")
    void grows() {
        PlanSymbol plan = plan(Shapes.block(2, 1, 1), 1e-3).grown(3, 0.5);
        assertThat(plan.width()).isCloseTo(6, within(1e-9));
        assertThat(plan.depth()).isCloseTo(0.5, within(1e-9));
    }

    @ParameterizedTest
    @ValueSource(strings = {"ring.svg", "ring.dxf"})
    @DisplayName("is read back by independent readers in millimetres, with JTS's area")
    void readBack(String name) {
        PlanSymbol plan = plan(Shapes.torus(1, 0.25, 64, 24), 1e-3);
        Path file = folder.resolve(name);
        new PlanDrawing(plan, 50).write(file);
        List<String> lines = Oracle.run("drawing.mjs", file.toString()).lines().toList();
        List<Geometry> rings = new ArrayList<>();
        for (String line : lines.subList(1, lines.size())) {
            String[] words = line.split(" ");
            assertThat(words[0]).isEqualTo("outline");
            List<Coordinate> points = new ArrayList<>();
            for (int i = 1; i < words.length; i += 2) {
                points.add(new Coordinate(Double.parseDouble(words[i]), Double.parseDouble(words[i + 1])));
            }
            points.add(points.getFirst());
            rings.add(new GeometryFactory().createPolygon(points.toArray(Coordinate[]::new)));
        }
        assertThat(rings).hasSize(2);
        Geometry whole = rings.get(0).symDifference(rings.get(1));
        assertThat(whole.getArea()).isCloseTo(plan.area() * 20 * 20, within(0.05));
        double margin = name.endsWith("svg") ? 4 : 0;
        assertThat(lines.getFirst().split(" ")[1]).satisfies(width -> assertThat(Double.parseDouble(width))
                .isCloseTo(plan.width() * 20 + margin, within(0.01)));
    }

    @Test
    @DisplayName("stands in the asset as guide curves, and grows with the placement")
    void inTheAsset() {
        Workpiece piece = Made.mast(folder).open();
        long drawn = piece.model().trianglesDrawn();
        PlanSymbol.write(piece, PlanSymbol.of(piece.model(), 1e-3, false, Progress.NONE));
        var prim = piece.editor().stage().prim(Made.ROOT.child("Plan")).orElseThrow();
        assertThat(prim.typeName()).isEqualTo("BasisCurves");
        assertThat(piece.model().trianglesDrawn()).isEqualTo(drawn);
        assertThat(Made.rules(Made.inspect(piece))).doesNotContain("stray-edge");
    }

    @Test
    @DisplayName("of nothing is refused, and so is a tolerance of nothing")
    void refused() {
        Model nothing = new Model("Nothing", List.of(), Model.Extras.NONE);
        assertThatThrownBy(() -> PlanSymbol.of(nothing, 0.01, false, Progress.NONE))
                .isInstanceOf(PrepException.class)
                .hasMessageContaining("seen from above");
        assertThatThrownBy(() -> plan(Shapes.block(1, 1, 1), 0)).hasMessageContaining("above 0");
        assertThatThrownBy(() -> new PlanDrawing(plan(Shapes.block(1, 1, 1), 0.01), 50).write(folder.resolve("a.png")))
                .hasMessageContaining(".svg nor .dxf");
    }
}
