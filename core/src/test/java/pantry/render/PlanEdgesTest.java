package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.testing.Workshop;

/** Things that are turned any way come to lie with corners and edges together, by figures worked out by hand. */
class PlanEdgesTest {
    private static final double REACH = 0.25;
    private static final String STANDING = "/Standing";
    private static final String SLID = "/Slid";

    private static Model.Node node(String path, Matrix4 place, Mesh... meshes) {
        List<Model.Part> parts = Stream.of(meshes)
                .map(mesh -> new Model.Part(mesh, Workshop.RED))
                .toList();
        return new Model.Node(path, path, place, parts, List.of(), false);
    }

    /** Standing and slid: two blocks in their places. */
    private static RenderScene blocks(Matrix4 standing, Matrix4 slid) {
        return scene(node(STANDING, standing, block()), node(SLID, slid, block()));
    }

    private static RenderScene scene(Model.Node... nodes) {
        return RenderScene.of(new Model("Blocks", List.of(nodes), Model.Extras.NONE), new RenderCache());
    }

    private static Optional<PlanEdges.Meeting> meeting(RenderScene scene, Vec3 by) {
        return scene.planEdges(STANDING).meet(scene.planEdges(SLID), by, REACH);
    }

    private static Matrix4 turned(double degrees, Vec3 to) {
        return Matrix4.rotation(1, degrees).times(Matrix4.translation(to));
    }

    /** Two metres wide and deep, one high, its base on the floor. */
    private static Mesh block() {
        return Shapes.box(new Vec3(-1, 0, -1), new Vec3(1, 1, 1));
    }

    @Test
    void aCornerComesToLieOnACornerThatIsInReach() {
        // Turned by 45°, the one at the left has its right corner at √2; the other's left corner is 0.1 from it.
        double corner = Math.sqrt(2);
        RenderScene scene = blocks(turned(45, Vec3.ZERO), turned(45, new Vec3(2 * corner + 0.1, 0, 0.05)));
        Vec3 shift = meeting(scene, Vec3.ZERO).orElseThrow().shift();
        assertThat(shift.x()).isCloseTo(-0.1, within(1e-6));
        assertThat(shift.y()).isZero();
        assertThat(shift.z()).isCloseTo(-0.05, within(1e-6));
        assertThat(meeting(scene, Vec3.ZERO).orElseThrow()).isInstanceOf(PlanEdges.Meeting.AtCorner.class);
    }

    @Test
    void aCornerComesToLieOnAnEdgeAcrossWhichItIs() {
        // The one at the left ends at x = 1; the turned one's left corner is 0.2 further, half-way between its corners.
        RenderScene scene = blocks(Matrix4.IDENTITY, turned(45, new Vec3(1.2 + Math.sqrt(2), 0, 0.3)));
        PlanEdges.Meeting meeting = meeting(scene, Vec3.ZERO).orElseThrow();
        assertThat(meeting).isInstanceOf(PlanEdges.Meeting.AlongEdge.class);
        assertThat(meeting.shift().x()).isCloseTo(-0.2, within(1e-6));
        assertThat(meeting.shift().z()).isCloseTo(0, within(1e-6));
    }

    @Test
    void anEdgeComesToLieOnACornerAsWell() {
        RenderScene scene = blocks(turned(45, new Vec3(1.2 + Math.sqrt(2), 0, 0.3)), Matrix4.IDENTITY);
        assertThat(meeting(scene, Vec3.ZERO).orElseThrow().shift().x()).isCloseTo(0.2, within(1e-6));
    }

    @Test
    void innerCornersCountWhichNoBoxHas() {
        // Two arms of a wall that meet at the origin; a small block is slid into the corner between them.
        Mesh along = Shapes.box(new Vec3(0, 0, -0.2), new Vec3(4, 1, 0));
        Mesh across = Shapes.box(new Vec3(-0.2, 0, -0.2), new Vec3(0, 1, 4));
        Mesh small = Shapes.box(new Vec3(0, 0, 0), new Vec3(0.5, 0.5, 0.5));
        RenderScene scene = scene(
                node(STANDING, Matrix4.IDENTITY, along, across),
                node(SLID, Matrix4.translation(new Vec3(0.1, 0, 0.15)), small));
        Vec3 shift = meeting(scene, Vec3.ZERO).orElseThrow().shift();
        assertThat(shift.x()).isCloseTo(-0.1, within(1e-6));
        assertThat(shift.z()).isCloseTo(-0.15, within(1e-6));
    }

    @Test
    void nothingMeetsOutOfReachOrFarAbove() {
        RenderScene apart = blocks(Matrix4.IDENTITY, turned(0, new Vec3(2.3, 0, 0)));
        assertThat(meeting(apart, Vec3.ZERO)).isEmpty();
        RenderScene above = blocks(Matrix4.IDENTITY, turned(0, new Vec3(2.1, 5, 0)));
        assertThat(meeting(above, Vec3.ZERO)).isEmpty();
    }

    @Property(tries = 200)
    void whatMetIsThereAfterTheShift(
            @ForAll @DoubleRange(min = 0, max = 360) double turn,
            @ForAll @DoubleRange(min = 1.5, max = 2.5) double x,
            @ForAll @DoubleRange(min = -1, max = 1) double z) {
        RenderScene scene = blocks(turned(turn, Vec3.ZERO), turned(2 * turn, new Vec3(x, 0, z)));
        meeting(scene, Vec3.ZERO).ifPresent(meeting -> {
            assertThat(meeting.shift().length()).isLessThanOrEqualTo(REACH);
            // A corner that came into reach on the way counts more than the edge that was met.
            PlanEdges.Meeting again = meeting(scene, meeting.shift()).orElseThrow();
            if (again.getClass() == meeting.getClass()) {
                assertThat(again.shift().length()).isCloseTo(0, within(1e-6));
            }
        });
    }
}
