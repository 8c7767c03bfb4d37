package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Reports are read by people, browsers and spreadsheets, and run by none. */
class ReportTableTest {
    @TempDir
    private Path folder;

    private static ReportTable table() {
        ReportTable table =
                new ReportTable(List.of(ReportTable.Column.text("Name"), ReportTable.Column.figures("Count")));
        table.add("a, \"b\"\nc", 3);
        table.addMarked("<script>alert(1)</script>", 0);
        table.add("=1+1", -2);
        return table;
    }

    /** RFC 4180, by another reader's rules; OWASP, CSV Injection. */
    @Test
    void theTableReadsBackAndNothingInItIsAFormula() throws Exception {
        List<CSVRecord> records =
                CSVParser.parse(table().csv(), CSVFormat.RFC4180).getRecords();
        assertThat(records).hasSize(4);
        assertThat(records.get(1).get(0)).isEqualTo("a, \"b\"\nc");
        assertThat(records.get(3).get(0)).isEqualTo("'=1+1");
        assertThat(records.get(3).get(1)).as("neither is a negative figure").isEqualTo("'-2");
        for (String start : List.of("=", "+", "-", "@", "\t", "\r")) {
            assertThat(ReportTable.harmless(start + "x")).startsWith("'");
        }
        assertThat(ReportTable.harmless("")).isEmpty();
    }

    @Test
    void thePageStandsAloneAndShowsTextAsText() {
        String page = new HtmlPage("A & B")
                .heading("Part <1>")
                .paragraph("5 > 4")
                .table(table())
                .picture(new byte[] {1, 2, 3}, "now \"here\"")
                .text();
        assertThat(page)
                .startsWith("<!DOCTYPE html>")
                .contains("<h1>A &amp; B</h1>", "<h2>Part &lt;1&gt;</h2>", "<p>5 &gt; 4</p>")
                .contains("<tr class=\"marked\"><td>&lt;script&gt;", "<td class=\"n\">3</td>")
                .contains("data:image/png;base64,AQID", "now &quot;here&quot;")
                .doesNotContain("<script", "http:", "https:");
    }

    @Test
    void rowsHaveACellForEachColumn() {
        assertThatThrownBy(() -> table().add("one")).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void theEndingTellsWhatIsWritten() throws Exception {
        Path csv = folder.resolve("a.csv");
        ReportFile.write(csv, () -> "table", () -> "page");
        assertThat(csv).hasContent("table");
        Path html = folder.resolve("a.HTML");
        ReportFile.write(html, () -> "table", () -> "page");
        assertThat(html).hasContent("page");
        assertThatThrownBy(() -> ReportFile.write(folder.resolve("a.txt"), () -> "", () -> ""))
                .hasMessageContaining(".csv or .html");
        Files.writeString(folder.resolve("file"), "");
        assertThatThrownBy(() -> ReportFile.write(folder.resolve("file/a.csv"), () -> "", () -> ""))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("cannot be written");
    }
}
