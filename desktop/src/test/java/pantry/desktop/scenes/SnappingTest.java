package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.render.RenderScene;

/** What is slid lies flush with what is near, by figures worked out by hand. */
class SnappingTest {
    private static final double REACH = 0.25;

    /** A block on the floor, by its middle; its pivot is in the middle of its base. */
    private static RenderScene.Standing block(double x, double z, double width, double depth) {
        return new RenderScene.Standing(
                "/Block",
                new Box3(new Vec3(x - width / 2, 0, z - depth / 2), new Vec3(x + width / 2, 1, z + depth / 2)),
                new Vec3(x, 0, z));
    }

    private static Vec3 shift(RenderScene.Standing slid, RenderScene.Standing... others) {
        return Snapping.of(slid, List.of(others), REACH).shift();
    }

    @Test
    void sidesMeetAlongEachAxisForItself() {
        RenderScene.Standing other = block(0, 0, 4, 2);
        // From 2.1 to 3.1 along x: its left side is 0.1 from the other's right side, at 2; along z nothing is near.
        Vec3 beside = shift(block(2.6, 0.5, 1, 0.3), other);
        assertThat(beside.x()).isCloseTo(-0.1, within(1e-9));
        assertThat(beside.z()).isZero();
        Vec3 corner = shift(block(2.6, 1.4, 1, 1), other);
        assertThat(corner.x()).as("side by side").isCloseTo(-0.1, within(1e-9));
        assertThat(corner.z()).as("and behind it: corner to corner").isCloseTo(0.1, within(1e-9));
    }

    @Test
    void pivotsMeetWhereTheyAreNearerThanSides() {
        Vec3 over = shift(block(0.05, 3, 1, 1), block(0, 0, 4, 2));
        assertThat(over.x()).isCloseTo(-0.05, within(1e-9));
    }

    @Test
    void whatIsFarAwayOrOutOfReachMovesNothing() {
        assertThat(shift(block(2.9, 0.5, 1, 0.3), block(0, 0, 4, 2))).isEqualTo(Vec3.ZERO);
        assertThat(shift(block(2.6, 40, 1, 1), block(0, 0, 4, 2))).isEqualTo(Vec3.ZERO);
        assertThat(Snapping.of(block(0, 0, 1, 1), List.of(), REACH)).isEqualTo(Snapping.NONE);
        assertThat(Snapping.of(
                        new RenderScene.Standing("/Nothing", Box3.EMPTY, Vec3.ZERO), List.of(block(0, 0, 1, 1)), REACH))
                .isEqualTo(Snapping.NONE);
    }

    @Test
    void theNearestOfSeveralCountsAndAGuideRunsAlongBoth() {
        Snapping snapping =
                Snapping.of(block(2.6, 0.5, 1, 0.3), List.of(block(0, 0, 4, 2), block(5.13, 0.4, 4, 0.9)), REACH);
        // The other's left side is at 3.13, 0.03 from its right side, and nearer than 0.1 to the left.
        assertThat(snapping.shift().x()).isCloseTo(0.03, within(1e-9));
        assertThat(snapping.guides().getFirst().x()).isCloseTo(3.13, within(1e-9));
        double from = snapping.guides().getFirst().z();
        double to = snapping.guides().get(1).z();
        assertThat(from).isCloseTo(-0.05, within(1e-9));
        assertThat(to).isCloseTo(0.85, within(1e-9));
    }
}
