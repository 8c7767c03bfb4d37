package pantry.twins;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.CancellationException;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Shapes;
import pantry.testing.Cancelled;

class TwinsTest {
    private static List<TwinGroup> found(TwinOptions options, Mesh... meshes) {
        List<Twins.Surface> surfaces = new ArrayList<>();
        for (Mesh mesh : meshes) {
            surfaces.add(new Twins.Surface(mesh, false, 1));
        }
        return Twins.find(surfaces, options, Progress.NONE);
    }

    private static Set<Set<Integer>> sets(List<TwinGroup> groups) {
        Set<Set<Integer>> sets = new java.util.HashSet<>();
        groups.forEach(group -> sets.add(new TreeSet<>(
                group.members().stream().map(TwinGroup.Member::index).toList())));
        return sets;
    }

    /** The generator knows the truth: copies that are twins, and such as only nearly are. */
    @Property(tries = 400, generation = net.jqwik.api.GenerationMode.RANDOMIZED)
    void findsAllTwinsAndNothingElse(@ForAll long seed, @ForAll @IntRange(min = 0, max = 14) int kind) {
        double tolerance = 0.001;
        Copies copies = new Copies(seed);
        Mesh shape = Copies.shapes().get(kind);
        Mesh mirrored = shape.transformed(Matrix4.scale(new Vec3(-1, 1, 1)));
        Mesh larger = shape.transformed(Matrix4.scale(new Vec3(2.5, 2.5, 2.5)));
        Mesh[] meshes = {
            shape,
            copies.shuffled(shape.transformed(copies.place(50))),
            copies.noisy(copies.shuffled(shape.transformed(copies.place(50))), tolerance * 0.3),
            copies.shuffled(mirrored.transformed(copies.place(50))),
            copies.shuffled(larger.transformed(copies.place(50))),
            copies.dented(shape, 10 * tolerance).transformed(copies.place(50)),
            copies.shuffled(copies.dented(shape, 10 * tolerance)).transformed(copies.place(5)),
        };
        List<TwinGroup> groups = found(TwinOptions.USUAL.withTolerance(tolerance), meshes);
        TwinGroup real = groups.getFirst();
        assertThat(real.members().stream().map(TwinGroup.Member::index).toList())
                .containsExactly(0, 1, 2, 3, 4);
        assertThat(real.deviation()).isLessThanOrEqualTo(tolerance);
        assertThat(real.members().get(4).scale()).isBetween(2.499, 2.501);
        for (TwinGroup.Member member : real.members()) {
            Mesh placed = meshes[0].transformed(member.place());
            for (int i = 0; i < placed.pointCount(); i++) {
                Vec3 point = placed.point(i);
                assertThat(nearest(meshes[member.index()], point)).isLessThanOrEqualTo(tolerance * 1.01 + 1e-5);
            }
        }
    }

    private static double nearest(Mesh mesh, Vec3 point) {
        double least = Double.POSITIVE_INFINITY;
        for (int i = 0; i < mesh.pointCount(); i++) {
            least = Math.min(least, mesh.point(i).minus(point).length());
        }
        return least;
    }

    @Test
    void shapesThatDifferStayApart() {
        List<Mesh> all = new ArrayList<>();
        Copies copies = new Copies(7);
        for (Mesh shape : Copies.shapes()) {
            all.add(shape);
            all.add(copies.shuffled(shape.transformed(copies.place(10))));
        }
        List<TwinGroup> groups = found(TwinOptions.USUAL, all.toArray(Mesh[]::new));
        Set<Set<Integer>> pairs = new java.util.HashSet<>();
        for (int i = 0; i < all.size(); i += 2) {
            pairs.add(Set.of(i, i + 1));
        }
        assertThat(sets(groups)).isEqualTo(pairs);
    }

    @Test
    void splitPointsDoNotMatter() {
        Mesh lump = Copies.lump(new java.util.Random(1), 40);
        Mesh split = Copies.split(lump).transformed(new Copies(3).place(4));
        assertThat(found(TwinOptions.USUAL, lump, split)).hasSize(1);
    }

    @Test
    void handsAndSizesAreToldAndCanBeLeftOut() {
        Mesh bracket = Copies.bracket();
        Mesh left = bracket.transformed(Matrix4.scale(new Vec3(-1, 1, 1)));
        Mesh twice = bracket.transformed(Matrix4.scale(new Vec3(2, 2, 2)));
        TwinGroup group = found(TwinOptions.USUAL, bracket, left, twice).getFirst();
        assertThat(group.members().get(1).mirrored()).isTrue();
        assertThat(group.members().get(2).mirrored()).isFalse();
        assertThat(group.scale()).isCloseTo(2, org.assertj.core.data.Offset.offset(1e-6));
        assertThat(found(new TwinOptions(0, false, false), bracket, left, twice))
                .isEmpty();
        // A shape that is its own mirror image is no left hand.
        Mesh block = Shapes.block(1, 2, 3);
        assertThat(found(TwinOptions.USUAL, block, block.transformed(Matrix4.scale(new Vec3(-1, 1, 1))))
                        .getFirst()
                        .mirrored())
                .isFalse();
    }

    @Test
    void theSameShapeInsideOutIsNoTwin() {
        Mesh lump = Copies.lump(new java.util.Random(1), 40);
        Mesh inwards = new Mesh(lump.points(), lump.faceSizes(), lump.corners(), null, null).withLeftHanded(true);
        assertThat(found(TwinOptions.USUAL, lump, inwards)).isEmpty();
    }

    @Test
    void textureCoordinatesMatterWhereThereIsATexture() {
        Mesh plate = Shapes.plate(1, 2);
        Channel uvs = plate.uvs().orElseThrow();
        float[] moved = uvs.data().clone();
        moved[0] += 0.5f;
        Mesh other = new Mesh(
                plate.points(),
                plate.faceSizes(),
                plate.corners(),
                plate.normals().orElse(null),
                new Channel(moved, 2, uvs.per()));
        assertThat(found(TwinOptions.USUAL, plate, other)).hasSize(1);
        assertThat(Twins.find(
                        List.of(new Twins.Surface(plate, true, 1), new Twins.Surface(other, true, 1)),
                        TwinOptions.USUAL,
                        Progress.NONE))
                .isEmpty();
    }

    @Test
    void facesThatAreCutOtherwiseAreNoTwins() {
        Mesh quads = Shapes.block(1, 1, 1);
        MeshBuilder cut = new MeshBuilder();
        for (int i = 0; i < quads.pointCount(); i++) {
            cut.point(quads.point(i));
        }
        int at = 0;
        for (int size : quads.faceSizes()) {
            int[] c = quads.corners();
            cut.face(c[at], c[at + 1], c[at + 2]).face(c[at], c[at + 2], c[at + 3]);
            at += size;
        }
        Mesh plain = new Mesh(quads.points(), quads.faceSizes(), quads.corners(), null, null);
        assertThat(found(TwinOptions.USUAL, plain, cut.build())).isEmpty();
    }

    @Test
    void nothingPointsInOnePlaceAndLinesAreLeftAlone() {
        Mesh nothing = new Mesh(new float[0], new int[0], new int[0], null, null);
        Mesh dot = new Mesh(new float[9], new int[] {3}, new int[] {0, 1, 2}, null, null);
        Mesh line = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {3}, new int[] {0, 1, 2}, null, null);
        Mesh turned = line.transformed(Matrix4.rotation(1, 30));
        assertThat(sets(found(TwinOptions.USUAL, nothing, nothing, dot, line, turned)))
                .containsExactly(Set.of(3, 4));
        assertThat(found(TwinOptions.USUAL)).isEmpty();
    }

    @Test
    void canBeCancelled() {
        Progress stopped = new Cancelled();
        assertThatThrownBy(() -> Twins.find(
                        List.of(new Twins.Surface(Shapes.block(1, 1, 1), false, 1)), TwinOptions.USUAL, stopped))
                .isInstanceOf(CancellationException.class);
    }
}
