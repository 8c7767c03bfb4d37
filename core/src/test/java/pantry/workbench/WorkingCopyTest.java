package pantry.workbench;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
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
import pantry.exchange.worker.WorkerLimits;
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

class WorkingCopyTest {
    @TempDir
    private Path folder;

    private Workbench workbench;
    private Library library;
    private Asset post;

    @BeforeEach
    void open() {
        workbench = new Workbench("tester", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL);
        library = workbench.createLibrary(folder.resolve("library"), "Yard");
        post = workbench
                .intake()
                .shelve(
                        Workshop.model("Post", Shapes.block(1, 3, 1)),
                        Slip.plain("Post", AssetKind.MODEL, "Parts", 1, Axis.Y),
                        library,
                        Progress.NONE)
                .asset();
    }

    @AfterEach
    void close() {
        workbench.close();
    }

    private WorkingCopy unpack(String ending) {
        return workbench.unpack(library, post, "v001", ending, folder.resolve("copy-" + ending), Progress.NONE);
    }

    @ParameterizedTest
    @ValueSource(strings = {"glb", "gltf", "usda", "usdc", "usdz", "obj", "ply", "stl"})
    void aSavedCopyBecomesTheNextVersionAtTheSameSize(String ending) {
        WorkingCopy copy = unpack(ending);
        assertThat(copy.changed()).isFalse();
        Published same = copy.publish(workbench.intake(), library, VersionStatus.DRAFT, "as it was", Progress.NONE);
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
        Published next = copy.publish(workbench.intake(), library, VersionStatus.READY, "taller", Progress.NONE);
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
        assertThatThrownBy(() -> workbench.unpack(library, post, "v001", "glb", full, Progress.NONE))
                .hasMessageContaining("not empty");
        assertThatThrownBy(() -> WorkingCopy.open(full)).hasMessageContaining("not a working copy");
        WorkingCopy copy = unpack("glb");
        assertThatThrownBy(() -> copy.openIn("no-such-program-here --flag"))
                .hasMessageContaining("no-such-program-here");
        library.trash().discard(post);
        assertThatThrownBy(() -> copy.publish(workbench.intake(), library, VersionStatus.READY, "x", Progress.NONE))
                .hasMessageContaining("no longer in");
    }

    @Test
    void aUsersListsOutliveTheProgramAndBrokenOnesDoNoHarm() throws Exception {
        Path file = folder.resolve("personal.json");
        Personal personal = new Personal(file);
        personal.favourite("a", true);
        personal.favourite("b", true);
        personal.favourite("a", false);
        personal.lookedAt("x");
        personal.lookedAt("y");
        personal.lookedAt("x");
        personal.keep(new Personal.KeptSearch("Heavy", "triangles:>100k"));
        personal.keep(new Personal.KeptSearch("Heavy", "triangles:>200k"));
        Personal again = new Personal(file);
        assertThat(again.favourites()).containsExactly("b");
        assertThat(again.recent()).containsExactly("x", "y");
        assertThat(again.searches()).containsExactly(new Personal.KeptSearch("Heavy", "triangles:>200k"));
        Files.writeString(file, "[ not this ]");
        assertThat(new Personal(file).favourites()).isEmpty();
        workbench.keep(workbench.settings().withEditor("editor --now").withHandOutFormat("usdz"));
        assertThat(workbench.settings())
                .isEqualTo(new Settings("editor --now", "glb", "usdz", List.of(), List.of(), List.of()));
    }
}
