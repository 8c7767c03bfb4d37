package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import pantry.library.Asset;
import pantry.project.Reach;

/**
 * What is looked for among scenes: words of their names, and terms about what they use. {@code uses:mast} stands for those
 * that use an asset with that in its name, {@code behind:}, {@code missing:} and {@code mixed:} for those in which something
 * is, {@code behind:>2} for those in which more than two are; {@code unused:} for those that no other file uses.
 */
record SceneSearch(List<String> words, List<Term> terms) {
    private static final Pattern TERM = Pattern.compile("(uses|behind|missing|mixed|unused):(.*)");
    private static final Pattern MORE = Pattern.compile(">(\\d{1,9})");

    /** @param what is behind the colon */
    record Term(String name, String what) {}

    static SceneSearch of(String text) {
        List<String> words = new ArrayList<>();
        List<Term> terms = new ArrayList<>();
        for (String part : text.strip().toLowerCase(Locale.ROOT).split("\\s+")) {
            Matcher term = TERM.matcher(part);
            if (term.matches()) {
                terms.add(new Term(term.group(1), term.group(2)));
            } else {
                words.add(part);
            }
        }
        return new SceneSearch(List.copyOf(words), List.copyOf(terms));
    }

    /** Whether a name has all words. */
    boolean isNamed(String name) {
        String text = name.toLowerCase(Locale.ROOT);
        return words.stream().allMatch(text::contains);
    }

    /** Whether a scene fulfils all terms; where nothing is known of what scenes use, none does. */
    Predicate<Path> fulfilled(Optional<Reach> reach) {
        if (terms.isEmpty()) {
            return file -> true;
        }
        if (reach.isEmpty()) {
            return file -> false;
        }
        Predicate<Path> all = file -> true;
        for (Term term : terms) {
            all = all.and(fulfilled(term, reach.get()));
        }
        return all;
    }

    private static Predicate<Path> fulfilled(Term term, Reach reach) {
        int least = least(term.what());
        return switch (term.name()) {
            case "uses" -> users(term.what(), reach)::contains;
            case "behind" -> file -> reach.waiting(file).behind() >= least;
            case "missing" -> file -> reach.waiting(file).missing() >= least;
            case "mixed" -> file -> reach.waiting(file).mixed() >= least;
            default -> reach.unusedFiles()::contains;
        };
    }

    private static Set<Path> users(String name, Reach reach) {
        Set<Path> users = new HashSet<>();
        for (Asset asset : reach.assets()) {
            if (asset.card().name().toLowerCase(Locale.ROOT).contains(name)) {
                reach.uses(asset, Optional.empty()).forEach(use -> users.add(use.file()));
            }
        }
        return users;
    }

    private static int least(String what) {
        Matcher more = MORE.matcher(what);
        return more.matches() ? Integer.parseInt(more.group(1)) + 1 : 1;
    }
}
