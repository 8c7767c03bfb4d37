package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.render.RenderScene;
import pantry.scene.Scene;
import pantry.scene.Sections;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

@DisplayName("Sections are worked on where they stand")
class SectionsInPlaceTest extends WithScene {
    private SdfPath section;
    private Path file;

    /** Two crates in a section, a mast beside them in the scene, which is saved. */
    @BeforeEach
    void cut() {
        model.place(crate, Vec3.ZERO);
        model.place(crate, new Vec3(3, 0, 0));
        model.selection().selectAll();
        model.exports().cutSection("North");
        section = model.selected().getFirst();
        model.place(mast, new Vec3(0, 0, 9));
        model.keeping().save();
        file = scene().sections().at(section).orElseThrow().layer();
    }

    private RenderScene drawn() {
        return model.shownProperty().get().drawn();
    }

    @Test
    void itIsOpenedInItsOwnFileWithTheSceneAroundItAndLeftAgain() {
        Path yard = scene().file();
        assertThat(model.isSection(section)).isTrue();
        assertThat(drawn().triangles()).isEqualTo(36);
        model.openSection(section);
        assertThat(scene().file()).isEqualTo(file);
        assertThat(model.placements()).hasSize(2);
        assertThat(drawn().triangles()).as("the mast is drawn around it").isEqualTo(36);
        assertThat(model.shownProperty().get().weight().trianglesDrawn())
                .as("but is not weighed")
                .isEqualTo(24);
        assertThat(model.objectOf(RenderScene.SURROUNDINGS)).isEmpty();
        assertThat(drawn().bounds().max().z()).as("nor framed").isLessThan(1);

        SdfPath first = model.placements().getFirst().path();
        model.selectionProperty().set(Set.of(first));
        model.edits().nudge(new Vec3(0, 2, 0));
        assertThat(model.changedProperty().get()).isTrue();
        model.keeping().save();
        model.leaveSection();
        assertThat(scene().file()).isEqualTo(yard);
        assertThat(model.aroundProperty().get()).isEmpty();
        assertThat(model.selected()).containsExactly(section);
        assertThat(model.display().box(section).max().y()).isCloseTo(3, within(1e-6));
        assertThat(scene().spec(section).orElseThrow().children())
                .as("nothing of it is said in the scene")
                .isEmpty();
    }

    @Test
    void whereASectionWasMovedTheSceneIsAroundItAsItIsSeenThere() {
        model.edits().move(section, new TransformComponents(new Vec3(10, 0, 0), new Vec3(0, 90, 0), Vec3.ONE));
        model.keeping().save();
        Matrix4 place = scene().world(section).orElseThrow();
        model.openSection(section);
        OpenScene.Surroundings around = model.aroundProperty().get().orElseThrow();
        // The mast stands at (0, 0, 9); seen from the section, where its place leads back to.
        Vec3 mastThere = around.place().point(new Vec3(0, 0, 9));
        assertThat(place.point(mastThere).minus(new Vec3(0, 0, 9)).length()).isLessThan(1e-9);
        assertThat(around.drawn().boundsBelow(section.toString()).isEmpty()).isTrue();
    }

    @Test
    void sectionsWithinSectionsAreLeftOneAfterTheOther() {
        Path yard = scene().file();
        model.openSection(section);
        model.selectionProperty()
                .set(new LinkedHashSet<>(List.of(model.placements().getFirst().path())));
        model.exports().cutSection("Corner");
        SdfPath inner = model.selected().getFirst();
        model.keeping().save();
        model.openSection(inner);
        assertThat(model.aroundProperty().get().orElseThrow().outer()).isPresent();
        assertThat(drawn().triangles()).as("both scenes are around it").isEqualTo(36);
        model.leaveSection();
        assertThat(scene().file()).isEqualTo(file);
        assertThat(model.aroundProperty().get()).isPresent();
        model.leaveSection();
        assertThat(scene().file()).isEqualTo(yard);
        model.leaveSection();
        assertThat(scene().file()).as("there is nothing further out").isEqualTo(yard);
    }

    @Test
    void whatIsDraggedInASectionIsSeenWithTheSceneAroundIt() {
        model.openSection(section);
        model.selectionProperty().set(Set.of(model.placements().getFirst().path()));
        model.edits().nudge(new Vec3(0, 1, 0));
        assertThat(drawn().triangles()).isEqualTo(36);
        model.undo();
        assertThat(drawn().triangles()).isEqualTo(36);
        model.keeping().openAnew();
        assertThat(drawn().triangles()).as("also when the file is opened anew").isEqualTo(36);
    }

    @Test
    void itSaysWhoHoldsItAndWhatOthersChangeIsShown() throws Exception {
        model.sections().look();
        assertThat(model.sections().holdersProperty().get()).isEmpty();
        Sections.reserve(file, "Ada");
        Scene others = desk.workbench().openScene(file);
        others.arranging()
                .move(java.util.Map.of(
                        others.placements().all().getFirst().path(),
                        TransformComponents.ORIGIN.withMove(new Vec3(0, 5, 0))));
        others.save();
        // Clocks of file systems are coarse; the length tells it too, but not always.
        Files.setLastModifiedTime(file, java.nio.file.attribute.FileTime.fromMillis(4_000_000_000_000L));
        model.sections().look();
        assertThat(model.sections().holdersProperty().get()).containsEntry(file, "Ada");
        assertThat(model.display().box(section).max().y()).isCloseTo(6, within(1e-6));
        assertThat(desk.session().ledger().getFirst().text()).contains("yard-north.usda was changed by Ada");

        model.openSection(section);
        model.sections().look();
        assertThat(model.sections().holdersProperty().get()).containsEntry(file, "Ada");
        model.exports().holdOpen(true);
        assertThat(desk.session().ledger().getFirst().text()).contains("Ada holds ");
        Sections.release(file, "Ada");
        model.exports().holdOpen(true);
        assertThat(Sections.holder(file).orElseThrow().who()).isEqualTo("tester");
        model.exports().holdOpen(false);
        assertThat(Sections.holder(file)).isEmpty();
    }
}
