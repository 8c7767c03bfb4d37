package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import com.github.quickhull3d.InternalErrorException;
import com.github.quickhull3d.QuickHull3D;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.math.Vec3;

/** Hulls, against the half-spaces that their faces say and figures worked out by hand. */
class ConvexHullTest {
    @Test
    void pointsWithinABoxAreNotOnItsHull() {
        Random random = new Random(3);
        double[] points = new double[3 * 208];
        for (int i = 0; i < points.length; i++) {
            points[i] = i < 24 ? 2 * (i / 3 >> i % 3 & 1) : 0.1 + 1.8 * random.nextDouble();
        }
        Mesh hull = ConvexHull.of(points).orElseThrow();
        assertThat(hull.pointCount()).isEqualTo(8);
        assertThat(hull.faceCount()).isEqualTo(6);
        assertThat(hull.bounds().size()).isEqualTo(new Vec3(2, 2, 2));
    }

    @Test
    void whatIsFlatHasNone() {
        double[] plate = new double[300];
        for (int i = 0; i < 100; i++) {
            plate[3 * i] = i % 10;
            plate[3 * i + 2] = i / 10;
        }
        assertThat(ConvexHull.of(plate)).isEmpty();
        assertThat(ConvexHull.of(new double[6])).isEmpty();
    }

    /** Rings that were cut by a plane, with as much rounding: the library by itself gives up on these. */
    @ParameterizedTest
    @CsvSource({"131, -16", "219, -14"})
    void whatWasCutHasAHullInSpiteOfRounding(long seed, int noise) {
        double[] points = cutRing(seed, noise);
        assertThatExceptionOfType(InternalErrorException.class)
                .as("otherwise these points show nothing")
                .isThrownBy(() -> new QuickHull3D().build(points.clone()));
        Mesh hull = ConvexHull.of(points).orElseThrow();
        double outside = 0;
        int corner = 0;
        for (int size : hull.faceSizes()) {
            Vec3 at = hull.point(hull.corners()[corner]);
            Vec3 normal = normal(hull, corner, size);
            for (int i = 0; i < points.length; i += 3) {
                Vec3 point = new Vec3(points[i], points[i + 1], points[i + 2]);
                outside = Math.max(outside, point.minus(at).dot(normal));
            }
            corner += size;
        }
        assertThat(outside).as("metres that a point stands out").isCloseTo(0, within(1e-5));
    }

    private static Vec3 normal(Mesh hull, int first, int size) {
        Vec3 sum = Vec3.ZERO;
        for (int i = 0; i < size; i++) {
            sum = sum.plus(
                    hull.point(hull.corners()[first + i]).cross(hull.point(hull.corners()[first + (i + 1) % size])));
        }
        return sum.unit();
    }

    /** Points of a ring, those beyond a plane brought down to it but for noise of ten to the given power. */
    private static double[] cutRing(long seed, int noise) {
        Random random = new Random(seed);
        double[] points = new double[3 * (300 + (int) (seed % 7) * 2500)];
        for (int i = 0; i < points.length; i += 3) {
            double a = 2 * Math.PI * random.nextInt(90) / 90;
            double b = 2 * Math.PI * random.nextInt(60) / 60;
            double x = (1 + .3 * Math.cos(b)) * Math.cos(a);
            double y = .3 * Math.sin(b);
            double z = (1 + .3 * Math.cos(b)) * Math.sin(a);
            double d = 0.7 * x + 0.2 * y + 0.6 * z - 0.3;
            if (d < 0 || random.nextInt(3) == 0) {
                double e = Math.pow(10, noise + random.nextInt(3)) * (random.nextDouble() - .5);
                double square = .49 + .04 + .36;
                x -= 0.7 * d / square + 0.7 * e;
                y -= 0.2 * d / square + .2 * e;
                z -= 0.6 * d / square + .6 * e;
            }
            double turnedX = Math.cos(0.3) * x - Math.sin(0.3) * y;
            double turnedY = Math.sin(0.3) * x + Math.cos(0.3) * y;
            points[i] = turnedX;
            points[i + 1] = Math.sin(0.3) * z + Math.cos(0.3) * turnedY;
            points[i + 2] = Math.cos(0.3) * z - Math.sin(0.3) * turnedY;
        }
        return points;
    }
}
