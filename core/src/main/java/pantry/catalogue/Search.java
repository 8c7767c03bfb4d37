package pantry.catalogue;

import java.util.List;

/**
 * What is looked for; made of text by {@link SearchText}.
 *
 * @param words each must be the beginning of some word of the asset, or nearly so
 * @param phrases each must stand so in one of the asset's texts
 * @param filters all must hold
 * @param complaints what of the text was not understood, for a person
 */
public record Search(List<Word> words, List<Phrase> phrases, List<Filter> filters, List<String> complaints) {
    public static final Search ALL = new Search(List.of(), List.of(), List.of(), List.of());

    public Search {
        words = List.copyOf(words);
        phrases = List.copyOf(phrases);
        filters = List.copyOf(filters);
        complaints = List.copyOf(complaints);
    }

    /** @param folded without case and accents */
    record Word(String folded, boolean not) {}

    /** @param words folded, in order */
    record Phrase(List<String> words, boolean not) {
        Phrase {
            words = List.copyOf(words);
        }
    }

    /** A condition on a fact. */
    sealed interface Filter {
        boolean not();

        /** One of the values is the fact, or is in it, as the key has it. */
        record Value(Key key, List<String> values, boolean not) implements Filter {
            public Value {
                values = List.copyOf(values);
            }
        }

        /** The fact lies between two numbers, both included; metres, counts, or milliseconds since 1970. */
        record Range(Key key, double least, double most, boolean not) implements Filter {}
    }

    /** With one more condition. */
    Search with(Filter filter) {
        List<Filter> more = new java.util.ArrayList<>(filters);
        more.add(filter);
        return new Search(words, phrases, more, complaints);
    }

    /** Narrowed to a shelf and those below it; the empty path narrows nothing. */
    public Search onShelf(String path) {
        return path.isEmpty() ? this : with(new Filter.Value(Key.SHELF, List.of(SearchTokens.folded(path)), false));
    }

    /** Narrowed to those with a tag. */
    public Search tagged(String tag) {
        return with(new Filter.Value(Key.TAG, List.of(SearchTokens.folded(tag)), false));
    }

    /** Narrowed to a kind. */
    public Search ofKind(String kind) {
        return with(new Filter.Value(Key.KIND, List.of(SearchTokens.folded(kind)), false));
    }

    /** Whether nothing in particular is looked for. */
    public boolean isAll() {
        return words.isEmpty() && phrases.isEmpty() && filters.isEmpty();
    }

    /** Whether words are looked for, by which what is found is ranked. */
    boolean ranks() {
        return words.stream().anyMatch(word -> !word.not());
    }
}
