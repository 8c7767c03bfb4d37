package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.Desk;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Axis;
import pantry.scene.Scene;
import pantry.scene.SceneMotion;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** What moves in the open scene: played, chosen for each placement, taken back, and saved as it is seen. */
class SceneMotionsTest extends WithScene {
    private SdfPath left;
    private SdfPath right;

    @BeforeEach
    void placeTwo() {
        Asset lift = desk.workbench()
                .intake()
                .shelve(
                        Desk.lift(),
                        Slip.plain("Lift", AssetKind.MODEL, "Lifts", 1, Axis.Y),
                        desk.library(),
                        Progress.NONE)
                .asset();
        left = place(lift, 0);
        right = place(lift, 5);
    }

    private SdfPath place(Asset asset, double x) {
        model.place(asset, TransformComponents.ORIGIN.withMove(new Vec3(x, 0, 0)));
        return model.selectionProperty().get().iterator().next();
    }

    /** How high the lift at x is seen to stand, metres. */
    private double height(double x) {
        return model.shownProperty().get().drawn().boxes().stream()
                .filter(box -> Math.abs(box.centre().x() - x) < 1)
                .mapToDouble(box -> box.min().y())
                .findFirst()
                .orElseThrow();
    }

    private void at(double seconds) {
        model.display().clock().timeProperty().set(seconds);
    }

    @Test
    void eachDoesWhatItWasToldAndThatIsTakenBack() {
        assertThat(model.display().clock().length()).isCloseTo(1, within(1e-6));
        at(0.5);
        assertThat(height(0)).isCloseTo(1, within(1e-4));
        assertThat(height(5)).isCloseTo(1, within(1e-4));

        model.selectionProperty().set(Set.of(right));
        model.edits().doMotion(Optional.of("Sink"));
        assertThat(height(0)).as("at the same time still").isCloseTo(1, within(1e-4));
        assertThat(height(5)).isCloseTo(-2, within(1e-4));
        model.edits().timeMotion(Optional.of(1.0), Optional.of(0.5));
        assertThat(model.display().clock().length()).isCloseTo(2, within(1e-6));
        at(1.5);
        assertThat(height(0)).isCloseTo(2, within(1e-4));
        assertThat(height(5)).isCloseTo(-1, within(1e-4));

        model.selectionProperty().set(Set.of(left));
        model.edits().doMotion(Optional.empty());
        assertThat(height(0)).isCloseTo(0, within(1e-4));

        model.undo();
        assertThat(height(0)).isCloseTo(2, within(1e-4));
        model.undo();
        at(0.25);
        assertThat(height(5)).isCloseTo(-1, within(1e-4));
        model.undo();
        assertThat(height(5)).isCloseTo(0.5, within(1e-4));
        model.redo();
        model.redo();
        model.redo();
        at(1.5);
        assertThat(height(0)).isCloseTo(0, within(1e-4));
        assertThat(height(5)).isCloseTo(-1, within(1e-4));

        model.keeping().save();
        Scene saved = desk.workbench().openScene(scene().file());
        assertThat(SceneMotion.of(saved, saved.model())
                        .orElseThrow()
                        .at(1.5)
                        .bounds()
                        .min()
                        .y())
                .isCloseTo(-1, within(1e-4));
    }

    /** What is moved by hand while it is looked at at a time stays there at another time. */
    @Test
    void whatIsMovedStaysWhereItIsAtAnyTime() {
        at(0.5);
        model.selectionProperty().set(Set.of(right));
        model.edits().nudge(new Vec3(3, 0, 0));
        assertThat(height(8)).isCloseTo(1, within(1e-4));
        at(1);
        assertThat(height(8)).isCloseTo(2, within(1e-4));
        model.selectionProperty().set(Set.of(left, right));
        model.edits().removeSelected();
        assertThat(model.display().moves()).isFalse();
        assertThat(model.display().clock().length()).isZero();
        model.undo();
        assertThat(height(8)).isCloseTo(2, within(1e-4));
    }

    @Test
    void severalAreToldAtOnceAndOthersStayAsTheyAre() {
        model.place(mast, TransformComponents.ORIGIN.withMove(new Vec3(20, 0, 0)));
        SdfPath still = model.selectionProperty().get().iterator().next();
        model.selectionProperty().set(Set.of(left, right, still));
        model.edits().doMotion(Optional.of("Sink"));
        assertThat(List.of(left, right)).allSatisfy(path -> assertThat(scene().motions()
                        .of(path)
                        .orElseThrow()
                        .bound()
                        .orElseThrow()
                        .name())
                .isEqualTo("Sink"));
        model.close();
        assertThat(model.display().clock().length()).isZero();
    }

    private IndexedAsset dive() throws IOException {
        Path file = Files.writeString(folder.resolve("dive.usda"), """
                #usda 1.0
                ( defaultPrim = "Dive" metersPerUnit = 1 upAxis = "Y" )
                def SkelAnimation "Dive" {
                    uniform token[] joints = ["Lift"]
                    float3[] translations.timeSamples = { 0: [(0, 0, 0)], 72: [(0, -9, 0)] }
                    quatf[] rotations = [(1, 0, 0, 0)]
                    half3[] scales = [(1, 1, 1)]
                }
                """);
        Intake intake = desk.workbench().intake();
        var read = intake.read(file, Progress.NONE);
        intake.shelve(read, Intake.suggested(read, "Lifts", Neighbours.NONE), desk.library(), Progress.NONE);
        desk.session().refreshCatalogue(desk.library());
        return desk.session().shelving().finder().items().stream()
                .filter(item -> item.name().equals("Dive"))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aMotionOfTheLibraryIsDoneAndGivenBack() throws IOException {
        IndexedAsset dive = dive();
        model.selectionProperty().set(Set.of(left, right));
        model.edits().borrowMotion(dive);
        assertThat(model.display().clock().length()).isCloseTo(3, within(1e-6));
        at(1);
        assertThat(height(0)).isCloseTo(-3, within(1e-4));
        assertThat(height(5)).isCloseTo(-3, within(1e-4));
        model.undo();
        assertThat(model.display().clock().length()).isCloseTo(1, within(1e-6));
        model.redo();
        model.selectionProperty().set(Set.of(left));
        model.edits().doMotion(Optional.of("Rise"));
        at(1);
        assertThat(height(0)).isCloseTo(2, within(1e-4));
        assertThat(height(5)).isCloseTo(-3, within(1e-4));
        model.keeping().save();
        Scene saved = desk.workbench().openScene(scene().file());
        assertThat(SceneMotion.of(saved, saved.model())
                        .orElseThrow()
                        .at(3)
                        .bounds()
                        .min()
                        .y())
                .isCloseTo(-9, within(1e-4));
    }
}
