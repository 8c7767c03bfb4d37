package pantry.catalogue;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import pantry.library.Licences;

/** What may be meant while something is written on a card or a slip: what others have there already, the most frequent first. */
public final class CardSuggestions {
    private static final int MOST = 30;

    /** The licences that shared models mostly come with (common practice). */
    private static final List<String> COMMON =
            List.of("CC0-1.0", "CC-BY-4.0", "CC-BY-SA-4.0", "CC-BY-NC-4.0", "MIT", "Apache-2.0");

    private final Finder finder;

    public CardSuggestions(Finder finder) {
        this.finder = finder;
    }

    /** Tags that begin so, or of which a word does. */
    public List<String> tags(String begun) {
        String typed = SearchTokens.folded(begun);
        return used(Key.TAG, value -> {
                    String folded = SearchTokens.folded(value);
                    return folded.startsWith(typed) || folded.contains(" " + typed);
                })
                .limit(MOST)
                .toList();
    }

    /** Identifiers of licences that may be meant, those in use first, then those that are common. */
    public List<String> licences(String begun) {
        Set<String> known = new LinkedHashSet<>(Licences.like(begun, Integer.MAX_VALUE));
        Set<String> all = new LinkedHashSet<>();
        used(Key.LICENCE, known::contains).forEach(all::add);
        COMMON.stream().filter(known::contains).forEach(all::add);
        all.addAll(known);
        return all.stream().limit(MOST).toList();
    }

    /** Names of fields that cards have, those that begin so. */
    public List<String> fields(String begun) {
        return likeliest(begun, item -> item.fields().keySet().stream());
    }

    /** What cards have in a field of that name. */
    public List<String> fieldValues(String field, String begun) {
        return likeliest(begun, item -> Optional.ofNullable(item.fields().get(field)).stream());
    }

    private List<String> likeliest(String begun, Function<IndexedAsset, Stream<String>> of) {
        String typed = SearchTokens.folded(begun);
        Map<String, Integer> counts = new TreeMap<>();
        finder.all().stream()
                .flatMap(of)
                .filter(word -> !word.isBlank() && SearchTokens.folded(word).startsWith(typed))
                .forEach(word -> counts.merge(word, 1, Integer::sum));
        return counts.entrySet().stream()
                .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
                .limit(MOST)
                .map(Map.Entry::getKey)
                .toList();
    }

    private Stream<String> used(Key key, Predicate<String> wanted) {
        return finder.values(key).stream().map(Found.Facet::value).filter(wanted);
    }
}
