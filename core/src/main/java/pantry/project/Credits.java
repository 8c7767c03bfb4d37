package pantry.project;

import java.nio.file.Path;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import pantry.library.Asset;

/** Who must be named for what files of projects use, and what their licences do not allow. */
public final class Credits {
    /** Licences by which nobody has to be named (common practice; of SPDX's identifiers, as far as is known here). */
    private static final Set<String> WITHOUT_NAMING = Set.of("cc0-1.0", "unlicense", "0bsd", "mit-0", "pddl-1.0");

    private static final Pattern WORDS = Pattern.compile("[\\s()]+");
    private static final Set<String> OPERATORS = Set.of("and", "or", "with");

    private Credits() {}

    /**
     * An asset that is used.
     *
     * @param mustBeNamed whether its licence asks that who made it is named
     * @param nonCommercial whether its licence keeps it from commercial use
     * @param unknown whether no licence is given
     * @param files that use it
     */
    public record Line(Asset asset, boolean mustBeNamed, boolean nonCommercial, boolean unknown, List<Path> files) {
        public Line {
            files = List.copyOf(files);
        }

        /** What has to be looked at: a licence that is missing, or somebody to be named of whom nothing is told. */
        public boolean isLacking() {
            return unknown || mustBeNamed && asset.card().credit().isBlank();
        }
    }

    /**
     * The assets that files use, by name; each once.
     *
     * @param files all files of the projects where there are none
     */
    public static List<Line> of(Reach reach, Collection<Path> files) {
        Map<Path, Set<Path>> users = new TreeMap<>();
        reach.usedFolders().forEach((file, folders) -> {
            if (files.isEmpty() || files.contains(file)) {
                folders.forEach(folder ->
                        users.computeIfAbsent(folder, key -> new TreeSet<>()).add(file));
            }
        });
        return users.entrySet().stream()
                .flatMap(entry ->
                        reach.asset(entry.getKey()).stream().map(asset -> line(asset, List.copyOf(entry.getValue()))))
                .sorted(Comparator.comparing((Line line) -> line.asset().card().name(), String.CASE_INSENSITIVE_ORDER))
                .toList();
    }

    private static Line line(Asset asset, List<Path> files) {
        String licence = asset.card().licence();
        List<String> named = WORDS.splitAsStream(licence.toLowerCase(Locale.ROOT))
                .filter(word -> !word.isEmpty() && !OPERATORS.contains(word))
                .toList();
        boolean unknown = named.isEmpty();
        // Where one of several may be chosen, the strictest is reckoned with.
        return new Line(
                asset,
                !unknown && !WITHOUT_NAMING.containsAll(named),
                named.stream().anyMatch(word -> word.contains("-nc-") || word.endsWith("-nc")),
                unknown,
                files);
    }
}
