package pantry.desktop.session;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import pantry.catalogue.IndexedAsset;
import pantry.library.Asset;
import pantry.library.Uses;
import pantry.project.Reach;

/**
 * Terms of a search for assets that ask what the open projects make of them: {@code used-by:yard} stands for those that a file
 * or an asset with that in its name uses, {@code behind:} for those of which an older version than the ready one is shown
 * somewhere, {@code behind:>2} for those that are more than two behind, {@code unused:} for those that nobody uses. A minus
 * before a term asks for the others.
 */
final class ProjectTerms {
    private static final List<String> NAMES = List.of("used-by", "behind", "unused");

    private final Terms terms;

    private ProjectTerms(Terms terms) {
        this.terms = terms;
    }

    static ProjectTerms of(String text) {
        return new ProjectTerms(Terms.of(text, NAMES));
    }

    /** The text without these terms. */
    String rest() {
        return terms.words();
    }

    List<Terms.Term> terms() {
        return terms.terms();
    }

    /** What is to be said to somebody who asks without an open project; empty where it can be answered. */
    Optional<String> complaint(Optional<Reach> reach) {
        return reach.isPresent() || terms().isEmpty()
                ? Optional.empty()
                : Optional.of("“" + terms().getFirst().name() + ":” asks about open projects, and none is open");
    }

    /** Whether an asset fulfils all terms; without an open project, none does. */
    Predicate<IndexedAsset> fulfilled(Optional<Reach> reach) {
        return terms.fulfilled(reach, (term, known) -> {
            Set<String> ids = ids(term, known);
            return item -> ids.contains(item.id());
        });
    }

    private static Set<String> ids(Terms.Term term, Reach reach) {
        Set<String> ids = new HashSet<>();
        switch (term.name()) {
            case "unused" ->
                reach.unusedAssets().forEach(asset -> ids.add(asset.card().id()));
            case "behind" -> {
                int least = term.least();
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
