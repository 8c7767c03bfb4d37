package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.testing.Workshop;

@DisplayName("What is not saved, written while the scene is worked on")
class SceneSaveTest extends WithYard {
    private int saved() {
        return workshop.openScene(scene.file()).placements().all().size();
    }

    @Test
    @DisplayName("is the scene as it was, and what is done meanwhile stays unsaved")
    void whileItIsWorkedOn() {
        Workshop.stand(scene, block, 0);
        SceneSave unsaved = scene.unsaved();
        Workshop.stand(scene, block, 3);
        unsaved.write();
        assertThat(saved()).isEqualTo(1);
        scene.saved(unsaved);
        assertThat(scene.changed()).isTrue();
        assertThat(scene.unsavedActions()).hasSize(1);
        assertThat(scene.changedOnDisk()).as("that was us").isFalse();
        scene.undo();
        assertThat(scene.changed()).as("as it was saved").isFalse();
        scene.redo();
        scene.save();
        assertThat(saved()).isEqualTo(2);
    }

    @Test
    @DisplayName("counts as saved only once that is noted, and what was taken back since counts as changed")
    void undoneMeanwhile() {
        Workshop.stand(scene, block, 0);
        SceneSave unsaved = scene.unsaved();
        scene.undo();
        assertThat(scene.changed()).isFalse();
        unsaved.write();
        scene.saved(unsaved);
        assertThat(scene.changed()).as("the file has more than the scene").isTrue();
        scene.save();
        assertThat(saved()).isZero();
    }

    @Test
    @DisplayName("of nothing, writes nothing, and keeps nothing beside the file")
    void unchanged() throws Exception {
        String before = Files.readString(scene.file());
        SceneSave unsaved = scene.unsaved();
        unsaved.write();
        unsaved.autosave();
        scene.saved(unsaved);
        assertThat(Files.readString(scene.file())).isEqualTo(before);
        assertThat(Safekeeping.autosaved(scene.file())).doesNotExist();
        assertThat(Safekeeping.before(scene.file())).isEmpty();
    }

    @Test
    @DisplayName("kept beside the file, is offered with what was done, and gone once it is saved")
    void keptBeside() {
        Workshop.stand(scene, block, 0);
        SceneSave unsaved = scene.unsaved();
        Workshop.stand(scene, mast, 3);
        unsaved.autosave();
        Safekeeping.Unsaved left = Safekeeping.left(scene.file()).orElseThrow();
        assertThat(left.actions()).containsExactly("placed Block");
        Scene after = workshop.openScene(scene.file());
        after.recover();
        assertThat(after.placements().all()).hasSize(1);
        unsaved.write();
        assertThat(Safekeeping.left(scene.file())).isEmpty();
    }

    @Test
    @DisplayName("takes a changed sublayer along to its own file")
    void sublayer() throws Exception {
        Path weak = folder.resolve("project/weak.usda");
        Files.writeString(weak, "#usda 1.0\nover \"yard\" { over \"Later\" {} }\n");
        String text = Files.readString(scene.file());
        Files.writeString(scene.file(), text.replaceFirst("\\(", "(\n    subLayers = [@weak.usda@]"));
        Scene layered = workshop.openScene(scene.file());
        Workshop.stand(layered, block, 0);
        SceneSave unsaved = layered.unsaved();
        unsaved.write();
        layered.saved(unsaved);
        assertThat(layered.changed()).isFalse();
        assertThat(Files.readString(weak)).contains("Later");
        assertThat(Files.readString(scene.file())).contains("weak.usda", "Block");
    }
}
