package pantry.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** Against what L. Kavan et al. (2008) say of dual quaternion blending, and against single maps. */
class DualQuaternionsTest {
    private static final float[] POINT = {1, 2, 3};

    private static float[] moved(boolean dual, float weight, Matrix4 one, Matrix4 other) {
        Skin skin = new Skin(2, new float[] {0, 1}, new float[] {1 - weight, weight}, dual);
        return skin.deformed(POINT, new Matrix4[] {one, other});
    }

    private static void close(float[] found, Vec3 wanted) {
        assertThat(found[0]).isCloseTo((float) wanted.x(), within(1e-5f));
        assertThat(found[1]).isCloseTo((float) wanted.y(), within(1e-5f));
        assertThat(found[2]).isCloseTo((float) wanted.z(), within(1e-5f));
    }

    private static Vec3 by(Matrix4 map) {
        return map.point(new Vec3(POINT[0], POINT[1], POINT[2]));
    }

    /** One joint alone does what its map says, also where that stretches, shears or mirrors. */
    @Test
    void oneJointIsItsMap() {
        Random random = new Random(20_261_201);
        for (int i = 0; i < 500; i++) {
            double[] m = new double[16];
            for (int k = 0; k < 16; k++) {
                m[k] = k % 4 == 3 ? (k == 15 ? 1 : 0) : random.nextDouble() * 4 - 2;
            }
            Matrix4 map = Matrix4.ofRows(m);
            if (Math.abs(map.determinant3()) > 0.05) {
                float[] found = moved(true, 0, map, Matrix4.IDENTITY);
                Vec3 wanted = by(map);
                assertThat(found[0]).isCloseTo((float) wanted.x(), within(1e-3f));
                assertThat(found[1]).isCloseTo((float) wanted.y(), within(1e-3f));
                assertThat(found[2]).isCloseTo((float) wanted.z(), within(1e-3f));
            }
        }
    }

    /** Half of a screw is half its turn and half its way: the shortest path, at even speed for two equal weights. */
    @Test
    void halfOfAScrewIsHalfOfItsTurnAndWay() {
        Matrix4 whole = Matrix4.rotation(1, 120).times(Matrix4.translation(new Vec3(0, 4, 0)));
        Matrix4 half = Matrix4.rotation(1, 60).times(Matrix4.translation(new Vec3(0, 2, 0)));
        close(moved(true, 0.5f, Matrix4.IDENTITY, whole), by(half));
        // Also about an axis elsewhere.
        Matrix4 there = Matrix4.translation(new Vec3(5, -1, 2));
        Matrix4 aside = there.inverse().times(whole).times(there);
        close(
                moved(true, 0.5f, Matrix4.IDENTITY, aside),
                by(there.inverse().times(half).times(there)));
    }

    /** A limb that is twisted keeps its thickness, which it loses where maps are mixed. */
    @Test
    void aTwistedLimbKeepsItsThickness() {
        Matrix4 twisted = Matrix4.rotation(1, 170);
        float[] dual = moved(true, 0.5f, Matrix4.IDENTITY, twisted);
        float[] linear = moved(false, 0.5f, Matrix4.IDENTITY, twisted);
        double thick = Math.hypot(POINT[0], POINT[2]);
        assertThat(Math.hypot(dual[0], dual[2])).isCloseTo(thick, within(1e-5));
        assertThat(Math.hypot(linear[0], linear[2])).isLessThan(0.1 * thick);
        assertThat(dual[1]).isCloseTo(POINT[1], within(1e-6f));
    }

    /** Opposite quaternions are the same turn: the way between is the short one. */
    @Test
    void theShortWayIsTaken() {
        Matrix4 back = Matrix4.rotation(0, 350);
        close(moved(true, 0.5f, Matrix4.IDENTITY, back), by(Matrix4.rotation(0, -5)));
        close(moved(true, 0.5f, Matrix4.rotation(2, 200), Matrix4.rotation(2, 240)), by(Matrix4.rotation(2, 220)));
    }

    @Test
    void whatIsNotRigidIsMixedLinearly() {
        Matrix4 large = Matrix4.scale(new Vec3(3, 1, 2));
        close(moved(true, 0.25f, Matrix4.IDENTITY, large), new Vec3(1.5, 2, 3.75));
        close(moved(false, 0.25f, Matrix4.IDENTITY, large), new Vec3(1.5, 2, 3.75));
        close(moved(true, 0.5f, Matrix4.IDENTITY, Matrix4.scale(Vec3.ZERO)), new Vec3(0.5, 1, 1.5));
    }

    @Test
    void normalsTurnAlong() {
        Skin skin = new Skin(2, new float[] {0, 1}, new float[] {0.5f, 0.5f}, true);
        Matrix4[] changes = {Matrix4.IDENTITY, Matrix4.rotation(1, 90)};
        float[] turned = skin.deformed(POINT, new float[] {1, 0, 0}, changes).normals();
        Vec3 wanted = Matrix4.rotation(1, 45).point(new Vec3(1, 0, 0));
        assertThat(turned[0]).isCloseTo((float) wanted.x(), within(1e-6f));
        assertThat(turned[2]).isCloseTo((float) wanted.z(), within(1e-6f));
    }
}
