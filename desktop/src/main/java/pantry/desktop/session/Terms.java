package pantry.desktop.session;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Predicate;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What is written in a search: terms such as {@code behind:>2} or {@code used-by:"Field One"}, each with a minus before it
 * for the others, and the words beside them.
 *
 * @param words the text without the terms
 */
public record Terms(String words, List<Term> terms) {
    private static final Pattern MORE = Pattern.compile(">(\\d{1,9})");

    /**
     * One term.
     *
     * @param what is behind the colon, in small letters
     * @param not whether the others are asked for
     */
    public record Term(String name, String what, boolean not) {
        /** From {@code >2}, the 3 that it begins with; 1 where there is no such figure. */
        public int least() {
            Matcher more = MORE.matcher(what);
            return more.matches() ? Integer.parseInt(more.group(1)) + 1 : 1;
        }
    }

    /** A search that has words alone. */
    public static Terms ofWords(String text) {
        return new Terms(text.strip(), List.of());
    }

    /** @param names of the terms that are understood; all else is words */
    public static Terms of(String text, List<String> names) {
        Pattern pattern = Pattern.compile(
                "(?<=^|\\s)(-?)(" + String.join("|", names) + "):(?:\"([^\"]*)\"?|(\\S*))", Pattern.CASE_INSENSITIVE);
        List<Term> terms = new ArrayList<>();
        String words = pattern.matcher(text).replaceAll(found -> {
            terms.add(term(found));
            return "";
        });
        return new Terms(words.strip(), List.copyOf(terms));
    }

    private static Term term(MatchResult found) {
        String what = found.group(3) == null ? found.group(4) : found.group(3);
        return new Term(
                found.group(2).toLowerCase(Locale.ROOT),
                what.toLowerCase(Locale.ROOT).strip(),
                !found.group(1).isEmpty());
    }

    /** Whether a name holds each of the words. */
    public boolean isNamed(String name) {
        String text = name.toLowerCase(Locale.ROOT);
        for (String word : words.toLowerCase(Locale.ROOT).split("\\s+")) {
            if (!text.contains(word)) {
                return false;
            }
        }
        return true;
    }

    /**
     * Whether something fulfils all terms.
     *
     * @param known what terms are asked of; where it is not known, nothing fulfils a term
     * @param fulfilled tells what fulfils a term, whatever its minus
     */
    public <K, T> Predicate<T> fulfilled(Optional<K> known, BiFunction<Term, K, Predicate<T>> fulfilled) {
        Predicate<T> all = each -> true;
        for (Term term : terms) {
            if (known.isEmpty()) {
                return each -> false;
            }
            Predicate<T> one = fulfilled.apply(term, known.get());
            all = all.and(each -> one.test(each) != term.not());
        }
        return all;
    }
}
