package pantry.desktop.receive;

import java.nio.file.Path;
import javafx.beans.binding.Bindings;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.intake.Report;

/** What was shelved and what was refused, and the saving of it as a file. */
final class ReportPanel extends VBox {
    /** What a line of two rows takes, pixels. */
    private static final double LINE = 36;

    private static final double MOST = 110;

    private final ReceiveModel model;

    ReportPanel(ReceiveModel model) {
        this.model = model;
        getChildren().setAll(head(), list());
    }

    private HBox head() {
        Button save = Controls.button(
                "Save report\u2026", "", "Save what was shelved and refused as CSV or HTML", this::saveReport);
        save.setId("save-report");
        save.getStyleClass().add(Styles.QUIET);
        save.disableProperty().bind(Bindings.isEmpty(model.shelving().report()));
        HBox head = new HBox(Controls.whole("Shelved and refused", Styles.SECTION), Controls.spring(), save);
        head.setAlignment(Pos.CENTER_LEFT);
        head.setPadding(new Insets(4, 12, 2, 12));
        return head;
    }

    private ListView<Report.Line> list() {
        ListView<Report.Line> report = new ListView<>(model.shelving().report());
        report.getStyleClass().add("report");
        report.setAccessibleText("What became of the arrivals");
        report.prefHeightProperty()
                .bind(Bindings.size(model.shelving().report())
                        .multiply(LINE)
                        .add(LINE / 2)
                        .map(height -> Math.clamp(height.doubleValue(), 1.5 * LINE, MOST)));
        report.setMinHeight(1.5 * LINE);
        report.setPlaceholder(Controls.label("Nothing was shelved or refused yet.", Styles.FAINT));
        report.setCellFactory(cells -> new ReportCell());
        return report;
    }

    /** Lets the user choose where the report goes. */
    void saveReport() {
        Ask.of(this, "Save the report")
                .named("received.csv")
                .kind("Table (CSV)", "csv")
                .kind("Page (HTML)", "html")
                .saveAs()
                .ifPresent(model.shelving()::saveReport);
    }

    /** What became of an arrival, in a line or two. */
    private static final class ReportCell extends ListCell<Report.Line> {
        @Override
        protected void updateItem(Report.Line line, boolean empty) {
            super.updateItem(line, empty);
            setText(empty || line == null ? null : words(line));
            Controls.hint(this, empty || line == null ? "" : words(line));
            getStyleClass().remove(Styles.WRONG);
            if (!empty && line != null && line.outcome() == Report.Outcome.REFUSED) {
                getStyleClass().add(Styles.WRONG);
            }
            setWrapText(true);
            setPrefWidth(10);
        }

        private static String words(Report.Line line) {
            String file = Path.of(line.file()).getFileName().toString();
            return line.outcome() == Report.Outcome.REFUSED
                    ? "Refused: " + file + ": " + line.reason()
                    : "Shelved: " + file + " as " + line.name() + " on " + line.shelf() + ", " + line.version();
        }
    }
}
