package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.Group;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.desktop.session.Desk;
import pantry.library.Asset;
import pantry.model.Model;
import pantry.scene.Scene;

/** The open scene written for others: what they read shows what the scene shows, and what was not saved is in it. */
class SceneFilesTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Asset crate;
    private ScenesModel model;
    private SceneFiles files;

    @BeforeEach
    void openAScene() throws IOException {
        desk = new Desk(folder);
        crate = desk.shelve("Crate", "Stores", 1);
        model = new ScenesModel(desk.session());
        files = new SceneFiles(model, new Group());
        desk.open();
        model.create("Yard");
        model.place(crate, new Vec3(0, 0, 0));
        model.keeping().save();
        model.place(crate, new Vec3(3, 0, 0));
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private static long triangles(Model model) {
        long[] count = {0};
        model.visit((owner, part, world) -> count[0] += part.mesh().triangleCount());
        return count[0];
    }

    private String told() {
        return desk.session().ledger().getFirst().text();
    }

    @Test
    void aPackageHoldsAllThatTheSceneNamesAndIsReadWithoutTheLibrary() throws IOException {
        Path to = folder.resolve("out/yard.usdz");
        Files.createDirectories(to.getParent());
        files.pack(to);
        assertThat(told()).contains("yard.usdz holds the scene", "files");
        assertThat(model.changedProperty().get()).as("it was saved for it").isFalse();
        Files.move(folder.resolve("library"), folder.resolve("away"));
        Scene packed = desk.workbench().openScene(to);
        assertThat(triangles(packed.model())).isEqualTo(24);
        assertThat(packed.placements().all()).hasSize(2);
    }

    @Test
    void aModelShowsWhatTheSceneShowsAndSaysWhatItCannotHold() {
        Path to = folder.resolve("yard.glb");
        files.export(to);
        assertThat(triangles(desk.workbench().intake().read(to, Progress.NONE).model()))
                .isEqualTo(24);
        assertThat(desk.session().ledger()).anyMatch(line -> line.text().contains("yard.glb holds the scene: 24 tri"));
    }

    @Test
    void aFlattenedLayerRefersToNothing() throws IOException {
        Path to = folder.resolve("flat.usda");
        files.flatten(to);
        assertThat(told()).contains("flat.usda holds the scene: one layer");
        assertThat(Files.readString(to)).doesNotContain("ready.usda");
        Files.move(folder.resolve("library"), folder.resolve("away"));
        assertThat(triangles(desk.workbench().openScene(to).model())).isEqualTo(24);
    }

    @Test
    void theOpenSceneItselfIsNotWrittenOverAndWithoutOneItIsSaid() throws IOException {
        Path own = model.sceneProperty().get().orElseThrow().file();
        String before = Files.readString(own);
        files.flatten(own);
        assertThat(told()).contains("is the open scene itself");
        assertThat(Files.readString(own)).isEqualTo(before);
        files.export(folder.resolve("yard.nothing"));
        assertThat(told()).contains("yard.nothing");
        model.keeping().giveUp();
        model.close();
        files.pack(folder.resolve("none.usdz"));
        assertThat(told()).contains("no scene is open");
        assertThat(folder.resolve("none.usdz")).doesNotExist();
    }
}
