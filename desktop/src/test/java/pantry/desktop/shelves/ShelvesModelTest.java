package pantry.desktop.shelves;

import static org.assertj.core.api.Assertions.assertThat;
import static org.testfx.util.WaitForAsyncUtils.waitFor;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.AtomicFiles;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Desk;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.SearchScope;
import pantry.library.Library;
import pantry.library.VersionStatus;
import pantry.model.Weight;

class ShelvesModelTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private ShelvesModel model;

    @BeforeEach
    void open() throws IOException {
        desk = new Desk(folder);
        desk.shelve("Lattice mast", "Instruments/Masts", 9, "tall");
        desk.shelve("Tripod mast", "Instruments/Masts", 3);
        desk.shelve("Fuel drum", "Power", 0.9, "diesel");
        model = new ShelvesModel(desk.session(), new AssetSearch(desk.session()));
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    @Test
    void shelvesAreCountedWithWhatStandsBelowThem() {
        Path root = desk.library().root();
        assertThat(model.shelves(root))
                .containsExactly(
                        new ShelvesModel.ShelfCount(root, "Instruments", 2),
                        new ShelvesModel.ShelfCount(root, "Instruments/Masts", 2),
                        new ShelvesModel.ShelfCount(root, "Power", 1));
        assertThat(model.shelves(root).get(1).name()).isEqualTo("Masts");
    }

    @Test
    void shelvesThatAreStillReadAreNotEmpty() throws IOException {
        Desk other = new Desk(Files.createDirectory(folder.resolve("other")));
        ShelvesModel early = new ShelvesModel(other.session(), new AssetSearch(other.session()));
        assertThat(early.search().isPending()).isTrue();
        other.open();
        assertThat(early.search().isPending()).isFalse();
        assertThat(early.search().items()).isEmpty();
        other.close();
    }

    @Test
    void wordsAndShelvesNarrowTogether() {
        assertThat(model.search().items()).hasSize(3);
        model.search().wordsProperty().set("mast");
        assertThat(model.search().items())
                .extracting(IndexedAsset::name)
                .containsExactlyInAnyOrder("Lattice mast", "Tripod mast");
        model.search()
                .scopeProperty()
                .set(new SearchScope.OnShelf(desk.library().root(), "Power"));
        assertThat(model.search().items()).isEmpty();
        model.search().wordsProperty().set("");
        assertThat(model.search().items()).extracting(IndexedAsset::name).containsExactly("Fuel drum");
    }

    @Test
    void theCardIsReadForWhatIsSelected() {
        IndexedAsset mast = model.search().items().getFirst();
        model.selectedProperty().set(Optional.of(mast));
        CardModel.Details details = model.card().detailsProperty().get().orElseThrow();
        assertThat(details.asset().card().name()).isEqualTo("Lattice mast");
        assertThat(details.facts().bounds().size().y()).isEqualTo(9);
        assertThat(model.card().previewProperty().get().orElseThrow().trianglesStored())
                .isEqualTo(12);
        assertThat(details.versions()).singleElement().satisfies(version -> {
            assertThat(version.version()).isEqualTo("v001");
            assertThat(version.status()).isEqualTo(VersionStatus.READY);
            assertThat(version.ready()).isTrue();
            assertThat(version.who()).isEqualTo("tester");
        });
        model.selectedProperty().set(Optional.empty());
        assertThat(model.card().detailsProperty().get()).isEmpty();
    }

    @Test
    void whatIsLookedAtIsCountedAtOnceAndOnlyOnce() {
        assertThat(model.recentCountProperty().get()).isZero();
        IndexedAsset mast = model.search().items().getFirst();
        IndexedAsset drum = model.search().items().getLast();
        model.selectedProperty().set(Optional.of(mast));
        assertThat(model.recentCountProperty().get()).isEqualTo(1);
        model.selectedProperty().set(Optional.of(drum));
        model.selectedProperty().set(Optional.of(mast));
        assertThat(model.recentCountProperty().get()).isEqualTo(2);
        model.search().scopeProperty().set(new SearchScope.Recent());
        assertThat(model.search().items()).containsExactly(mast, drum);
    }

    @Test
    void theSelectionStaysWhereItIsStillFound() {
        IndexedAsset drum = model.search().items().getLast();
        model.selectedProperty().set(Optional.of(drum));
        model.search().wordsProperty().set("drum");
        assertThat(model.selectedProperty().get().map(IndexedAsset::name)).contains("Fuel drum");
        model.search().wordsProperty().set("mast");
        assertThat(model.selectedProperty().get()).isEmpty();
    }

    @Test
    void newAssetsAppearWhenTheCatalogueIsRefreshed() {
        desk.shelve("Wind vane", "Instruments/Wind", 0.4);
        desk.session().refreshCatalogue(desk.library());
        assertThat(model.search().items()).extracting(IndexedAsset::name).contains("Wind vane");
        assertThat(model.shelves(desk.library().root()))
                .contains(new ShelvesModel.ShelfCount(desk.library().root(), "Instruments", 3));
    }

    @Test
    void anAssetThatWasTakenAwayIsSaid() throws IOException {
        IndexedAsset drum = model.search().items().getLast();
        AtomicFiles.deleteTree(Path.of(drum.folder()));
        model.selectedProperty().set(Optional.of(drum));
        assertThat(model.card().detailsProperty().get()).isEmpty();
        assertThat(desk.session().ledger().getFirst().text()).contains("no longer on a shelf");
        assertThat(Files.exists(desk.library().root())).isTrue();
    }

    @Test
    void allThatIsChosenIsWeighedTogether() {
        List<IndexedAsset> all = List.copyOf(model.search().items());
        Weight sum = Weight.NOTHING;
        for (IndexedAsset item : all) {
            model.choose(List.of(item), Optional.of(item));
            Weight one = model.card().weightProperty().get();
            assertThat(one.trianglesDrawn()).isPositive();
            assertThat(one.fileBytes()).isPositive();
            sum = sum.plus(one);
        }
        model.choose(all, Optional.of(all.getFirst()));
        assertThat(model.card().weightProperty().get()).isEqualTo(sum);
        model.choose(List.of(all.getLast()), Optional.of(all.getLast()));
        assertThat(model.card().weightProperty().get().trianglesDrawn()).isLessThan(sum.trianglesDrawn());
        model.choose(List.of(), Optional.empty());
        assertThat(model.card().weightProperty().get()).isEqualTo(Weight.NOTHING);
    }

    @Test
    void whatOtherWordsHideIsChosenAgainUnlessSomethingElseWas() {
        List<IndexedAsset> all = List.copyOf(model.search().items());
        model.choose(all, Optional.of(all.getLast()));
        model.search().wordsProperty().set(all.getFirst().name());
        assertThat(model.chosenProperty().get()).containsExactly(all.getFirst());
        model.search().wordsProperty().set("nothing has this name");
        assertThat(model.chosenProperty().get()).isEmpty();
        model.search().wordsProperty().set("");
        assertThat(model.chosenProperty().get()).isEqualTo(all);
        assertThat(model.selectedProperty().get()).contains(all.getLast());
        model.choose(List.of(), Optional.empty());
        model.search().wordsProperty().set(all.getFirst().name());
        model.search().wordsProperty().set("");
        assertThat(model.chosenProperty().get()).isEmpty();
    }

    @Test
    void whatWasChosenOfALibraryThatWentAwayIsChosenAgainOnceItIsBack() throws Exception {
        IndexedAsset drum = model.search().items().stream()
                .filter(item -> item.name().equals("Fuel drum"))
                .findFirst()
                .orElseThrow();
        model.choose(List.of(drum), Optional.of(drum));
        Libraries libraries = desk.session().shelving();
        Path root = desk.library().root();
        Path elsewhere = folder.resolve("elsewhere");
        libraries.watch();
        try {
            Files.move(root, elsewhere);
            waitFor(20, TimeUnit.SECONDS, () -> model.search().items().isEmpty());
            assertThat(libraries.missed()).extracting(Library::root).containsExactly(root);
            assertThat(model.chosenProperty().get()).isEmpty();
            assertThat(desk.session().ledger().getFirst().text())
                    .contains(desk.library().info().name() + " is away");
            Files.move(elsewhere, root);
            waitFor(20, TimeUnit.SECONDS, () -> !model.chosenProperty().get().isEmpty());
            assertThat(model.selectedProperty().get()).map(IndexedAsset::id).contains(drum.id());
            assertThat(libraries.missed()).isEmpty();
        } finally {
            libraries.stopWatching();
        }
    }
}
