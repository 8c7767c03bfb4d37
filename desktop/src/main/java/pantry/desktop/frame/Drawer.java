package pantry.desktop.frame;

import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.stream.Stream;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.geometry.VPos;
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
import org.jspecify.annotations.Nullable;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WhileShown;
import pantry.desktop.session.Ledger;
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
            new KeyHint("drag, arrows", "In a view: turn; with Shift: move"),
            new KeyHint("wheel, + −", "In a view: nearer and farther"),
            new KeyHint("Home", "In a view: show everything"));

    private static final DateTimeFormatter SECOND = DateTimeFormatter.ofPattern("HH:mm:ss");

    /** So many of the things that a line consists of are told. */
    private static final int DETAILS = 6;

    private final Session session;

    Drawer(Session session) {
        this.session = session;
        setId("drawer");
        getStyleClass().addAll(Styles.PANEL, "view-note");
        setMaxSize(460, 480);
        setVisible(false);
        StackPane.setAlignment(this, Pos.BOTTOM_RIGHT);
        StackPane.setMargin(this, new Insets(0, 16, 48, 0));
    }

    /** Whether something can be taken back depends on what was done since. */
    private void listen(ListView<LedgerLine> lines) {
        InvalidationListener changed = change -> lines.refresh();
        WhileShown.switched(lines, () -> session.ledger().addListener(changed), () -> session.ledger()
                .removeListener(changed));
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
        lines.setId("ledger-lines");
        listen(lines);
        lines.setCellFactory(cells -> new LineCell());
        open("Ledger", lines);
        lines.scrollTo(0);
    }

    /** @param commands those that have a key in the workplace at hand */
    void showKeys(Workplace workplace, List<Command> commands) {
        GridPane grid = new GridPane();
        grid.setHgap(20);
        grid.setVgap(6);
        grid.setPadding(new Insets(8, 12, 12, 12));
        Stream<KeyHint> ofCommands = commands.stream()
                .filter(command -> !command.keyText().isEmpty())
                .map(command -> new KeyHint(command.keyText(), command.name()));
        Stream<KeyHint> others = Stream.concat(EVERYWHERE.stream(), workplace.keyHints().stream());
        Stream.concat(ofCommands, others).forEach(hint -> {
            // A meaning takes another line before keys are cut.
            Label keys = Controls.whole(hint.keys(), Styles.FIGURE);
            GridPane.setValignment(keys, VPos.TOP);
            grid.addRow(grid.getRowCount(), keys, Controls.wrapped(hint.meaning()));
        });
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

    /** A line, with what takes it back or does it again, or why nothing does. */
    private final class LineCell extends ListCell<LedgerLine> {
        @Override
        protected void updateItem(@Nullable LedgerLine line, boolean empty) {
            super.updateItem(line, empty);
            setText(null);
            setPrefWidth(10);
            if (empty || line == null) {
                setGraphic(null);
                return;
            }
            Label when = Controls.label(SECOND.format(line.when()), Styles.FIGURE, Styles.FAINT);
            when.setMinWidth(USE_PREF_SIZE);
            boolean takenBack = line.state() == LedgerLine.State.TAKEN_BACK;
            Label text = Controls.wrapped(line.text());
            if (line.kind() == LedgerLine.Kind.WRONG) {
                text.getStyleClass().add(Styles.WRONG);
            } else if (takenBack) {
                text.getStyleClass().addAll(Styles.FAINT, "taken-back");
            }
            VBox words = new VBox(2, text);
            line.details().stream().limit(DETAILS).forEach(each -> words.getChildren()
                    .add(Controls.wrapped(each, Styles.FAINT)));
            if (line.details().size() > DETAILS) {
                words.getChildren()
                        .add(Controls.label("and " + (line.details().size() - DETAILS) + " more", Styles.FAINT));
            }
            HBox.setHgrow(words, Priority.ALWAYS);
            HBox row = new HBox(10, when, words);
            Ledger history = session.history();
            if (history.canUndo(line)) {
                row.getChildren().add(step("Take back", () -> history.undo(line)));
            } else if (history.canRedo(line)) {
                row.getChildren().add(step("Do again", () -> history.redo(line)));
            } else {
                history.refusal(line).ifPresent(why -> words.getChildren()
                        .add(Controls.wrapped(
                                (takenBack ? "not done again: " : "not taken back: ") + why, Styles.FAINT)));
            }
            setGraphic(row);
        }

        private Button step(String name, Runnable action) {
            Button button = Controls.button(name, "", name, action);
            button.getStyleClass().add("small");
            button.setMinWidth(USE_PREF_SIZE);
            return button;
        }
    }
}
