package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Label;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** Fast algorithms on meshes give what trying everything gives, or what a closed form says; shapes by chance, seeds kept. */
@Label("Algorithms on meshes")
class MeshAlgorithmsTest {
    /** A mesh with points of its own at each corner. */
    private static Mesh exploded(Mesh mesh) {
        float[] points = new float[3 * mesh.corners().length];
        for (int i = 0; i < mesh.corners().length; i++) {
            System.arraycopy(mesh.points(), 3 * mesh.corners()[i], points, 3 * i, 3);
        }
        return new Mesh(
                points,
                mesh.faceSizes(),
                IntStream.range(0, mesh.corners().length).toArray(),
                null,
                null);
    }

    private static Measures measured(Mesh mesh) {
        return Measures.of(mesh, Matrix4.IDENTITY);
    }

    private static Mesh shuffled(Mesh mesh, Random random) {
        List<Integer> order =
                new ArrayList<>(IntStream.range(0, mesh.faceCount()).boxed().toList());
        java.util.Collections.shuffle(order, random);
        return mesh.faces(order.stream().mapToInt(i -> i).toArray());
    }

    @Property(tries = 60)
    @Label("the nearest point of a grid is the nearest of all")
    void nearest(@ForAll long seed, @ForAll @IntRange(min = 1, max = 300) int count) {
        Random random = new Random(seed);
        double[] points = random.doubles(3L * count, -5, 5).toArray();
        PointGrid grid = new PointGrid(points, 9);
        for (int ask = 0; ask < 30; ask++) {
            Vec3 at = new Vec3(random.nextDouble(-6, 6), random.nextDouble(-6, 6), random.nextDouble(-6, 6));
            double reach = random.nextDouble(1e-6, 2);
            int best = -1;
            double least = reach;
            for (int i = 0; i < count; i++) {
                double away = at.minus(new Vec3(points[3 * i], points[3 * i + 1], points[3 * i + 2]))
                        .length();
                if (away <= least) {
                    least = away;
                    best = i;
                }
            }
            assertThat(grid.nearest(at.x(), at.y(), at.z(), reach)).isEqualTo(best);
        }
    }

    @Property(tries = 40)
    @Label("parts are what can be reached from face to face over shared points")
    void parts(@ForAll long seed, @ForAll @IntRange(min = 1, max = 8) int solids) {
        Random random = new Random(seed);
        List<Mesh> all = new ArrayList<>();
        for (int i = 0; i < solids; i++) {
            Mesh solid = random.nextBoolean() ? Shapes.sphere(0.4, 8, 6) : Shapes.block(0.5, 0.5, 0.5);
            all.add(solid.transformed(Matrix4.translation(new Vec3(2 * i, 0, 0))));
        }
        Mesh whole = Welding.exact(shuffled(Merging.of(all), random));
        assertThat(ConnectedParts.of(whole)).hasSize(solids);
        // Some faces are taken away, so that solids fall apart by chance.
        int[] kept = IntStream.range(0, whole.faceCount())
                .filter(face -> random.nextInt(3) == 0)
                .toArray();
        if (kept.length > 0) {
            Mesh rest = whole.faces(kept);
            assertThat(ConnectedParts.of(rest)).hasSize(flooded(rest));
        }
    }

    private static int flooded(Mesh mesh) {
        int[] firsts = new int[mesh.faceCount()];
        for (int face = 1; face < firsts.length; face++) {
            firsts[face] = firsts[face - 1] + mesh.faceSizes()[face - 1];
        }
        boolean[] seen = new boolean[mesh.faceCount()];
        int parts = 0;
        for (int start = 0; start < seen.length; start++) {
            if (seen[start]) {
                continue;
            }
            parts++;
            Deque<Integer> open = new ArrayDeque<>(List.of(start));
            seen[start] = true;
            while (!open.isEmpty()) {
                int face = open.poll();
                for (int other = 0; other < seen.length; other++) {
                    if (!seen[other] && shares(mesh, firsts, face, other)) {
                        seen[other] = true;
                        open.add(other);
                    }
                }
            }
        }
        return parts;
    }

    private static boolean shares(Mesh mesh, int[] firsts, int a, int b) {
        for (int i = 0; i < mesh.faceSizes()[a]; i++) {
            for (int j = 0; j < mesh.faceSizes()[b]; j++) {
                if (mesh.corners()[firsts[a] + i] == mesh.corners()[firsts[b] + j]) {
                    return true;
                }
            }
        }
        return false;
    }

    @Property(tries = 40)
    @Label("a hull holds every point, and is the box where they fill a box")
    void hulls(@ForAll long seed, @ForAll @IntRange(min = 0, max = 200) int inside) {
        Random random = new Random(seed);
        List<Vec3> points = new ArrayList<>();
        for (int corner = 0; corner < 8; corner++) {
            points.add(new Vec3((corner & 1) * 2, (corner & 2) * 1.5, (corner & 4) * 1.25));
        }
        for (int i = 0; i < inside; i++) {
            points.add(new Vec3(random.nextDouble(0, 2), random.nextDouble(0, 3), random.nextDouble(0, 5)));
        }
        java.util.Collections.shuffle(points, random);
        Matrix4 turned =
                Matrix4.rotation(0, random.nextDouble(0, 360)).times(Matrix4.rotation(1, random.nextDouble(0, 360)));
        double[] figures = points.stream()
                .map(turned::point)
                .flatMapToDouble(p -> java.util.stream.DoubleStream.of(p.x(), p.y(), p.z()))
                .toArray();
        Mesh hull = ConvexHull.of(figures).orElseThrow();
        Measures measures = measured(hull);
        assertThat(measures.volume()).isCloseTo(2 * 3 * 5, within(1e-4));
        assertThat(measures.closed()).isTrue();
    }

    @Property(tries = 40)
    @Label("what was taken apart is welded to what it was, once and no further")
    void welding(@ForAll long seed, @ForAll @IntRange(min = 3, max = 24) int segments) {
        Random random = new Random(seed);
        Mesh solid = Shapes.sphere(1, segments, Math.max(3, segments / 2));
        Mesh apart = shuffled(exploded(solid), random);
        Mesh welded = Welding.exact(apart);
        assertThat(welded.pointCount()).isEqualTo(Welding.exact(solid).pointCount());
        assertThat(measured(welded).volume()).isCloseTo(measured(solid).volume(), within(1e-6));
        assertThat(Welding.exact(welded)).isSameAs(welded);
    }

    @Property(tries = 60)
    @Label("triangles that name their corners by place are those of a mesh whose doubled points are joined")
    void weldedTriangles(@ForAll long seed, @ForAll @IntRange(min = 0, max = 400) int triangles) {
        Random random = new Random(seed);
        float[] corners = new float[9 * triangles];
        for (int i = 0; i < corners.length; i++) {
            // Few places, so that many corners share one; also zeros of both signs.
            corners[i] = (random.nextInt(5) - 2) * (random.nextBoolean() ? 0.5f : -0.5f);
        }
        int[] each = java.util.stream.IntStream.range(0, 3 * triangles).toArray();
        int[] sizes = new int[triangles];
        java.util.Arrays.fill(sizes, 3);
        Mesh expected = Welding.exact(new Mesh(corners.clone(), sizes, each, null, null));
        Mesh welded = Welding.ofTriangles(corners.clone());
        assertThat(welded.points()).isEqualTo(expected.points());
        assertThat(welded.corners()).isEqualTo(expected.corners());
        assertThat(welded.faceSizes()).isEqualTo(sizes);
    }

    @Property(tries = 40)
    @Label("holes are found one by one and closed again, with the volume and the Euler characteristic of before")
    void holes(@ForAll long seed, @ForAll @IntRange(min = 1, max = 6) int wanted) {
        Random random = new Random(seed);
        Mesh solid = Welding.exact(Shapes.sphere(1, 24, 16));
        // Faces that share no point, so that each leaves a hole of its own.
        List<Integer> gone = new ArrayList<>();
        boolean[] touched = new boolean[solid.pointCount()];
        int[] firsts = new int[solid.faceCount()];
        for (int face = 1; face < firsts.length; face++) {
            firsts[face] = firsts[face - 1] + solid.faceSizes()[face - 1];
        }
        for (int face : random.ints(400, 0, solid.faceCount()).toArray()) {
            int[] corners = Arrays.copyOfRange(solid.corners(), firsts[face], firsts[face] + solid.faceSizes()[face]);
            if (gone.size() < wanted && Arrays.stream(corners).noneMatch(corner -> touched[corner])) {
                Arrays.stream(corners).forEach(corner -> touched[corner] = true);
                gone.add(face);
            }
        }
        Mesh open = solid.faces(IntStream.range(0, solid.faceCount())
                .filter(face -> !gone.contains(face))
                .toArray());
        List<int[]> holes = Holes.of(open, 10);
        assertThat(holes).hasSize(gone.size());
        Mesh closed = Holes.closed(open, holes);
        assertThat(measured(closed).closed()).isTrue();
        assertThat(measured(closed).volume()).isCloseTo(measured(solid).volume(), within(1e-4));
        assertThat(closed.faceCount()).isEqualTo(solid.faceCount());
    }

    @Property(tries = 30)
    @Label("turning faces twice changes nothing, and keeping all keeps all")
    void edits(@ForAll long seed) {
        Random random = new Random(seed);
        Mesh solid = Shapes.sphere(1, 12, 8);
        boolean[] turned = new boolean[solid.faceCount()];
        for (int face = 0; face < turned.length; face++) {
            turned[face] = random.nextBoolean();
        }
        Mesh once = MeshEdit.turning(solid, turned).apply(solid);
        Mesh twice = MeshEdit.turning(once, turned).apply(once);
        assertThat(twice.corners()).isEqualTo(solid.corners());
        assertThat(twice.points()).isEqualTo(solid.points());
        Mesh kept = MeshEdit.keeping(solid, face -> true, false).apply(solid);
        assertThat(kept.corners()).isEqualTo(solid.corners());
        assertThat(kept.faceSizes()).isEqualTo(solid.faceSizes());
    }

    /** The error is meshoptimizer's own estimate: an order of magnitude, told in the mesh's unit. */
    @Property(tries = 20)
    @Label("coarse levels use the same points, have about the wanted triangles, and say how far they are off")
    void coarse(@ForAll @IntRange(min = 24, max = 96) int segments, @ForAll @IntRange(min = 20, max = 400) int wanted) {
        Mesh solid = Shapes.sphere(2, segments, segments / 2);
        TriangleMesh fine = TriangleMesh.of(solid);
        Simplification.Reduced reduced = Simplification.coarse(fine, wanted);
        assertThat(reduced.indices().length % 3).isZero();
        assertThat(reduced.indices().length / 3)
                .isLessThanOrEqualTo((int) Math.max(4.5 * wanted, 1))
                .isPositive();
        for (int index : reduced.indices()) {
            assertThat(index).isBetween(0, fine.vertexCount() - 1);
        }
        double off = SurfaceDistance.between(triangles(fine, fine.indices()), triangles(fine, reduced.indices()))
                .greatest();
        if (reduced.indices().length < fine.indices().length) {
            assertThat(reduced.error()).isPositive();
            assertThat(off).isLessThanOrEqualTo(Math.max(4 * reduced.error(), 0.05));
        }
    }

    private static double[] triangles(TriangleMesh mesh, int[] indices) {
        double[] all = new double[3 * indices.length];
        for (int i = 0; i < indices.length; i++) {
            for (int axis = 0; axis < 3; axis++) {
                all[3 * i + axis] = mesh.positions()[3 * indices[i] + axis];
            }
        }
        return all;
    }

    @Property(tries = 30)
    @Label("the whole of many is as large as all of them, also of those that are told left-handed")
    void merging(@ForAll long seed, @ForAll @IntRange(min = 1, max = 6) int count) {
        Random random = new Random(seed);
        List<Mesh> all = new ArrayList<>();
        double volume = 0;
        int faces = 0;
        for (int i = 0; i < count; i++) {
            Matrix4 mirror = Matrix4.scale(new Vec3(random.nextBoolean() ? -1 : 1, 1, 1));
            Mesh solid = Shapes.block(1 + random.nextDouble(), 1, 1)
                    .transformed(mirror.times(Matrix4.translation(new Vec3(3 * i, 0, 0))));
            all.add(solid);
            volume += measured(solid).volume();
            faces += solid.faceCount();
        }
        Mesh whole = Merging.of(all);
        assertThat(whole.faceCount()).isEqualTo(faces);
        assertThat(measured(whole).volume()).isCloseTo(volume, within(1e-4));
        assertThat(volume).isPositive();
    }
}
