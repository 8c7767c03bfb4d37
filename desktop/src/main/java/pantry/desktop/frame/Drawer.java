package pantry.desktop.frame;

import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.stream.Stream;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.session.Session;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.KeyHint;
import pantry.desktop.workplace.Workplace;

/** A panel that opens over the lower right of the workplace: the ledger, or the list of keys. */
final class Drawer extends VBox {
    private static final List<KeyHint> EVERYWHERE = List.of(
            new KeyHint("/", "Find"),
            new KeyHint("?", "These keys"),
            new KeyHint("arrows", "In a view: turn; with Shift: move"),
            new KeyHint("+ and −", "In a view: nearer and farther"),
            new KeyHint("Home", "In a view: show everything"));

    private final Session session;

    Drawer(Session session) {
        this.session = session;
        getStyleClass().addAll(Styles.PANEL, "view-note");
        setMaxSize(460, 480);
        setVisible(false);
        StackPane.setAlignment(this, Pos.BOTTOM_RIGHT);
        StackPane.setMargin(this, new Insets(0, 16, 48, 0));
    }

    void close() {
        setVisible(false);
    }

    void toggleLedger() {
        if (isVisible()) {
            close();
            return;
        }
        ListView<LedgerLine> lines = new ListView<>(session.ledger());
        lines.setPlaceholder(Controls.label("Nothing was done yet.", Styles.FAINT));
        lines.setCellFactory(cells -> new ListCell<>() {
            @Override
            protected void updateItem(LedgerLine line, boolean empty) {
                super.updateItem(line, empty);
                setText(null);
                setPrefWidth(10);
                if (empty) {
                    setGraphic(null);
                    return;
                }
                Label when = Controls.label(
                        line.when().truncatedTo(ChronoUnit.SECONDS).toString(), Styles.FIGURE, Styles.FAINT);
                when.setMinWidth(USE_PREF_SIZE);
                Label text = Controls.wrapped(line.text());
                if (line.kind() == LedgerLine.Kind.WRONG) {
                    text.getStyleClass().add(Styles.WRONG);
                }
                HBox.setHgrow(text, Priority.ALWAYS);
                setGraphic(new HBox(10, when, text));
            }
        });
        open("Ledger", lines);
    }

    /** @param commands those that have a key in the workplace at hand */
    void showKeys(Workplace workplace, List<Command> commands) {
        GridPane grid = new GridPane();
        grid.setHgap(20);
        grid.setVgap(6);
        grid.setPadding(new Insets(8, 12, 12, 12));
        int row = 0;
        for (Command command : commands) {
            if (!command.keyText().isEmpty()) {
                grid.addRow(row++, Controls.label(command.keyText(), Styles.FIGURE), Controls.label(command.name()));
            }
        }
        for (KeyHint hint : Stream.concat(EVERYWHERE.stream(), workplace.keyHints().stream())
                .toList()) {
            grid.addRow(row++, Controls.label(hint.keys(), Styles.FIGURE), Controls.label(hint.meaning()));
        }
        open("Keys in " + workplace.name(), Controls.scrolling(grid));
    }

    private void open(String title, Node content) {
        Button close = Controls.button("", "remixal-close-line", "Close (Esc)", this::close);
        close.getStyleClass().add(Styles.QUIET);
        HBox head = new HBox(8, Controls.label(title, Styles.TITLE), Controls.spring(), close);
        head.setAlignment(Pos.CENTER_LEFT);
        VBox.setVgrow(content, Priority.ALWAYS);
        getChildren().setAll(head, content);
        setVisible(true);
    }
}
