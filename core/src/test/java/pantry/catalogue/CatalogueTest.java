package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.library.Asset;
import pantry.library.Journal;
import pantry.mesh.Shapes;
import pantry.testing.Workshop;

class CatalogueTest {
    @TempDir
    private Path folder;

    private Workshop workshop;
    private Catalogue catalogue;

    @BeforeEach
    void open() {
        workshop = new Workshop(folder);
        workshop.block("Lattice mast 9 m", "Instruments/Masts", 9);
        workshop.block("Tripod mast 3 m", "Instruments/Masts", 3);
        workshop.intake()
                .shelve(
                        Workshop.model("Fuel drum", Shapes.cylinder(0.3, 0.9, 24)),
                        Workshop.slip("Fuel drum", "Power").withTags(List.of("diesel", "Süd lager")),
                        workshop.library(),
                        Progress.NONE);
        catalogue = Catalogue.open(folder.resolve("index.sqlite"));
        catalogue.refresh(workshop.library(), Progress.NONE);
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    private Found search(Catalogue index, String text) {
        return index.finder(List.of(workshop.library())).find(SearchText.parse(text), Order.BEST);
    }

    private List<String> find(String words) {
        return search(catalogue, words).items().stream().map(IndexedAsset::name).toList();
    }

    @Test
    void everyWordIsTheBeginningOfSomeWord() {
        assertThat(find("mast")).containsExactly("Lattice mast 9 m", "Tripod mast 3 m");
        assertThat(find("MAS tri")).containsExactly("Tripod mast 3 m");
        assertThat(find("dies")).containsExactly("Fuel drum");
        assertThat(find("sud")).as("accents do not matter").containsExactly("Fuel drum");
        assertThat(find("power")).as("shelves count").containsExactly("Fuel drum");
        assertThat(find("ast")).isEmpty();
        assertThat(find("\" * ( -")).as("signs alone ask for nothing").hasSize(3);
    }

    @Test
    void factsOfTheFolderAreFound() {
        assertThat(find("shelf:Instruments")).hasSize(2);
        assertThat(find("shelf:Instr")).isEmpty();
        assertThat(find("tag:\"süd lager\"")).containsExactly("Fuel drum");
        assertThat(find("kind:prefab")).isEmpty();
        assertThat(find("drum kind:model shelf:power tag:diesel")).containsExactly("Fuel drum");
        assertThat(find("height:>5m")).containsExactly("Lattice mast 9 m");
        assertThat(find("part:body material:red")).hasSize(3);
        assertThat(find("colour:red")).hasSize(3);
        assertThat(catalogue.finder(List.of()).find(Search.ALL, Order.BEST).count())
                .isZero();
    }

    @Test
    void nothingThatIsWrittenOnACardMovesWhatStandsBesideIt() {
        String hostile = "left\u001eright\u001fend\u0000 | ' \" ; --";
        workshop.library()
                .edit(
                        List.of(workshop.library().find("Fuel drum")),
                        card -> card.withNotes(hostile).withField("drawn by", hostile),
                        Progress.NONE);
        catalogue.refresh(workshop.library(), Progress.NONE);
        Catalogue reopened = Catalogue.open(folder.resolve("index.sqlite"));
        IndexedAsset drum = search(reopened, "drum").items().getFirst();
        assertThat(drum.notes()).startsWith("left right").endsWith("--");
        assertThat(drum.licence()).isEqualTo("CC0-1.0");
        assertThat(drum.tags()).contains("diesel");
        assertThat(drum.fields()).containsOnlyKeys("drawn by");
        assertThat(drum.parts()).isNotEmpty();
        assertThat(drum.folder())
                .isEqualTo(workshop.library().find("Fuel drum").folder().toString());
        assertThat(drum).isEqualTo(search(catalogue, "drum").items().getFirst());
    }

    @Test
    void anIndexMadeAnewFromTheFoldersGivesTheSameAnswers() throws IOException {
        Found before = search(catalogue, "");
        Catalogue fresh = Catalogue.open(folder.resolve("other.sqlite"));
        fresh.refresh(workshop.library(), Progress.NONE);
        assertThat(search(fresh, "").items()).isEqualTo(before.items());
        Path damaged = folder.resolve("damaged.sqlite");
        Files.writeString(damaged, "this is no database, but quite long enough to look like something else");
        Catalogue healed = Catalogue.open(damaged);
        healed.refresh(workshop.library(), Progress.NONE);
        assertThat(search(healed, "drum").count()).isOne();
    }

    @Test
    void anIndexThatIsDeletedWhileItIsUsedIsMadeAnew() throws IOException {
        for (String part : List.of("", "-wal", "-shm")) {
            Files.deleteIfExists(folder.resolve("index.sqlite" + part));
        }
        assertThat(search(catalogue, "drum").count())
                .as("what is known is still answered")
                .isOne();
        workshop.block("Fuel pump", "Power", 1);
        catalogue.refresh(workshop.library(), Progress.NONE);
        assertThat(find("fuel")).containsExactly("Fuel drum", "Fuel pump");
        Files.writeString(folder.resolve("index.sqlite"), "no longer a database, and long enough to be looked at");
        workshop.block("Fuel hose", "Power", 1);
        catalogue.refresh(workshop.library(), Progress.NONE);
        assertThat(find("fuel")).containsExactly("Fuel drum", "Fuel hose", "Fuel pump");
    }

    @Test
    void whatIsRemovedOrMovedByHandIsNoticed() throws IOException {
        Path drum = workshop.library().root().resolve("assets/Power/fuel-drum");
        Path elsewhere = workshop.library().root().resolve("assets/Fuel");
        Files.createDirectories(elsewhere);
        Files.move(drum, elsewhere.resolve("fuel-drum"));
        AtomicFiles.deleteTree(workshop.library().root().resolve("assets/Instruments/Masts/tripod-mast-3-m"));
        catalogue.refresh(workshop.library(), Progress.NONE);
        assertThat(find("mast")).containsExactly("Lattice mast 9 m");
        assertThat(search(catalogue, "drum").items()).singleElement().satisfies(item -> assertThat(item.shelf())
                .isEqualTo("Fuel"));
    }

    @Test
    void whatTheJournalTellsIsEnoughToFollow() {
        Journal journal = workshop.library().journal();
        Set<String> known = journal.names();
        Asset drum = workshop.library().find("Fuel drum");
        workshop.library().places().move(drum, "Stores/North");
        workshop.library()
                .edit(List.of(workshop.library().find("Tripod mast 3 m")), c -> c.tagged("new"), Progress.NONE);
        workshop.library().trash().discard(workshop.library().find("Lattice mast 9 m"));
        Set<String> fresh = journal.names();
        fresh.removeAll(known);
        catalogue.refresh(workshop.library(), journal.entries(fresh), Progress.NONE);
        assertThat(find("shelf:Stores")).containsExactly("Fuel drum");
        assertThat(find("tag:new")).containsExactly("Tripod mast 3 m");
        assertThat(find("lattice")).isEmpty();
        assertThat(find("")).hasSize(2);
        catalogue.rebuild(workshop.library(), Progress.NONE);
        assertThat(find("")).as("and so says the whole library").hasSize(2);
    }

    @Test
    void whatAnotherProcessIndexedIsTakenOver() {
        Catalogue other = Catalogue.open(folder.resolve("index.sqlite"));
        assertThat(search(other, "mast").count()).isEqualTo(2);
        workshop.block("Radio mast", "Instruments/Masts", 12);
        catalogue.refresh(workshop.library(), Progress.NONE);
        assertThat(search(other, "radio").count()).isZero();
        other.refresh(workshop.library(), Set.of("Instruments/Masts"));
        assertThat(search(other, "radio").count()).isOne();
    }
}
