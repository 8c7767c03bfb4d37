package pantry.twins;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.EigenDecompositionSymmetric;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

class SimilarityTest {
    private static double[] cloud(Random random, int points) {
        return random.doubles(3L * points, -5, 5).toArray();
    }

    private static double[] placed(double[] points, Matrix4 place, Random random, double noise) {
        double[] result = new double[points.length];
        for (int i = 0; i < points.length; i += 3) {
            Vec3 p = place.point(points[i], points[i + 1], points[i + 2]);
            result[i] = p.x() + noise * random.nextGaussian();
            result[i + 1] = p.y() + noise * random.nextGaussian();
            result[i + 2] = p.z() + noise * random.nextGaussian();
        }
        return result;
    }

    @Property(tries = 200)
    void findsTheTransformThatPointsWereMovedBy(@ForAll long seed, @ForAll boolean mirrored) {
        Random random = new Random(seed);
        double scale = 0.2 + 3 * random.nextDouble();
        Matrix4 place =
                Matrix4.scale(new Vec3(mirrored ? -scale : scale, scale, scale)).times(new Copies(seed).place(20));
        double[] from = cloud(random, 12);
        Matrix4 found = Similarity.of(from, placed(from, place, random, 0), Similarity.Freedom.SCALED, mirrored);
        for (int i = 0; i < 16; i++) {
            assertThat(found.rows()[i]).isCloseTo(place.rows()[i], org.assertj.core.data.Offset.offset(1e-9));
        }
    }

    /**
     * Against another closed form, by the eigenvector of a quaternion's matrix (B. K. P. Horn, Closed-form solution of
     * absolute orientation using unit quaternions, JOSA A 4, 1987), on points with errors.
     */
    @Property(tries = 100)
    void agreesWithHornsQuaternions(@ForAll long seed) {
        Random random = new Random(seed);
        double[] from = cloud(random, 20);
        double[] to = placed(from, new Copies(seed).place(3), random, 0.4);
        double[] found =
                Similarity.of(from, to, Similarity.Freedom.RIGID, false).rows();
        double[] horn = horn(from, to).rows();
        for (int i = 0; i < 12; i++) {
            assertThat(found[i]).isCloseTo(horn[i], org.assertj.core.data.Offset.offset(1e-8));
        }
    }

    private static Matrix4 horn(double[] from, double[] to) {
        double[][] s = new double[3][3];
        double[] a = new double[3];
        double[] b = new double[3];
        for (int i = 0; i < from.length; i++) {
            a[i % 3] += from[i] * 3 / from.length;
            b[i % 3] += to[i] * 3 / from.length;
        }
        for (int i = 0; i < from.length; i += 3) {
            for (int r = 0; r < 3; r++) {
                for (int c = 0; c < 3; c++) {
                    s[r][c] += (from[i + r] - a[r]) * (to[i + c] - b[c]);
                }
            }
        }
        double[][] n = {
            {s[0][0] + s[1][1] + s[2][2], s[1][2] - s[2][1], s[2][0] - s[0][2], s[0][1] - s[1][0]},
            {s[1][2] - s[2][1], s[0][0] - s[1][1] - s[2][2], s[0][1] + s[1][0], s[2][0] + s[0][2]},
            {s[2][0] - s[0][2], s[0][1] + s[1][0], -s[0][0] + s[1][1] - s[2][2], s[1][2] + s[2][1]},
            {s[0][1] - s[1][0], s[2][0] + s[0][2], s[1][2] + s[2][1], -s[0][0] - s[1][1] + s[2][2]}
        };
        double[] q = new EigenDecompositionSymmetric(new Array2DRowRealMatrix(n))
                .getEigenvector(0)
                .toArray();
        return Matrix4.quaternion(q[0], q[1], q[2], q[3]);
    }

    @Test
    void pointsInAPlaneAndOnALineHaveATransformToo() {
        double[] line = {0, 0, 0, 1, 0, 0, 2, 0, 0};
        double[] up = {0, 0, 0, 0, 1, 0, 0, 2, 0};
        Matrix4 found = Similarity.of(line, up, Similarity.Freedom.RIGID, false);
        assertThat(found.point(2, 0, 0).minus(new Vec3(0, 2, 0)).length()).isLessThan(1e-9);
        assertThat(found.determinant3()).isCloseTo(1, org.assertj.core.data.Offset.offset(1e-9));
    }

    @Test
    void differentNumbersOfPointsAreRefused() {
        assertThatThrownBy(() -> Similarity.of(new double[3], new double[6], Similarity.Freedom.RIGID, false))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("3 and 6");
    }
}
