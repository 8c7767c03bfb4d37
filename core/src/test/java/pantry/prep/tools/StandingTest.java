package pantry.prep.tools;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Label;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Shapes;
import pantry.prep.Made;
import pantry.prep.fix.Check;
import pantry.prep.inspect.Fix;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.schema.Xforms;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.Subject;
import pantry.workpiece.Workpiece;

@DisplayName("Pivots, groups, names and rings")
class StandingTest {
    @TempDir
    Path folder;

    private Workpiece arm() {
        Made made = Made.mast(folder);
        PrimSpec arm = made.root.define("Xform", "Arm");
        Xforms.setMatrix(arm, Matrix4.rotation(2, 40).times(Matrix4.translation(new Vec3(0.3, 1, 0))));
        made.bound(
                Made.mesh(arm, "Cup", Shapes.sphere(0.1, 16, 8), Matrix4.translation(new Vec3(0.5, 0.2, 0))), "Steel");
        return made.open();
    }

    @Test
    @DisplayName("a pivot comes where it is wanted, and nothing moves")
    void pivots() {
        SdfPath arm = Made.ROOT.child("Arm");
        SdfPath cup = arm.child("Cup");
        for (Pivots.Place place : Pivots.Place.values()) {
            Workpiece piece = arm();
            Check check = Check.of(new Subject(piece, Progress.NONE));
            Pivots.set(piece, List.of(arm, cup), place);
            Subject subject = new Subject(piece, Progress.NONE);
            for (SdfPath path : List.of(arm, cup)) {
                InspectedPrim item = subject.item(path).orElseThrow();
                assertThat(item.pivot().minus(place.of(item.bounds())).length()).isLessThan(1e-6);
            }
            assertThat(check.fault(Fix.Keeps.EVERY_VERTEX, 0, piece.model())).isEmpty();
        }
        Workpiece piece = arm();
        Pivots.set(piece, cup, new Vec3(1, 2, 3));
        Pivots.set(piece, cup, 1, 0.5);
        InspectedPrim item = new Subject(piece, Progress.NONE).item(cup).orElseThrow();
        assertThat(item.pivot().x()).isCloseTo(1, within(1e-9));
        assertThat(item.pivot().y()).isCloseTo(item.bounds().centre().y(), within(1e-6));
    }

    @Test
    @DisplayName("an asset is put on the ground, centred and aligned")
    void stands() {
        Made made = new Made(folder);
        made.mesh(
                "Beam",
                Shapes.block(3, 0.2, 0.1),
                Matrix4.rotation(1, 25).times(Matrix4.translation(new Vec3(2, 0.7, 1))));
        Workpiece piece = made.open();
        Pivots.stand(piece, Pivots.Stand.ALIGN);
        Pivots.stand(piece, Pivots.Stand.CENTRE);
        Box3 box = piece.model().bounds();
        assertThat(box.size().z()).isCloseTo(0.1, within(1e-6));
        assertThat(box.min().y()).isCloseTo(0, within(1e-6));
        assertThat(box.centre().x()).isCloseTo(0, within(1e-6));
    }

    @Property(tries = 60)
    @Label("the rotation nearest to a transform is one, whatever its scale, shear and mirroring")
    void rigid(
            @ForAll @DoubleRange(min = -180, max = 180) double turn,
            @ForAll @DoubleRange(min = 0.1, max = 4) double size,
            @ForAll @DoubleRange(min = -1, max = 1) double shear) {
        Matrix4 turned = Matrix4.rotationXyz(new Vec3(turn, turn / 3, 20));
        Matrix4 sheared = Matrix4.ofRows(size, shear, 0, 0, 0, 1, 0, 0, 0, 0, -1.5, 0, 0, 0, 0, 1);
        Matrix4 rigid = Pivots.rigid(sheared.times(turned).times(Matrix4.translation(new Vec3(1, 2, 3))));
        assertThat(rigid.determinant3()).isCloseTo(1, within(1e-9));
        double[] product = rigid.times(transposed(rigid)).rows();
        for (int i = 0; i < 3; i++) {
            for (int j = 0; j < 3; j++) {
                assertThat(product[4 * i + j]).isCloseTo(i == j ? 1 : 0, within(1e-9));
            }
        }
        assertThat(rigid.translationPart()).isEqualTo(new Vec3(1, 2, 3));
    }

    private static Matrix4 transposed(Matrix4 m) {
        double[] r = m.rows();
        return Matrix4.ofRows(r[0], r[4], r[8], 0, r[1], r[5], r[9], 0, r[2], r[6], r[10], 0, 0, 0, 0, 1);
    }

    @Test
    @DisplayName("names follow a pattern; clashes are shown and solved")
    void names() {
        Workpiece piece = arm();
        SdfPath arm = Made.ROOT.child("Arm");
        SdfPath tube = Made.ROOT.child("Tube");
        Renaming renaming = new Renaming("lab_<name>_<kind>_<01>", "u", "o", false, Renaming.Letters.SMALL);
        List<Renaming.Line> lines = renaming.lines(piece, List.of(arm, tube));
        assertThat(lines.stream().map(Renaming.Line::after)).containsExactly("lab_arm_group_01", "lab_tobe_mesh_02");
        List<Renaming.Line> clashing =
                new Renaming("Part", "", "", false, Renaming.Letters.AS_THEY_ARE).lines(piece, List.of(arm, tube));
        assertThat(clashing.get(0).clash()).isFalse();
        assertThat(clashing.get(1).clash()).isTrue();
        assertThat(clashing.get(1).after()).isEqualTo("Part 2");
        Renaming.apply(piece, clashing);
        assertThat(piece.editor().stage().prim(Made.ROOT.child("Part_2")).flatMap(prim -> prim.text("displayName")))
                .contains("Part 2");
        assertThat(piece.editor().stage().prim(Made.ROOT.child("Part").child("Cup")))
                .isPresent();
        assertThat(new Renaming("<name>", "(.)a(.)", "$2$1", true, Renaming.Letters.WORDS)
                        .lines(piece, List.of(Made.ROOT.child("Materials")))
                        .getFirst()
                        .after())
                .isEqualTo("TMerlis");
        assertThatThrownBy(() ->
                        new Renaming("<nmae>", "", "", false, Renaming.Letters.SMALL).lines(piece, List.of(Made.ROOT)))
                .hasMessageContaining("not <nmae>");
        assertThatThrownBy(() ->
                        new Renaming("<name>", "(", "", true, Renaming.Letters.SMALL).lines(piece, List.of(Made.ROOT)))
                .hasMessageContaining("is no expression");
    }

    @Test
    @DisplayName("things exchange their names")
    void exchange() {
        Workpiece piece = arm();
        Renaming.apply(
                piece,
                List.of(
                        new Renaming.Line(Made.ROOT.child("Arm"), "Arm", "Tube", "Tube"),
                        new Renaming.Line(Made.ROOT.child("Tube"), "Tube", "Arm", "Arm")));
        assertThat(piece.editor().stage().prim(Made.ROOT.child("Tube").child("Cup")))
                .isPresent();
        assertThat(piece.editor()
                        .stage()
                        .prim(Made.ROOT.child("Arm"))
                        .orElseThrow()
                        .typeName())
                .isEqualTo("Mesh");
    }

    @Test
    @DisplayName("a ring of eight leaves stands in steps of 45 degrees around its stem, and stores one leaf")
    void ring() {
        Made made = Made.mast(folder);
        made.bound(made.mesh("Leaf", Shapes.cone(0.05, 0.01, 0.4, 24), Matrix4.rotation(2, -60)), "Steel");
        Workpiece piece = made.open();
        long stored = piece.weight().trianglesStored();
        List<SdfPath> leaves =
                new RingCopies(8, 45, Vec3.ZERO, RingCopies.Variation.NONE, 1).make(piece, Made.ROOT.child("Leaf"));
        assertThat(leaves).hasSize(8);
        assertThat(piece.weight().trianglesStored()).isEqualTo(stored);
        Subject subject = new Subject(piece, Progress.NONE);
        Vec3 first = subject.item(leaves.get(0)).orElseThrow().bounds().centre();
        Vec3 third = subject.item(leaves.get(2)).orElseThrow().bounds().centre();
        assertThat(third.minus(Matrix4.rotation(1, 90).point(first)).length()).isLessThan(1e-3);
        Workpiece varied = made.open();
        RingCopies lively = new RingCopies(8, 45, Vec3.ZERO, new RingCopies.Variation(10, 0.2, 15), 4);
        List<SdfPath> again = lively.make(varied, Made.ROOT.child("Leaf"));
        Workpiece same = made.open();
        lively.make(same, Made.ROOT.child("Leaf"));
        assertThat(varied.layer().sameAs(same.layer())).isTrue();
        InspectedPrim leaf =
                new Subject(varied, Progress.NONE).item(again.get(3)).orElseThrow();
        double size = Math.cbrt(leaf.world().determinant3());
        assertThat(size).isBetween(0.8, 1.2).isNotCloseTo(1, within(1e-3));
    }
}
