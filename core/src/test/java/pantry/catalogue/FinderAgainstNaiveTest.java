package pantry.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;

/** The finder's quick answers are those that asking each asset in turn gives. */
class FinderAgainstNaiveTest {
    private static final String[] WORDS = {"mast", "master", "drum", "drums", "red", "steel", "cable", "post", "lamp"};
    private static final String[] SHELVES = {"A", "A/One", "A/Two", "B", "B/One"};

    private static IndexedAsset item(Random random, int number) {
        String name = any(random) + " " + any(random);
        return new IndexedAsset(
                "id-" + number,
                name,
                random.nextBoolean() ? "model" : "prefab",
                SHELVES[random.nextInt(SHELVES.length)],
                "v001",
                random.nextInt(4) == 0 ? "draft" : "ready",
                1,
                random.nextInt(1000),
                List.of(any(random)),
                any(random),
                "CC0-1.0",
                "",
                Map.of(),
                List.of(any(random)),
                List.of(),
                List.of(),
                random.nextInt(5) == 0 && number > 0 ? List.of("id-" + random.nextInt(number)) : List.of(),
                new double[] {random.nextDouble(), random.nextDouble() * 4, random.nextDouble()},
                random.nextInt(1000),
                "",
                "library",
                "folder-" + number,
                IndexedAsset.Moving.NOTHING);
    }

    private static String any(Random random) {
        return WORDS[random.nextInt(WORDS.length)];
    }

    private static List<IndexedAsset> items(int seed) {
        Random random = new Random(seed);
        List<IndexedAsset> items = new ArrayList<>();
        for (int i = 0; i < 1 + random.nextInt(60); i++) {
            items.add(item(random, i));
        }
        return items;
    }

    private static boolean begins(IndexedAsset item, String typed) {
        return Stream.of(
                        item.name(),
                        item.tags().getFirst(),
                        item.notes(),
                        item.materials().getFirst(),
                        item.shelf())
                .flatMap(text -> Stream.of(text.toLowerCase(Locale.ROOT).split("[ /]")))
                .anyMatch(word -> word.startsWith(typed));
    }

    @Property(tries = 400)
    void wordsNarrowToThoseThatHaveThemAll(@ForAll @IntRange(max = 100_000) int seed) {
        List<IndexedAsset> items = items(seed);
        Random random = new Random(~seed);
        String first = any(random).substring(0, 1 + random.nextInt(3));
        String second = any(random);
        Found found = new Finder(items).find(SearchText.parse(first + " " + second), Order.NAME);
        boolean known = items.stream().anyMatch(item -> begins(item, second));
        if (!known) {
            // Then what is nearly it counts, which other tests look at.
            return;
        }
        assertThat(found.items())
                .containsExactlyInAnyOrderElementsOf(items.stream()
                        .filter(item -> begins(item, first) && begins(item, second))
                        .toList());
        Found without = new Finder(items).find(SearchText.parse(first + " -" + second), Order.NAME);
        assertThat(without.count() + found.count()).isEqualTo((int)
                items.stream().filter(item -> begins(item, first)).count());
    }

    @Property(tries = 300)
    void factsCountsAndOrdersAgree(@ForAll @IntRange(max = 100_000) int seed) {
        List<IndexedAsset> items = items(seed);
        Finder finder = new Finder(items);
        Found found = finder.find(SearchText.parse("kind:model shelf:A triangles:100..700"), Order.TRIANGLES);
        List<IndexedAsset> expected = items.stream()
                .filter(item -> item.kind().equals("model")
                        && (item.shelf().equals("A") || item.shelf().startsWith("A/"))
                        && item.triangles() >= 100
                        && item.triangles() <= 700)
                .sorted(Comparator.comparingLong(IndexedAsset::triangles)
                        .thenComparing(item -> item.name().toLowerCase(Locale.ROOT))
                        .thenComparing(IndexedAsset::folder))
                .toList();
        assertThat(found.items()).containsExactlyElementsOf(expected);
        Map<String, Integer> tags = new TreeMap<>();
        expected.forEach(item -> tags.merge(item.tags().getFirst(), 1, Integer::sum));
        Map<String, Integer> counted = new TreeMap<>();
        found.facets().get("tag").forEach(facet -> counted.put(facet.value(), facet.count()));
        assertThat(counted).isEqualTo(tags);
        assertThat(found.facets().get("tag"))
                .isSortedAccordingTo(Comparator.comparingInt(Found.Facet::count).reversed());
        Map<String, Integer> uses = new TreeMap<>();
        items.forEach(item -> item.uses().forEach(id -> uses.merge(id, 1, Integer::sum)));
        for (IndexedAsset item : items) {
            assertThat(finder.uses(item)).isEqualTo(uses.getOrDefault(item.id(), 0));
        }
        assertThat(finder.counts("shelf").values().stream()
                        .mapToInt(Integer::intValue)
                        .sum())
                .isEqualTo(items.size());
        assertThat(finder.item(items.getFirst().id())).contains(items.getFirst());
    }
}
