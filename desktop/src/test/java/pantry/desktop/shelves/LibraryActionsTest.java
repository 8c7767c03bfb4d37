package pantry.desktop.shelves;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.Order;
import pantry.compare.Comparison;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Desk;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.session.SearchScope;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Reservation;
import pantry.library.VersionStatus;
import pantry.usecase.CheckLibrary;
import pantry.usecase.WorkingCopy;

/** What is done with assets in Shelves, without a window: each deed on disk, in the ledger, and taken back from it. */
class LibraryActionsTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private ShelvesModel model;
    private LibraryActions actions;

    @BeforeEach
    void open() throws IOException {
        desk = new Desk(folder);
        desk.shelve("Lattice mast", "Masts", 9, "tall");
        desk.shelve("Tripod mast", "Masts", 3);
        desk.shelve("Fuel drum", "Power", 0.9, "diesel");
        model = new ShelvesModel(desk.session(), new AssetSearch(desk.session()));
        actions = new LibraryActions(model);
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private IndexedAsset item(String name) {
        return model.search().items().stream()
                .filter(each -> each.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private void choose(String... names) {
        List<IndexedAsset> items =
                java.util.Arrays.stream(names).map(this::item).toList();
        model.choose(items, Optional.of(items.getLast()));
    }

    private Asset asset(String name) {
        return desk.library().find(name);
    }

    private String lastLine() {
        return desk.session().ledger().getFirst().text();
    }

    private void undo() {
        desk.session().history().undo();
    }

    @Test
    void cardsOfManyAreChangedAndTakenBack() {
        choose("Lattice mast", "Tripod mast");
        actions.edit(model.chosenProperty().get(), "tagged %s “outdoor”", card -> card.tagged("outdoor"));
        assertThat(lastLine()).isEqualTo("tagged 2 assets “outdoor”");
        assertThat(asset("Tripod mast").card().tags()).containsExactly("outdoor");
        assertThat(item("Lattice mast").tags()).as("and it is shown").containsExactly("tall", "outdoor");
        assertThat(model.chosenProperty().get()).as("they stay chosen").hasSize(2);
        undo();
        assertThat(lastLine()).startsWith("took back: tagged 2 assets");
        assertThat(asset("Lattice mast").card().tags()).containsExactly("tall");
        actions.edit(List.of(item("Fuel drum")), "licensed %s", card -> card.withLicence("Freeware"));
        assertThat(desk.session().ledger().getFirst().kind()).isEqualTo(LedgerLine.Kind.WRONG);
        assertThat(lastLine()).contains("Freeware").contains("SPDX");
        actions.renameTag("diesel", "fuel");
        assertThat(item("Fuel drum").tags()).containsExactly("fuel");
    }

    @Test
    void assetsMoveBetweenShelvesAndLibrariesAndBack() throws IOException {
        Library other = desk.workbench().createLibrary(folder.resolve("other"), "Other");
        desk.session().openLibrary(other.root());
        actions.move(List.of(item("Fuel drum")), desk.library().root(), "Stores");
        assertThat(item("Fuel drum").shelf()).isEqualTo("Stores");
        actions.move(List.of(item("Fuel drum")), desk.library().root(), "Stores");
        assertThat(lastLine()).as("and nothing to undo").isEqualTo("Fuel drum stands on Stores already");
        undo();
        assertThat(item("Fuel drum").shelf()).isEqualTo("Power");
        String id = item("Fuel drum").id();
        actions.move(List.of(item("Fuel drum")), other.root(), "Shed");
        assertThat(item("Fuel drum").library()).isEqualTo(other.root().toString());
        assertThat(item("Fuel drum").id()).isEqualTo(id);
        undo();
        assertThat(item("Fuel drum").library()).isEqualTo(desk.library().root().toString());
        actions.copy(List.of(item("Fuel drum")), other.root(), "Shed");
        assertThat(model.search().items()).hasSize(4);
        undo();
        assertThat(model.search().items()).hasSize(3);
        assertThat(other.verify(Progress.NONE).ok()).isTrue();
    }

    @Test
    void librariesAreSwitchedOffAndOnAndACopyOfOneIsRefused() throws IOException {
        Library other = desk.workbench().createLibrary(folder.resolve("other"), "Other");
        desk.session().openLibrary(other.root());
        desk.session().shelving().switchOn(desk.library(), false);
        assertThat(model.search().items()).isEmpty();
        desk.session().shelving().switchOn(desk.library(), true);
        assertThat(model.search().items()).hasSize(3);
        Path copy = folder.resolve("copy");
        try (var files = Files.walk(desk.library().root())) {
            for (Path file : files.toList()) {
                Files.copy(
                        file,
                        copy.resolve(desk.library().root().relativize(file).toString()));
            }
        }
        desk.session().openLibrary(copy);
        assertThat(lastLine()).contains("is a copy of").contains("same id");
        assertThat(desk.session().libraries()).hasSize(2);
        desk.session().shelving().close(other);
        assertThat(desk.session().libraries()).hasSize(1);
    }

    @Test
    void shelvesAreMadeRenamedAndRemoved() {
        actions.makeShelf(desk.library(), "Site/North");
        assertThat(model.shelves(desk.library().root()))
                .contains(new ShelvesModel.ShelfCount(desk.library().root(), "Site/North", 0));
        actions.moveShelf(desk.library(), "Masts", "Site/Masts");
        assertThat(item("Lattice mast").shelf()).isEqualTo("Site/Masts");
        undo();
        assertThat(item("Lattice mast").shelf()).isEqualTo("Masts");
        actions.removeShelf(desk.library(), "Masts");
        assertThat(lastLine()).contains("has assets on it");
        actions.removeShelf(desk.library(), "Site/North");
        assertThat(desk.library().shelves()).doesNotContain("Site/North");
    }

    @Test
    void whatIsThrownAwayComesBack() {
        choose("Tripod mast", "Fuel drum");
        actions.discard(model.chosenProperty().get());
        assertThat(model.search().items()).hasSize(1);
        undo();
        assertThat(model.search().items()).hasSize(3);
        assertThat(desk.library().trash().items()).isEmpty();
    }

    @Test
    void versionsArePublishedRetiredComparedAndBroughtBack() {
        choose("Lattice mast");
        actions.publish(desk.file("higher.obj", 11), "eleven metres", VersionStatus.READY);
        assertThat(lastLine()).isEqualTo("Lattice mast v002 is published from higher.obj");
        CardModel.Details details = model.card().detailsProperty().get().orElseThrow();
        assertThat(details.versions()).extracting(version -> version.note()).containsExactly("", "eleven metres");
        model.card().compare("v001", "v002");
        Comparison differences =
                model.card().comparedProperty().get().orElseThrow().differences();
        assertThat(differences.bounds().after().size().y()).isEqualTo(11);
        assertThat(differences.distance()).isBetween(1.99, 2.01);
        model.card().endComparison();
        actions.setStatus("v002", VersionStatus.RETIRED);
        assertThat(asset("Lattice mast").ready()).contains("v001");
        undo();
        assertThat(asset("Lattice mast").ready()).contains("v002");
        actions.goBack("v001", "as before", VersionStatus.READY);
        assertThat(asset("Lattice mast").ready()).contains("v003");
        assertThat(asset("Lattice mast").facts("v003").bounds().size().y()).isEqualTo(9);
        model.card().showVersion("v002");
        assertThat(model.card()
                        .previewProperty()
                        .get()
                        .orElseThrow()
                        .bounds()
                        .size()
                        .y())
                .isEqualTo(11);
    }

    @Test
    void undoOfAPublishedVersionLetsTheFormerOneBeFollowedAndKeepsTheNewOneAsADraft() {
        choose("Lattice mast");
        actions.publish(desk.file("higher.obj", 11), "eleven metres", VersionStatus.READY);
        undo();
        assertThat(asset("Lattice mast").ready()).contains("v001");
        assertThat(asset("Lattice mast").status("v002")).isEqualTo(VersionStatus.DRAFT);
        assertThat(lastLine()).isEqualTo("took back: v001 of Lattice mast is followed again, v002 is a draft");
        actions.setStatus("v002", VersionStatus.READY);
        actions.goBack("v001", "too heavy", VersionStatus.READY);
        assertThat(asset("Lattice mast").ready()).contains("v003");
        undo();
        assertThat(asset("Lattice mast").ready()).as("what was followed before").contains("v002");
        actions.goBack("v001", "to be looked at", VersionStatus.DRAFT);
        assertThat(asset("Lattice mast").ready()).contains("v002");
        assertThat(asset("Lattice mast").status("v004")).isEqualTo(VersionStatus.DRAFT);
    }

    private Optional<String> holder() {
        return model.card().detailsProperty().get().orElseThrow().reservation().map(Reservation::who);
    }

    @Test
    void whatOthersHoldIsNotPublishedUntilItIsTakenOver() {
        choose("Fuel drum");
        Library ben = Library.open(desk.library().root(), "ben", Clock.systemUTC());
        ben.reservations().reserve(asset("Fuel drum"));
        model.card().reread();
        assertThat(model.card()
                        .detailsProperty()
                        .get()
                        .orElseThrow()
                        .reservation()
                        .orElseThrow()
                        .who())
                .isEqualTo("ben");
        actions.publish(desk.file("drum.obj", 1), "mine", VersionStatus.READY);
        assertThat(lastLine()).startsWith("ben has reserved ");
        actions.takeOver("ben is at sea");
        assertThat(lastLine()).isEqualTo("took Fuel drum over from ben");
        assertThat(holder()).contains("tester");
        desk.session().history().undo();
        assertThat(holder()).as("given back").contains("ben");
        actions.takeOver("he asked for it");
        actions.release();
        assertThat(holder()).isEmpty();
        desk.session().history().undo();
        assertThat(holder()).contains("tester");
        actions.release();
        actions.reserve();
        desk.session().history().undo();
        assertThat(holder()).as("reserving it is undone").isEmpty();
    }

    @Test
    void anEditedCopyIsReservedNoticedAndPublished() throws IOException {
        choose("Fuel drum");
        actions.editCopy(folder.resolve("copy"), "obj");
        assertThat(actions.copies()).hasSize(1);
        WorkingCopy copy = actions.copies().getFirst();
        assertThat(desk.library().reservations().of(asset("Fuel drum"))).isPresent();
        assertThat(copy.changed()).isFalse();
        Files.copy(desk.file("larger.obj", 1.4), copy.file(), java.nio.file.StandardCopyOption.REPLACE_EXISTING);
        actions.lookAtCopies();
        actions.lookAtCopies();
        assertThat(desk.session().ledger())
                .filteredOn(line -> line.text().contains("was saved"))
                .hasSize(1);
        assertThat(actions.saved()).containsExactly(copy);
        assertThat(new LibraryActions(model).copies())
                .as("another run knows of it")
                .hasSize(1);
        actions.publishCopy(copy, "larger", VersionStatus.READY);
        assertThat(asset("Fuel drum").facts("v002").bounds().size().y()).isBetween(1.39, 1.41);
        assertThat(desk.library().reservations().of(asset("Fuel drum"))).isEmpty();
        assertThat(actions.copies()).isEmpty();
    }

    @Test
    void assetsAreHandedOutAsFiles() {
        choose("Lattice mast", "Fuel drum");
        desk.workbench().changeSettings(settings -> settings.withHandOutFormat("usdz"));
        List<Path> files = new java.util.ArrayList<>();
        actions.handOut(
                model.chosenProperty().get(),
                folder.resolve("out"),
                written -> written.forEach(each -> files.add(each.file())));
        assertThat(files)
                .extracting(file -> file.getFileName().toString())
                .containsExactly("lattice-mast.usdz", "fuel-drum.usdz");
        assertThat(files).allSatisfy(file -> assertThat(file).isNotEmptyFile());
    }

    @Test
    void searchesFavouritesAndSimilarShapesAreAtHand() {
        model.search().wordsProperty().set("mast");
        model.keepSearch("All masts");
        assertThat(model.keptSearches()).singleElement().satisfies(kept -> assertThat(kept.text())
                .isEqualTo("mast"));
        model.search().narrow("tag", "tall");
        assertThat(model.search().wordsProperty().get()).isEqualTo("mast tag:tall");
        assertThat(model.search().items()).hasSize(1);
        assertThat(model.search().isNarrowed("tag", "tall")).isTrue();
        model.search().narrow("tag", "tall");
        assertThat(model.search().items()).hasSize(2);
        model.search().wordsProperty().set("");
        choose("Tripod mast");
        model.toggleFavourites();
        model.search().scopeProperty().set(new SearchScope.Favourites());
        assertThat(model.search().items()).extracting(IndexedAsset::name).containsExactly("Tripod mast");
        model.search().scopeProperty().set(new SearchScope.All());
        choose("Fuel drum");
        choose("Lattice mast");
        model.search().scopeProperty().set(new SearchScope.Recent());
        assertThat(model.search().items())
                .extracting(IndexedAsset::name)
                .containsExactly("Lattice mast", "Fuel drum", "Tripod mast");
        model.showAlike();
        assertThat(model.search().items())
                .first()
                .extracting(IndexedAsset::name)
                .isEqualTo("Lattice mast");
        model.search()
                .scopeProperty()
                .set(new SearchScope.OnShelf(desk.library().root(), "Masts"));
        model.search().orderProperty().set(Order.SIZE);
        assertThat(model.search().items())
                .extracting(IndexedAsset::name)
                .containsExactly("Lattice mast", "Tripod mast");
        model.chooseAll();
        assertThat(model.chosenProperty().get()).hasSize(2);
    }

    private static boolean isSound(CheckModel checks) {
        return checks.checkedProperty()
                .get()
                .orElseThrow()
                .result()
                .verification()
                .ok();
    }

    @Test
    void aDamagedLibraryIsToldAndPutRight() throws IOException {
        CheckModel checks = new CheckModel(desk.session());
        checks.check(desk.library());
        assertThat(isSound(checks)).isTrue();
        Files.writeString(asset("Fuel drum").data("v001").resolve("mine.txt"), "mine");
        checks.check(desk.library());
        CheckLibrary.Finding finding =
                checks.checkedProperty().get().orElseThrow().result().findings().getFirst();
        checks.repair(finding, finding.ways().getFirst());
        assertThat(isSound(checks)).isTrue();
        assertThat(checks.trash()).extracting(item -> item.name()).containsExactly("mine.txt");
        checks.emptyTrash();
        assertThat(checks.trash()).isEmpty();
        checks.leave();
        assertThat(checks.checkedProperty().get()).isEmpty();
    }

    @Test
    void damageOfAKindIsPutRightAtOnce() throws IOException {
        CheckModel checks = new CheckModel(desk.session());
        for (String name : List.of("Fuel drum", "Lattice mast", "Tripod mast")) {
            Files.writeString(asset(name).data("v001").resolve("mine.txt"), "mine");
        }
        checks.check(desk.library());
        List<CheckLibrary.Finding> findings =
                checks.checkedProperty().get().orElseThrow().result().findings();
        assertThat(findings).hasSize(3);
        assertThat(CheckModel.together(findings.subList(0, 1)))
                .as("one stands by itself")
                .isEmpty();
        CheckModel.Together all = CheckModel.together(findings).getFirst();
        assertThat(all.repairs()).hasSize(3);
        checks.repair(all);
        assertThat(isSound(checks)).isTrue();
        assertThat(checks.trash()).hasSize(3);
        assertThat(desk.session().history().undoable())
                .as("a repair is not taken back")
                .isEmpty();
    }

    @Test
    void movingManyThatAreChosenToAnotherLibraryReportsNothingWrong() throws IOException {
        Library other = desk.workbench().createLibrary(folder.resolve("other"), "Other");
        desk.session().openLibrary(other.root());
        choose("Lattice mast", "Tripod mast", "Fuel drum");
        actions.move(model.chosenProperty().get(), other.root(), "Shed");
        assertThat(desk.session().ledger())
                .filteredOn(line -> line.kind() == LedgerLine.Kind.WRONG)
                .isEmpty();
        assertThat(other.assets()).hasSize(3);
        undo();
        assertThat(desk.session().ledger())
                .filteredOn(line -> line.kind() == LedgerLine.Kind.WRONG)
                .isEmpty();
        assertThat(desk.library().assets()).hasSize(3);
        assertThat(desk.library().verify(Progress.NONE).ok()).isTrue();
        assertThat(other.verify(Progress.NONE).ok()).isTrue();
    }
}
