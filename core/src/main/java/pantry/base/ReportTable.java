package pantry.base;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/** A table of a report, for people and for spreadsheets. */
public final class ReportTable {
    private final List<Column> columns;
    private final List<Row> rows = new ArrayList<>();

    /** @param figures whether numbers stand in it */
    public record Column(String heading, boolean figures) {
        public static Column text(String heading) {
            return new Column(heading, false);
        }

        public static Column figures(String heading) {
            return new Column(heading, true);
        }
    }

    /** @param marked whether it tells of something that is wrong */
    record Row(List<String> cells, boolean marked) {}

    public ReportTable(List<Column> columns) {
        this.columns = List.copyOf(columns);
    }

    /** Adds a row, with a cell for each column. */
    public void add(Object... cells) {
        add(false, cells);
    }

    /** Adds a row that tells of something that is wrong. */
    public void addMarked(Object... cells) {
        add(true, cells);
    }

    private void add(boolean marked, Object... cells) {
        if (cells.length != columns.size()) {
            throw new IllegalArgumentException(cells.length + " cells for " + columns.size() + " columns");
        }
        rows.add(new Row(List.of(cells).stream().map(String::valueOf).toList(), marked));
    }

    List<Column> columns() {
        return columns;
    }

    List<Row> rows() {
        return rows;
    }

    /** As comma-separated values (RFC 4180). */
    public String csv() {
        StringBuilder text = new StringBuilder();
        try (CSVPrinter printer = new CSVPrinter(text, CSVFormat.RFC4180)) {
            printer.printRecord(columns.stream().map(Column::heading).toList());
            for (Row row : rows) {
                printer.printRecord(
                        row.cells().stream().map(ReportTable::harmless).toList());
            }
        } catch (IOException e) {
            throw new UncheckedIOException("writing to memory failed", e);
        }
        return text.toString();
    }

    /** Spreadsheets run what begins with these; an apostrophe before it makes it text (OWASP, CSV Injection). */
    public static String harmless(String cell) {
        return !cell.isEmpty() && "=+-@\t\r\n".indexOf(cell.charAt(0)) >= 0 ? "'" + cell : cell;
    }
}
