package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.function.ToDoubleFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.LinearImage;
import pantry.base.math.Vec3;
import pantry.model.Lamp;

/**
 * The light of skies against closed forms: what is constant, linear or quadratic in the direction is multiplied by π, 2π/3 and
 * π/4 by falling on what scatters it (Ramamoorthi and Hanrahan 2001).
 */
class SkyLightTest {
    private static final int WIDE = 256;
    private static final int HIGH = 128;
    private static final Vec3[] NORMALS = {
        Vec3.UP, new Vec3(0, -1, 0), new Vec3(1, 0, 0), new Vec3(0, 0, -1), new Vec3(0.6, 0.48, -0.64)
    };

    /** A sky of as much red as is told for a direction, twice that of green and no blue. */
    private static SkyLight sky(ToDoubleFunction<Vec3> radiance) {
        return SkyLight.of(LinearImage.ofRows(WIDE, HIGH, WIDE, y -> {
            float[] row = new float[3 * WIDE];
            for (int x = 0; x < WIDE; x++) {
                // By the standard's own words: longitude from +π at the left to -π, 0 along z, +π/2 along x.
                double longitude = Math.PI - (x + 0.5) / WIDE * 2 * Math.PI;
                double latitude = Math.PI / 2 - (y + 0.5) / HIGH * Math.PI;
                Vec3 towards = new Vec3(
                        Math.sin(longitude) * Math.cos(latitude),
                        Math.sin(latitude),
                        Math.cos(longitude) * Math.cos(latitude));
                row[3 * x] = (float) radiance.applyAsDouble(towards);
                row[3 * x + 1] = 2 * row[3 * x];
            }
            return row;
        }));
    }

    private static double red(SkyLight sky, Vec3 normal) {
        return sky.irradiance(0, normal.x(), normal.y(), normal.z());
    }

    @Test
    void lightThatVariesSlowlyFallsAsTheFormulasSay() {
        Vec3 a = new Vec3(0.2, 0.5, -0.4);
        Vec3 unit = a.unit();
        SkyLight even = sky(towards -> 1);
        SkyLight leaning = sky(towards -> 1 + towards.dot(a));
        SkyLight square = sky(towards -> towards.dot(unit) * towards.dot(unit));
        for (Vec3 normal : NORMALS) {
            assertThat(red(even, normal)).isCloseTo(Math.PI, within(1e-3));
            assertThat(red(leaning, normal)).isCloseTo(Math.PI + 2 * Math.PI / 3 * normal.dot(a), within(1e-3));
            double cosine = normal.dot(unit);
            assertThat(red(square, normal))
                    .isCloseTo(Math.PI / 3 + Math.PI / 4 * (cosine * cosine - 1.0 / 3), within(1e-3));
        }
        assertThat(even.irradiance(1, 0, 1, 0)).as("green").isCloseTo(2 * Math.PI, within(2e-3));
        assertThat(even.irradiance(2, 0, 1, 0)).as("blue").isZero();
        assertThat(even.sun()).isEmpty();
    }

    /** Half of all directions give π to what faces them, a half to what stands upright; nine terms are within some percent. */
    @Test
    void halfASkyIsNearWhatItsClosedFormGives() {
        SkyLight half = sky(towards -> towards.y() > 0 ? 1 : 0);
        assertThat(red(half, Vec3.UP)).isCloseTo(Math.PI, within(0.05 * Math.PI));
        assertThat(red(half, new Vec3(1, 0, 0))).isCloseTo(Math.PI / 2, within(0.02 * Math.PI));
        assertThat(red(half, new Vec3(0, -1, 0))).isCloseTo(0, within(0.06 * Math.PI));
    }

    @ParameterizedTest
    @CsvSource({"0.5, 0.5, 0, 0, 1", "0.25, 0.5, 1, 0, 0", "0.75, 0.5, -1, 0, 0", "0, 0.5, 0, 0, -1", "0.5, 0, 0, 1, 0"
    })
    void itsMiddleIsSeenAlongZAndAQuarterFromItsLeftAlongX(double u, double v, double x, double y, double z) {
        int wide = 8;
        int high = 4;
        int column = (int) Math.min(wide - 1, u * wide);
        int row = (int) Math.min(high - 1, v * high);
        SkyLight sky = SkyLight.of(LinearImage.ofRows(wide, high, wide, line -> {
            float[] pixels = new float[3 * wide];
            for (int i = 0; i < wide; i++) {
                pixels[3 * i] = line == row && (v == 0 || i == column) ? 1 : 0;
            }
            return pixels;
        }));
        float[] seen = new float[3];
        sky.radiance(x, y, z, seen);
        // Between two columns and two rows, of four.
        assertThat(seen[0]).isGreaterThanOrEqualTo(v == 0 ? 0.9f : 0.25f);
        sky.radiance(-x, -y, -z, seen);
        assertThat(seen[0]).isZero();
    }

    /** A disc of known radiance gives its solid angle times that to what faces it. */
    @Test
    void aSunIsALampOfItsOwnAndTheRestIsWhatItWas() {
        Vec3 place = new Vec3(0.5, 0.6, -0.4).unit();
        double reach = Math.toRadians(2.5);
        double angle = 2 * Math.PI * (1 - Math.cos(reach));
        SkyLight sky = sky(towards -> towards.dot(place) > Math.cos(reach) ? 5000 : 0.5);
        Lamp.Distant sun = sky.sun().orElseThrow();
        assertThat(sun.towards().dot(place)).isGreaterThan(Math.cos(Math.toRadians(0.5)));
        double left = 16 * (0.5 + 5000 * angle / (4 * Math.PI));
        assertThat((double) sun.strength().r()).isCloseTo((5000 - left) * angle, within(0.08 * 5000 * angle));
        // What is not the sun is the sky around, and the sun's place as bright as the brightest sky may be.
        assertThat(red(sky, place)).isCloseTo(0.5 * Math.PI + left * angle, within(0.15 * left * angle + 0.05));
        assertThat(red(sky, place.times(-1))).isLessThan(0.5 * Math.PI + 0.3 * left * angle);
    }

    @Test
    void aBrightWindowIsNoSun() {
        assertThat(sky(towards -> towards.z() > 0.8 ? 20 : 0.2).sun()).isEmpty();
        assertThat(sky(towards -> towards.dot(Vec3.UP) > 0.9999 ? 100 : 1).sun())
                .as("too little of the whole")
                .isEmpty();
        assertThat(sky(towards -> 0).sun()).isEmpty();
    }
}
