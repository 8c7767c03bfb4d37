package pantry.catalogue;

import java.util.List;

/**
 * What a search found.
 *
 * @param count all that match, also beyond the limit
 */
public record Hits(int count, List<Item> items) {
    public Hits {
        items = List.copyOf(items);
    }
}
