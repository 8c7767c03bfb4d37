package pantry.desktop.frame;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
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
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.workplace.Request;

/** The one search field, and below it what it finds: actions by their names, and assets. */
final class SearchBox {
    private static final int ACTIONS_SHOWN = 4;
    private static final int HITS_SHOWN = 8;
    private static final double HIT_HEIGHT = 32;
    private static final double HITS_HEIGHT = 420;

    private final TextField field = new TextField();
    private final ListView<Object> hits = new ListView<>();
    private final AssetSearch search;
    private final CommandTable commands;
    private final Navigator navigator;

    /** @param onLeave called when the field is left by Escape */
    SearchBox(AssetSearch search, CommandTable commands, Navigator navigator, Runnable onLeave) {
        this.search = search;
        this.commands = commands;
        this.navigator = navigator;
        field.setId("find");
        field.getStyleClass().add("find-field");
        field.setPromptText("Find an asset, or an action by its name   /");
        field.textProperty().addListener((property, before, now) -> {
            search.wordsProperty().set(now);
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
        search.items().addListener((javafx.beans.InvalidationListener) change -> showHits());
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
            commands.named(words).limit(ACTIONS_SHOWN).forEach(found::add);
            if (!navigator.currentProperty().get().listsFoundAssets()) {
                search.items().stream().limit(HITS_SHOWN).forEach(found::add);
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
            case CommandTable.Entry command -> {
                field.clear();
                commands.run(command);
            }
            case IndexedAsset item -> show(item);
            case null, default -> search.items().stream().findFirst().ifPresent(this::show);
        }
        hits.setVisible(false);
    }

    private void show(IndexedAsset item) {
        navigator.send(new Request.ShowAsset(item));
    }

    private static final class HitCell extends ListCell<Object> {
        @Override
        protected void updateItem(Object hit, boolean empty) {
            super.updateItem(hit, empty);
            setText(null);
            setGraphic(
                    switch (hit) {
                        case CommandTable.Entry entry
                        when !empty ->
                            line(
                                    "remixmz-play-list-add-line",
                                    entry.command().name(),
                                    entry.command().keyText().isEmpty()
                                            ? entry.group()
                                            : entry.command().keyText());
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
