package pantry.catalogue;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/**
 * What can be told of many assets together, before one of them is chosen: how much it is, what of it still needs a hand, and
 * what was worked on last.
 *
 * @param shelves on which they stand, of all libraries
 * @param triangles of all of them together
 * @param drafts that show a version which is not ready
 * @param unlicensed without a licence
 * @param untagged without a tag
 * @param since the first day of the time that counts as lately, in UTC
 * @param lately changed on that day or later
 * @param last those that were changed last, the newest first
 */
public record Summary(
        int count,
        int shelves,
        long triangles,
        int drafts,
        int retired,
        int unlicensed,
        int untagged,
        LocalDate since,
        int lately,
        List<IndexedAsset> last) {
    private static final int DAYS = 7;
    private static final int LAST = 5;

    public static Summary of(List<IndexedAsset> items, Instant now) {
        LocalDate since = LocalDate.ofInstant(now, ZoneOffset.UTC).minusDays(DAYS - 1L);
        long first = since.atStartOfDay(ZoneOffset.UTC).toInstant().toEpochMilli();
        Map<String, Set<String>> shelves = new HashMap<>();
        long triangles = 0;
        int drafts = 0;
        int retired = 0;
        int unlicensed = 0;
        int untagged = 0;
        int lately = 0;
        for (IndexedAsset item : items) {
            shelves.computeIfAbsent(item.library(), library -> new HashSet<>()).add(item.shelf());
            triangles += item.triangles();
            drafts += item.status().equals("draft") ? 1 : 0;
            retired += item.status().equals("retired") ? 1 : 0;
            unlicensed += item.licence().isEmpty() ? 1 : 0;
            untagged += item.tags().isEmpty() ? 1 : 0;
            lately += item.changed() >= first ? 1 : 0;
        }
        return new Summary(
                items.size(),
                shelves.values().stream().mapToInt(Set::size).sum(),
                triangles,
                drafts,
                retired,
                unlicensed,
                untagged,
                since,
                lately,
                last(items));
    }

    /** Without putting all of them in order. */
    private static List<IndexedAsset> last(List<IndexedAsset> items) {
        Comparator<IndexedAsset> newest =
                Comparator.comparingLong(IndexedAsset::changed).reversed().thenComparing(IndexedAsset::name);
        List<IndexedAsset> last = List.of();
        for (IndexedAsset item : items) {
            if (last.size() < LAST || newest.compare(item, last.getLast()) < 0) {
                last = Stream.concat(last.stream(), Stream.of(item))
                        .sorted(newest)
                        .limit(LAST)
                        .toList();
            }
        }
        return last;
    }
}
