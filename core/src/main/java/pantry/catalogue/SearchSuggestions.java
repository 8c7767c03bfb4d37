package pantry.catalogue;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;
import pantry.base.Names;

/** What the last word of a search that is being typed may become: facts by the beginnings of their names, and their values. */
public final class SearchSuggestions {
    private static final int MOST_VALUES = 6;
    private static final int MOST_FACTS = 3;
    private static final int MOST_TAGS = 3;

    /** Of fewer letters, nearly everything would be suggested. */
    private static final int FEWEST_LETTERS = 2;

    private final String before;
    private final String not;
    private final String word;
    private final Finder finder;

    /**
     * A way to go on.
     *
     * @param term what the last word becomes
     * @param detail what it is or how many have it, for a person
     * @param words the whole search with it
     */
    public record Suggestion(String term, String detail, String words) {}

    private SearchSuggestions(String before, String word, Finder finder) {
        this.before = before;
        this.not = word.startsWith("-") ? "-" : "";
        this.word = word.substring(not.length());
        this.finder = finder;
    }

    /** Suggestions for a text; none within quotes, nor where its last word is complete. */
    public static List<Suggestion> of(String text, Finder finder) {
        int start = text.lastIndexOf(' ') + 1;
        boolean quoted = text.chars().filter(sign -> sign == '"').count() % 2 == 1;
        return quoted
                ? List.of()
                : new SearchSuggestions(text.substring(0, start), text.substring(start), finder).all();
    }

    private List<Suggestion> all() {
        int colon = word.indexOf(':');
        if (colon > 0) {
            return Key.of(SearchTokens.folded(word.substring(0, colon)))
                    .map(key -> values(key, word.substring(colon + 1)))
                    .orElse(List.of());
        }
        if (word.length() < FEWEST_LETTERS) {
            return List.of();
        }
        List<Suggestion> all = new ArrayList<>();
        String typed = word.toLowerCase(Locale.ROOT);
        Arrays.stream(Key.values())
                .filter(key -> key.word().startsWith(typed))
                .limit(MOST_FACTS)
                .forEach(key -> all.add(suggestion(key.word() + ":", meaning(key))));
        counted(Key.TAG, value -> value.toLowerCase(Locale.ROOT).startsWith(typed), MOST_TAGS)
                .forEach(all::add);
        return all;
    }

    private List<Suggestion> values(Key key, String begun) {
        return switch (key.measure()) {
            case LENGTH -> begun.isEmpty() ? examples(key, "<1m", "1..3m") : List.of();
            case COUNT -> begun.isEmpty() ? examples(key, "<5000", "1k..20k") : List.of();
            case DAY -> List.of();
            case NONE -> {
                String typed = SearchTokens.folded(begun);
                Predicate<String> begins = value -> {
                    String folded = SearchTokens.folded(value);
                    return folded.startsWith(typed) && !folded.equals(typed) || folded.contains(" " + typed);
                };
                yield counted(key, begins, MOST_VALUES);
            }
        };
    }

    private List<Suggestion> examples(Key key, String... values) {
        return Arrays.stream(values)
                .map(value -> suggestion(key.word() + ":" + value, "for instance"))
                .toList();
    }

    private List<Suggestion> counted(Key key, Predicate<String> wanted, int most) {
        return finder.values(key).stream()
                .filter(facet -> wanted.test(facet.value()))
                .limit(most)
                .map(facet ->
                        suggestion(SearchText.term(key.word(), facet.value()), Names.counted(facet.count(), "asset")))
                .toList();
    }

    private Suggestion suggestion(String term, String detail) {
        return new Suggestion(not + term, detail, before + not + term + (term.endsWith(":") ? "" : " "));
    }

    private static String meaning(Key key) {
        return switch (key.measure()) {
            case LENGTH -> "a length";
            case COUNT -> "a number";
            case DAY -> "a day or a month";
            case NONE -> key == Key.FIELD ? "name=value" : "a word";
        };
    }
}
