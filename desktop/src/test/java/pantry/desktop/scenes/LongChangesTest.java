package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.desktop.session.LedgerLine;
import pantry.library.VersionStatus;
import pantry.scene.Layout;
import pantry.scene.LayoutPlan;
import pantry.scene.TransformStep;
import pantry.usd.SdfPath;
import pantry.usd.text.UsdaWriter;
import pantry.usecase.NextVersion;
import pantry.usecase.PublishFile;

@DisplayName("A change that takes long")
class LongChangesTest extends WithScene {
    private static final int MANY = 6000;

    private SdfPath stored;

    @BeforeEach
    void placeACrate() {
        model.place(crate, Vec3.ZERO);
        stored = model.selected().getFirst();
    }

    private void layOut(int count) {
        model.edits()
                .layOut(
                        List.of(stored),
                        "Row",
                        LayoutPlan.of(
                                new Layout.Grid(new int[] {count, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE));
    }

    private String said() {
        return UsdaWriter.write(scene().layer());
    }

    private LedgerLine last() {
        return desk.session().ledger().getFirst();
    }

    @Test
    @DisplayName(
            "is made in the background: the scene is shown as it was, can be looked at and saved, and is not changed")
    void whileItIsUnderWay() {
        String before = said();
        desk.holdWork();
        layOut(MANY);
        assertThat(desk.session().jobs())
                .singleElement()
                .satisfies(job -> assertThat(job.whatProperty().get()).isEqualTo("laying out Row"));
        model.edits().nudge(new Vec3(1, 0, 0));
        assertThat(last().kind()).isEqualTo(LedgerLine.Kind.WRONG);
        assertThat(last().text()).contains("is being changed").contains("wait");
        model.undo();
        model.redo();
        assertThat(said()).isEqualTo(before);
        model.selectionProperty().set(Set.of());
        desk.releaseWork();
        assertThat(model.placements()).hasSize(MANY);
        assertThat(model.selected()).as("what came of it").hasSize(1);
        assertThat(last().text()).isEqualTo("laid out Crate");
        assertThat(model.shownProperty().get().weight().placements()).isEqualTo(MANY);
        model.edits().nudge(new Vec3(1, 0, 0));
        assertThat(last().kind()).as("it can be changed again").isEqualTo(LedgerLine.Kind.DONE);
    }

    @Test
    @DisplayName("is the same as if it had been made at once, and is taken back and done again")
    void undone() {
        String before = said();
        layOut(MANY);
        String after = said();
        model.undo();
        assertThat(said()).isEqualTo(before);
        assertThat(model.placements()).hasSize(1);
        model.redo();
        assertThat(said()).isEqualTo(after);
        assertThat(model.placements()).hasSize(MANY);
        model.undo();
        model.undo();
        assertThat(model.placements()).as("what was done before it").isEmpty();
        model.redo();
        model.redo();
        model.keeping().save();
        assertThat(desk.workbench().openScene(scene().file()).placements().all())
                .hasSize(MANY);
        assertThat(model.changedProperty().get()).isFalse();
    }

    @Test
    @DisplayName("that is stopped leaves everything as it was, and free to be changed")
    void cancelled() {
        String before = said();
        desk.holdWork();
        layOut(MANY);
        desk.session().jobs().getFirst().cancel();
        desk.releaseWork();
        assertThat(said()).isEqualTo(before);
        assertThat(model.placements()).hasSize(1);
        model.selectionProperty().set(Set.of(stored));
        model.edits().nudge(new Vec3(1, 0, 0));
        assertThat(last().kind()).isEqualTo(LedgerLine.Kind.DONE);
    }

    @Test
    @DisplayName("that is refused says why, and leaves the scene free")
    void refused() {
        String before = said();
        model.edits()
                .layOut(
                        List.of(stored),
                        "Row",
                        LayoutPlan.of(
                                new Layout.OnSurface(stored.toString(), 0, 10, 0, 60, true, 1), Layout.Variation.NONE));
        assertThat(last().text()).contains("to lay anything out on");
        assertThat(said()).isEqualTo(before);
        layOut(3);
        assertThat(model.placements()).hasSize(3);
    }

    @Test
    @DisplayName("of a scene that is closed meanwhile comes to nothing, and holds no other scene")
    void closed() {
        desk.holdWork();
        layOut(MANY);
        model.close();
        desk.releaseWork();
        assertThat(model.sceneProperty().get()).isEmpty();
        model.create("Other");
        model.place(crate, Vec3.ZERO);
        assertThat(model.placements()).hasSize(1);
    }

    @Test
    @DisplayName("counts what is saved while it is under way as saved")
    void savedMeanwhile() {
        desk.holdWork();
        layOut(MANY);
        model.keeping().save();
        desk.releaseWork();
        assertThat(model.placements()).hasSize(MANY);
        assertThat(model.changedProperty().get())
                .as("the layout is not in the file")
                .isTrue();
        model.undo();
        assertThat(model.changedProperty().get()).as("as it was saved").isFalse();
    }

    @Test
    @DisplayName("of many selected objects groups, copies, frees and duplicates all of them")
    void ofManyObjects() {
        layOut(2000);
        SdfPath row = model.selected().getFirst();
        List<SdfPath> all = scene().childNames(row).stream().map(row::child).toList();
        Vec3 first = scene().arranging().box(all.getFirst()).min();
        model.selectionProperty().set(new LinkedHashSet<>(all));
        model.edits().group("Pile");
        SdfPath pile = model.selected().getFirst();
        assertThat(scene().childNames(pile)).hasSize(2000);
        model.edits().ungroup();
        assertThat(model.selected()).hasSize(2000);
        assertThat(scene().arranging().box(model.selected().getFirst()).min()).isEqualTo(first);
        model.edits().duplicateSelected();
        assertThat(model.placements()).hasSize(4000);
        assertThat(scene().arranging().box(model.selected().getFirst()).min()).isEqualTo(first.plus(new Vec3(1, 0, 0)));
        model.selectionProperty().set(Set.of(model.selected().getFirst()));
        model.edits()
                .copies(
                        6000,
                        new TransformStep(
                                new Vec3(0, 0.5, 0),
                                Vec3.ZERO,
                                1,
                                TransformStep.About.PIVOT,
                                TransformStep.Axes.WORLD));
        assertThat(model.placements()).hasSize(10_000);
        assertThat(scene().arranging().box(model.selected().getLast()).min().y())
                .isCloseTo(3000, within(1e-6));
        for (int i = 0; i < 4; i++) {
            model.undo();
        }
        assertThat(model.placements()).hasSize(2000);
    }

    @Test
    @DisplayName("during which an asset gets a new version shows that version")
    void newVersionMeanwhile() {
        desk.holdWork();
        layOut(MANY);
        publish(2);
        scene().reload();
        desk.releaseWork();
        assertThat(model.placements()).hasSize(MANY);
        SdfPath use = scene().placements().all().getLast().path();
        assertThat(model.display().box(use).size().y()).as("as it is drawn").isCloseTo(2, within(1e-6));
    }

    /** Publishes a crate of another height, as somebody else might. */
    private void publish(double height) {
        new PublishFile(desk.workbench().intake())
                .run(
                        desk.library(),
                        new PublishFile.Options(
                                new NextVersion(crate, VersionStatus.READY, "larger"),
                                desk.file("larger" + height + ".obj", height),
                                UnaryOperator.identity()),
                        Progress.NONE);
    }

    private double heightOfTheLast() {
        return model.display()
                .box(scene().placements().all().getLast().path())
                .size()
                .y();
    }

    @Test
    @DisplayName("a new version of what a large scene uses is read in the background; what is done meanwhile stands")
    void newVersionInALargeScene() {
        layOut(MANY);
        SdfPath row = model.selected().getFirst();
        assertThat(heightOfTheLast()).isCloseTo(1, within(1e-6));
        publish(2);
        desk.holdWork();
        model.readAgain();
        assertThat(heightOfTheLast()).as("as it was meanwhile").isCloseTo(1, within(1e-6));
        model.selectionProperty().set(Set.of(row));
        model.edits().nudge(new Vec3(5, 0, 0));
        assertThat(last().kind()).isEqualTo(LedgerLine.Kind.DONE);
        String said = said();
        desk.releaseWork();
        assertThat(heightOfTheLast()).isCloseTo(2, within(1e-6));
        assertThat(said()).isEqualTo(said);
        assertThat(model.selected()).containsExactly(row);
        model.undo();
        assertThat(said()).isNotEqualTo(said);
        assertThat(model.placements()).hasSize(MANY);
        publish(3);
        desk.session().refreshCatalogue(desk.library());
        assertThat(heightOfTheLast()).as("once this desk is told").isCloseTo(3, within(1e-6));
        desk.holdWork();
        model.readAgain();
        model.close();
        desk.releaseWork();
        assertThat(model.placements()).isEmpty();
    }

    @Test
    @DisplayName("of a scene that was left leaves the next one as it is, where that is being changed too")
    void twoScenes() {
        desk.holdWork();
        layOut(MANY);
        model.close();
        desk.releaseWork();
        model.create("Other");
        model.place(crate, Vec3.ZERO);
        stored = model.selected().getFirst();
        layOut(MANY);
        assertThat(model.placements()).hasSize(MANY);
        assertThat(last().kind()).isEqualTo(LedgerLine.Kind.DONE);
    }
}
