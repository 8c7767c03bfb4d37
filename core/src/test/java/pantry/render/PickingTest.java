package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.mesh.Triangulation;
import pantry.model.Model;
import pantry.testing.Workshop;

class PickingTest {
    private static Model.Node node(String name, Mesh mesh, Matrix4 place) {
        return Model.Node.of(name, place, List.of(new Model.Part(mesh, Workshop.RED)), List.of());
    }

    private static RenderScene at(Mesh mesh, Matrix4 place) {
        return scene(node("Node", mesh, place));
    }

    private static RenderScene scene(Model.Node... nodes) {
        return RenderScene.of(new Model("Model", List.of(nodes), Model.Extras.NONE), new RenderCache());
    }

    /** A line towards a block meets its nearer face. */
    @Test
    void aLineMeetsTheNearestFace() {
        RenderScene block = at(Shapes.block(2, 2, 2), Matrix4.translation(new Vec3(0, 0, -10)));
        Picking.Hit hit =
                Picking.hit(block, new Vec3(0.3, 1, 5), new Vec3(0, 0, -1)).orElseThrow();
        assertThat(hit.point().z()).isCloseTo(-9, within(1e-9));
        assertThat(hit.point().x()).isCloseTo(0.3, within(1e-9));
        assertThat(hit.normal()).isEqualTo(new Vec3(0, 0, 1));
        assertThat(Picking.hit(block, new Vec3(0.3, 1, 5), new Vec3(0, 0, 1)))
                .as("it is behind")
                .isEmpty();
        assertThat(Picking.hit(block, new Vec3(3, 1, 5), new Vec3(0, 0, -1)))
                .as("it is beside")
                .isEmpty();
        assertThat(Picking.hit(block, new Vec3(0.3, 1, -10), new Vec3(0, 0, -1))
                        .orElseThrow()
                        .point()
                        .z())
                .as("from within, the far face")
                .isCloseTo(-11, within(1e-9));
    }

    /** A line through the middle of a sphere meets it at its radius, however it is scaled and turned. */
    @Test
    void placesAreScaledAndTurned() {
        Matrix4 place = Matrix4.scale(new Vec3(3, 3, 3))
                .times(Matrix4.rotation(1, 37))
                .times(Matrix4.translation(new Vec3(5, 0, 0)));
        Picking.Hit hit = Picking.hit(at(Shapes.sphere(1, 128, 96), place), new Vec3(5, 0, 20), new Vec3(0, 0, -2))
                .orElseThrow();
        assertThat(hit.point().z()).isCloseTo(3, within(0.01));
        assertThat(hit.normal().z()).isCloseTo(1, within(0.01));
    }

    /** What is dragged over others does not stand in its own way. */
    @Test
    void someThingsAreSeenThrough() {
        RenderScene scene = scene(
                node("Table", Shapes.block(4, 1, 4), Matrix4.IDENTITY),
                node("Cup", Shapes.block(0.2, 0.3, 0.2), Matrix4.translation(new Vec3(1, 1, 0))));
        Vec3 above = new Vec3(1, 9, 0);
        Vec3 down = new Vec3(0, -1, 0);
        assertThat(Picking.hit(scene, above, down).orElseThrow().point().y()).isCloseTo(1.3, within(1e-6));
        assertThat(Picking.hit(scene, above, down, Set.of("Cup"))
                        .orElseThrow()
                        .point()
                        .y())
                .isCloseTo(1, within(1e-6));
        assertThat(Picking.hit(scene, above, down, Set.of("Cup", "Table"))).isEmpty();
    }

    /** Whatever is passed over by its ball, every triangle asked one by one gives the same. */
    @Property(tries = 200)
    void nothingThatIsMetIsPassedOver(
            @ForAll @DoubleRange(min = -1.2, max = 1.2) double x,
            @ForAll @DoubleRange(min = -1.2, max = 1.2) double y) {
        Mesh ball = Shapes.sphere(1, 48, 32);
        Matrix4 flat = Matrix4.scale(new Vec3(1, 0.2, 3)).times(Matrix4.rotation(0, 20));
        RenderScene scene = at(ball, flat);
        Optional<Picking.Hit> hit = Picking.hit(scene, new Vec3(x, y, 9), new Vec3(0, 0, -1));
        // The ellipsoid's outline; the mesh runs a little within it.
        double high = Math.hypot(0.2 * Math.cos(Math.toRadians(20)), 3 * Math.sin(Math.toRadians(20)));
        double out = x * x + y * y / high / high;
        if (out > 1.001) {
            assertThat(hit).isEmpty();
        }
        if (out > 0.95) {
            return;
        }
        int[] corners = Triangulation.corners(ball);
        double nearest = Double.NEGATIVE_INFINITY;
        for (int t = 0; t < corners.length; t += 3) {
            nearest = Math.max(nearest, depth(ball, flat, corners, t, x, y));
        }
        assertThat(hit.orElseThrow().point().z()).isCloseTo(nearest, within(1e-5));
    }

    /** The height along z of a triangle over a point, by the areas of its three parts; none beside it. */
    private static double depth(Mesh mesh, Matrix4 place, int[] corners, int t, double x, double y) {
        Vec3 a = place.point(mesh.point(mesh.corners()[corners[t]]));
        Vec3 b = place.point(mesh.point(mesh.corners()[corners[t + 1]]));
        Vec3 c = place.point(mesh.point(mesh.corners()[corners[t + 2]]));
        double whole = (b.x() - a.x()) * (c.y() - a.y()) - (b.y() - a.y()) * (c.x() - a.x());
        double u = ((b.x() - x) * (c.y() - y) - (b.y() - y) * (c.x() - x)) / whole;
        double v = ((c.x() - x) * (a.y() - y) - (c.y() - y) * (a.x() - x)) / whole;
        double w = 1 - u - v;
        // On the edge between two triangles, rounding must not put a point beside both.
        double beside = -1e-9;
        return whole == 0 || u < beside || v < beside || w < beside
                ? Double.NEGATIVE_INFINITY
                : u * a.z() + v * b.z() + w * c.z();
    }

    /** Common practice: the eleven basic colour words, for colours that nobody would dispute. */
    @ParameterizedTest
    @CsvSource({
        "000000,black", "FFFFFF,white", "808080,grey", "FF0000,red", "00A000,green", "0000FF,blue", "FFFF00,yellow",
        "FF8000,orange", "FFC0CB,pink", "800080,purple", "6B4423,brown", "008080,teal", "B23A2E,red", "3E7A78,teal",
        "D39A3A,orange", "ECE9E1,white", "4A5056,grey"
    })
    void coloursHaveTheirWords(String hex, String word) {
        assertThat(ColourNames.name(Integer.parseInt(hex, 16))).isEqualTo(word);
    }

    @Test
    void whatIsSeenMostOfComesFirstAndWhatIsHardlySeenNotAtAll() {
        BufferedImage picture = new BufferedImage(90, 90, BufferedImage.TYPE_INT_ARGB);
        for (int y = 0; y < 90; y++) {
            for (int x = 0; x < 90; x++) {
                int colour = x < 50 ? 0xFF0000FF : x < 75 ? 0xFFFF0000 : x < 78 ? 0xFF00FF00 : 0x00FFFFFF;
                picture.setRGB(x, y, colour);
            }
        }
        assertThat(ColourNames.of(picture)).containsExactly("blue", "red");
        assertThat(ColourNames.of(new BufferedImage(9, 9, BufferedImage.TYPE_INT_ARGB)))
                .isEmpty();
    }

    @Test
    void edgesDarkenWhereTrianglesMeetAndNowhereElse() {
        RenderScene scene = at(Shapes.block(2, 2, 2), Matrix4.IDENTITY);
        RenderOptions bare = RenderOptions.bare(0xFFFFFF).withFlat(true);
        Camera front = new Camera(new Vec3(0, 1, 0), 0, 0, 6, 35);
        int[] plain = new Renderer().draw(scene, front, 200, 200, bare).argb().clone();
        int[] edged = new Renderer()
                .draw(scene, front, 200, 200, bare.withEdges(true))
                .argb()
                .clone();
        int darker = 0;
        for (int i = 0; i < plain.length; i++) {
            if (plain[i] != edged[i]) {
                darker++;
                assertThat(edged[i] & 0xff).isLessThan(plain[i] & 0xff);
            }
        }
        assertThat(darker).as("outline and one diagonal").isBetween(200, 1400);
    }
}
