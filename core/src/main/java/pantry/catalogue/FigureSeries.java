package pantry.catalogue;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.library.AssetKind;

/**
 * Figures that are a series: they stand on one shelf, and their skeletons have the same joints.
 *
 * @param items in the order in which they were listed; of what is no series, one alone
 */
public record FigureSeries(List<IndexedAsset> items) {
    public FigureSeries {
        items = List.copyOf(items);
    }

    private record Key(String library, String shelf, String skeleton) {}

    /** Whether there is more than one. */
    public boolean isSeries() {
        return items.size() > 1;
    }

    /**
     * All assets of a list, each series where its first one stands.
     *
     * @param listed assets in some order
     */
    public static List<FigureSeries> of(List<IndexedAsset> listed) {
        Map<Object, List<IndexedAsset>> groups = new LinkedHashMap<>();
        for (IndexedAsset item : listed) {
            // What is no figure is in no group but its own.
            Object key = isFigure(item)
                    ? new Key(item.library(), item.shelf(), item.moving().skeleton())
                    : item.folder();
            groups.computeIfAbsent(key, group -> new ArrayList<>()).add(item);
        }
        return groups.values().stream().map(FigureSeries::new).toList();
    }

    private static boolean isFigure(IndexedAsset item) {
        return !item.moving().skeleton().isEmpty() && !item.kind().equals(AssetKind.MOTION.word());
    }
}
