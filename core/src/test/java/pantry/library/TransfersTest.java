package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.exchange.usd.MeshCache;
import pantry.scene.Scene;
import pantry.testing.WithWorkshop;
import pantry.usd.compose.LayerCache;

class TransfersTest extends WithWorkshop {
    private Library here;
    private Library there;

    @BeforeEach
    void open() {
        here = workshop.library();
        there = Library.create(folder.resolve("other"), "Other shelves", "tester", Clock.systemUTC());
    }

    private static long triangles(Asset asset) {
        return Scene.open(asset.readyLayer(), new LayerCache(), new MeshCache())
                .model()
                .trianglesDrawn();
    }

    @Test
    void aMovedAssetKeepsIdVersionsAndWhatWasSaidOfThem() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        here.publish(
                mast,
                VersionStatus.DRAFT,
                new Reissue(mast, "v001", mast.card().id()),
                Library.noted("thicker guys", Map.of()),
                Progress.NONE);
        here.edit(List.of(mast), card -> card.tagged("tall").withNotes("handle with care"), Progress.NONE);
        List<VersionInfo> before = here.history(here.find("Mast"));
        Asset moved = new Transfers(here, there).move(here.find("Mast"), "Instruments", Progress.NONE);
        assertThat(moved.card().id()).isEqualTo(mast.card().id());
        assertThat(moved.card().tags()).containsExactly("tall");
        assertThat(moved.ready()).contains("v001");
        assertThat(there.history(moved)).isEqualTo(before);
        assertThat(here.assets()).isEmpty();
        assertThat(here.trash().items()).extracting(TrashItem::name).containsExactly("Mast");
        assertThat(there.verify(Progress.NONE).problems()).isEmpty();
        assertThat(triangles(moved)).isEqualTo(12);
    }

    @Test
    void aCopyIsAnAssetOfItsOwnAndBringsWhatItUsesOnce() {
        Asset cell = workshop.block("Cell", "Parts", 1);
        Asset panel = workshop.prefab("Panel", "Power", cell);
        Asset other = workshop.prefab("Other panel", "Power", cell);
        Transfers transfers = new Transfers(here, there);
        Asset copy = transfers.copy(panel, "Energy", Progress.NONE);
        transfers.copy(other, "Energy", Progress.NONE);
        assertThat(copy.card().id()).isNotEqualTo(panel.card().id());
        assertThat(copy.card().copyOf()).isEqualTo(panel.card().id());
        assertThat(there.assets())
                .extracting(Asset::address)
                .as("the cell came once")
                .containsExactlyInAnyOrder("Energy/Panel", "Energy/Other panel", "Parts/Cell");
        assertThat(triangles(copy)).isEqualTo(12);
        assertThat(Uses.of(copy.folder()))
                .allSatisfy(use -> assertThat(use.target()).startsWith(there.root()));
        assertThat(there.verify(Progress.NONE).problems()).isEmpty();
        assertThat(here.verify(Progress.NONE).problems()).isEmpty();
        assertThat(here.assets()).hasSize(3);
        assertThat(workshop.layers().open(copy.entryLayer("v001")).rootPrims())
                .first()
                .satisfies(prim -> assertThat(prim.metadata().get("assetInfo").toString())
                        .contains(copy.card().id()));
    }

    @Test
    void aCopyWithinALibraryIsPossibleAndWhatWasMovedAwayComesBack() throws Exception {
        Asset mast = workshop.block("Mast", "Masts", 9);
        Files.writeString(mast.folder().resolve("sketch.txt"), "beside the card");
        Asset copy = new Transfers(here, here).copy(mast, "Masts", Progress.NONE);
        assertThat(copy.card().name()).isEqualTo("Mast 2");
        assertThat(copy.folder().resolve("sketch.txt")).hasContent("beside the card");
        Asset away = new Transfers(here, there).move(mast, "Masts", Progress.NONE);
        Asset back = new Transfers(there, here).move(away, "Masts", Progress.NONE);
        assertThat(back.card().id()).isEqualTo(mast.card().id());
        assertThat(here.assets()).hasSize(2);
    }

    @Test
    void anAssetThatStandsThereAlreadyIsNotMovedThereAgain() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        new Transfers(here, there).move(mast, "Masts", Progress.NONE);
        here.trash().restore(here.trash().items().getFirst());
        assertThatThrownBy(() -> new Transfers(here, there).move(here.find("Mast"), "Masts", Progress.NONE))
                .hasMessageContaining("has the asset Mast already");
        assertThat(here.assets()).hasSize(1);
    }
}
