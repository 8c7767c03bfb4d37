package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Path;
import java.util.List;
import org.assertj.core.util.Throwables;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.testing.Workshop;

/** The same index in a PostgreSQL, which the test command starts on this machine where it may. */
class PostgresTest {
    private static final String URL = System.getenv("PANTRY_TEST_POSTGRES");

    @TempDir
    private Path folder;

    private Workshop workshop;

    @BeforeEach
    void open() {
        assumeTrue(URL != null, "no PostgreSQL: its tests are skipped");
        workshop = new Workshop(folder);
        workshop.block("Lattice mast", "Instruments/Masts", 9);
        workshop.block("Größe 風 \u0001", "Instruments/Wind", 1);
    }

    @AfterEach
    void close() {
        if (workshop != null) {
            workshop.close();
        }
    }

    private List<IndexedAsset> all(Catalogue catalogue) {
        return catalogue
                .finder(List.of(workshop.library()))
                .find(Search.ALL, Order.BEST)
                .items();
    }

    @Test
    void bothDatabasesGiveTheSameAnswersAlsoAfterChanges() {
        try (Catalogue team = Catalogue.open(URL);
                Catalogue own = Catalogue.open(folder.resolve("index.sqlite"))) {
            for (Catalogue catalogue : List.of(team, own)) {
                catalogue.rebuild(workshop.library(), Progress.NONE);
            }
            assertThat(all(team)).hasSize(2).isEqualTo(all(own));
            workshop.library().places().move(workshop.library().find("Lattice mast"), "Elsewhere");
            workshop.block("Third", "Instruments/Wind", 2);
            for (Catalogue catalogue : List.of(team, own)) {
                catalogue.refresh(workshop.library(), Progress.NONE);
            }
            assertThat(all(team)).hasSize(3).isEqualTo(all(own));
        }
        try (Catalogue colleague = Catalogue.open(URL)) {
            assertThat(all(colleague)).as("a colleague need not index anything").hasSize(3);
        }
    }

    @Test
    void aDatabaseThatCannotBeReachedIsSaidWithoutItsPassword() {
        assertThatThrownBy(() -> Catalogue.open("jdbc:postgresql://127.0.0.1:1/none?user=x&password=secret"))
                .isInstanceOfSatisfying(
                        PantryException.class, e -> assertThat(e.line()).contains("127.0.0.1:1", "cannot be reached"))
                .satisfies(e -> assertThat(Throwables.getStackTrace(e)).doesNotContain("secret"));
    }
}
