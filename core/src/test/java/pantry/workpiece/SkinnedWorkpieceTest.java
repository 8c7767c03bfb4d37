package pantry.workpiece;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.mesh.Mesh;
import pantry.mesh.MeshEdit;
import pantry.model.Model;
import pantry.motion.BlendShapes;
import pantry.motion.Skin;
import pantry.prep.Made;
import pantry.testing.Moving;
import pantry.usd.SdfPath;

/** What is cleaned moves as it did. */
class SkinnedWorkpieceTest {
    private static final SdfPath TAIL = SdfPath.of("/Vane/Tail");

    @TempDir
    private Path folder;

    private Workpiece open() {
        Path file = folder.resolve("vane.usda");
        ModelWriters.write(Moving.vane(), file);
        return Workpiece.of(file, Made.sources(), Progress.NONE);
    }

    private static Mesh tail(Workpiece piece) {
        return piece.model().meshes().stream()
                .filter(mesh -> Skin.of(mesh).isPresent())
                .findFirst()
                .orElseThrow();
    }

    /** Each point of what was saved comes to where a point of the vane does. */
    private void checkMoves(Workpiece piece) {
        Path saved = folder.resolve("saved.usda");
        piece.save(saved);
        Model read = Made.sources().readers().read(saved, Progress.NONE).model();
        Moving.assertComesTo(Moving.vane(), read, 1e-4, 0, 0.3, 1.1, 2);
    }

    @Test
    void aWorkingCopyCanBeLookedAtInMotion() {
        Workpiece piece = open();
        assertThat(piece.model().extras().skeleton()).isEmpty();
        Moving.assertComesTo(Moving.vane(), piece.moving(), 1e-4, 0, 0.3, 1.1, 2);
        Mesh before = tail(piece);
        Tidying.change(piece, "joined", tidying -> tidying.edit(TAIL, MeshEdit.welding(before)));
        Moving.assertComesTo(Moving.vane(), piece.moving(), 1e-4, 0, 0.3, 1.1, 2);
    }

    @Test
    void pointsThatGoTakeTheirJointsWithThem() {
        Workpiece piece = open();
        Mesh before = tail(piece);
        Tidying.change(piece, "less", tidying -> tidying.edit(TAIL, MeshEdit.keeping(before, face -> face > 1, true)));
        assertThat(tail(piece).faceCount()).isEqualTo(before.faceCount() - 2);
        checkMoves(piece);
    }

    @Test
    void pointsThatAreJoinedKeepTheirJoints() {
        Workpiece piece = open();
        Mesh before = tail(piece);
        Tidying.change(piece, "joined", tidying -> tidying.edit(TAIL, MeshEdit.welding(before)));
        checkMoves(piece);
    }

    @Test
    void aPlaceThatBecomesPartOfThePointsChangesNoMotion() {
        Workpiece piece = open();
        Matrix4 place = Matrix4.translation(new Vec3(0, 3, 0));
        Tidying.change(piece, "made plain", tidying -> {
            tidying.transform(TAIL, place);
            tidying.clearLocal(TAIL);
        });
        assertThat(tail(piece).bounds().min().y()).isGreaterThan(2);
        checkMoves(piece);
    }

    @Test
    void shapesAreSizedWithThePoints() {
        Workpiece piece = open();
        Matrix4 half = Matrix4.scale(new Vec3(0.5, 0.5, 0.5));
        Tidying.change(piece, "sized", tidying -> {
            tidying.transform(TAIL, half);
            tidying.setLocal(TAIL, Matrix4.scale(new Vec3(2, 2, 2)).times(Matrix4.translation(new Vec3(0, 3, 0))));
        });
        float[] offsets = BlendShapes.of(tail(piece)).get("Bent up").offsets();
        assertThat(IntStream.range(0, offsets.length)
                        .mapToDouble(i -> offsets[i])
                        .max())
                .hasValueCloseTo(0.15, within(1e-6));
        checkMoves(piece);
    }

    @Test
    void anotherSurfaceIsBoundAsTheOneBefore() {
        Workpiece piece = open();
        Mesh half = tail(piece).faces(new int[] {0, 1, 2});
        Tidying.change(piece, "half", tidying -> tidying.setMesh(TAIL, half));
        assertThat(tail(piece).faceCount()).isEqualTo(3);
        checkMoves(piece);
    }
}
