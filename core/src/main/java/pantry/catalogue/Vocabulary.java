package pantry.catalogue;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * All words of all assets, sorted, each with the assets that have it and the places where. Words that begin alike stand
 * beside each other, so the assets that a beginning leads to are one stretch.
 */
final class Vocabulary {
    private final String[] words;
    private final int[][] assets;
    private final byte[][] places;

    private static final class Posting {
        private int[] assets = new int[2];
        private byte[] places = new byte[2];
        private int count;

        /** Assets come in rising order. */
        void add(int asset, byte place) {
            if (count > 0 && assets[count - 1] == asset) {
                places[count - 1] |= place;
                return;
            }
            if (count == assets.length) {
                assets = Arrays.copyOf(assets, 2 * count);
                places = Arrays.copyOf(places, 2 * count);
            }
            assets[count] = asset;
            places[count++] = place;
        }
    }

    /** @param items their numbers are their places in this list */
    Vocabulary(List<IndexedAsset> items) {
        Map<String, Posting> postings = new HashMap<>();
        Map<String, List<String>> split = new HashMap<>();
        for (int i = 0; i < items.size(); i++) {
            int asset = i;
            texts(items.get(i), (place, text) -> {
                // Most texts but names stand on many cards.
                List<String> keys = place == Place.NAME || place == Place.NOTES
                        ? keys(text)
                        : split.computeIfAbsent(text, Vocabulary::keys);
                for (String key : keys) {
                    postings.computeIfAbsent(key, k -> new Posting()).add(asset, place.mask());
                }
            });
        }
        words = postings.keySet().toArray(String[]::new);
        Arrays.sort(words);
        assets = new int[words.length][];
        places = new byte[words.length][];
        for (int w = 0; w < words.length; w++) {
            Posting posting = postings.get(words[w]);
            assets[w] = Arrays.copyOf(posting.assets, posting.count);
            places[w] = Arrays.copyOf(posting.places, posting.count);
        }
    }

    private static List<String> keys(String text) {
        return SearchTokens.of(SearchTokens.folded(text)).stream()
                .flatMap(word -> SearchTokens.keys(word).stream())
                .toList();
    }

    /** Called with each text of an item and its place. */
    interface Texts {
        void text(Place place, String text);
    }

    static void texts(IndexedAsset item, Texts each) {
        each.text(Place.NAME, item.name());
        item.tags().forEach(tag -> each.text(Place.TAG, tag));
        each.text(Place.SHELF, item.shelf());
        item.materials().forEach(material -> each.text(Place.MATERIAL, material));
        item.parts().forEach(part -> each.text(Place.PART, part));
        item.fields().forEach((name, value) -> each.text(Place.FIELD, value));
        each.text(Place.NOTES, item.notes());
    }

    /**
     * Adds what a typed word is worth for each asset: most for the whole word, less for its beginning, least for what
     * it is by one typing error, which only counts where nothing begins with it as it is.
     *
     * @param worth gets, for each asset, the best of its words
     * @return whether any word begins so, or nearly so
     */
    boolean add(String typed, int[] worth) {
        int from = Arrays.binarySearch(words, typed);
        boolean exact = from >= 0;
        int first = exact ? from : -from - 1;
        int w = first;
        while (w < words.length && words[w].startsWith(typed)) {
            add(w, w == first && exact ? 4 : 2, worth);
            w++;
        }
        return w > first || addNear(typed, worth);
    }

    private boolean addNear(String typed, int[] worth) {
        boolean any = false;
        if (forgives(typed)) {
            for (int w = 0; w < words.length; w++) {
                if (SearchTokens.beginsNearly(words[w], typed)) {
                    add(w, 1, worth);
                    any = true;
                }
            }
        }
        return any;
    }

    /** Of shorter words, nearly everything is one error away from something. */
    static boolean forgives(String typed) {
        return typed.length() >= 4;
    }

    private void add(int word, int factor, int[] worth) {
        int[] ids = assets[word];
        byte[] masks = places[word];
        for (int i = 0; i < ids.length; i++) {
            int value = factor * Place.weight(masks[i]);
            if (value > worth[ids[i]]) {
                worth[ids[i]] = value;
            }
        }
    }
}
