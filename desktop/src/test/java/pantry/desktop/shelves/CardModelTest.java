package pantry.desktop.shelves;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Desk;
import pantry.desktop.session.LedgerLine;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.JournalEntry;
import pantry.library.VersionInfo;
import pantry.library.VersionStatus;
import pantry.model.Axis;
import pantry.model.Weight;
import pantry.usecase.NextVersion;
import pantry.usecase.PublishFile;

/** The card of the chosen asset, without a window. */
class CardModelTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private ShelvesModel shelves;
    private CardModel card;

    @BeforeEach
    void open() throws Exception {
        desk = new Desk(folder);
        desk.shelve("Fuel drum", "Power", 0.9, "diesel");
        desk.shelve("Lattice mast", "Masts", 9);
        shelves = new ShelvesModel(desk.session(), new AssetSearch(desk.session()));
        card = shelves.card();
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private void choose(String name) {
        shelves.selectedProperty()
                .set(shelves.search().items().stream()
                        .filter(item -> item.name().equals(name))
                        .findFirst());
    }

    private CardModel.Details details() {
        return card.detailsProperty().get().orElseThrow();
    }

    private void publishTaller() {
        Asset drum = desk.library().find("Fuel drum");
        new PublishFile(desk.workbench().intake())
                .run(
                        desk.library(),
                        new PublishFile.Options(
                                new NextVersion(drum, VersionStatus.READY, "taller"),
                                desk.file("taller.glb", 1.2),
                                UnaryOperator.identity()),
                        Progress.NONE);
        desk.session().refreshCatalogue(desk.library());
    }

    @Test
    void whatIsChosenIsReadAndShownAndWeighed() {
        choose("Fuel drum");
        assertThat(details().asset().card().tags()).containsExactly("diesel");
        assertThat(details().version()).isEqualTo("v001");
        assertThat(details().facts().triangles()).isEqualTo(12);
        assertThat(card.previewProperty().get().orElseThrow().trianglesDrawn()).isEqualTo(12);
        assertThat(card.weightProperty().get().trianglesDrawn()).isEqualTo(12);
    }

    /** A block of one metre that one motion lifts by two, and the other lowers by two. */
    @Test
    void howFarItReachesOverItsMotionsIsWorkedOut() {
        desk.workbench()
                .intake()
                .shelve(
                        Desk.lift(),
                        Slip.plain("Lift", AssetKind.MODEL, "Lifts", 1, Axis.Y),
                        desk.library(),
                        Progress.NONE);
        desk.session().refreshCatalogue(desk.library());
        choose("Lift");
        assertThat(details().facts().bounds().size().y()).isCloseTo(1, within(1e-6));
        assertThat(card.reachProperty().get().orElseThrow().size().y()).isCloseTo(5, within(1e-6));
        choose("Fuel drum");
        assertThat(card.reachProperty().get()).as("it stands still").isEmpty();
    }

    @Test
    void nothingChosenShowsNothing() {
        choose("Fuel drum");
        shelves.selectedProperty().set(Optional.empty());
        assertThat(card.detailsProperty().get()).isEmpty();
        assertThat(card.previewProperty().get()).isEmpty();
        assertThat(card.weightProperty().get()).isEqualTo(Weight.NOTHING);
    }

    @Test
    void anotherVersionIsLookedAtAndTheNewestIsShownWhenItComes() {
        choose("Fuel drum");
        publishTaller();
        assertThat(details().version()).as("the index tells of it").isEqualTo("v002");
        assertThat(details().versions()).extracting(VersionInfo::version).containsExactly("v001", "v002");
        card.showVersion("v001");
        assertThat(details().version()).isEqualTo("v001");
        assertThat(card.previewProperty().get().orElseThrow().bounds().size().y())
                .isLessThan(1);
        choose("Lattice mast");
        choose("Fuel drum");
        assertThat(details().version())
                .as("whoever comes back sees what is ready")
                .isEqualTo("v002");
    }

    @Test
    void versionsAreComparedUntilSomethingElseIsChosen() {
        choose("Fuel drum");
        publishTaller();
        card.compare("v001", "v002");
        CardModel.Compared compared = card.comparedProperty().get().orElseThrow();
        assertThat(compared.before()).isEqualTo("v001");
        assertThat(compared.after()).isEqualTo("v002");
        assertThat(compared.now().bounds().size().y())
                .isGreaterThan(compared.old().bounds().size().y());
        card.endComparison();
        assertThat(card.comparedProperty().get()).isEmpty();
        card.compare("v001", "v002");
        choose("Lattice mast");
        assertThat(card.comparedProperty().get()).isEmpty();
    }

    @Test
    void aCardWhoseAssetIsGoneIsGoneAndNothingWentWrong() {
        choose("Fuel drum");
        desk.library().trash().discard(details().asset());
        card.reread();
        assertThat(card.detailsProperty().get()).isEmpty();
        desk.session().refreshCatalogue(desk.library());
        assertThat(shelves.selectedProperty().get().map(IndexedAsset::name)).isEmpty();
        assertThat(desk.session().ledger()).noneMatch(line -> line.kind() == LedgerLine.Kind.WRONG);
    }

    @Test
    void whatIsChosenAfterItWentAndBeforeTheListKnowsHasNoCardAndNothingWentWrong() {
        choose("Fuel drum");
        Asset drum = details().asset();
        choose("Lattice mast");
        desk.library().trash().discard(drum);
        choose("Fuel drum");
        assertThat(card.detailsProperty().get()).isEmpty();
        assertThat(desk.session().ledger()).noneMatch(line -> line.kind() == LedgerLine.Kind.WRONG);
    }

    @Test
    void severalAreReadAndWeighedWithoutThoseThatWentMeanwhile() {
        List<IndexedAsset> items = List.copyOf(shelves.search().items());
        choose("Fuel drum");
        card.weigh(items);
        long all = card.weightProperty().get().trianglesDrawn();
        long drum = details().facts().triangles();
        desk.library().trash().discard(details().asset());
        List<String> names = new ArrayList<>();
        card.several(items, cards -> cards.forEach(each -> names.add(each.name())));
        assertThat(names).hasSize(items.size() - 1).doesNotContain("Fuel drum");
        card.weigh(items);
        assertThat(card.weightProperty().get().trianglesDrawn()).isEqualTo(all - drum);
        assertThat(desk.session().ledger()).noneMatch(line -> line.kind() == LedgerLine.Kind.WRONG);
    }

    @Test
    void theJournalTellsTheStoryTheNewestFirst() {
        choose("Fuel drum");
        publishTaller();
        List<String> story = new ArrayList<>();
        card.tellStory(entries -> entries.stream().map(JournalEntry::what).forEach(story::add));
        assertThat(story).containsExactly("published", "shelved");
    }

    @Test
    void whatHoldsTheAssetIsPartOfTheCard() {
        choose("Fuel drum");
        assertThat(details().reservation()).isEmpty();
        desk.library().reservations().reserve(details().asset());
        card.reread();
        assertThat(details().reservation().orElseThrow().who()).isEqualTo("tester");
        assertThat(details().uses()).isEmpty();
        assertThat(details().usedBy()).isEmpty();
    }
}
