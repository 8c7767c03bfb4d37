package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SummaryTest {
    private static final Instant NOW = Instant.parse("2026-03-20T09:00:00Z");

    private static IndexedAsset asset(String name, String shelf, String status, String licence, String changed) {
        return new IndexedAsset(
                name,
                name,
                "model",
                shelf,
                "v001",
                status,
                1,
                100,
                licence.isEmpty() ? List.of() : List.of("tagged"),
                "",
                licence,
                "",
                Map.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                new double[] {1, 1, 1},
                Instant.parse(changed).toEpochMilli(),
                "",
                "/library",
                "/library/" + name,
                IndexedAsset.Moving.NOTHING);
    }

    @Test
    void whatNeedsAHandAndWhatWasChangedLately() {
        Summary summary = Summary.of(
                List.of(
                        asset("Mast", "Masts", "ready", "CC0-1.0", "2026-03-13T23:59:59Z"),
                        asset("Post", "Masts", "draft", "", "2026-03-14T00:00:00Z"),
                        asset("Drum", "Power/Supply", "retired", "", "2026-03-19T12:00:00Z")),
                NOW);
        assertThat(summary.count()).isEqualTo(3);
        assertThat(summary.shelves()).isEqualTo(2);
        assertThat(summary.triangles()).isEqualTo(300);
        assertThat(summary.drafts()).isEqualTo(1);
        assertThat(summary.retired()).isEqualTo(1);
        assertThat(summary.unlicensed()).isEqualTo(2);
        assertThat(summary.untagged()).isEqualTo(2);
        assertThat(summary.since()).as("today and six days before").isEqualTo(LocalDate.of(2026, 3, 14));
        assertThat(summary.lately()).isEqualTo(2);
        assertThat(summary.last()).extracting(IndexedAsset::name).containsExactly("Drum", "Post", "Mast");
    }

    /** The term that the summary's count stands for finds as many. */
    @Test
    void theSearchFindsWhatIsCounted() {
        List<IndexedAsset> items = new ArrayList<>();
        Random random = new Random(5);
        for (int i = 0; i < 200; i++) {
            items.add(asset(
                    "Asset " + i,
                    "Shelf " + i % 7,
                    i % 5 == 0 ? "draft" : i % 11 == 0 ? "retired" : "ready",
                    i % 3 == 0 ? "" : "CC-BY-4.0",
                    NOW.minusSeconds(random.nextInt(30 * 24 * 3600)).toString()));
        }
        Summary summary = Summary.of(items, NOW);
        assertThat(found(items, "status:draft")).isEqualTo(summary.drafts());
        assertThat(found(items, "status:retired")).isEqualTo(summary.retired());
        assertThat(found(items, "licence:none")).isEqualTo(summary.unlicensed());
        assertThat(found(items, "tag:none")).isEqualTo(summary.untagged());
        assertThat(found(items, SearchText.term("changed", ">=" + summary.since())))
                .isEqualTo(summary.lately());
        List<IndexedAsset> sorted = new ArrayList<>(items);
        sorted.sort(Collections.reverseOrder((a, b) -> Long.compare(a.changed(), b.changed())));
        assertThat(summary.last()).isEqualTo(sorted.subList(0, 5));
    }

    private static int found(List<IndexedAsset> items, String words) {
        return new Finder(items).find(SearchText.parse(words), Order.BEST).count();
    }

    @Test
    void nothingIsAFewNoughts() {
        Summary summary = Summary.of(List.of(), NOW);
        assertThat(summary.count()).isZero();
        assertThat(summary.last()).isEmpty();
    }
}
