package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

class Matrix4Test {
    @Test
    void aQuarterTurnAboutEachAxisIsExactAndRightHanded() {
        assertThat(Matrix4.rotation(0, 90).point(new Vec3(0, 1, 0))).isEqualTo(new Vec3(0, 0, 1));
        assertThat(Matrix4.rotation(1, 90).point(new Vec3(0, 0, 1))).isEqualTo(new Vec3(1, 0, 0));
        assertThat(Matrix4.rotation(2, 90).point(new Vec3(1, 0, 0))).isEqualTo(new Vec3(0, 1, 0));
    }

    @Test
    void timesAppliesTheLeftSideFirst() {
        Matrix4 m = Matrix4.scale(new Vec3(2, 2, 2)).times(Matrix4.translation(new Vec3(1, 0, 0)));
        assertThat(m.point(new Vec3(1, 1, 1))).isEqualTo(new Vec3(3, 2, 2));
    }

    @Test
    void theInverseLeadsBack() {
        Matrix4 m = Matrix4.scale(new Vec3(2, -3, 0.5))
                .times(Matrix4.rotationXyz(new Vec3(20, 130, -77)))
                .times(Matrix4.translation(new Vec3(4, 5, -6)));
        Vec3 p = new Vec3(0.3, -8, 2);
        Vec3 back = m.inverse().point(m.point(p));
        assertThat(back.minus(p).length()).isLessThan(1e-12);
        assertThat(m.determinant3()).isCloseTo(-3, within(1e-12));
        assertThatThrownBy(() -> Matrix4.scale(new Vec3(1, 0, 1)).inverse()).isInstanceOf(ArithmeticException.class);
    }

    /** A quaternion of 120° about (1,1,1) permutes the axes: x to y, y to z, z to x. */
    @Test
    void aQuaternionTurnsAsItsAxisAndAngleSay() {
        Vec3 turned = Matrix4.quaternion(0.5, 0.5, 0.5, 0.5).point(new Vec3(1, 0, 0));
        assertThat(turned.minus(new Vec3(0, 1, 0)).length()).isLessThan(1e-12);
    }

    @Test
    void anEmptyBoxAddsNothingAndMeasuresNothing() {
        Box3 box = new Box3(new Vec3(1, 2, 3), new Vec3(4, 5, 6));
        assertThat(Box3.EMPTY.union(box)).isEqualTo(box);
        assertThat(Box3.EMPTY.size()).isEqualTo(Vec3.ZERO);
        assertThat(Box3.EMPTY.transformed(Matrix4.rotation(0, 12)).isEmpty()).isTrue();
    }
}
