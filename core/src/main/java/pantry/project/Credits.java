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
import pantry.base.HtmlPage;
import pantry.base.NaturalOrder;
import pantry.base.ReportTable;
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
                .sorted(Comparator.comparing((Line line) -> line.asset().card().name(), NaturalOrder.BY_NAME))
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

    /** As a table for spreadsheets and pages. */
    public static ReportTable table(List<Line> lines) {
        ReportTable table = new ReportTable(List.of(
                ReportTable.Column.text("Name"),
                ReportTable.Column.text("Credit"),
                ReportTable.Column.text("Licence"),
                ReportTable.Column.text("To be named"),
                ReportTable.Column.text("Not commercially"),
                ReportTable.Column.figures("Files")));
        for (Line line : lines) {
            Object[] cells = {
                line.asset().card().name(),
                line.asset().card().credit(),
                line.unknown() ? "none is given" : line.asset().card().licence(),
                line.mustBeNamed() ? "yes" : "",
                line.nonCommercial() ? "yes" : "",
                line.files().size()
            };
            if (line.isLacking()) {
                table.addMarked(cells);
            } else {
                table.add(cells);
            }
        }
        return table;
    }

    /** As a page. */
    public static String page(String title, List<Line> lines) {
        HtmlPage page = new HtmlPage("Credits and licences: " + title);
        List<String> named = lines.stream()
                .filter(Line::mustBeNamed)
                .map(line -> line.asset().card().credit())
                .filter(credit -> !credit.isBlank())
                .distinct()
                .sorted(NaturalOrder.BY_NAME)
                .toList();
        page.paragraph(named.isEmpty() ? "Nobody must be named." : "To be named: " + String.join(", ", named) + ".");
        long lacking = lines.stream().filter(Line::isLacking).count();
        if (lacking > 0) {
            page.paragraph("To be looked at: " + lacking
                    + (lacking == 1 ? " asset has" : " assets have")
                    + " no licence, or nobody is told who must be named.");
        }
        return page.table(table(lines)).text();
    }
}
