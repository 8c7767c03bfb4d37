package pantry.intake;

import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import pantry.base.HtmlPage;
import pantry.base.ReportFile;
import pantry.base.ReportTable;
import pantry.base.Timestamps;
import pantry.library.Asset;
import pantry.library.Published;

/**
 * What became of a round of arrivals, for keeping.
 *
 * @param library the library's name
 */
public record Report(String library, Instant when, List<Line> lines) {
    private static final List<ReportTable.Column> COLUMNS = List.of(
            ReportTable.Column.text("outcome"),
            ReportTable.Column.text("file"),
            ReportTable.Column.text("name"),
            ReportTable.Column.text("shelf"),
            ReportTable.Column.text("version"),
            ReportTable.Column.figures("metres per unit"),
            ReportTable.Column.figures("triangles"),
            ReportTable.Column.text("reason"));

    /**
     * One arrival.
     *
     * @param name the asset's; empty where it was refused
     * @param factor metres per unit of the file; 0 where it was refused
     * @param reason why it was refused, or what else there is to say
     */
    public record Line(
            Outcome outcome,
            String file,
            String name,
            String shelf,
            String version,
            double factor,
            long triangles,
            String reason) {
        /** What was taken in. */
        public static Line shelved(Origin file, Published published, double factor, String note) {
            Asset asset = published.asset();
            String version = published.version();
            return new Line(
                    Outcome.SHELVED,
                    file.toString(),
                    asset.card().name(),
                    asset.shelf(),
                    version,
                    factor,
                    asset.facts(version).triangles(),
                    note);
        }

        /** What is known already. */
        public static Line leftOut(Origin file, String reason) {
            return new Line(Outcome.LEFT_OUT, file.toString(), "", "", "", 0, 0, reason);
        }

        /** What could not be. */
        public static Line refused(Origin file, String reason) {
            return new Line(Outcome.REFUSED, file.toString(), "", "", "", 0, 0, reason);
        }

        private Object[] cells() {
            boolean in = outcome == Outcome.SHELVED;
            return new Object[] {
                outcome.word(),
                file,
                name,
                shelf,
                version,
                in ? Double.toString(factor) : "",
                in ? Long.toString(triangles) : "",
                reason
            };
        }
    }

    /** Whether it was taken in. */
    public enum Outcome {
        SHELVED,
        LEFT_OUT,
        REFUSED;

        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', ' ');
        }
    }

    public Report {
        lines = List.copyOf(lines);
    }

    /**
     * Writes the report, as CSV or as HTML by the file's ending.
     *
     * @throws pantry.base.PantryException where it cannot be written, or the ending is another
     */
    public void write(Path file) {
        ReportFile.write(file, this::csv, this::html);
    }

    /** As comma-separated values (RFC 4180). */
    public String csv() {
        return table().csv();
    }

    /** As a page that stands alone. */
    public String html() {
        long leftOut = count(Outcome.LEFT_OUT);
        return new HtmlPage("Received into " + library)
                .paragraph(Timestamps.minutes(when) + ": " + count(Outcome.SHELVED) + " shelved, "
                        + (leftOut == 0 ? "" : leftOut + " left out, ") + count(Outcome.REFUSED) + " refused")
                .table(table())
                .text();
    }

    private long count(Outcome outcome) {
        return lines.stream().filter(line -> line.outcome() == outcome).count();
    }

    private ReportTable table() {
        ReportTable table = new ReportTable(COLUMNS);
        for (Line line : lines) {
            if (line.outcome() == Outcome.REFUSED) {
                table.addMarked(line.cells());
            } else {
                table.add(line.cells());
            }
        }
        return table;
    }
}
