package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Searching a small set of assets of which a person has said what should be found, and in which order. */
class FinderTest {
    private final List<IndexedAsset> items = new ArrayList<>();

    private Finder finder() {
        return new Finder(items);
    }

    private void item(
            String name,
            String shelf,
            List<String> tags,
            long triangles,
            double height,
            String notes,
            String... parts) {
        items.add(new IndexedAsset(
                "id-" + name,
                name,
                name.endsWith("field") ? "prefab" : "model",
                shelf,
                "v001",
                name.startsWith("Old") ? "retired" : "ready",
                1 + items.size() % 3,
                triangles,
                tags,
                notes,
                name.contains("drum") ? "CC-BY-4.0 OR MIT" : "CC0-1.0",
                "Skua Point workshop",
                Map.of("Store", name.contains("drum") ? "North" : "South"),
                List.of(name.contains("mast") ? "Painted steel" : "Rubber"),
                List.of(parts),
                List.of(name.contains("drum") ? "red" : "grey"),
                name.equals("Solar field") ? List.of("id-Solar panel") : List.of(),
                new double[] {1, height, 1},
                1_767_225_600_000L + items.size() * 86_400_000L,
                "",
                "library",
                "assets/" + shelf + "/" + name,
                name.equals("Wind vane")
                        ? new IndexedAsset.Moving(2, List.of("Turn round", "Gust"), List.of("Bent up"), "")
                        : IndexedAsset.Moving.NOTHING));
    }

    @Test
    void whatMovesIsFoundByItsMotionsAndBones() {
        assertThat(find("motion:gust")).containsExactly("Wind vane");
        assertThat(find("blendshape:bent")).containsExactly("Wind vane");
        assertThat(find("motion:\"turn r\"")).containsExactly("Wind vane");
        assertThat(find("bones:>1")).containsExactly("Wind vane");
        assertThat(find("bones:>2")).isEmpty();
    }

    /** The ball that shows a material is half a metre high; the material is not. */
    @Test
    void whatHasNoSurfaceHasNoSizeAndNoTriangles() {
        item("Grey primer", "Materials", List.of(), 0, 0.5, "");
        assertThat(find("height:0.5m")).containsExactly("風向計");
        assertThat(find("size:<1000m")).doesNotContain("Grey primer").hasSize(10);
        assertThat(find("triangles:<1000m")).doesNotContain("Grey primer").hasSize(10);
        assertThat(find("primer")).containsExactly("Grey primer");
        for (Order order : List.of(Order.SIZE, Order.TRIANGLES)) {
            assertThat(finder().find(SearchText.parse(""), order).items())
                    .extracting(IndexedAsset::name)
                    .as("by " + order.word())
                    .endsWith("Grey primer");
        }
    }

    FinderTest() {
        item("Lattice mast 9 m", "Instruments/Masts", List.of("tall", "guyed"), 4200, 9.5, "");
        item("Tripod mast 3 m", "Instruments/Masts", List.of("portable"), 540, 3, "stands beside the fuel store");
        item("Cup anemometer", "Instruments/Wind", List.of("sensor", "mast mounted"), 1300, 0.33, "", "Cups", "Stem");
        item("Wind vane", "Instruments/Wind", List.of("sensor"), 2500, 0.43, "");
        item("Fuel drum", "Power/Supply", List.of("diesel"), 900, 0.9, "");
        item("Old fuel pump", "Power/Supply", List.of("diesel", "süd lager"), 12000, 1.1, "leaks");
        item("Cable drum", "Site/Cables", List.of(), 10096, 1.2, "not a drum for fuel");
        item("Solar panel", "Power/Solar", List.of("solar"), 300, 1.5, "");
        item("Solar field", "Power/Solar", List.of("solar", "landmark"), 90000, 2, "");
        item("風向計", "Instruments/Wind", List.of("sensor"), 100, 0.5, "");
    }

    private List<String> find(String text) {
        return finder().find(SearchText.parse(text), Order.BEST).items().stream()
                .map(IndexedAsset::name)
                .toList();
    }

    /** Judged: names before tags before notes; the whole word before its beginning; the order of names where equal. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "mast            | Lattice mast 9 m,Tripod mast 3 m,Cup anemometer",
                "fuel            | Fuel drum,Old fuel pump,Cable drum,Tripod mast 3 m",
                "fu dr           | Fuel drum,Cable drum",
                "anemomter       | Cup anemometer",
                "anemmometer     | Cup anemometer",
                "anemoneter      | Cup anemometer",
                "aenmometer      | Cup anemometer",
                "sud             | Old fuel pump",
                "LAGER           | Old fuel pump",
                "solar           | Solar field,Solar panel",
                "steel           | Lattice mast 9 m,Tripod mast 3 m",
                "cups            | Cup anemometer",
                "向              | 風向計",
                "drum -cable     | Fuel drum",
                "\"cable drum\"  | Cable drum",
                "\"drum cable\"  | ''",
                "\"drum for fu\" | Cable drum",
                "-\"fuel drum\" drum | Cable drum",
            })
    void whatAPersonExpects(String text, String expected) {
        assertThat(find(text))
                .containsExactlyElementsOf(
                        expected.isBlank()
                                ? List.of()
                                : List.of(expected.strip().split(",")));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "kind:prefab                | Solar field",
                "-kind:prefab solar         | Solar panel",
                "kind:prefab,material       | Solar field",
                "tag:sensor                 | Cup anemometer,Wind vane,風向計",
                "tag:\"süd lager\"          | Old fuel pump",
                "shelf:masts                | Lattice mast 9 m,Tripod mast 3 m",
                "shelf:Instruments/Masts tag:tall | Lattice mast 9 m",
                "triangles:<500             | 風向計,Solar panel",
                "triangles:10k..20k         | Cable drum,Old fuel pump",
                "triangles:>=90000          | Solar field",
                "height:1..3m -shelf:power  | Tripod mast 3 m,Cable drum",
                "height:30..50cm            | Cup anemometer,Wind vane,風向計",
                "height:3m                  | Tripod mast 3 m",
                "status:retired             | Old fuel pump",
                "licence:MIT                | Cable drum,Fuel drum",
                "licence:cc-by              | Cable drum,Fuel drum",
                "uses:panel                 | Solar field",
                "colour:red                 | Cable drum,Fuel drum",
                "field:store=north          | Cable drum,Fuel drum",
                "notes:leaks                | Old fuel pump",
                "part:stem                  | Cup anemometer",
                "changed:2026-01-01         | Lattice mast 9 m",
                "changed:>2026-01-09        | 風向計",
                "id:\"id-Wind vane\"        | Wind vane",
            })
    void factsNarrow(String text, String expected) {
        assertThat(find(text))
                .containsExactlyInAnyOrderElementsOf(
                        expected.isBlank()
                                ? List.of()
                                : List.of(expected.strip().split(",")));
    }

    @Test
    void whatIsNotUnderstoodIsSaidAndTheRestStillFinds() {
        Found found =
                finder().find(SearchText.parse("drum colr:red triangles:many height:3parsecs xyzzyq"), Order.BEST);
        assertThat(found.complaints()).hasSize(4);
        assertThat(found.complaints().get(0)).contains("there is no “colr:”").contains("colour");
        assertThat(found.complaints().get(1)).contains("triangles:many").contains("triangles:<5000");
        assertThat(found.complaints().get(2)).contains("height:3parsecs").contains("10..50cm");
        assertThat(found.complaints().get(3)).contains("nothing begins with “xyzzyq”");
        assertThat(find("drum triangles:many")).hasSize(2);
        assertThat(find("kind: drum")).as("still being typed").hasSize(2);
        assertThat(find("drum kind:")).hasSize(2);
        assertThat(find("\"")).hasSize(10);
    }

    @Test
    void eachHitSaysWhyUnlessItsNameDoes() {
        Map<String, String> reasons = new java.util.HashMap<>();
        Search search = SearchText.parse("fuel");
        finder().find(search, Order.BEST)
                .items()
                .forEach(item -> reasons.put(item.name(), Finder.reason(search, item)));
        assertThat(reasons)
                .containsEntry("Fuel drum", "")
                .containsEntry("Cable drum", "notes “not a drum for fuel”")
                .containsEntry("Tripod mast 3 m", "notes “stands beside the fuel store”");
        assertThat(Finder.reason(SearchText.parse("anemomter"), items.get(2))).isEqualTo("nearly “anemometer”");
        assertThat(Finder.reason(SearchText.parse("mast"), items.get(2))).isEqualTo("tag “mast mounted”");
    }

    @Test
    void facetsCountWhatWasFound() {
        Found found = finder().find(SearchText.parse("shelf:power"), Order.BEST);
        assertThat(found.count()).isEqualTo(4);
        assertThat(found.facets().get("kind"))
                .containsExactly(new Found.Facet("model", 3), new Found.Facet("prefab", 1));
        assertThat(found.facets().get("tag"))
                .containsExactly(
                        new Found.Facet("diesel", 2),
                        new Found.Facet("solar", 2),
                        new Found.Facet("landmark", 1),
                        new Found.Facet("süd lager", 1));
        assertThat(found.facets().get("status")).contains(new Found.Facet("retired", 1));
    }

    @Test
    void everyOrderSortsByItsFigure() {
        assertThat(finder().find(Search.ALL, Order.TRIANGLES).items())
                .first()
                .extracting(IndexedAsset::name)
                .isEqualTo("風向計");
        assertThat(finder().find(Search.ALL, Order.SIZE).items())
                .first()
                .extracting(IndexedAsset::name)
                .isEqualTo("Lattice mast 9 m");
        assertThat(finder().find(Search.ALL, Order.DATE).items())
                .first()
                .extracting(IndexedAsset::name)
                .isEqualTo("風向計");
        assertThat(finder().find(Search.ALL, Order.USE).items())
                .first()
                .extracting(IndexedAsset::name)
                .isEqualTo("Solar panel");
        assertThat(finder().find(Search.ALL, Order.NAME).items())
                .isSortedAccordingTo(
                        java.util.Comparator.comparing(item -> item.name().toLowerCase(java.util.Locale.ROOT)));
        assertThat(finder().find(Search.ALL, Order.BEST).items())
                .isSortedAccordingTo(java.util.Comparator.comparing(IndexedAsset::shelf));
    }

    @Test
    void onCardsWhatOthersHaveIsSuggestedFirst() {
        CardSuggestions suggestions = new CardSuggestions(finder());
        assertThat(suggestions.tags("s")).startsWith("sensor").contains("solar", "süd lager");
        assertThat(suggestions.tags("SUD")).containsExactly("süd lager");
        assertThat(suggestions.tags("mounted")).as("a later word").containsExactly("mast mounted");
        assertThat(suggestions.tags("")).first().isEqualTo("sensor");
        assertThat(suggestions.licences("")).startsWith("CC0-1.0", "CC-BY-4.0", "CC-BY-SA-4.0");
        assertThat(suggestions.licences("by-sa")).first().isEqualTo("CC-BY-SA-4.0");
        assertThat(suggestions.licences("no such thing")).isEmpty();
        assertThat(suggestions.fields("")).containsExactly("Store");
        assertThat(suggestions.fields("shelf")).isEmpty();
        assertThat(suggestions.fieldValues("Store", ""))
                .as("the most frequent first")
                .containsExactly("South", "North");
        assertThat(suggestions.fieldValues("Store", "no")).containsExactly("North");
        assertThat(suggestions.fieldValues("Owner", "")).isEmpty();
    }

    private List<String> suggested(String text) {
        return SearchSuggestions.of(text, finder()).stream()
                .map(each -> each.term() + " (" + each.detail() + ") -> "
                        + each.words().replace(' ', '_'))
                .toList();
    }

    @Test
    void whatIsTypedIsGoneOnWithByFactsAndTheirValues() {
        assertThat(suggested("mast ta"))
                .containsExactly("tag: (a word) -> mast_tag:", "tag:tall (1 asset) -> mast_tag:tall_");
        assertThat(suggested("mast tag:s"))
                .containsExactly(
                        "tag:sensor (3 assets) -> mast_tag:sensor_",
                        "tag:solar (2 assets) -> mast_tag:solar_",
                        "tag:\"süd lager\" (1 asset) -> mast_tag:\"süd_lager\"_");
        assertThat(suggested("-tag:die")).containsExactly("-tag:diesel (2 assets) -> -tag:diesel_");
        assertThat(suggested("TAG:mounted"))
                .as("a later word")
                .containsExactly("tag:\"mast mounted\" (1 asset) -> tag:\"mast_mounted\"_");
        assertThat(suggested("height:"))
                .containsExactly(
                        "height:<1m (for instance) -> height:<1m_", "height:1..3m (for instance) -> height:1..3m_");
    }

    @Test
    void nothingIsSuggestedForWhatIsCompleteOrUnknownOrQuoted() {
        for (String text : List.of("", "t", "tag:sensor", "height:2", "nosuch:a", "\"tag:se", "mast ", "xyz")) {
            assertThat(suggested(text)).as(text).isEmpty();
        }
    }

    @Test
    void amongSomeFacetsCountThoseAlone() {
        Found found = finder().find(SearchText.parse("mast"), Order.NAME, item -> item.shelf()
                .startsWith("Instruments"));
        assertThat(found.facets().get("tag")).extracting(Found.Facet::value).doesNotContain("diesel");
        Found power = finder().find(
                        SearchText.parse(""), Order.NAME, item -> item.shelf().startsWith("Power"));
        assertThat(power.count()).isEqualTo(4);
        assertThat(power.facets().get("kind"))
                .containsExactly(new Found.Facet("model", 3), new Found.Facet("prefab", 1));
    }
}
