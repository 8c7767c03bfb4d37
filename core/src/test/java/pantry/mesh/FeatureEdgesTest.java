package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;

/** Lines of edges, against the shapes that they are of. */
class FeatureEdgesTest {
    private static FeatureEdges.Line near(Mesh mesh, double x, double y, double z) {
        return new FeatureEdges(mesh).nearest(new Vec3(x, y, z)).orElseThrow();
    }

    @Test
    void anEdgeOfABoxRunsFromCornerToCorner() {
        Mesh box = Shapes.box(new Vec3(0, 0, 0), new Vec3(4, 1, 2));
        FeatureEdges.Line line = near(box, 1.7, 1.1, 2.1);
        assertThat(line.points()).containsExactlyInAnyOrder(new Vec3(0, 1, 2), new Vec3(4, 1, 2));
        assertThat(line.distance()).isCloseTo(Math.sqrt(0.02), within(1e-6));
    }

    @Test
    void theRimOfACylinderIsClosedAndItsSidesAreNoEdges() {
        Mesh cylinder = Shapes.cylinder(2, 3, 24);
        FeatureEdges.Line line = near(cylinder, 2, 2.5, 0);
        double top = cylinder.bounds().max().y();
        assertThat(line.points()).hasSize(25).allSatisfy(point -> {
            assertThat(point.y()).isCloseTo(top, within(1e-6));
            assertThat(Math.hypot(point.x(), point.z())).isCloseTo(2, within(1e-6));
        });
        assertThat(line.points().getFirst()).isEqualTo(line.points().getLast());
        assertThat(line.points().stream().distinct()).hasSize(24);
    }

    @Test
    void anOpenSurfaceHasItsBorderAndASphereHasNoEdge() {
        Mesh plate = Shapes.plate(6, 2);
        List<Vec3> border = near(plate, 0, 0, 1).points();
        assertThat(border).hasSize(2);
        assertThat(border.getFirst().minus(border.getLast()).length()).isCloseTo(6, within(1e-6));
        assertThat(new FeatureEdges(Shapes.sphere(1, 24, 16)).nearest(Vec3.ZERO))
                .isEqualTo(Optional.empty());
    }

    @Test
    void pointsThatLieStraightOnTheWayAreLeftOut() {
        // Two boards end to end: one border along both.
        float[] points = {0, 0, 0, 3, 0, 0, 5, 0, 0, 0, 0, 1, 3, 0, 1, 5, 0, 1};
        Mesh boards = new Mesh(points, new int[] {4, 4}, new int[] {0, 3, 4, 1, 1, 4, 5, 2}, null, null);
        assertThat(near(boards, 1, 0, -0.2).points()).containsExactlyInAnyOrder(new Vec3(0, 0, 0), new Vec3(5, 0, 0));
    }

    @Test
    void aBoxHasTwelveEdgesThatMeetInEightCornersAndARimHasNone() {
        FeatureEdges box = new FeatureEdges(Shapes.box(new Vec3(0, 0, 0), new Vec3(4, 1, 2)));
        assertThat(box.edges()).hasSize(12);
        assertThat(box.corners()).hasSize(8).allSatisfy(corner -> {
            assertThat(corner.x()).isIn(0.0, 4.0);
            assertThat(corner.y()).isIn(0.0, 1.0);
            assertThat(corner.z()).isIn(0.0, 2.0);
        });
        FeatureEdges cylinder = new FeatureEdges(Shapes.cylinder(2, 3, 24));
        assertThat(cylinder.edges()).as("two rims").hasSize(48);
        assertThat(cylinder.corners()).isEmpty();
    }
}
