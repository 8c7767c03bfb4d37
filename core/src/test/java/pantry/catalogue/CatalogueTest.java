package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.library.AssetKind;
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

    private List<String> find(String words) {
        return catalogue.find(Query.words(List.of(workshop.library().root()), words)).items().stream()
                .map(Item::name)
                .toList();
    }

    @Test
    void everyWordIsTheBeginningOfSomeWord() {
        assertThat(find("mast")).containsExactlyInAnyOrder("Lattice mast 9 m", "Tripod mast 3 m");
        assertThat(find("MAS tri")).containsExactly("Tripod mast 3 m");
        assertThat(find("dies")).containsExactly("Fuel drum");
        assertThat(find("sud")).as("accents do not matter").containsExactly("Fuel drum");
        assertThat(find("power")).as("shelves count").containsExactly("Fuel drum");
        assertThat(find("ast")).isEmpty();
        assertThat(find("\" * ( -")).as("signs are not a language").hasSize(3);
    }

    @Test
    void shelvesTagsAndKindsNarrow() {
        List<Path> roots = List.of(workshop.library().root());
        assertThat(catalogue.find(new Query(roots, "", Optional.empty(), "Instruments", List.of(), 1)))
                .satisfies(hits -> {
                    assertThat(hits.count()).isEqualTo(2);
                    assertThat(hits.items()).hasSize(1);
                });
        assertThat(catalogue
                        .find(new Query(roots, "", Optional.empty(), "Instr", List.of(), 9))
                        .count())
                .isZero();
        assertThat(catalogue
                        .find(new Query(roots, "", Optional.empty(), "", List.of("Diesel"), 9))
                        .count())
                .isOne();
        assertThat(catalogue
                        .find(new Query(roots, "", Optional.of(AssetKind.PREFAB), "", List.of(), 9))
                        .count())
                .isZero();
        assertThat(catalogue
                        .find(new Query(roots, "drum", Optional.of(AssetKind.MODEL), "Power", List.of("diesel"), 9))
                        .count())
                .as("all at once")
                .isOne();
        assertThat(catalogue.find(Query.words(List.of(), "")).count()).isZero();
    }

    @Test
    void anIndexMadeAnewFromTheFoldersGivesTheSameAnswers() throws IOException {
        Hits before = catalogue.find(Query.words(List.of(workshop.library().root()), ""));
        Catalogue fresh = Catalogue.open(folder.resolve("other.sqlite"));
        fresh.refresh(workshop.library(), Progress.NONE);
        Hits after = fresh.find(Query.words(List.of(workshop.library().root()), ""));
        assertThat(after).usingRecursiveComparison().isEqualTo(before);
        Path damaged = folder.resolve("damaged.sqlite");
        Files.writeString(damaged, "this is no database, but quite long enough to look like something else");
        Catalogue healed = Catalogue.open(damaged);
        healed.refresh(workshop.library(), Progress.NONE);
        assertThat(healed.find(Query.words(List.of(workshop.library().root()), "drum"))
                        .count())
                .isOne();
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
        assertThat(catalogue
                        .find(Query.words(List.of(workshop.library().root()), "drum"))
                        .items())
                .singleElement()
                .satisfies(item -> assertThat(item.shelf()).isEqualTo("Fuel"));
    }
}
