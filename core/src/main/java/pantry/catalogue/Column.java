package pantry.catalogue;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import pantry.base.NaturalOrder;

/** The values of one fact over all assets, as small numbers, so that counting them costs little. */
final class Column {
    private final List<String> values = new ArrayList<>();
    private final List<String> folded = new ArrayList<>();

    /** The values' numbers, asset after asset. */
    private int[] codes = new int[16];

    /** Where each asset's values begin; one more for the end. */
    private final int[] starts;

    Column(List<IndexedAsset> items, Function<IndexedAsset, List<String>> fact) {
        Map<String, Integer> numbers = new HashMap<>();
        starts = new int[items.size() + 1];
        int end = 0;
        for (int i = 0; i < items.size(); i++) {
            for (String value : fact.apply(items.get(i))) {
                if (end == codes.length) {
                    codes = Arrays.copyOf(codes, 2 * end);
                }
                codes[end++] = numbers.computeIfAbsent(value, fresh -> {
                    values.add(fresh);
                    folded.add(SearchTokens.folded(fresh));
                    return values.size() - 1;
                });
            }
            starts[i + 1] = end;
        }
    }

    /** For each asset, how many values its only one comes after in the order of names. */
    int[] ranks() {
        List<String> ordered = values.stream().sorted(NaturalOrder.BY_NAME).toList();
        Map<String, Integer> places = new HashMap<>();
        ordered.forEach(value -> places.put(value, places.size()));
        int[] ranks = new int[starts.length - 1];
        for (int i = 0; i < ranks.length; i++) {
            ranks[i] = places.get(values.get(codes[starts[i]]));
        }
        return ranks;
    }

    /** How often each value is among some assets, the most frequent first; those that are not, are left out. */
    List<Found.Facet> count(int[] assets, int count, int most) {
        int[] counts = new int[values.size()];
        for (int i = 0; i < count; i++) {
            for (int at = starts[assets[i]]; at < starts[assets[i] + 1]; at++) {
                counts[codes[at]]++;
            }
        }
        List<Found.Facet> facets = new ArrayList<>();
        for (int code = 0; code < counts.length; code++) {
            if (counts[code] > 0) {
                facets.add(new Found.Facet(values.get(code), counts[code]));
            }
        }
        facets.sort(Comparator.comparingInt(Found.Facet::count)
                .reversed()
                .thenComparing(Found.Facet::value, NaturalOrder.BY_NAME));
        return facets.size() > most ? List.copyOf(facets.subList(0, most)) : facets;
    }

    /** Which values pass a test of their folded form. */
    interface Test {
        boolean passes(String folded);
    }

    /** Which assets have a value that passes. */
    boolean[] having(Test test) {
        boolean[] wanted = new boolean[values.size()];
        for (int code = 0; code < wanted.length; code++) {
            wanted[code] = test.passes(folded.get(code));
        }
        boolean[] having = new boolean[starts.length - 1];
        for (int i = 0; i < having.length; i++) {
            for (int at = starts[i]; at < starts[i + 1]; at++) {
                having[i] |= wanted[codes[at]];
            }
        }
        return having;
    }
}
