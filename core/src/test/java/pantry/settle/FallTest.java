package pantry.settle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.ConvexHull;
import pantry.mesh.Mesh;
import pantry.testing.Cancelled;

@DisplayName("Rigid bodies")
class FallTest {
    private static final Ground FLOOR = new Ground(List.of(), true, 0.5);

    private static Mesh box(double width, double height, double depth, Matrix4 at) {
        double[] points = new double[24];
        for (int corner = 0; corner < 8; corner++) {
            Vec3 p = at.point(
                    ((corner & 1) - 0.5) * width, (corner >> 1 & 1) * height, ((corner >> 2 & 1) - 0.5) * depth);
            points[3 * corner] = p.x();
            points[3 * corner + 1] = p.y();
            points[3 * corner + 2] = p.z();
        }
        return ConvexHull.of(points).orElseThrow();
    }

    private static Mesh prism(int sides, double radius, double height, Matrix4 at) {
        double[] points = new double[6 * sides];
        for (int i = 0; i < 2 * sides; i++) {
            double angle = 2 * Math.PI * (i / 2) / sides;
            Vec3 p = at.point(radius * Math.cos(angle), i % 2 * height, radius * Math.sin(angle));
            points[3 * i] = p.x();
            points[3 * i + 1] = p.y();
            points[3 * i + 2] = p.z();
        }
        return ConvexHull.of(points).orElseThrow();
    }

    private static Body body(Mesh solid, double friction) {
        return new Body("body", List.of(solid), 0, friction, 0);
    }

    private static Matrix4 up(double height) {
        return Matrix4.translation(new Vec3(0, height, 0));
    }

    /** A slope as a mesh: a large flat square, turned about z. */
    private static Mesh slope(Matrix4 turn) {
        float[] points = new float[12];
        for (int i = 0; i < 4; i++) {
            Vec3 p = turn.point((i == 1 || i == 2 ? 1 : -1) * 40, 0, i < 2 ? 40 : -40);
            points[3 * i] = (float) p.x();
            points[3 * i + 1] = (float) p.y();
            points[3 * i + 2] = (float) p.z();
        }
        return new Mesh(points, new int[] {4}, new int[] {0, 1, 2, 3}, null, null);
    }

    /** Textbook: rests where tan(angle) is below the coefficient; else the way is g (sin a − µ cos a) t² / 2. */
    @ParameterizedTest(name = "on a slope of {0}° with a friction of {1}")
    @CsvSource({"20, 0.5", "25, 0.6", "35, 0.9", "20, 0.3", "30, 0.4", "30, 0.1"})
    void slidesOrRests(double degrees, double friction) {
        Matrix4 turn = Matrix4.rotation(2, degrees);
        Body body = body(box(0.4, 0.2, 0.4, up(0.0001).times(turn)), friction);
        Fall.Outcome outcome = Fall.run(
                List.of(body), new Ground(List.of(slope(turn)), false, friction), 1, Progress.NONE, Fall.Watcher.NONE);
        double angle = Math.toRadians(degrees);
        double way = outcome.moves().getFirst().translationPart().length();
        if (Math.tan(angle) < friction) {
            assertThat(way).isLessThan(0.01);
        } else {
            double expected = Fall.GRAVITY
                    * (Math.sin(angle) - friction * Math.cos(angle))
                    * outcome.seconds()
                    * outcome.seconds()
                    / 2;
            Vec3 centre = turn.point(0, 0.1, 0);
            assertThat(outcome.moves().getFirst().point(centre).minus(centre).length())
                    .isCloseTo(expected, within(0.04 * expected + 0.01));
        }
    }

    @Test
    @DisplayName(
            "dropped onto each other end at rest as a stack, never with more energy than at the start, and hardly in each other")
    void stack() {
        List<Body> stack = new ArrayList<>();
        double before = 0;
        for (int i = 0; i < 5; i++) {
            Body body = body(box(0.6, 0.3, 0.6, up(0.02 + 0.4 * i)), 0.6);
            stack.add(body);
            before += 0.6 * 0.3 * 0.6 * Body.USUAL_DENSITY * Fall.GRAVITY * (0.02 + 0.4 * i + 0.15);
        }
        double[] most = {0};
        Fall.Outcome outcome =
                Fall.run(stack, FLOOR, 20, Progress.NONE, (moves, joules) -> most[0] = Math.max(most[0], joules));
        assertThat(outcome.allRest()).isTrue();
        assertThat(most[0]).isPositive().isLessThanOrEqualTo(before * 1.001);
        assertThat(outcome.deepest()).isLessThan(0.002);
        for (int i = 0; i < 5; i++) {
            Vec3 base = outcome.moves().get(i).point(0, 0.02 + 0.4 * i, 0);
            assertThat(base.y()).isCloseTo(0.3 * i, within(0.002 * (i + 1)));
        }
    }

    @Test
    @DisplayName("of any convex shape come to rest on a mesh, on one of their faces")
    void drum() {
        Matrix4 tipped = Matrix4.rotation(2, 25).times(up(0.6));
        Mesh table = slope(Matrix4.IDENTITY);
        for (Mesh solid :
                List.of(prism(12, 0.3, 0.5, tipped), prism(5, 0.3, 0.9, tipped), prism(3, 0.4, 0.4, tipped))) {
            Fall.Outcome outcome = Fall.run(
                    List.of(body(solid, 0.6)),
                    new Ground(List.of(table), false, 0.6),
                    20,
                    Progress.NONE,
                    Fall.Watcher.NONE);
            assertThat(outcome.allRest()).isTrue();
            assertThat(solid.boundsIn(outcome.moves().getFirst()).min().y()).isCloseTo(0, within(0.003));
            long down = 0;
            for (int p = 0; p < solid.pointCount(); p++) {
                down += outcome.moves().getFirst().point(solid.point(p)).y() < 0.005 ? 1 : 0;
            }
            assertThat(down).isGreaterThanOrEqualTo(3);
        }
    }

    @Test
    @DisplayName("fall the same way each time")
    void repeatable() {
        List<Body> heap = new ArrayList<>();
        for (int i = 0; i < 6; i++) {
            heap.add(body(box(0.3, 0.2, 0.4, Matrix4.rotation(0, 20 * i).times(up(0.5 + 0.5 * i))), 0.4));
        }
        assertThat(Fall.run(heap, FLOOR, 20, Progress.NONE, Fall.Watcher.NONE))
                .isEqualTo(Fall.run(heap, FLOOR, 20, Progress.NONE, Fall.Watcher.NONE));
    }

    @Test
    @DisplayName("that never rest are told; those below which there is nothing are an error; stopping stops")
    void faults() {
        Body slider = body(box(1, 0.5, 1, Matrix4.rotation(2, 15)), 0);
        Ground ice = new Ground(List.of(slope(Matrix4.rotation(2, 15))), false, 0);
        assertThat(Fall.run(List.of(slider), ice, 0.5, Progress.NONE, Fall.Watcher.NONE)
                        .allRest())
                .isFalse();
        assertThatThrownBy(() -> Fall.run(
                        List.of(slider), new Ground(List.of(), false, 0), 100, Progress.NONE, Fall.Watcher.NONE))
                .hasMessageContaining("\"body\" falls out of the scene");
        Progress stopped = new Cancelled();
        assertThatThrownBy(() -> Fall.run(List.of(slider), ice, 100, stopped, Fall.Watcher.NONE))
                .isInstanceOf(CancellationException.class);
    }

    @Test
    @DisplayName("have the volume, centre and inertia of closed forms")
    void masses() {
        Matrix4 aside = Matrix4.translation(new Vec3(3, -2, 5));
        MassProperties box = MassProperties.of(List.of(box(0.4, 0.6, 1, aside)));
        assertThat(box.volume()).isCloseTo(0.24, within(1e-6));
        assertThat(box.centre().minus(new Vec3(3, -1.7, 5)).length()).isLessThan(1e-6);
        // A cuboid's, m (b² + c²) / 12.
        double[] expected = {(0.36 + 1) / 12, (0.16 + 1) / 12, (0.16 + 0.36) / 12, 0, 0, 0};
        for (int k = 0; k < 6; k++) {
            assertThat(box.inertia()[k]).isCloseTo(0.24 * expected[k], within(1e-5));
        }
    }
}
