package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** Heights of surfaces under points, against figures worked out by hand and against upright rays. */
class HeightsTest {
    private static final Mesh PLATE = Shapes.block(10, 1, 10);

    private static Heights over(Vec3 point, Mesh mesh, Matrix4 world) {
        Heights heights = new Heights(List.of(point));
        heights.add(mesh, world);
        return heights;
    }

    @Test
    void aPointStandsOnTheTopOfABlockAndUnderItsBottom() {
        double top = PLATE.bounds().max().y();
        double bottom = PLATE.bounds().min().y();
        assertThat(over(new Vec3(1, 9, 1), PLATE, Matrix4.IDENTITY).below(0)).isEqualTo(top);
        assertThat(over(new Vec3(6, 9, 1), PLATE, Matrix4.IDENTITY).below(0))
                .as("beside it")
                .isEqualTo(Double.NEGATIVE_INFINITY);
        Heights under = over(new Vec3(1, bottom - 3, 1), PLATE, Matrix4.IDENTITY);
        assertThat(under.ceiling(0)).isEqualTo(bottom);
        assertThat(under.below(0)).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(over(new Vec3(1, (top + bottom) / 2, 1), PLATE, Matrix4.IDENTITY)
                        .ceiling(0))
                .as("inside of it, nothing is a ceiling")
                .isEqualTo(Double.POSITIVE_INFINITY);
    }

    @Test
    void whatIsMirroredHasItsCeilingAtItsBottomToo() {
        Matrix4 mirrored = Matrix4.scale(new Vec3(-1, 1, 1));
        double bottom = PLATE.bounds().min().y();
        assertThat(over(new Vec3(1, bottom - 3, 1), PLATE, mirrored).ceiling(0)).isEqualTo(bottom);
    }

    @Property(tries = 40)
    void manyPointsFindWhatAnUprightRayFinds(@ForAll @LongRange(min = 1, max = 1_000_000) long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        float[] corners = new float[3 * 3 * 25];
        for (int i = 0; i < corners.length; i++) {
            corners[i] = (float) (random.nextDouble() * 8 - 4);
        }
        int[] sizes = new int[25];
        int[] indices = new int[75];
        java.util.Arrays.fill(sizes, 3);
        java.util.Arrays.setAll(indices, i -> i);
        Mesh mesh = new Mesh(corners, sizes, indices, null, null);
        List<Vec3> points = new ArrayList<>();
        for (int i = 0; i < 60; i++) {
            points.add(new Vec3(random.nextDouble() * 8 - 4, random.nextDouble() * 8 - 4, random.nextDouble() * 8 - 4));
        }
        Heights heights = new Heights(points);
        heights.add(mesh, Matrix4.IDENTITY);
        for (int i = 0; i < points.size(); i++) {
            assertThat(heights.below(i)).isCloseTo(ray(mesh, points.get(i)), within(1e-6));
        }
    }

    /** The first surface that a ray straight down meets (Möller and Trumbore, 1997), looking at every triangle. */
    private static double ray(Mesh mesh, Vec3 from) {
        Vec3 down = new Vec3(0, -1, 0);
        double nearest = Double.POSITIVE_INFINITY;
        for (int t = 0; t < mesh.corners().length; t += 3) {
            Vec3 a = mesh.point(mesh.corners()[t]);
            Vec3 one = mesh.point(mesh.corners()[t + 1]).minus(a);
            Vec3 two = mesh.point(mesh.corners()[t + 2]).minus(a);
            Vec3 p = down.cross(two);
            double det = one.dot(p);
            Vec3 s = from.minus(a);
            double u = s.dot(p) / det;
            Vec3 q = s.cross(one);
            double v = down.dot(q) / det;
            double along = two.dot(q) / det;
            if (u >= 0 && v >= 0 && u + v <= 1 && along >= 0) {
                nearest = Math.min(nearest, along);
            }
        }
        return from.y() - nearest;
    }
}
