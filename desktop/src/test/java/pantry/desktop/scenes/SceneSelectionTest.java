package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.scene.Drawers;
import pantry.scene.OverrideSentence;
import pantry.scene.Placement;
import pantry.scene.TransformStep;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** What is chosen and worked in: groups, uses of groups, placements and their parts; and what is done to many at once. */
class SceneSelectionTest extends WithScene {
    private SceneSelection selection;

    @BeforeEach
    void select() {
        selection = model.selection();
    }

    private SdfPath put(Asset asset, double x) {
        model.place(asset, new Vec3(x, 0, 0));
        return selection.single().orElseThrow().path();
    }

    private void choose(SdfPath... paths) {
        selection.set(List.of(paths));
    }

    private Set<SdfPath> chosen() {
        return selection.property().get();
    }

    private double left(SdfPath path) {
        return model.display().box(path).min().x();
    }

    @Test
    void insideAPlacementItsPartsArePickedMovedAndHidden() {
        SdfPath one = put(crate, 0);
        SdfPath other = put(crate, 5);
        assertThat(model.objectOf(one + "/Body")).contains(one);
        selection.enter(one);
        assertThat(selection.way()).containsExactly(one);
        assertThat(chosen()).isEmpty();
        SdfPath body = model.objectOf(one + "/Body").orElseThrow();
        assertThat(body).isEqualTo(one.child("Body"));
        assertThat(model.objectOf(other.toString()))
                .as("the rest is not picked")
                .isEmpty();

        choose(body);
        SceneSelection.Own own = selection.one().orElseThrow();
        assertThat(own.usual()).isTrue();
        assertThat(selection.isOfParts()).isTrue();
        model.edits().move(body, own.placing().withMove(new Vec3(0, 2, 0)));
        assertThat(scene().overrides().told(one))
                .extracting(OverrideSentence::sentence)
                .containsExactly("Body moved up by 2 m");
        assertThat(model.display().box(body).min().y()).isCloseTo(2, within(1e-6));
        assertThat(model.display().box(other).min().y()).isCloseTo(0, within(1e-6));

        model.edits().removeSelected();
        assertThat(scene().placements().all())
                .as("nothing of the asset is taken away")
                .hasSize(2);
        assertThat(model.shownProperty().get().drawn().triangles()).isEqualTo(12);
        assertThat(chosen()).containsExactly(body);
        model.undo();
        model.undo();
        assertThat(scene().overrides().told(one)).isEmpty();
        selection.leave();
        assertThat(chosen()).containsExactly(one);
        assertThat(selection.way()).isEmpty();
    }

    @Test
    void insideAGroupItsOwnObjectsArePickedAndInsideAUseThoseThatAreShared() {
        SdfPath first = put(mast, 0);
        SdfPath second = put(crate, 3);
        choose(first, second);
        model.edits().group("Pair");
        SdfPath group = chosen().iterator().next();
        selection.enter(group);
        assertThat(model.objectOf(group.child("Crate").toString())).contains(group.child("Crate"));
        selection.leave();
        choose(group);
        model.edits().duplicateSelected();
        SdfPath use = chosen().iterator().next();
        assertThat(model.objectOf(use + "/Crate")).contains(use);
        selection.enter(use);
        SdfPath shared = model.objectOf(use + "/Crate").orElseThrow();
        assertThat(scene().instancing().isShared(shared)).isTrue();
        assertThat(selection.occurrence(shared).orElseThrow().through()).containsExactly(use);
        choose(shared);
        double before = left(shared);
        SceneSelection.Own own = selection.one().orElseThrow();
        model.edits().move(shared, own.placing().withMove(own.placing().move().plus(new Vec3(1, 0, 0))));
        assertThat(left(shared)).isCloseTo(before + 1, within(1e-6));

        selection.enter(shared);
        assertThat(selection.way()).containsExactly(use, shared);
        SdfPath part = model.objectOf(use + "/Crate/Body").orElseThrow();
        assertThat(part).isEqualTo(shared.child("Body"));
        choose(part);
        SceneSelection.Own body = selection.one().orElseThrow();
        assertThat(left(part)).as("the part is where it is used").isCloseTo(left(shared), within(1e-6));
        assertThat(selection.occurrence(part).orElseThrow().through()).containsExactly(use);
        model.edits().move(part, body.placing().withMove(new Vec3(0, 2, 0)));
        assertThat(model.display().box(part).min().y()).isCloseTo(2, within(1e-6));
        assertThat(left(part)).isCloseTo(left(shared), within(1e-6));
        model.undo();
        selection.leave();
        assertThat(chosen()).containsExactly(shared);
        selection.leaveTo(Optional.empty());
        assertThat(selection.way()).isEmpty();
    }

    @Test
    void whatIsWorkedInIsLeftOnceItIsGone() {
        SdfPath one = put(crate, 0);
        selection.enter(one);
        model.undo();
        assertThat(scene().placements().all()).isEmpty();
        assertThat(selection.insideProperty().get()).isEmpty();
        assertThat(selection.canEnter(one)).isFalse();
        selection.enter(scene().root().child("Nothing"));
        assertThat(selection.insideProperty().get()).isEmpty();
    }

    @Test
    void everythingTheOthersTheSameAssetMaterialAndDrawerAreSelected() {
        SdfPath first = put(crate, 0);
        SdfPath second = put(crate, 3);
        SdfPath pole = put(mast, 6);
        selection.selectAll();
        assertThat(chosen()).containsExactlyInAnyOrder(first, second, pole);
        choose(first);
        selection.selectOthers();
        assertThat(chosen()).containsExactlyInAnyOrder(second, pole);
        choose(first);
        selection.selectSameAsset();
        assertThat(chosen()).containsExactlyInAnyOrder(first, second);
        choose(first);
        model.selectSameMaterial();
        assertThat(chosen()).as("all blocks are of one paint").containsExactlyInAnyOrder(first, second, pole);

        choose(first, pole);
        model.drawers().put("North");
        choose(pole);
        selection.selectSameDrawer();
        assertThat(chosen()).containsExactlyInAnyOrder(first, pole);
        choose(second);
        selection.selectSameDrawer();
        assertThat(chosen()).as("it is in none").containsExactly(second);
        selection.enter(second);
        selection.selectAll();
        assertThat(chosen()).containsExactly(second.child("Body"));
    }

    @Test
    void aFigureIsEnteredForEachAndASumAddsToEach() {
        SdfPath first = put(crate, 0);
        SdfPath second = put(crate, 3);
        choose(first, second);
        assertThat(model.several().placed()).hasSize(2);
        assertThat(model.several().enter(0, "+2")).isTrue();
        assertThat(left(first)).isCloseTo(1.5, within(1e-6));
        assertThat(left(second)).isCloseTo(4.5, within(1e-6));
        assertThat(model.several().enter(2, "7")).isTrue();
        assertThat(model.several().placed())
                .extracting(each -> each.placing().move().z())
                .containsExactly(7.0, 7.0);
        assertThat(model.several().enter(6, "0")).as("no scale is nought").isFalse();
        assertThat(model.several().enter(1, "high")).isFalse();
        model.undo();
        assertThat(model.several().placed())
                .extracting(each -> each.placing().move().z())
                .as("one change for all")
                .containsExactly(0.0, 0.0);

        model.drawers().put("Kept");
        model.drawers().set("Kept", new Drawers.State(false, true, false));
        model.several().enter(0, "+5");
        assertThat(desk.session().ledger().getFirst().text()).contains("locked");
        assertThat(left(first)).isCloseTo(1.5, within(1e-6));
    }

    @Test
    void copiesAreMadeEachOneStepFurtherAndTakenBackAtOnce() {
        put(crate, 0);
        TransformStep step =
                new TransformStep(new Vec3(2, 0, 0), Vec3.ZERO, 1, TransformStep.About.PIVOT, TransformStep.Axes.WORLD);
        model.edits().copies(4, step);
        assertThat(chosen()).hasSize(5);
        assertThat(scene().placements().all())
                .extracting(placement -> placement.placing().move().x())
                .containsExactlyInAnyOrder(0.0, 2.0, 4.0, 6.0, 8.0);
        model.undo();
        assertThat(scene().placements().all()).hasSize(1);
        model.redo();
        assertThat(scene().placements().all()).hasSize(5);
    }

    @Test
    void placementsAreSwappedForAnotherAssetWhereTheyStand() {
        SdfPath first = put(crate, 0);
        SdfPath second = put(crate, 3);
        scene().parts().show(List.of(second.child("Body")), false);
        choose(first, second);
        model.exports().replace(crate, Optional.of("v001"));
        assertThat(scene().placements().wouldLose(List.of(first, second), mast)).isEmpty();
        model.exports().swap(List.of(first, second), mast);
        assertThat(scene().placements().all())
                .allSatisfy(placement -> {
                    assertThat(placement.layer().toString()).contains("mast");
                    assertThat(placement.held()).as("pinned stays pinned").isEqualTo(Placement.Held.PINNED);
                })
                .extracting(placement -> placement.placing().move().x())
                .containsExactly(0.0, 3.0);
        model.undo();
        assertThat(scene().placements().all())
                .allSatisfy(
                        placement -> assertThat(placement.layer().toString()).contains("crate"));
    }

    @Test
    void whatIsPlacedStandsByItsBaseAndLeansWhereItIsToldTo() {
        model.place(crate, new TransformComponents(new Vec3(1, 2, 3), new Vec3(0, 0, 90), Vec3.ONE));
        Placement placement = selection.single().orElseThrow();
        assertThat(placement.placing().move()).isEqualTo(new Vec3(1, 2, 3));
        assertThat(model.display().box(placement.path()).size().x())
                .as("lying on its side")
                .isCloseTo(1, within(1e-6));
    }

    @Test
    void objectsAreFoundByNameAssetAndHowTheyAreHeld() {
        SdfPath first = put(crate, 0);
        SdfPath second = put(crate, 3);
        SdfPath pole = put(mast, 6);
        choose(first, second);
        model.edits().group("North stores");
        SdfPath group = chosen().iterator().next();
        SdfPath inGroup = group.child(first.name());
        scene().parts().show(List.of(inGroup.child("Body")), false);
        choose(pole);
        model.exports().replace(mast, Optional.of("v001"));
        model.edits().hide(true);
        assertThat(find("crate")).containsExactly(inGroup, group.child(second.name()));
        assertThat(find("masts")).as("by its shelf").containsExactly(pole);
        assertThat(find("stores north")).as("words in any order").contains(group);
        assertThat(find("overridden:")).containsExactly(inGroup);
        assertThat(find("-overridden: kind:placement")).containsExactlyInAnyOrder(group.child(second.name()), pole);
        assertThat(find("pinned:")).containsExactly(pole);
        assertThat(find("hidden:")).containsExactly(pole);
        assertThat(find("kind:group")).containsExactly(group);
        assertThat(find("behind:")).isEmpty();
        assertThat(find("missing:")).isEmpty();
        assertThat(find("nothing at all")).isEmpty();
    }

    private List<SdfPath> find(String text) {
        return new ObjectSearch(scene(), model.placements(), new NewerVersions(desk.session())).find(text, 100);
    }
}
