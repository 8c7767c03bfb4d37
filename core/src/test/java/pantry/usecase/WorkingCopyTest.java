package pantry.usecase;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.testing.Workshop;
import pantry.testing.YardBench;
import pantry.workbench.Workbench;

class WorkingCopyTest {
    @TempDir
    private Path folder;

    private YardBench bench;
    private Workbench workbench;
    private Library library;
    private Asset post;
    private EditCopies copies;

    @BeforeEach
    void open() {
        bench = new YardBench(
                folder,
                Workshop.model("Post", Shapes.block(1, 3, 1)),
                Slip.plain("Post", AssetKind.MODEL, "Parts", 1, Axis.Y));
        workbench = bench.workbench();
        library = bench.library();
        post = bench.asset();
        copies = new EditCopies(new HandOut(workbench), workbench.intake());
    }

    @AfterEach
    void close() {
        bench.close();
    }

    private WorkingCopy unpack(String ending) {
        return copies.unpack(
                library,
                new EditCopies.Options(post, "v001", ending, folder.resolve("copy-" + ending), true),
                Progress.NONE);
    }

    @ParameterizedTest
    @ValueSource(strings = {"glb", "gltf", "usda", "usdc", "usdz", "obj", "ply", "stl"})
    void aSavedCopyBecomesTheNextVersionAtTheSameSize(String ending) {
        WorkingCopy copy = unpack(ending);
        assertThat(copy.changed()).isFalse();
        Published same = copies.publish(copy, library, VersionStatus.DRAFT, "as it was", Progress.NONE);
        var size = same.asset().facts("v002").bounds().size();
        assertThat(size.y()).as("a round trip through " + ending).isCloseTo(3, within(1e-4));
        assertThat(same.asset().facts("v002").triangles()).isEqualTo(12);
        assertThat(same.asset().card().versions()).containsEntry("v002", VersionStatus.DRAFT);
        assertThat(same.asset().ready()).contains("v001");
    }

    @Test
    void savingInAnotherProgramIsNoticedAndTheFolderRemembersWhatItIsACopyOf() {
        Path place = unpack("glb").folder();
        Model taller = Workshop.model("Post", Shapes.block(1, 4, 1));
        WorkingCopy copy = WorkingCopy.open(place);
        ModelWriters.write(
                new Model(
                        "Post",
                        List.of(Model.Node.of("x", Matrix4.scale(new Vec3(1, 1, 1)), List.of(), taller.roots())),
                        Model.Extras.NONE),
                copy.file());
        assertThat(copy.changed()).isTrue();
        assertThat(copy.asset()).isEqualTo(post.card().id());
        assertThat(copy.base()).isEqualTo("v001");
        Published next = copies.publish(copy, library, VersionStatus.READY, "taller", Progress.NONE);
        assertThat(next.asset().facts("v002").bounds().size().y()).isCloseTo(4, within(1e-4));
        assertThat(library.history(next.asset()).getLast().note()).isEqualTo("taller");
        assertThat(WorkingCopy.open(place).changed())
                .as("what was published is no longer new")
                .isFalse();
        assertThat(WorkingCopy.open(place).base()).isEqualTo("v002");
    }

    @Test
    void whatGoesWrongIsSaid() throws Exception {
        Path full = Files.createDirectories(folder.resolve("full"));
        Files.writeString(full.resolve("letter.txt"), "mine");
        assertThatThrownBy(() ->
                        copies.unpack(library, new EditCopies.Options(post, "v001", "glb", full, true), Progress.NONE))
                .hasMessageContaining("not empty");
        assertThatThrownBy(() -> WorkingCopy.open(full)).hasMessageContaining("not a working copy");
        WorkingCopy copy = unpack("glb");
        assertThatThrownBy(() -> copy.openIn("no-such-program-here --flag"))
                .hasMessageContaining("no-such-program-here");
        library.trash().discard(post);
        assertThatThrownBy(() -> copies.publish(copy, library, VersionStatus.READY, "x", Progress.NONE))
                .hasMessageContaining("no longer in");
    }

    @Test
    void anAssetIsHeldWhileItIsEditedAndFreeOnceTheCopyIsPublished() {
        WorkingCopy copy = unpack("glb");
        assertThat(library.reservations().of(post)).isPresent();
        copies.publish(copy, library, VersionStatus.READY, "again", Progress.NONE);
        assertThat(library.reservations().of(post)).isEmpty();
    }

    @Test
    void aCopyThatCannotBeMadeLeavesTheAssetAsFreeAsItWas() throws Exception {
        Path full = Files.createDirectories(folder.resolve("full"));
        Files.writeString(full.resolve("letter.txt"), "mine");
        EditCopies.Options into = new EditCopies.Options(post, "v001", "glb", full, true);
        assertThatThrownBy(() -> copies.unpack(library, into, Progress.NONE)).hasMessageContaining("not empty");
        assertThat(library.reservations().of(post)).isEmpty();
        library.reservations().reserve(post);
        assertThatThrownBy(() -> copies.unpack(library, into, Progress.NONE)).hasMessageContaining("not empty");
        assertThat(library.reservations().of(post))
                .as("held before, and held still")
                .isPresent();
    }
}
