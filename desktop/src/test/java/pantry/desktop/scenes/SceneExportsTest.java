package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;
import pantry.desktop.session.LedgerLine;
import pantry.library.Asset;
import pantry.library.VersionStatus;
import pantry.scene.Placement;
import pantry.usd.SdfPath;

/** What a scene gives back: to the library as assets and versions, and to others as sections. */
@DisplayName("From a scene to the library and to others")
class SceneExportsTest extends WithScene {
    private SdfPath put(Asset asset, double x) {
        model.place(asset, new Vec3(x, 0, 0));
        return model.selection().single().orElseThrow().path();
    }

    private void select(SdfPath... paths) {
        model.selectionProperty().set(Set.of(paths));
    }

    private String told() {
        return desk.session().ledger().getFirst().text();
    }

    private Asset now(Asset asset) {
        return desk.library().current(asset);
    }

    private List<SdfPath> cut() {
        return scene().sections().all().stream().map(Placement::path).toList();
    }

    private List<SdfPath> placed() {
        return scene().placements().all().stream().map(Placement::path).toList();
    }

    @Test
    @DisplayName(
            "what is put on a shelf stands in the scene as one placement of it, and undo brings back what was there")
    void shelved() {
        SdfPath one = put(mast, 0);
        SdfPath two = put(crate, 4);
        put(crate, 20);
        long drawn = model.shownProperty().get().weight().trianglesDrawn();
        select(one, two);
        model.exports().makeAsset("Corner", "Groups");
        Asset corner = desk.library().find("Groups/Corner");
        assertThat(desk.session().ledger()).extracting(LedgerLine::text).contains("shelved Corner on Groups");
        assertThat(placed()).hasSize(2).doesNotContain(one, two);
        Placement placement = model.selection().single().orElseThrow();
        assertThat(placement.layer().startsWith(corner.folder())).isTrue();
        assertThat(model.shownProperty().get().weight().trianglesDrawn()).isEqualTo(drawn);
        model.undo();
        assertThat(placed()).hasSize(3).contains(one, two);
        assertThat(desk.library().find("Groups/Corner")).as("it stays shelved").isNotNull();
    }

    @Test
    @DisplayName("a scene that was left meanwhile gets no placement, and the asset is shelved all the same")
    void leftMeanwhile() {
        SdfPath one = put(mast, 0);
        select(one);
        desk.holdWork();
        model.exports().makeAsset("Alone", "Groups");
        model.create("Other yard");
        desk.releaseWork();
        assertThat(desk.library().find("Groups/Alone")).isNotNull();
        assertThat(scene().file().getFileName()).hasToString("other-yard.usda");
        assertThat(placed()).isEmpty();
    }

    @Test
    @DisplayName("a name that is taken is refused, and the scene stays as it was")
    void taken() {
        SdfPath one = put(mast, 0);
        select(one);
        model.exports().makeAsset("Crate", "Stores");
        assertThat(desk.library().assets())
                .extracting(asset -> asset.card().name())
                .containsOnlyOnce("Mast");
        assertThat(desk.library().find("Stores/Crate").card().id())
                .isEqualTo(crate.card().id());
    }

    @Test
    @DisplayName("what is selected becomes the next version of an asset, which its followers show")
    void published() {
        SdfPath one = put(mast, 0);
        SdfPath two = put(crate, 4);
        select(one, two);
        model.exports().makeAsset("Pair", "Groups");
        Asset pair = desk.library().find("Groups/Pair");
        SdfPath follower = model.selection().single().orElseThrow().path();
        SdfPath third = put(crate, 8);
        select(third);
        model.exports().publish(pair, desk.library(), "one crate alone");
        assertThat(told()).isEqualTo("Pair v002 is published");
        assertThat(now(pair).ready()).contains("v002");
        assertThat(scene().placements().at(follower).orElseThrow().held()).isEqualTo(Placement.Held.FOLLOWING);
    }

    @Test
    @DisplayName("what is said of a placement's parts is written back as a version, and undo retires it")
    void writtenBack() {
        SdfPath one = put(mast, 0);
        SdfPath other = put(mast, 5);
        model.act(open -> open.parts().show(List.of(one.child("Body")), false));
        assertThat(scene().overrides().of(one)).isNotEmpty();
        model.exports().writeBack(one, "without its body");
        assertThat(now(mast).ready()).contains("v002");
        assertThat(scene().overrides().of(one)).as("the asset says it now").isEmpty();
        assertThat(scene().placements().at(other)).isPresent();
        model.undo();
        assertThat(now(mast).ready()).contains("v001");
        assertThat(now(mast).status("v002")).isEqualTo(VersionStatus.RETIRED);
        assertThat(scene().overrides().of(one)).isNotEmpty();
        model.redo();
        assertThat(now(mast).ready()).contains("v002");
        assertThat(scene().overrides().of(one)).isEmpty();
    }

    @Test
    @DisplayName("the asset of a placement is looked for once, and anew when the library was changed")
    void homes() {
        SdfPath one = put(mast, 0);
        Placement placement = scene().placements().at(one).orElseThrow();
        List<SceneExports.Shelved> found = new ArrayList<>();
        model.exports().whenShelved(placement, found::add);
        desk.holdWork();
        model.exports().whenShelved(placement, found::add);
        assertThat(found).as("it is known").hasSize(2);
        desk.releaseWork();
        assertThat(found).allSatisfy(home -> {
            assertThat(home.asset().card().id()).isEqualTo(mast.card().id());
            assertThat(home.library().root()).isEqualTo(desk.library().root());
        });
    }

    @Test
    @DisplayName("a section is cut out, held, let go of and joined; what another holds is not joined")
    void sections() throws IOException {
        SdfPath one = put(mast, 0);
        SdfPath two = put(crate, 4);
        put(crate, 9);
        select(one, two);
        model.exports().cutSection("North");
        Path file = folder.resolve("project/yard-north.usda");
        assertThat(file).exists();
        SdfPath section = model.selected().getFirst();
        assertThat(cut()).containsExactly(section);
        long drawn = model.shownProperty().get().weight().trianglesDrawn();
        assertThat(drawn).isEqualTo(36);
        model.exports().hold(true);
        assertThat(told()).isEqualTo("holding North");
        assertThat(model.selected()).containsExactly(section);
        model.exports().hold(false);
        assertThat(told()).isEqualTo("let go of North");

        scene().sections().reserve(section, "Another");
        model.exports().joinSections();
        assertThat(told()).contains("Another");
        assertThat(cut()).as("it is still a section").containsExactly(section);
        scene().sections().release(section, "Another");
        model.exports().joinSections();
        assertThat(placed()).hasSize(3);
        assertThat(model.shownProperty().get().weight().trianglesDrawn()).isEqualTo(drawn);
        try (Stream<Path> beside = Files.list(file.getParent())) {
            assertThat(beside.map(path -> path.getFileName().toString())).noneMatch(name -> name.contains(".held"));
        }
    }

    @Test
    @DisplayName("what is swapped stays pinned or following, and what is lost is told")
    void swapped() {
        SdfPath one = put(mast, 0);
        SdfPath two = put(mast, 5);
        model.act(open -> open.placements().replace(List.of(two), mast, Optional.of("v001")));
        model.act(open -> open.parts().show(List.of(one.child("Body")), false));
        model.exports().swap(List.of(one, two), crate);
        assertThat(scene().placements().at(one).orElseThrow().held()).isEqualTo(Placement.Held.FOLLOWING);
        assertThat(scene().placements().at(two).orElseThrow().held()).isEqualTo(Placement.Held.PINNED);
        for (SdfPath each : List.of(one, two)) {
            assertThat(scene().placements().at(each).orElseThrow().layer().startsWith(crate.folder()))
                    .isTrue();
        }
        model.undo();
        assertThat(scene().placements().at(one).orElseThrow().layer().startsWith(mast.folder()))
                .as("both come back in one step")
                .isTrue();
        assertThat(scene().placements().at(two).orElseThrow().layer().startsWith(mast.folder()))
                .isTrue();
    }

    @Test
    @DisplayName("without a library nothing is shelved, and that is told")
    void noLibrary() {
        SdfPath one = put(mast, 0);
        select(one);
        desk.session().shelving().close(desk.session().shelving().open().getFirst());
        model.exports().makeAsset("Corner", "Groups");
        assertThat(told()).contains("no library is open", "Corner");
        assertThat(placed()).containsExactly(one);
    }
}
