package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.time.Duration;
import java.util.List;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** The places of layouts, checked against what geometry says of them. */
@DisplayName("Layouts")
class LayoutTest {
    private static final double NAN = Double.NaN;
    private static final double ENDLESS = Double.POSITIVE_INFINITY;

    private static List<Vec3> stand(Layout layout) {
        return layout.places().stream().map(Matrix4::translationPart).toList();
    }

    @Property(tries = 60)
    void aRingKeepsItsDistanceFromTheAxisAndItsAngles(
            @ForAll @IntRange(min = 2, max = 50) int count,
            @ForAll @DoubleRange(min = -180, max = 180) double angle,
            @ForAll @DoubleRange(min = 1, max = 20) double x,
            @ForAll @DoubleRange(min = -20, max = 20) double z) {
        Vec3 centre = new Vec3(x, 0, z);
        List<Vec3> places = stand(new Layout.Ring(count, angle, centre, false));
        assertThat(places).hasSize(count);
        assertThat(places.getFirst().length()).isLessThan(1e-9);
        double chord = 2 * centre.length() * Math.abs(Math.sin(Math.toRadians(angle) / 2));
        for (int i = 0; i < count; i++) {
            assertThat(places.get(i).minus(centre).length()).isCloseTo(centre.length(), within(1e-9));
            if (i > 0) {
                assertThat(places.get(i).minus(places.get(i - 1)).length()).isCloseTo(chord, within(1e-9));
            }
        }
    }

    @Property(tries = 60)
    void aPathIsWalkedInEqualPiecesFromItsFirstPointToItsLast(
            @ForAll @IntRange(min = 2, max = 40) int count,
            @ForAll @DoubleRange(min = 0.5, max = 20) double first,
            @ForAll @DoubleRange(min = 0.5, max = 20) double second) {
        List<Vec3> corner = List.of(new Vec3(1, 2, 3), new Vec3(1 + first, 2, 3), new Vec3(1 + first, 2, 3 + second));
        List<Vec3> places = stand(new Layout.Along(corner, count, false, false));
        assertThat(places).hasSize(count);
        assertThat(places.getLast().minus(new Vec3(first, 0, second)).length()).isLessThan(1e-9);
        double piece = (first + second) / (count - 1);
        for (int i = 0; i < count; i++) {
            double walked = places.get(i).x() + places.get(i).z();
            assertThat(walked).isCloseTo(i * piece, within(1e-9));
        }
    }

    @Test
    @DisplayName("what is turned looks along its path, and to the axis of its ring")
    void turned() {
        Layout along = new Layout.Along(List.of(Vec3.ZERO, new Vec3(0, 0, -5), new Vec3(5, 0, -5)), 11, true, false);
        Vec3 begins = along.places().get(1).direction(new Vec3(1, 0, 0));
        assertThat(begins.minus(new Vec3(0, 0, -1)).length()).isLessThan(1e-9);
        Vec3 ends = along.places().getLast().direction(new Vec3(1, 0, 0));
        assertThat(ends.minus(new Vec3(1, 0, 0)).length()).isLessThan(1e-9);

        Vec3 centre = new Vec3(4, 0, 0);
        for (Matrix4 place : new Layout.Ring(8, 45, centre, true).places()) {
            assertThat(place.point(centre).minus(centre).length()).isLessThan(1e-9);
        }
    }

    @Property(tries = 30)
    void scatteredOnesKeepTheirDistanceWithinTheirArea(
            @ForAll @IntRange(max = 1000) int seed, @ForAll @DoubleRange(min = 0.2, max = 3) double apart) {
        List<Vec3> places = stand(new Layout.Scatter(12, 7, 60, apart, seed));
        for (int i = 0; i < places.size(); i++) {
            assertThat(Math.abs(places.get(i).x())).isLessThanOrEqualTo(6);
            assertThat(Math.abs(places.get(i).z())).isLessThanOrEqualTo(3.5);
            for (int j = 0; j < i; j++) {
                assertThat(places.get(i).minus(places.get(j)).length()).isGreaterThanOrEqualTo(apart);
            }
        }
    }

    @Test
    @DisplayName("an area that is full ends a scatter soon, however many are asked for")
    void full() {
        Layout.Scatter tooMany = new Layout.Scatter(6, 6, Layout.MOST, 1, 3);
        List<Vec3> places = Assertions.assertTimeoutPreemptively(Duration.ofSeconds(20), () -> stand(tooMany));
        // Equal circles of 0.5 m cover at most 0.9069 of a plane (A. Thue, 1910), and these reach 0.5 m over the edges;
        // darts that find no room jam at about 0.547 of it (E. L. Hinrichsen et al., Phys. Rev. A 41, 1990).
        double most = 0.9069 * 7 * 7 / (Math.PI * 0.25);
        double jammed = 0.547 * 6 * 6 / (Math.PI * 0.25);
        assertThat((double) places.size()).isLessThan(most).isGreaterThan(0.85 * jammed);
        assertThat(tooMany.asked()).isEqualTo(Layout.MOST);
    }

    static Stream<ThrowingCallable> wrong() {
        return Stream.of(
                () -> new Layout.Grid(new int[] {0, 1, 1}, Vec3.ONE),
                () -> new Layout.Grid(new int[] {1, 1}, Vec3.ONE),
                () -> new Layout.Grid(new int[] {50_000, 50_000, 50_000}, Vec3.ONE),
                () -> new Layout.Grid(new int[] {2, 1, 1}, new Vec3(NAN, 0, 0)),
                () -> new Layout.Ring(0, 30, Vec3.ONE, true),
                () -> new Layout.Ring(4, ENDLESS, Vec3.ONE, true),
                () -> new Layout.Ring(4, 30, new Vec3(0, NAN, 0), true),
                () -> new Layout.Along(List.of(Vec3.ZERO), 3, true, false),
                () -> new Layout.Along(List.of(Vec3.ONE, Vec3.ONE, Vec3.ONE), 3, true, true),
                () -> new Layout.Along(List.of(Vec3.ZERO, new Vec3(NAN, 0, 0)), 3, true, false),
                () -> new Layout.Along(List.of(Vec3.ZERO, Vec3.ONE), 0, true, false),
                () -> new Layout.Scatter(0, 4, 10, 1, 1),
                () -> new Layout.Scatter(4, ENDLESS, 10, 1, 1),
                () -> new Layout.Scatter(4, 4, 10, NAN, 1),
                () -> new Layout.Scatter(4, 4, 10, ENDLESS, 1),
                () -> new Layout.OnSurface("/Hill", 0, 0, 1, 60, true, 1),
                () -> new Layout.OnSurface("/Hill", 10, 0, ENDLESS, 60, true, 1),
                () -> new Layout.OnSurface("/Hill", 10, 0, 1, NAN, true, 1),
                () -> new Layout.OnSurface("/Hill", 10, 0, 1, 60, true, 1).places(),
                () -> new Layout.Variation(ENDLESS, 0, "", List.of(), 1),
                () -> new Layout.Variation(0, 1, "", List.of(), 1));
    }

    @ParameterizedTest
    @MethodSource("wrong")
    @DisplayName("figures of which no place comes are refused")
    void refused(ThrowingCallable making) {
        assertThatThrownBy(making).isInstanceOf(SceneException.class).hasMessageNotContaining("null");
    }
}
