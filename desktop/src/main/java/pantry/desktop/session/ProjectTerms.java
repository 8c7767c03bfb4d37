package pantry.desktop.session;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import pantry.catalogue.IndexedAsset;
import pantry.library.Asset;
import pantry.library.Uses;
import pantry.project.Reach;

/**
 * Terms of a search for assets that ask what the open projects make of them: {@code used-by:yard} stands for those that a file
 * or an asset with that in its name uses, {@code behind:} for those of which an older version than the ready one is shown
 * somewhere, {@code behind:>2} for those that are more than two behind, {@code unused:} for those that nobody uses. A minus
 * before a term asks for the others.
 *
 * @param rest the text without these terms
 */
record ProjectTerms(String rest, List<Term> terms) {
    private static final Pattern TERM =
            Pattern.compile("(?<=^|\\s)(-?)(used-by|behind|unused):(?:\"([^\"]*)\"?|(\\S*))", Pattern.CASE_INSENSITIVE);
    private static final Pattern MORE = Pattern.compile(">(\\d{1,9})");

    /** @param what is behind the colon, in small letters */
    record Term(String name, String what, boolean not) {}

    static ProjectTerms of(String text) {
        Matcher matcher = TERM.matcher(text);
        List<Term> terms = new ArrayList<>();
        String rest = matcher.replaceAll(found -> {
            terms.add(term(found));
            return "";
        });
        return new ProjectTerms(rest.strip(), List.copyOf(terms));
    }

    private static Term term(MatchResult found) {
        String what = found.group(3) == null ? found.group(4) : found.group(3);
        return new Term(
                found.group(2).toLowerCase(Locale.ROOT),
                what.toLowerCase(Locale.ROOT).strip(),
                !found.group(1).isEmpty());
    }

    /** What is to be said to somebody who asks without an open project; empty where it can be answered. */
    Optional<String> complaint(Optional<Reach> reach) {
        return reach.isPresent() || terms.isEmpty()
                ? Optional.empty()
                : Optional.of("“" + terms.getFirst().name() + ":” asks about open projects, and none is open");
    }

    /** Whether an asset fulfils all terms; without an open project, none does. */
    Predicate<IndexedAsset> fulfilled(Optional<Reach> reach) {
        if (terms.isEmpty()) {
            return item -> true;
        }
        if (reach.isEmpty()) {
            return item -> false;
        }
        Predicate<IndexedAsset> all = item -> true;
        for (Term term : terms) {
            Set<String> ids = ids(term, reach.get());
            all = all.and(item -> ids.contains(item.id()) != term.not());
        }
        return all;
    }

    private static Set<String> ids(Term term, Reach reach) {
        Set<String> ids = new HashSet<>();
        switch (term.name()) {
            case "unused" ->
                reach.unusedAssets().forEach(asset -> ids.add(asset.card().id()));
            case "behind" -> {
                Matcher more = MORE.matcher(term.what());
                int least = more.matches() ? Integer.parseInt(more.group(1)) + 1 : 1;
                Map<Asset, Integer> most = new HashMap<>();
                reach.outdated().forEach(each -> most.merge(each.asset(), each.behind(), Math::max));
                most.forEach((asset, behind) -> {
                    if (behind >= least) {
                        ids.add(asset.card().id());
                    }
                });
            }
            default -> {
                if (!term.what().isEmpty()) {
                    usedBy(term.what(), reach, ids);
                }
            }
        }
        return ids;
    }

    private static void usedBy(String name, Reach reach, Set<String> ids) {
        for (Path file : reach.files()) {
            if (isNamed(String.valueOf(file.getFileName()), name)) {
                reach.usedBy(file).forEach(use -> ids.add(use.asset().card().id()));
            }
        }
        for (Asset asset : reach.assets()) {
            if (isNamed(asset.card().name(), name)) {
                Uses.of(asset.folder()).forEach(use -> ids.add(use.id()));
            }
        }
    }

    private static boolean isNamed(String name, String part) {
        return name.toLowerCase(Locale.ROOT).contains(part);
    }
}
