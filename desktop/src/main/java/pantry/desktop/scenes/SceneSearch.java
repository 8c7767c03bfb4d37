package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import pantry.desktop.session.Terms;
import pantry.library.Asset;
import pantry.project.Reach;

/**
 * What is looked for among scenes: words of their names, and terms about what they use. {@code uses:mast} stands for those
 * that use an asset with that in its name, {@code behind:}, {@code missing:} and {@code mixed:} for those in which something
 * is, {@code behind:>2} for those in which more than two are; {@code unused:} for those that no other file uses.
 */
record SceneSearch(Terms terms) {
    private static final List<String> NAMES = List.of("uses", "behind", "missing", "mixed", "unused");

    static SceneSearch of(String text) {
        return new SceneSearch(Terms.of(text, NAMES));
    }

    /** Whether a name has all words. */
    boolean isNamed(String name) {
        return terms.isNamed(name);
    }

    /** Whether a scene fulfils all terms; where nothing is known of what scenes use, none does. */
    Predicate<Path> fulfilled(Optional<Reach> reach) {
        return terms.fulfilled(reach, SceneSearch::fulfilled);
    }

    private static Predicate<Path> fulfilled(Terms.Term term, Reach reach) {
        int least = term.least();
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
}
