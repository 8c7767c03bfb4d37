package pantry.catalogue;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * What a search found.
 *
 * @param items all of them, in order; read as they are asked for, so that a hundred thousand cost nothing
 * @param facets for each kind of fact ({@code kind}, {@code status}, {@code licence}, {@code tag}, {@code shelf},
 *     {@code colour}), how many of the items have which value, the most frequent first
 * @param complaints what of the search was not understood, and words that nothing begins with
 */
public record Found(int count, List<IndexedAsset> items, Map<String, List<Facet>> facets, List<String> complaints) {
    /** A value and how many have it. */
    public record Facet(String value, int count) {}

    /** The same, with one more complaint. */
    public Found complaining(String complaint) {
        List<String> more = new ArrayList<>(complaints);
        more.add(complaint);
        return new Found(count, items, facets, List.copyOf(more));
    }
}
