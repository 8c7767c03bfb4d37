package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import net.jqwik.api.ForAll;
import net.jqwik.api.Label;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

@DisplayName("The faults of a mesh")
class MeshFaultsTest {
    private static Mesh bare(Mesh mesh) {
        return Welding.exact(new Mesh(mesh.points(), mesh.faceSizes(), mesh.corners(), null, null));
    }

    /** Points, less edges, plus faces: 2 for a sphere, 0 for a torus (Leonhard Euler, 1758). */
    private static int characteristic(Mesh mesh) {
        int[] edges = {0};
        new EdgeTable(mesh, Welding.firstAtPlace(mesh.points())).forEach((low, high, from, to) -> edges[0]++);
        return mesh.pointCount() - edges[0] + mesh.faceCount();
    }

    @Property(tries = 60)
    @Label("Euler's formula holds for spheres and tori of every fineness, and none of them has a fault")
    void euler(@ForAll @IntRange(min = 3, max = 40) int segments, @ForAll @IntRange(min = 3, max = 30) int rings) {
        Mesh sphere = bare(Shapes.sphere(1, segments, rings));
        Mesh torus = bare(Shapes.torus(2, 0.5, segments, rings));
        assertThat(characteristic(sphere)).isEqualTo(2);
        assertThat(characteristic(torus)).isZero();
        for (Mesh mesh : new Mesh[] {sphere, torus}) {
            MeshFaults faults = MeshFaults.of(mesh);
            assertThat(faults.closed()).isTrue();
            assertThat(faults.parts()).isEqualTo(1);
            assertThat(faults.insideOut() + faults.unevenFaces() + faults.doubledPoints() + faults.loosePoints())
                    .isZero();
            assertThat(faults.flatFaces()).isEmpty();
            assertThat(faults.doubleFaces()).isEmpty();
        }
    }

    @Property(tries = 60)
    @Label("faces that are turned are found and turned back, whichever they are")
    void winding(@ForAll long seed) {
        Mesh sphere = bare(Shapes.sphere(1, 12, 8));
        boolean[] turned = new boolean[sphere.faceCount()];
        java.util.SplittableRandom random = new java.util.SplittableRandom(seed);
        int count = 0;
        for (int face = 0; face < turned.length; face++) {
            turned[face] = random.nextInt(4) == 0;
            count += turned[face] ? 1 : 0;
        }
        Mesh mixed = MeshEdit.turning(sphere, turned).apply(sphere);
        MeshFaults faults = MeshFaults.of(mixed);
        assertThat(faults.turned()).isEqualTo(turned);
        assertThat(faults.unevenFaces()).isEqualTo(Math.min(count, turned.length - count));
        Mesh back = MeshEdit.turning(mixed, faults.turned()).apply(mixed);
        assertThat(Measures.of(back, Matrix4.IDENTITY).volume())
                .isCloseTo(Measures.of(sphere, Matrix4.IDENTITY).volume(), within(1e-9));
    }

    @Test
    @DisplayName("an inside-out box beside a sound one is the only one turned")
    void insideOut() {
        MeshBuilder builder = new MeshBuilder();
        builder.add(bare(Shapes.block(1, 1, 1)), Matrix4.IDENTITY);
        Mesh box = bare(Shapes.block(1, 1, 1));
        boolean[] all = new boolean[6];
        java.util.Arrays.fill(all, true);
        builder.add(MeshEdit.turning(box, all).apply(box), Matrix4.translation(new Vec3(3, 0, 0)));
        Mesh two = bare(builder.build());
        MeshFaults faults = MeshFaults.of(two);
        assertThat(faults.insideOut()).isEqualTo(1);
        assertThat(faults.parts()).isEqualTo(2);
        assertThat(Measures.of(MeshEdit.turning(two, faults.turned()).apply(two), Matrix4.IDENTITY)
                        .volume())
                .isCloseTo(2, within(1e-9));
    }

    @Test
    @DisplayName("a finely cut plate would do with two triangles; a sphere has no flat region")
    void flatRegions() {
        MeshBuilder builder = new MeshBuilder();
        for (int i = 0; i <= 20; i++) {
            for (int j = 0; j <= 20; j++) {
                builder.point(new Vec3(i, 0, j));
            }
        }
        for (int i = 0; i < 20; i++) {
            for (int j = 0; j < 20; j++) {
                builder.face(21 * i + j, 21 * i + j + 1, 21 * i + j + 22, 21 * i + j + 21);
            }
        }
        MeshFaults.Plane plane = MeshFaults.of(bare(builder.build())).plane();
        assertThat(plane.triangles()).isEqualTo(800);
        // The outline keeps its 80 points.
        assertThat(plane.needed()).isEqualTo(78);
        assertThat(MeshFaults.of(bare(Shapes.sphere(1, 48, 24))).plane().saved())
                .isZero();
    }

    @Test
    @DisplayName("normals against their faces are none, and are turned to their side")
    void normals() {
        Mesh sphere = bare(Shapes.sphere(1, 16, 8));
        float[] inwards = SmoothNormals.of(sphere).data().clone();
        for (int i = 0; i < inwards.length; i++) {
            inwards[i] = -inwards[i];
        }
        Channel wrong = new Channel(inwards, 3, SmoothNormals.of(sphere).per());
        Mesh turned = new Mesh(sphere.points(), sphere.faceSizes(), sphere.corners(), wrong, null);
        assertThat(MeshFaults.of(turned).badNormals()).isEqualTo(sphere.corners().length);
        Channel facing = new Channel(MeshFaults.facing(turned, wrong), 3, Channel.Per.CORNER);
        Mesh right = new Mesh(sphere.points(), sphere.faceSizes(), sphere.corners(), facing, null);
        assertThat(MeshFaults.of(right).badNormals()).isZero();
    }

    @Test
    @DisplayName("a hole is found and closed, and the volume is what it was")
    void holes() {
        Mesh torus = bare(Shapes.torus(2, 0.5, 24, 12));
        int[] kept = java.util.stream.IntStream.range(0, torus.faceCount())
                .filter(face -> face != 7 && face != 100)
                .toArray();
        Mesh open = torus.faces(kept);
        assertThat(MeshFaults.of(open).boundaryEdges()).isEqualTo(8);
        Mesh closed = Holes.closed(open, Holes.of(open, 64));
        assertThat(MeshFaults.of(closed).closed()).isTrue();
        assertThat(MeshFaults.of(closed).unevenFaces()).isZero();
        assertThat(Measures.of(closed, Matrix4.IDENTITY).volume())
                .isCloseTo(Measures.of(torus, Matrix4.IDENTITY).volume(), within(1e-6));
        assertThat(Holes.of(open, 3)).isEmpty();
    }

    @Test
    @DisplayName("box projection gives each side of a metre cube one repeat")
    void projection() {
        Mesh cube = bare(Shapes.block(1, 1, 1));
        Channel uvs = BoxProjection.of(cube, 1);
        for (int face = 0; face < 6; face++) {
            float[] low = {9, 9};
            float[] high = {-9, -9};
            for (int corner = 4 * face; corner < 4 * face + 4; corner++) {
                for (int axis = 0; axis < 2; axis++) {
                    low[axis] = Math.min(low[axis], uvs.data()[2 * corner + axis]);
                    high[axis] = Math.max(high[axis], uvs.data()[2 * corner + axis]);
                }
            }
            assertThat(high[0] - low[0]).isEqualTo(1f);
            assertThat(high[1] - low[1]).isEqualTo(1f);
        }
    }

    @Test
    @DisplayName("an edit carries what varies per point, face and corner along")
    void channelsFollow() {
        Mesh block = Shapes.block(1, 1, 1);
        Mesh half = MeshEdit.keeping(block, face -> face % 2 == 0, false).apply(block);
        assertThat(half.faceCount()).isEqualTo(3);
        assertThat(half.uvs().orElseThrow().size()).isEqualTo(12);
        assertThat(half.normals().orElseThrow().size()).isEqualTo(12);
        Mesh welded = MeshEdit.welding(block).apply(block);
        assertThat(welded.pointCount()).isEqualTo(8);
        assertThat(MeshFaults.of(welded).badNormals()).isZero();
    }
}
