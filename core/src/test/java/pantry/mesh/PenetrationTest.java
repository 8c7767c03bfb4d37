package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.ode4j.ode.DContactGeomBuffer;
import org.ode4j.ode.DGeom;
import org.ode4j.ode.OdeHelper;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.model.WorldPoints;

/** Depths against formulas, and against those that the Open Dynamics Engine tells of spheres and boxes. */
class PenetrationTest {
    private static final double[] BLOCK = at(Shapes.box(new Vec3(0, 0, 0), new Vec3(1, 1, 1)), 0, 0, 0);

    @BeforeAll
    static void start() {
        OdeHelper.initODE2(0);
    }

    @AfterAll
    static void stop() {
        OdeHelper.closeODE();
    }

    private static double[] at(Mesh mesh, double x, double y, double z) {
        return WorldPoints.triangles(mesh.transformed(Matrix4.translation(new Vec3(x, y, z))));
    }

    private static double depth(DGeom one, DGeom other) {
        DContactGeomBuffer contacts = new DContactGeomBuffer(8);
        int count = OdeHelper.collide(one, other, 8, contacts);
        double deepest = 0;
        for (int i = 0; i < count; i++) {
            deepest = Math.max(deepest, contacts.get(i).depth);
        }
        return deepest;
    }

    @Test
    void spheresAsTheEngineTells() {
        Mesh sphere = Shapes.sphere(1, 96, 64);
        for (double apart : new double[] {1.2, 1.9, 2.1}) {
            DGeom one = OdeHelper.createSphere(1);
            DGeom other = OdeHelper.createSphere(1);
            other.setPosition(apart, 0, 0);
            assertThat(Penetration.depth(at(sphere, 0, 0, 0), at(sphere, apart, 0, 0)))
                    .as("spheres of 1 m, " + apart + " m apart")
                    .isCloseTo(depth(one, other), within(0.03));
        }
    }

    @Test
    void boxesAsTheEngineTells() {
        for (double apart : new double[] {0.7, 0.9, 1.05}) {
            DGeom one = OdeHelper.createBox(1, 1, 1);
            DGeom other = OdeHelper.createBox(1, 1, 1);
            other.setPosition(apart, 0.1, 0.2);
            assertThat(Penetration.depth(BLOCK, at(Shapes.box(new Vec3(0, 0, 0), new Vec3(1, 1, 1)), apart, 0.1, 0.2)))
                    .as("blocks of 1 m, " + apart + " m apart")
                    .isCloseTo(depth(one, other), within(0.02));
        }
    }

    @Test
    void whatStandsOnSomethingOrBesideItIsNotInIt() {
        assertThat(Penetration.depth(BLOCK, at(Shapes.block(1, 1, 1), 0.5, 1, 0.5)))
                .isLessThan(1e-9);
        assertThat(Penetration.depth(BLOCK, at(Shapes.block(1, 1, 1), 3, 0, 0))).isZero();
    }

    @Test
    void barsThatCrossHaveNoCornerInEachOtherAndStillOverlap() {
        double[] along = WorldPoints.triangles(Shapes.box(new Vec3(-2, 0, -0.1), new Vec3(2, 0.2, 0.1)));
        double[] across = WorldPoints.triangles(Shapes.box(new Vec3(-0.1, 0.05, -2), new Vec3(0.1, 0.25, 2)));
        assertThat(Penetration.depth(along, across)).as("to the nearest side").isCloseTo(0.1, within(0.01));
    }

    @Test
    void oneWithinTheOtherIsAsDeepAsItsDeepestPoint() {
        double[] small = WorldPoints.triangles(Shapes.box(new Vec3(0.3, 0.3, 0.3), new Vec3(0.5, 0.5, 0.5)));
        assertThat(Penetration.depth(BLOCK, small)).isCloseTo(0.5, within(1e-6));
        assertThat(Penetration.depth(small, BLOCK)).isCloseTo(0.5, within(1e-6));
    }

    @Test
    void groundEnclosesNothing() {
        double[] ground = WorldPoints.triangles(Shapes.plate(50, 50));
        assertThat(Penetration.depth(ground, at(Shapes.block(1, 1, 1), 0, -0.5, 0)))
                .as("the ground's own surface is in the block")
                .isCloseTo(0.5, within(0.05));
        assertThat(Penetration.depth(ground, at(Shapes.block(1, 1, 1), 0, -3, 0)))
                .isZero();
    }

    @Test
    void nothingIsInNothing() {
        assertThat(Penetration.depth(new double[0], BLOCK)).isZero();
        assertThat(Penetration.depth(BLOCK, new double[0])).isZero();
    }
}
