package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

class RearrangingTest {
    private static Measures of(Mesh mesh) {
        return Measures.of(mesh, Matrix4.IDENTITY);
    }

    @Test
    void meshesPutTogetherAreTakenApartAgain() {
        Mesh box = Shapes.block(1, 2, 3);
        Mesh ball = Shapes.sphere(1, 16, 8).transformed(Matrix4.translation(new Vec3(5, 0, 0)));
        Mesh mirrored = Shapes.block(1, 1, 1)
                .transformed(Matrix4.scale(new Vec3(-1, 1, 1)).times(Matrix4.translation(new Vec3(0, 0, 9))));
        assertThat(mirrored.leftHanded()).isTrue();
        Mesh whole = Merging.of(List.of(box, ball, mirrored));
        assertThat(of(whole).closed()).isTrue();
        assertThat(of(whole).volume()).isCloseTo(of(box).volume() + of(ball).volume() + 1, within(1e-5));
        List<Mesh> parts = ConnectedParts.of(whole);
        assertThat(parts).hasSize(3);
        assertThat(of(parts.get(0)).volume()).isCloseTo(6, within(1e-6));
        assertThat(parts.get(1).faceCount()).isEqualTo(ball.faceCount());
        assertThat(parts.get(2).bounds()).isEqualTo(mirrored.bounds());
        assertThat(ConnectedParts.of(box)).containsExactly(box);
    }

    @Test
    void whatOnlySomeHaveIsFilledIn() {
        float[] triangle = {0, 0, 0, 1, 0, 0, 0, 1, 0};
        Mesh plain = new Mesh(triangle, new int[] {3}, new int[] {0, 1, 2}, null, null);
        Mesh rich = new Mesh(
                        triangle,
                        new int[] {3},
                        new int[] {0, 1, 2},
                        new Channel(new float[] {0, 0, 1}, 3, Channel.Per.MESH),
                        new Channel(new float[] {0, 0, 1, 0, 0, 1}, 2, Channel.Per.POINT))
                .withPrimvars(Map.of(Mesh.COLOUR, new Channel(new float[] {1, 0, 0}, 3, Channel.Per.FACE)));
        Mesh both = Merging.of(List.of(plain, rich));
        assertThat(both.normals().orElseThrow().data())
                .containsExactly(0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1);
        assertThat(both.uvs().orElseThrow().data()).startsWith(0, 0, 0, 0, 0, 0).endsWith(0, 0, 1, 0, 0, 1);
        assertThat(both.primvars().get(Mesh.COLOUR).data()).startsWith(1, 1, 1).endsWith(1, 0, 0);
    }

    /** Half of a ball's triangles still make a ball: its volume is that of the sphere but for a few hundredths. */
    @Test
    void fewerTrianglesLookAlike() {
        Mesh ball = Shapes.sphere(1, 64, 32);
        Simplification.Result half = Simplification.of(ball, 0.5);
        assertThat(half.mesh().triangleCount()).isBetween(ball.triangleCount() / 3, ball.triangleCount() / 2 + 2);
        assertThat(half.error()).isPositive().isLessThan(0.02);
        assertThat(of(half.mesh()).area()).isCloseTo(4 * Math.PI, within(0.15));
        assertThat(Simplification.of(ball, 1).mesh()).isSameAs(ball);
        assertThatThrownBy(() -> Simplification.of(ball, 0)).isInstanceOf(IllegalArgumentException.class);
    }

    /** The hull of a cube's corners and of points within is the cube: surface 6, volume 1. */
    @Test
    void theHullOfPointsIsAroundThem() {
        double[] points = {
            0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 1, 1, 0, 1, 0, 1, 0, 1, 1, 1, 1, 1, 0.5, 0.5, 0.5, 0.2, 0.7, 0.4
        };
        Mesh hull = ConvexHull.of(points).orElseThrow();
        assertThat(of(hull).closed()).isTrue();
        assertThat(of(hull).volume()).isCloseTo(1, within(1e-6));
        assertThat(of(hull).area()).isCloseTo(6, within(1e-6));
        assertThat(ConvexHull.of(new double[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0}))
                .isEmpty();
    }
}
