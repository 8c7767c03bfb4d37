package pantry.desktop.frame;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.look.Controls;
import pantry.desktop.look.Styles;
import pantry.desktop.shelves.ShelvesModel;

/** The one search field, and below it what it finds: actions by their names, and assets. */
final class FindBox {
    private static final int ACTIONS_SHOWN = 4;
    private static final int HITS_SHOWN = 8;
    private static final double HIT_HEIGHT = 32;
    private static final double HITS_HEIGHT = 420;

    private final TextField field = new TextField();
    private final ListView<Object> hits = new ListView<>();
    private final ShelvesModel shelves;
    private final List<Command> commands;
    private final BooleanSupplier onShelves;
    private final Consumer<IndexedAsset> onAsset;

    /**
     * @param commands all there are; may grow later
     * @param onShelves whether the assets are shown anyway
     * @param onAsset called with the asset that was chosen
     * @param onLeave called when the field is left by Escape
     */
    FindBox(
            ShelvesModel shelves,
            List<Command> commands,
            BooleanSupplier onShelves,
            Consumer<IndexedAsset> onAsset,
            Runnable onLeave) {
        this.shelves = shelves;
        this.commands = commands;
        this.onShelves = onShelves;
        this.onAsset = onAsset;
        field.setId("find");
        field.getStyleClass().add("find-field");
        field.setPromptText("Find an asset, or an action by its name   /");
        field.textProperty().addListener((property, before, now) -> {
            shelves.wordsProperty().set(now);
            showHits();
        });
        field.focusedProperty().addListener((property, before, now) -> showHits());
        hits.setId("hits");
        hits.getStyleClass().addAll(Styles.PANEL, "view-note");
        hits.setMaxWidth(460);
        hits.setFixedCellSize(HIT_HEIGHT);
        hits.setCellFactory(cells -> new HitCell());
        hits.setVisible(false);
        hits.setFocusTraversable(false);
        hits.setOnMouseClicked(event -> choose());
        StackPane.setAlignment(hits, Pos.TOP_CENTER);
        StackPane.setMargin(hits, new Insets(48, 0, 0, 0));
        field.addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            int at = hits.getSelectionModel().getSelectedIndex();
            switch (event.getCode()) {
                case DOWN -> {
                    hits.getSelectionModel()
                            .select(Math.min(at + 1, hits.getItems().size() - 1));
                    event.consume();
                }
                case UP -> {
                    hits.getSelectionModel().select(Math.max(at - 1, 0));
                    event.consume();
                }
                case ENTER -> {
                    choose();
                    event.consume();
                }
                case ESCAPE -> {
                    field.clear();
                    onLeave.run();
                    event.consume();
                }
                default -> {}
            }
        });
        shelves.items().addListener((javafx.beans.InvalidationListener) change -> showHits());
    }

    TextField field() {
        return field;
    }

    /** Lies over the workplace while there is something to choose. */
    ListView<Object> hits() {
        return hits;
    }

    private void showHits() {
        String words = field.getText().strip().toLowerCase(Locale.ROOT);
        List<Object> found = new ArrayList<>();
        if (!words.isEmpty() && field.isFocused()) {
            commands.stream()
                    .filter(command -> command.name().toLowerCase(Locale.ROOT).contains(words))
                    .limit(ACTIONS_SHOWN)
                    .forEach(found::add);
            if (!onShelves.getAsBoolean()) {
                shelves.items().stream().limit(HITS_SHOWN).forEach(found::add);
            }
        }
        hits.getItems().setAll(found);
        hits.setMaxHeight(Math.min(HITS_HEIGHT, found.size() * HIT_HEIGHT + 12.0));
        hits.setVisible(!found.isEmpty());
    }

    private void choose() {
        Object chosen = hits.getSelectionModel().getSelectedItem();
        if (chosen == null) {
            chosen = hits.getItems().stream().findFirst().orElse(null);
        }
        switch (chosen) {
            case Command command -> {
                field.clear();
                command.action().run();
            }
            case IndexedAsset item -> onAsset.accept(item);
            case null, default -> shelves.items().stream().findFirst().ifPresent(onAsset);
        }
        hits.setVisible(false);
    }

    private static final class HitCell extends ListCell<Object> {
        @Override
        protected void updateItem(Object hit, boolean empty) {
            super.updateItem(hit, empty);
            setText(null);
            setGraphic(
                    switch (hit) {
                        case Command command
                        when !empty ->
                            line(
                                    "remixmz-play-list-add-line",
                                    command.name(),
                                    command.keyText().isEmpty() ? command.group() : command.keyText());
                        case IndexedAsset item when !empty -> line("remixal-archive-line", item.name(), item.shelf());
                        case null, default -> null;
                    });
        }

        private static HBox line(String icon, String name, String side) {
            HBox line = new HBox(
                    8, new FontIcon(icon), Controls.label(name), Controls.spring(), Controls.label(side, Styles.FAINT));
            line.setAlignment(Pos.CENTER_LEFT);
            return line;
        }
    }
}
