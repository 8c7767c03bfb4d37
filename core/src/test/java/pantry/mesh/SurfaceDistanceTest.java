package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;

class SurfaceDistanceTest {
    private static double[] triangles(Mesh mesh, double scale, double dx, double dy, double dz) {
        int[] corners = Triangulation.corners(mesh);
        double[] shift = {dx, dy, dz};
        double[] triangles = new double[3 * corners.length];
        for (int i = 0; i < corners.length; i++) {
            int p = 3 * mesh.corners()[corners[i]];
            for (int axis = 0; axis < 3; axis++) {
                triangles[3 * i + axis] = scale * mesh.points()[p + axis] + shift[axis];
            }
        }
        return triangles;
    }

    /** Concentric spheres are everywhere as far apart as their radii differ (elementary geometry). */
    @Test
    void concentricSpheresAreAsFarApartAsTheirRadiiDiffer() {
        Mesh sphere = Shapes.sphere(1, 96, 64);
        for (double offset : new double[] {0.001, 0.05, 0.4}) {
            SurfaceDistance.Result result =
                    SurfaceDistance.between(triangles(sphere, 1, 0, 0, 0), triangles(sphere, 1 + offset, 0, 0, 0));
            // A chord of 1/96 of a turn stays below its arc by 1 - cos(pi/96).
            assertThat(result.greatest()).isCloseTo(offset, within(0.0012));
        }
    }

    /** A sphere moved aside by d is at most d from where it was (its foremost point). */
    @Test
    void aMovedSphereIsAsFarAsItWasMoved() {
        Mesh sphere = Shapes.sphere(1, 96, 64);
        SurfaceDistance.Result result =
                SurfaceDistance.between(triangles(sphere, 1, 0, 0, 0), triangles(sphere, 1, 0.3, 0, 0));
        assertThat(result.greatest()).isCloseTo(0.3, within(0.001));
        assertThat(result.step()).isLessThan(0.02);
    }

    @Test
    void whetherTheyAreWithinALimitIsWhatTheDistanceSays() {
        Mesh sphere = Shapes.sphere(1, 96, 64);
        double[] here = triangles(sphere, 1, 0, 0, 0);
        double[] there = triangles(sphere, 1, 0.3, 0, 0);
        double apart = SurfaceDistance.between(here, there).greatest();
        assertThat(SurfaceDistance.isWithin(here, there, apart)).isTrue();
        assertThat(SurfaceDistance.isWithin(here, there, 0.99 * apart)).isFalse();
        assertThat(SurfaceDistance.isWithin(here, here, 0)).isTrue();
    }

    /**
     * A long sliver beside a bulge that reaches a tenth of its length from it: what is densest along it is not missed, and what is
     * turned end for end is measured alike.
     */
    @Test
    void sliversAreLookedAtAllAlong() {
        double[] sliver = {0, 0, 0, 10, 0, 0, 10, 0.001, 0};
        double[] bulge = {0, 0, 0, 4.9, 0, 0, 4.9, 0.001, 0, 5.1, 0, 0, 10, 0, 0, 10, 0.001, 0};
        double gap = SurfaceDistance.between(sliver, bulge).greatest();
        assertThat(gap).as("half of what is missing in the middle").isCloseTo(0.1, within(10.0 / 400));
        double[] turned = {10, 0.001, 0, 0, 0, 0, 10, 0, 0};
        assertThat(SurfaceDistance.between(turned, bulge).greatest()).isCloseTo(gap, within(1e-9));
    }

    /** The same surface in other triangles is nowhere apart, but for rounding. */
    @Test
    void oneSurfaceInOtherTrianglesIsNotApart() {
        double[] halves = {0, 0, 0, 0.7, 0.1, 0, 0.7, 0.9, 0, 0, 0, 0, 0.7, 0.9, 0, 0, 0.8, 0};
        double[] others = {0, 0, 0, 0.7, 0.1, 0, 0, 0.8, 0, 0.7, 0.1, 0, 0.7, 0.9, 0, 0, 0.8, 0};
        assertThat(SurfaceDistance.between(halves, others).greatest()).isZero();
    }

    @Test
    void equalSurfacesAreNotApartAndOneAloneIsInfinitelyFar() {
        double[] block = triangles(Shapes.block(1, 1, 1), 1, 0, 0, 0);
        assertThat(SurfaceDistance.between(block, block).greatest()).isZero();
        assertThat(SurfaceDistance.between(block, new double[0]).greatest()).isInfinite();
        assertThat(SurfaceDistance.between(new double[0], new double[0]).greatest())
                .isZero();
    }

    /** A large face has points far from the other surface although all its corners are near. */
    @Test
    void theMiddleOfALargeTriangleCounts() {
        double[] flat = {0, 0, 0, 10, 0, 0, 0, 10, 0};
        double[] corners = {
            0, 0, 0, 0.1, 0, 0, 0, 0.1, 0, 10, 0, 0, 9.9, 0, 0, 9.9, 0.1, 0, 0, 10, 0, 0, 9.9, 0, 0.1, 9.9, 0
        };
        double greatest = SurfaceDistance.between(flat, corners).greatest();
        // The middle of the longest side is half its length from the nearest corner, less what lies there.
        assertThat(greatest).isGreaterThan(6.5).isLessThan(7.2);
    }

    @Test
    void theNearestTriangleIsTheOneThatTryingAllGives() {
        Random random = new Random(5);
        double[] soup = random.doubles(9 * 300, -1, 1).toArray();
        TriangleTree tree = new TriangleTree(soup);
        for (int i = 0; i < 500; i++) {
            double[] at = random.doubles(3, -2, 2).toArray();
            double least = Double.POSITIVE_INFINITY;
            for (int t = 0; t < 300; t++) {
                double[] one = java.util.Arrays.copyOfRange(soup, 9 * t, 9 * t + 9);
                least = Math.min(least, new TriangleTree(one).distance(at[0], at[1], at[2], 0));
            }
            assertThat(tree.distance(at[0], at[1], at[2], 0)).isCloseTo(least, within(1e-12));
        }
    }

    /** Points of a triangle itself are no distance away; points above it as far as they are above. */
    @Test
    void pointsOnAndAboveATriangle() {
        TriangleTree tree = new TriangleTree(new double[] {0, 0, 0, 1, 0, 0, 0, 1, 0});
        assertThat(tree.distance(0.25, 0.25, 0, 0)).isZero();
        assertThat(tree.distance(0.25, 0.25, 0.7, 0)).isCloseTo(0.7, within(1e-12));
        assertThat(tree.distance(1, 1, 0, 0)).as("from the long side").isCloseTo(Math.sqrt(0.5), within(1e-12));
        assertThat(tree.distance(-3, -4, 0, 0)).as("from a corner").isCloseTo(5, within(1e-12));
    }
}
