package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.math.Vec3;
import pantry.desktop.session.Desk;
import pantry.library.Asset;
import pantry.scene.Safekeeping;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** Saving in the background, while the scene is worked on, saved again, left, or written by another. */
class KeepingTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private ScenesModel model;
    private Asset crate;

    @BeforeEach
    void openAScene() throws IOException {
        desk = new Desk(folder);
        crate = desk.shelve("Crate", "Stores", 1);
        model = new ScenesModel(desk.session());
        desk.open();
        model.create("Yard");
        place(0);
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private void place(double x) {
        model.place(crate, new Vec3(x, 0, 0));
    }

    private Path file() {
        return model.sceneProperty().get().orElseThrow().file();
    }

    private int saved() {
        return desk.workbench().openScene(file()).placements().all().size();
    }

    @Test
    void whatIsDoneWhileTheSceneIsSavedIsNotSavedYetAndIsKeptBesideIt() {
        desk.holdWork();
        model.keeping().save();
        place(3);
        model.keeping().watch();
        assertThat(saved()).as("nothing is written yet").isZero();
        desk.releaseWork();
        assertThat(saved()).as("as it was when it was to be saved").isEqualTo(1);
        assertThat(model.changedProperty().get()).isTrue();
        assertThat(Safekeeping.left(file()).orElseThrow().actions())
                .singleElement()
                .asString()
                .contains("Crate");
        assertThat(model.keeping().troubleProperty().get()).isEqualTo(Keeping.Trouble.NONE);
        model.keeping().save();
        assertThat(saved()).isEqualTo(2);
        assertThat(model.changedProperty().get()).isFalse();
        assertThat(Safekeeping.left(file())).isEmpty();
    }

    @Test
    void whatIsKeptAlreadyIsNotWrittenAgainAndWhatComesAfterItIs() throws IOException {
        model.keeping().autosave();
        Path beside = Safekeeping.autosaved(file());
        assertThat(beside).exists();
        Files.delete(beside);
        model.keeping().autosave();
        assertThat(beside).as("nothing was done since").doesNotExist();
        place(3);
        model.keeping().autosave();
        assertThat(beside).exists();
        Files.delete(beside);
        model.undo();
        model.keeping().autosave();
        assertThat(beside).as("what was taken back is another state").exists();
    }

    @Test
    void whatIsTakenBackWhileItIsSavedCanBeSavedToo() {
        desk.holdWork();
        model.keeping().save();
        model.undo();
        desk.releaseWork();
        assertThat(saved()).isEqualTo(1);
        assertThat(model.changedProperty().get())
                .as("the file has what was taken back")
                .isTrue();
        model.keeping().save();
        assertThat(saved()).isZero();
        assertThat(model.changedProperty().get()).isFalse();
        model.redo();
        assertThat(model.changedProperty().get()).isTrue();
    }

    @Test
    void savesFollowEachOther() {
        desk.holdWork();
        model.keeping().save();
        place(3);
        model.keeping().save();
        place(6);
        model.keeping().save();
        desk.releaseWork();
        assertThat(saved()).isEqualTo(3);
        assertThat(model.changedProperty().get()).isFalse();
    }

    @Test
    void oneGoesOnOnceItIsSavedAndStaysWhereItCannotBe() throws IOException {
        boolean[] gone = {false};
        desk.holdWork();
        model.keeping().save(() -> gone[0] = true);
        assertThat(gone[0]).isFalse();
        desk.releaseWork();
        assertThat(gone[0]).isTrue();

        place(3);
        gone[0] = false;
        Path path = file();
        Files.delete(path);
        Files.createDirectories(path.resolve("in the way"));
        model.keeping().save(() -> gone[0] = true);
        assertThat(gone[0]).isFalse();
        assertThat(model.changedProperty().get()).isTrue();
        assertThat(desk.session().ledger().getFirst().text()).contains("yard.usda");
    }

    @Test
    void whatAnotherHasWrittenIsNotWrittenOverUnasked() {
        Scene other = desk.workbench().openScene(file());
        other.placements().place(crate, Optional.empty(), "Theirs", TransformComponents.ORIGIN, Optional.empty());
        other.save();
        model.keeping().save();
        assertThat(model.keeping().troubleProperty().get()).isEqualTo(Keeping.Trouble.CHANGED_ON_DISK);
        assertThat(saved()).as("theirs stands").isEqualTo(1);
        place(6);
        model.keeping().saveOver();
        assertThat(saved()).isEqualTo(2);
        assertThat(model.keeping().troubleProperty().get()).isEqualTo(Keeping.Trouble.NONE);
        assertThat(Safekeeping.before(file())).isNotEmpty();
    }

    @Test
    void aSectionThatSomebodyElseHoldsIsNotSavedOver() {
        model.keeping().save();
        Scene whole = desk.workbench().createScene(folder.resolve("project/whole.usda"));
        SdfPath section = whole.placements()
                .placeFile(file(), Optional.empty(), "Yard", TransformComponents.ORIGIN, Optional.empty());
        whole.sections().reserve(section, "Ada");
        place(3);
        model.keeping().save();
        assertThat(saved()).isEqualTo(1);
        assertThat(desk.session().ledger().getFirst().text()).contains("Ada holds ");
        model.keeping().saveElsewhere("Mine");
        assertThat(saved()).isEqualTo(2);
    }

    @Test
    void aSceneThatIsClosedWhileItIsSavedIsSaved() {
        Path path = file();
        desk.holdWork();
        model.keeping().save();
        model.close();
        desk.releaseWork();
        assertThat(desk.workbench().openScene(path).placements().all()).hasSize(1);
        assertThat(model.changedProperty().get()).isFalse();
    }
}
