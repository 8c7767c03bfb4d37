package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.desktop.session.Desk;
import pantry.library.Asset;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.UseIndex;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.schema.TransformComponents;

/** Scenes are found over all open projects, with pictures that are as they are. */
class SceneGalleryModelTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private SceneGalleryModel gallery;
    private Asset mast;
    private Path yard;

    @BeforeEach
    void open() throws IOException {
        desk = new Desk(folder);
        mast = desk.shelve("Lattice mast", "Masts", 9);
        yard = scene("project/yards/yard.usda", 2);
        Path field = scene("project/field.usda", 1);
        Files.setLastModifiedTime(field, FileTime.from(Instant.parse("2026-01-01T10:00:00Z")));
        desk.open();
        gallery = new SceneGalleryModel(desk.session());
        gallery.refresh();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private Path scene(String name, int masts) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        Scene scene = desk.session().workbench().createScene(file);
        for (int i = 0; i < masts; i++) {
            scene.placements().place(mast, Optional.empty(), "Mast", TransformComponents.ORIGIN, Optional.empty());
        }
        scene.save();
        return file;
    }

    private List<String> names() {
        return gallery.shown().stream().map(SceneGalleryModel.Entry::name).toList();
    }

    @Test
    void theNewestComesFirstAndWordsFindTheRest() {
        assertThat(names()).containsExactly("yards/yard.usda", "field.usda");
        gallery.wordsProperty().set("FIELD pro");
        assertThat(names()).as("a project's name counts too").containsExactly("field.usda");
        gallery.wordsProperty().set("nothing like it");
        assertThat(names()).isEmpty();
        assertThat(gallery.count()).isEqualTo(2);
        gallery.wordsProperty().set("");
        desk.session().closeProject(folder.resolve("project"));
        assertThat(names()).isEmpty();
    }

    @Test
    void termsTellOfWhatScenesUse() throws IOException {
        Scene scene = desk.session().workbench().openScene(yard);
        scene.placements().place(mast, Optional.of("v001"), "Pinned", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        desk.library().goBack(mast, "v001", "once more", Progress.NONE);
        Files.writeString(
                folder.resolve("project/whole.usda"), "#usda 1.0\n( subLayers = [@./field.usda@, @./gone.usda@] )\n");
        gallery.refresh();
        gallery.wordsProperty().set("behind:");
        assertThat(names()).as("nothing is known yet").isEmpty();
        List<Project> projects = List.of(Project.open(folder.resolve("project")));
        UseIndex index = desk.session().workbench().useIndex();
        index.refresh(projects, List.of(desk.library()), Progress.NONE);
        desk.session().reachProperty().set(Optional.of(new Reach(index, List.of(desk.library()), projects)));
        assertThat(names()).containsExactly("yards/yard.usda");
        gallery.wordsProperty().set("behind:>1");
        assertThat(names()).isEmpty();
        gallery.wordsProperty().set("USES:lattice");
        assertThat(names()).contains("yards/yard.usda", "field.usda");
        gallery.wordsProperty().set("uses:lattice field");
        assertThat(names()).containsExactly("field.usda");
        gallery.wordsProperty().set("missing:");
        assertThat(names()).containsExactly("whole.usda");
        gallery.wordsProperty().set("unused:");
        assertThat(names()).doesNotContain("field.usda").hasSize(2);
        gallery.wordsProperty().set("mixed:");
        assertThat(names()).as("one follows the second, one pins the first").containsExactly("yards/yard.usda");
    }

    @Test
    void picturesAreKeptUntilSomethingThatIsSeenChanges() throws IOException {
        desk.session().sceneThumbnails().want(yard);
        Path picture = desk.session().sceneThumbnails().taken().get(yard);
        assertThat(picture).isRegularFile();
        var kept = desk.session().workbench().scenePictures();
        assertThat(kept.kept(yard)).contains(picture);
        byte[] before = Files.readAllBytes(picture);
        gallery.refresh();
        desk.session().sceneThumbnails().want(yard);
        assertThat(Files.readAllBytes(picture)).isEqualTo(before);
        desk.library().goBack(mast, "v001", "once more", Progress.NONE);
        assertThat(kept.kept(yard)).as("it follows, and shows another version").isEmpty();
        Scene scene = desk.session().workbench().openScene(yard);
        scene.structure()
                .remove(scene.placements().all().stream().map(Placement::path).toList());
        scene.save();
        gallery.refresh();
        desk.session().sceneThumbnails().want(yard);
        assertThat(Files.readAllBytes(picture)).isNotEqualTo(before);
        assertThat(kept.kept(yard)).isPresent();
    }

    @Test
    void aSceneThatCannotBeReadHasNoPictureAndTheRestGoOn() throws IOException {
        Path broken = Files.writeString(folder.resolve("project/broken.usda"), "#usda 1.0\ndef {");
        gallery.refresh();
        desk.session().sceneThumbnails().want(broken);
        desk.session().sceneThumbnails().want(yard);
        assertThat(desk.session().sceneThumbnails().taken()).containsOnlyKeys(yard);
    }

    @Test
    void aSceneLikeAnotherHasItsDrawersAndNotItsPlacements() {
        Scene pattern = desk.session().workbench().openScene(yard);
        pattern.drawers()
                .put("Masts", List.of(pattern.placements().all().getFirst().path()));
        pattern.save();
        List<Path> made = new ArrayList<>();
        Path target = folder.resolve("project/new.usda");
        gallery.makeLike(yard, target, made::add);
        assertThat(made).containsExactly(target);
        Scene now = desk.session().workbench().openScene(target);
        assertThat(now.placements().all()).isEmpty();
        assertThat(now.drawers().all()).hasSize(1);
        assertThat(desk.session().workbench().openScene(yard).placements().all())
                .as("it stays as it is")
                .hasSize(2);
        assertThat(names()).contains("new.usda");
        gallery.makeLike(yard, target, made::add);
        assertThat(made).as("nothing is overwritten").hasSize(1);
        assertThat(desk.session().ledger().getFirst().text()).contains("already there");
    }
}
