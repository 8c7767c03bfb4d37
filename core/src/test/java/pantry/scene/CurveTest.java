package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

class CurveTest {
    @Test
    void pointsOfACircleGiveTheCircle() {
        List<Vec3> points = new ArrayList<>();
        for (int degrees = 0; degrees <= 180; degrees += 15) {
            double a = Math.toRadians(degrees);
            points.add(new Vec3(10 * Math.cos(a), 0, 10 * Math.sin(a)));
        }
        List<Vec3> line = Curve.through(points);
        assertThat(line).containsSubsequence(points);
        double length = 0;
        for (int i = 1; i < line.size(); i++) {
            length += line.get(i).minus(line.get(i - 1)).length();
        }
        assertThat(length).isCloseTo(10 * Math.PI, within(0.05));
        // The first and the last span have no neighbour to bend by.
        for (Vec3 point : line.subList(32, line.size() - 32)) {
            assertThat(point.length()).isCloseTo(10, within(0.01));
        }
    }

    /** Equal distances along the curve, each use looking along it: by the closed form of the circle. */
    @Test
    void usesStandAtEqualDistancesAndLookAlongTheCurve() {
        List<Vec3> points = new ArrayList<>();
        for (int degrees = -15; degrees <= 105; degrees += 5) {
            double a = Math.toRadians(degrees);
            points.add(new Vec3(20 * Math.sin(a), 0, 20 * Math.cos(a) - 20));
        }
        List<Matrix4> places = new Layout.Along(points, 25, true, true).places();
        Vec3 start = points.getFirst();
        for (int i = 0; i < 25; i++) {
            double a = Math.toRadians(-15 + i * 5);
            Vec3 expected = new Vec3(20 * Math.sin(a), 0, 20 * Math.cos(a) - 20).minus(start);
            assertThat(places.get(i).translationPart().minus(expected).length())
                    .as("use " + i)
                    .isLessThan(0.03);
            Vec3 ahead = places.get(i).direction(new Vec3(1, 0, 0));
            assertThat(ahead.dot(new Vec3(Math.cos(a), 0, -Math.sin(a))))
                    .as("use " + i)
                    .isGreaterThan(0.998);
        }
    }

    @Test
    void straightLinesStayStraightAndTwoPointsAreALine() {
        List<Vec3> straight = List.of(Vec3.ZERO, new Vec3(1, 0, 1), new Vec3(4, 0, 4), new Vec3(5, 0, 5));
        assertThat(Curve.through(straight)).allSatisfy(p -> assertThat(p.x()).isCloseTo(p.z(), within(1e-9)));
        assertThat(Curve.through(straight.subList(0, 2))).isEqualTo(straight.subList(0, 2));
        assertThat(Curve.through(List.of(Vec3.ZERO, Vec3.ZERO, Vec3.ONE))).containsExactly(Vec3.ZERO, Vec3.ONE);
    }

    /** Within a span the curve stays near its chord: no loops and no overshooting, however the points lie. */
    @Property(tries = 200)
    void itNeverRunsFarFromItsPoints(
            @ForAll @Size(min = 3, max = 8) List<@DoubleRange(min = -100, max = 100) Double> figures) {
        List<Vec3> points = new ArrayList<>();
        for (int i = 0; i < figures.size(); i++) {
            points.add(new Vec3(figures.get(i), 0, figures.get((i + 1) % figures.size())));
        }
        List<Vec3> line = Curve.through(points);
        double reach = points.stream().mapToDouble(Vec3::length).max().orElse(0);
        assertThat(line).allSatisfy(p -> {
            assertThat(p.isFinite()).isTrue();
            assertThat(p.length()).isLessThanOrEqualTo(2.5 * reach + 1e-9);
        });
    }
}
