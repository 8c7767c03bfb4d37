package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.catalogue.Found;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.Order;

class AssetSearchTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private AssetSearch search;

    @BeforeEach
    void open() throws Exception {
        desk = new Desk(folder);
        desk.shelve("Lattice mast", "Masts", 9, "tall");
        desk.shelve("Tripod mast", "Masts/Small", 3);
        desk.shelve("Fuel drum", "Power", 0.9, "diesel");
        search = new AssetSearch(desk.session());
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private List<String> found() {
        return search.items().stream().map(IndexedAsset::name).toList();
    }

    @Test
    void wordsScopeAndOrderNarrowTogether() {
        assertThat(found()).hasSize(3);
        search.wordsProperty().set("mast");
        assertThat(found()).containsExactlyInAnyOrder("Lattice mast", "Tripod mast");
        search.scopeProperty().set(new SearchScope.OnShelf(desk.library().root(), "Masts/Small"));
        assertThat(found()).containsExactly("Tripod mast");
        search.scopeProperty().set(new SearchScope.OnShelf(desk.library().root(), "Masts"));
        search.orderProperty().set(Order.NAME);
        assertThat(found()).as("with the shelves below").containsExactly("Lattice mast", "Tripod mast");
        search.clear();
        assertThat(found()).hasSize(3);
    }

    @Test
    void onAShelfCountsAreOfThatShelfAndWhatStandsElsewhereIsTold() {
        search.scopeProperty().set(new SearchScope.OnShelf(desk.library().root(), "Power"));
        assertThat(search.foundProperty().get().facets().get("tag"))
                .extracting(Found.Facet::value)
                .containsExactly("diesel");
        assertThat(search.everywhereProperty().get())
                .as("nothing is looked for")
                .isEqualTo(1);
        search.wordsProperty().set("mast");
        assertThat(found()).isEmpty();
        assertThat(search.everywhereProperty().get()).isEqualTo(2);
        search.scopeProperty().set(new SearchScope.All());
        assertThat(search.everywhereProperty().get()).isEqualTo(2);
        assertThat(search.suggestions("mast tag:t"))
                .singleElement()
                .satisfies(suggestion -> assertThat(suggestion.words()).isEqualTo("mast tag:tall "));
    }

    @Test
    void aConditionIsAddedAndTakenAwayAgain() {
        search.wordsProperty().set("mast");
        search.narrow("tag", "tall");
        assertThat(search.wordsProperty().get()).isEqualTo("mast tag:tall");
        assertThat(search.isNarrowed("tag", "tall")).isTrue();
        assertThat(search.isNarrowed("tag", "tal")).isFalse();
        assertThat(found()).containsExactly("Lattice mast");
        search.narrow("shelf", "Masts, old");
        assertThat(search.wordsProperty().get()).endsWith("shelf:\"Masts, old\"");
        search.narrow("shelf", "Masts, old");
        search.narrow("tag", "tall");
        assertThat(search.wordsProperty().get()).isEqualTo("mast");
    }

    @Test
    void favouritesAndWhatWasLookedAtAreFoundInTheirOrder() {
        IndexedAsset mast = search.items().stream()
                .filter(item -> item.name().equals("Lattice mast"))
                .findFirst()
                .orElseThrow();
        desk.workbench().personal().favourite(mast.id(), true);
        search.scopeProperty().set(new SearchScope.Favourites());
        assertThat(found()).containsExactly("Lattice mast");
        search.scopeProperty().set(new SearchScope.Recent());
        assertThat(found()).isEmpty();
        search.clear();
        search.items().forEach(item -> desk.workbench().personal().lookedAt(item.id()));
        List<String> looked = List.copyOf(found()).reversed();
        search.scopeProperty().set(new SearchScope.Recent());
        assertThat(found()).isEqualTo(looked);
    }

    @Test
    void whatIsNotUnderstoodIsSaidBesideWhatIsFound() {
        search.wordsProperty().set("mast height:tall");
        assertThat(search.foundProperty().get().complaints()).isNotEmpty();
        assertThat(search.queryProperty().get().isAll()).isFalse();
        assertThat(search.isPending()).isFalse();
    }
}
