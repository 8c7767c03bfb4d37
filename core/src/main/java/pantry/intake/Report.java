package pantry.intake;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Names;

/**
 * What became of a round of arrivals, for keeping.
 *
 * @param library the library's name
 */
public record Report(String library, Instant when, List<Line> lines) {
    private static final DateTimeFormatter MINUTES =
            DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ROOT).withZone(ZoneId.systemDefault());
    private static final String[] HEADINGS = {
        "outcome", "file", "name", "shelf", "version", "metres per unit", "triangles", "reason"
    };

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
        public static Line shelved(
                Origin file, String name, String shelf, String version, double factor, long triangles, String note) {
            return new Line(Outcome.SHELVED, file.toString(), name, shelf, version, factor, triangles, note);
        }

        /** What was not. */
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
        REFUSED;

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public Report {
        lines = List.copyOf(lines);
    }

    /**
     * Writes the report, as CSV or as HTML by the file's ending.
     *
     * @throws IntakeException where it cannot be written, or the ending is another
     */
    public void write(Path file) {
        String text =
                switch (Names.ending(file.getFileName().toString())) {
                    case "csv" -> csv();
                    case "html", "htm" -> html();
                    default -> throw new IntakeException(file, "a report ends in .csv or .html");
                };
        try {
            AtomicFiles.write(file, text);
        } catch (IOException e) {
            throw new IntakeException(file, "the report cannot be written: " + IoProblems.describe(e), e);
        }
    }

    /** As comma-separated values (RFC 4180). */
    public String csv() {
        StringBuilder text = new StringBuilder();
        try (CSVPrinter printer = new CSVPrinter(
                text, CSVFormat.RFC4180.builder().setHeader(HEADINGS).get())) {
            for (Line line : lines) {
                Object[] cells = line.cells();
                for (int i = 0; i < cells.length; i++) {
                    cells[i] = harmless(String.valueOf(cells[i]));
                }
                printer.printRecord(cells);
            }
        } catch (IOException e) {
            throw new UncheckedIOException("writing to memory failed", e);
        }
        return text.toString();
    }

    /** Spreadsheets run what begins with these; an apostrophe before it makes it text (OWASP, CSV Injection). */
    private static String harmless(String cell) {
        return !cell.isEmpty() && "=+-@\t\r\n".indexOf(cell.charAt(0)) >= 0 ? "'" + cell : cell;
    }

    /** As a page that stands alone. */
    public String html() {
        long shelved =
                lines.stream().filter(line -> line.outcome() == Outcome.SHELVED).count();
        StringBuilder page = new StringBuilder("<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">");
        page.append("<title>Received into ")
                .append(escaped(library))
                .append("</title><style>")
                .append("body{font:14px/1.5 Inter,sans-serif;background:#F6F2E9;color:#22262B;margin:32px}")
                .append("table{border-collapse:collapse;background:#FFFDF8}th,td{border:1px solid #DDD5C3;")
                .append("padding:4px 10px;text-align:left;vertical-align:top}td.n{text-align:right;")
                .append("font-family:\"JetBrains Mono\",monospace}tr.refused td{color:#9C2F4A}")
                .append("</style></head><body>\n<h1>Received into ")
                .append(escaped(library))
                .append("</h1>\n<p>")
                .append(MINUTES.format(when))
                .append(": ")
                .append(shelved)
                .append(" shelved, ")
                .append(lines.size() - shelved)
                .append(" refused</p>\n<table><tr>");
        for (String heading : HEADINGS) {
            page.append("<th>").append(heading).append("</th>");
        }
        page.append("</tr>\n");
        for (Line line : lines) {
            page.append("<tr class=\"").append(line.outcome().word()).append("\">");
            Object[] cells = line.cells();
            for (int i = 0; i < cells.length; i++) {
                page.append(
                                HEADINGS[i].equals("triangles") || HEADINGS[i].startsWith("metres")
                                        ? "<td class=\"n\">"
                                        : "<td>")
                        .append(escaped(String.valueOf(cells[i])))
                        .append("</td>");
            }
            page.append("</tr>\n");
        }
        return page.append("</table></body></html>\n").toString();
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\"", "&quot;");
    }
}
