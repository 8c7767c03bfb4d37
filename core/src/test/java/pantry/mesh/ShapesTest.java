package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

class ShapesTest {
    static Stream<Mesh> solids() {
        return Stream.of(
                Shapes.block(1, 2, 3),
                Shapes.cylinder(0.5, 2, 24),
                Shapes.cone(1, 0, 2, 16),
                Shapes.cone(1, 0.5, 2, 16),
                Shapes.sphere(1, 20, 10),
                Shapes.torus(2, 0.5, 20, 10),
                Shapes.lathe(new double[] {0, 1, 0.5, 0}, new double[] {0, 0, 1, 1}, 12, false));
    }

    @ParameterizedTest
    @MethodSource("solids")
    void solidsAreClosedOutwardsAndOfOnePiece(Mesh solid) {
        Measures m = Measures.of(solid, Matrix4.IDENTITY);
        assertThat(m.closed()).isTrue();
        assertThat(m.volume()).isPositive();
        assertThat(m.parts()).isEqualTo(1);
        assertThat(m.degenerateTriangles()).isZero();
        assertThat(m.loosePoints()).isZero();
    }

    @ParameterizedTest
    @MethodSource("solids")
    void normalsHaveUnitLengthAndLookOutwards(Mesh solid) {
        TriangleMesh flat = TriangleMesh.of(solid);
        for (int t = 0; t < flat.triangleCount(); t++) {
            Vec3 a = vertex(flat.positions(), flat.indices()[3 * t]);
            Vec3 b = vertex(flat.positions(), flat.indices()[3 * t + 1]);
            Vec3 c = vertex(flat.positions(), flat.indices()[3 * t + 2]);
            Vec3 face = b.minus(a).cross(c.minus(a)).unit();
            for (int k = 0; k < 3; k++) {
                Vec3 normal = vertex(flat.normals(), flat.indices()[3 * t + k]);
                assertThat(normal.length()).isCloseTo(1, within(1e-5));
                assertThat(normal.dot(face)).isPositive();
            }
        }
    }

    private static Vec3 vertex(float[] data, int vertex) {
        return new Vec3(data[3 * vertex], data[3 * vertex + 1], data[3 * vertex + 2]);
    }

    @Test
    void cylindersAndConesStandOnTheGround() {
        assertThat(Shapes.cylinder(0.5, 2, 32).bounds().min().y()).isZero();
        assertThat(Shapes.cone(1, 0, 3, 32).bounds().max().y()).isEqualTo(3);
        assertThat(Measures.of(Shapes.cylinder(0.5, 2, 256), Matrix4.IDENTITY).volume())
                .isCloseTo(Math.PI * 0.25 * 2, within(1e-3));
        assertThat(Measures.of(Shapes.cone(1, 0, 3, 256), Matrix4.IDENTITY).volume())
                .isCloseTo(Math.PI, within(1e-3));
    }

    @Test
    void movingMirroringAndScalingKeepsInsideInside() {
        Random random = new Random(3);
        for (int i = 0; i < 20; i++) {
            Vec3 scale = new Vec3(random.nextDouble() + 0.2, -random.nextDouble() - 0.2, random.nextDouble() + 0.2);
            Matrix4 place = Matrix4.scale(scale)
                    .times(Matrix4.rotationXyz(new Vec3(random.nextInt(360), random.nextInt(360), random.nextInt(360))))
                    .times(Matrix4.translation(new Vec3(random.nextInt(9), 0, 0)));
            Mesh moved = Shapes.block(1, 1, 1).transformed(place);
            double expected = Math.abs(scale.x() * scale.y() * scale.z());
            assertThat(Measures.of(moved, Matrix4.IDENTITY).volume()).isCloseTo(expected, within(1e-5));
            Mesh built = new MeshBuilder().add(Shapes.block(1, 1, 1), place).build();
            assertThat(built.leftHanded()).isFalse();
            assertThat(Measures.of(built, Matrix4.IDENTITY).volume()).isCloseTo(expected, within(1e-5));
            TriangleMesh flat = TriangleMesh.of(built);
            Vec3 a = vertex(flat.positions(), flat.indices()[0]);
            Vec3 b = vertex(flat.positions(), flat.indices()[1]);
            Vec3 c = vertex(flat.positions(), flat.indices()[2]);
            assertThat(b.minus(a).cross(c.minus(a)).dot(vertex(flat.normals(), flat.indices()[0])))
                    .isPositive();
        }
    }

    @Test
    void someFacesAreTakenWithWhatBelongsToThem() {
        Mesh block = Shapes.block(2, 2, 2);
        Mesh two = block.faces(new int[] {3, 1});
        assertThat(two.faceCount()).isEqualTo(2);
        assertThat(two.pointCount()).as("they share an edge").isEqualTo(6);
        assertThat(Measures.of(two, Matrix4.IDENTITY).area()).isEqualTo(8);
        Mesh one = block.faces(new int[] {3});
        assertThat(one.pointCount()).isEqualTo(4);
        assertThat(one.normals().orElseThrow().size()).isEqualTo(4);
        Channel perFace = new Channel(new float[] {0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11}, 2, Channel.Per.FACE);
        Mesh tagged = new Mesh(block.points(), block.faceSizes(), block.corners(), null, perFace).faces(new int[] {5});
        assertThat(tagged.uvs().orElseThrow().data()).containsExactly(10, 11);
    }

    @Test
    void arraysThatDoNotAgreeAreRefused() {
        float[] points = new float[9];
        int[] one = {3};
        assertThatThrownBy(() -> new Mesh(new float[8], one, new int[] {0, 1, 2}, null, null))
                .hasMessageContaining("no points of three");
        assertThatThrownBy(() -> new Mesh(points, new int[] {2}, new int[] {0, 1}, null, null))
                .hasMessageContaining("at least 3");
        assertThatThrownBy(() -> new Mesh(points, one, new int[] {0, 1}, null, null))
                .hasMessageContaining("together");
        assertThatThrownBy(() -> new Mesh(points, one, new int[] {0, 1, 3}, null, null))
                .hasMessageContaining("point 3 of 3");
        assertThatThrownBy(() -> new Mesh(
                        points, one, new int[] {0, 1, 2}, new Channel(new float[6], 3, Channel.Per.POINT), null))
                .hasMessageContaining("normals");
        assertThatThrownBy(() -> new Channel(new float[5], 2, Channel.Per.POINT))
                .isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void interpolationsAreNamedAsOpenUsdDoes() {
        for (Channel.Per per : Channel.Per.values()) {
            assertThat(Channel.Per.of(per.interpolation())).isEqualTo(per);
        }
        assertThat(Channel.Per.of("varying")).isEqualTo(Channel.Per.POINT);
    }

    /** Random star-shaped polygons, convex or not: the triangles' areas add up to the polygon's (shoelace formula). */
    @Test
    void anyStarShapedPolygonIsCutWithoutOverlap() {
        Random random = new Random(11);
        for (int n : List.of(4, 5, 7, 12, 40)) {
            for (int repeat = 0; repeat < 10; repeat++) {
                MeshBuilder builder = new MeshBuilder();
                double[] x = new double[n];
                double[] z = new double[n];
                int[] ring = new int[n];
                for (int i = 0; i < n; i++) {
                    double angle = 2 * Math.PI * i / n;
                    double radius = 0.3 + random.nextDouble();
                    x[i] = radius * Math.cos(angle);
                    z[i] = radius * Math.sin(angle);
                    ring[i] = builder.point(new Vec3(x[i], 0.5, z[i]));
                }
                double shoelace = 0;
                for (int i = 0; i < n; i++) {
                    shoelace += x[i] * z[(i + 1) % n] - x[(i + 1) % n] * z[i];
                }
                Mesh mesh = builder.face(ring).build();
                assertThat(Measures.of(mesh, Matrix4.IDENTITY).area()).isCloseTo(shoelace / 2, within(1e-5));
                assertThat(Triangulation.corners(mesh)).hasSize(3 * (n - 2));
                assertThat(Triangulation.faces(mesh)).hasSize(n - 2).containsOnly(0);
            }
        }
    }

    @Test
    void negativeZeroAndZeroAreOnePlace() {
        Mesh mesh = new Mesh(
                new float[] {0f, 0, 0, 1, 0, 0, 0, 1, 0, -0f, 0, 0, 1, 0, 0, 0, 0, 1},
                new int[] {3, 3},
                new int[] {0, 1, 2, 3, 5, 4},
                null,
                null);
        Mesh welded = Welding.exact(mesh);
        assertThat(welded.pointCount()).isEqualTo(4);
        assertThat(Welding.exact(welded)).as("nothing is left to join").isSameAs(welded);
    }
}
