package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * Measures against closed forms (Bronshtein and Semendyayev, Handbook of Mathematics, solid geometry). Round solids are
 * approached from inside, so that their measures fall short by what the chords cut off.
 */
class MeasuresTest {
    private static Measures of(Mesh mesh) {
        return Measures.of(mesh, Matrix4.IDENTITY);
    }

    @Test
    void aCubeHasSixFacesOfItsEdgeSquared() {
        Measures cube = of(Shapes.block(2, 2, 2));
        assertThat(cube.area()).isEqualTo(24);
        assertThat(cube.volume()).isCloseTo(8, within(1e-12));
        assertThat(cube.triangles()).isEqualTo(12);
        assertThat(cube.polygons()).isEqualTo(6);
        assertThat(cube.points()).isEqualTo(8);
        assertThat(cube.parts()).isEqualTo(1);
        assertThat(cube.closed()).isTrue();
        assertThat(cube.bounds().size()).isEqualTo(new Vec3(2, 2, 2));
    }

    @Test
    void aSphereNearsFourPiRSquaredAndFourThirdsPiRCubed() {
        double r = 1.5;
        Measures sphere = of(Shapes.sphere(r, 256, 128));
        assertThat(sphere.area()).isCloseTo(4 * Math.PI * r * r, within(4 * Math.PI * r * r * 4e-4));
        assertThat(sphere.volume())
                .isCloseTo(4.0 / 3 * Math.PI * r * r * r, within(4.0 / 3 * Math.PI * r * r * r * 8e-4));
        assertThat(sphere.volume()).isLessThan(4.0 / 3 * Math.PI * r * r * r);
        assertThat(sphere.closed()).isTrue();
        assertThat(sphere.parts()).isEqualTo(1);
    }

    @Test
    void aTorusNearsFourPiSquaredRrAndTwoPiSquaredRrSquared() {
        double ring = 2;
        double tube = 0.5;
        Measures torus = of(Shapes.torus(ring, tube, 256, 128));
        assertThat(torus.area()).isCloseTo(4 * Math.PI * Math.PI * ring * tube, within(0.02));
        assertThat(torus.volume()).isCloseTo(2 * Math.PI * Math.PI * ring * tube * tube, within(0.01));
        assertThat(torus.closed()).isTrue();
    }

    @Test
    void aRegularTetrahedronHasRootThreeASquaredAndACubedOverSixRootTwo() {
        // Alternate corners of a cube of edge 1 are a regular tetrahedron of edge √2.
        MeshBuilder builder = new MeshBuilder();
        int a = builder.point(new Vec3(0, 0, 0));
        int b = builder.point(new Vec3(1, 1, 0));
        int c = builder.point(new Vec3(1, 0, 1));
        int d = builder.point(new Vec3(0, 1, 1));
        Mesh mesh =
                builder.face(a, b, c).face(a, c, d).face(a, d, b).face(b, d, c).build();
        Measures m = of(mesh);
        assertThat(m.area()).isCloseTo(2 * Math.sqrt(3), within(1e-7));
        assertThat(m.volume()).isCloseTo(1.0 / 3, within(1e-9));
        assertThat(m.closed()).isTrue();
    }

    @Test
    void measuresAreTakenWhereTheMeshStands() {
        Matrix4 place = Matrix4.scale(new Vec3(2, 3, -1))
                .times(Matrix4.rotation(1, 30))
                .times(Matrix4.translation(new Vec3(1e4, 0, -1e4)));
        Measures m = Measures.of(Shapes.block(1, 1, 1), place);
        assertThat(m.volume()).as("mirrored, yet outwards").isCloseTo(6, within(1e-6));
        assertThat(m.area()).isCloseTo(2 * (6 + 2 + 3), within(1e-6));
    }

    @Test
    void whatIsWrongWithAMeshIsCounted() {
        MeshBuilder builder = new MeshBuilder();
        int[] p = new int[7];
        for (int i = 0; i < 4; i++) {
            p[i] = builder.point(new Vec3(i, i % 2, 0));
        }
        builder.point(new Vec3(9, 9, 9));
        builder.face(p[0], p[1], p[2]).face(p[1], p[3], p[2]).face(p[0], p[0], p[1]);
        Measures m = of(builder.build());
        assertThat(m.loosePoints()).isEqualTo(1);
        assertThat(m.degenerateTriangles()).isEqualTo(1);
        assertThat(m.closed()).isFalse();
        assertThat(m.boundaryEdges()).isPositive();
    }

    @Test
    void apartMeansNoSharedPoint() {
        MeshBuilder builder = new MeshBuilder();
        for (int i = 0; i < 5; i++) {
            builder.add(Shapes.block(1, 1, 1), Matrix4.translation(new Vec3(3 * i, 0, 0)));
        }
        assertThat(of(builder.build()).parts()).isEqualTo(5);
    }

    @Test
    void concaveFacesAreCutInside() {
        // An L of area 3: any triangle outside it would make the sum larger.
        MeshBuilder builder = new MeshBuilder();
        double[][] outline = {{0, 0}, {2, 0}, {2, 1}, {1, 1}, {1, 2}, {0, 2}};
        int[] points = new int[outline.length];
        for (int i = 0; i < outline.length; i++) {
            points[i] = builder.point(new Vec3(outline[i][0], outline[i][1], 0));
        }
        for (int start = 0; start < points.length; start++) {
            int[] turned = new int[points.length];
            for (int i = 0; i < points.length; i++) {
                turned[i] = points[(start + i) % points.length];
            }
            MeshBuilder one = new MeshBuilder();
            for (double[] p : outline) {
                one.point(new Vec3(p[0], p[1], 0));
            }
            assertThat(of(one.face(turned).build()).area())
                    .as("from corner " + start)
                    .isCloseTo(3, within(1e-9));
        }
    }

    @Test
    void weldingJoinsPlacesAndKeepsNormalsPerCorner() {
        TriangleMesh flat = TriangleMesh.of(Shapes.block(1, 1, 1));
        int[] sizes = new int[flat.triangleCount()];
        java.util.Arrays.fill(sizes, 3);
        Mesh split = new Mesh(
                flat.positions(), sizes, flat.indices(), new Channel(flat.normals(), 3, Channel.Per.POINT), null);
        assertThat(split.pointCount()).isEqualTo(24);
        assertThat(of(split).parts()).as("what touches hangs together").isOne();
        assertThat(of(split).closed()).isTrue();
        Mesh welded = Welding.exact(split);
        assertThat(welded.pointCount()).isEqualTo(8);
        assertThat(of(welded).closed()).isTrue();
        assertThat(welded.normals().orElseThrow().per()).isEqualTo(Channel.Per.CORNER);
        assertThat(TriangleMesh.of(welded).vertexCount())
                .as("splits again for drawing")
                .isEqualTo(24);
    }

    @Test
    void normalsThatAreNotGivenAreSmoothButForCreases() {
        Mesh block = Shapes.block(1, 1, 1);
        Mesh bare = new Mesh(block.points(), block.faceSizes(), block.corners(), null, null);
        assertThat(TriangleMesh.of(bare).vertexCount())
                .as("a box keeps its edges")
                .isEqualTo(24);
        Mesh ball = Shapes.sphere(1, 32, 16);
        TriangleMesh smooth = TriangleMesh.of(new Mesh(ball.points(), ball.faceSizes(), ball.corners(), null, null));
        assertThat(smooth.vertexCount()).as("a ball has none").isEqualTo(ball.pointCount());
    }
}
