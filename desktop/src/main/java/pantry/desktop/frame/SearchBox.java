package pantry.desktop.frame;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.geometry.Bounds;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.SearchSuggestions.Suggestion;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.MarkedText;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.workplace.Request;

/** The one search field, and below it what it finds: actions by their names, ways to go on, and assets. */
final class SearchBox {
    private static final int ACTIONS_SHOWN = 4;
    private static final int HITS_SHOWN = 8;
    private static final double HIT_HEIGHT = 32;
    private static final double PICTURE = 26;
    private static final double LEAST_WIDTH = 360;
    private static final double HITS_HEIGHT = 420;

    private final TextField field = new TextField();
    private final Button clear = new Button();
    private final StackPane box = new StackPane(field, clear);
    private final ListView<Object> hits = new ListView<>();
    private final AssetSearch search;
    private final CommandTable commands;
    private final Navigator navigator;
    private final AssetPictures pictures;
    private final Runnable onLeave;

    /** What was looked for when the field was entered. */
    private String wordsBefore = "";

    /** @param onLeave called when the field is left by Escape or for an action */
    SearchBox(
            AssetSearch search, CommandTable commands, Navigator navigator, AssetPictures pictures, Runnable onLeave) {
        this.pictures = pictures;
        this.onLeave = onLeave;
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
        field.focusedProperty().addListener((property, before, now) -> {
            if (now) {
                wordsBefore = field.getText();
            }
            showHits();
        });
        hits.setId("hits");
        hits.getStyleClass().addAll(Styles.PANEL, "search-hits");
        hits.setFixedCellSize(HIT_HEIGHT);
        hits.setCellFactory(cells -> new HitCell());
        hits.setVisible(false);
        hits.setFocusTraversable(false);
        hits.setOnMouseClicked(event -> choose());
        StackPane.setAlignment(hits, Pos.TOP_LEFT);
        clear.setId("find-clear");
        clear.setGraphic(new FontIcon("remixal-close-line"));
        clear.getStyleClass().addAll(Styles.QUIET, "small");
        clear.setFocusTraversable(false);
        clear.visibleProperty().bind(field.textProperty().isNotEmpty());
        Controls.hint(clear, "Look for nothing in particular");
        clear.setAccessibleText("Clear the search");
        clear.setOnAction(event -> {
            field.clear();
            field.requestFocus();
        });
        StackPane.setAlignment(clear, Pos.CENTER_RIGHT);
        StackPane.setMargin(clear, new Insets(0, 3, 0, 0));
        box.setMinWidth(160);
        field.addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            int at = hits.getSelectionModel().getSelectedIndex();
            switch (event.getCode()) {
                case DOWN -> {
                    if (at + 1 < hits.getItems().size()) {
                        hits.getSelectionModel().select(at + 1);
                        hits.scrollTo(at + 1);
                    } else {
                        navigator.currentProperty().get().enterFoundAssets();
                    }
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

    /** The field with what clears it. */
    Node box() {
        return box;
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
            found.addAll(search.suggestions(field.getText()));
            if (!navigator.currentProperty().get().listsFoundAssets()) {
                search.items().stream().limit(HITS_SHOWN).forEach(found::add);
            }
        }
        hits.getItems().setAll(found);
        hits.setMaxHeight(Math.min(HITS_HEIGHT, found.size() * HIT_HEIGHT + 12.0));
        hits.setVisible(!found.isEmpty());
        hangBelowField();
    }

    private void hangBelowField() {
        Node over = hits.getParent();
        if (over != null && field.getScene() != null) {
            Bounds place = over.sceneToLocal(field.localToScene(field.getLayoutBounds()));
            double width = Math.max(LEAST_WIDTH, place.getWidth());
            double right = over.getLayoutBounds().getWidth() - width;
            hits.setMaxWidth(width);
            hits.setTranslateX(Math.max(0, Math.min(place.getMinX(), right)));
            hits.setTranslateY(place.getMaxY() + 2);
        }
    }

    private void choose() {
        Object chosen = hits.getSelectionModel().getSelectedItem();
        if (chosen == null) {
            chosen = hits.getItems().stream()
                    .filter(hit -> !(hit instanceof Suggestion))
                    .findFirst()
                    .orElse(null);
        }
        switch (chosen) {
            case Suggestion suggestion -> {
                field.setText(suggestion.words());
                field.requestFocus();
                field.end();
                return;
            }
            case CommandTable.Entry command -> run(command);
            case IndexedAsset item -> show(item);
            case null, default -> search.items().stream().findFirst().ifPresent(this::show);
        }
        hits.setVisible(false);
    }

    /** The words that named an action looked for nothing: it is done to what was found and chosen before them. */
    private void run(CommandTable.Entry command) {
        field.setText(wordsBefore);
        onLeave.run();
        search.onceAnswered(() -> commands.run(command));
    }

    private void show(IndexedAsset item) {
        if (!navigator.currentProperty().get().takeFound(item)) {
            navigator.send(new Request.ShowAsset(item));
        }
    }

    private final class HitCell extends ListCell<Object> {
        @Override
        protected void updateItem(Object hit, boolean empty) {
            super.updateItem(hit, empty);
            setText(null);
            setGraphic(
                    switch (hit) {
                        case CommandTable.Entry entry
                        when !empty ->
                            line(
                                    new FontIcon("remixmz-play-list-add-line"),
                                    entry.command().name(),
                                    Stream.of(entry.group(), entry.command().keyText())
                                            .filter(text -> !text.isEmpty())
                                            .collect(Collectors.joining("   ")));
                        case Suggestion suggestion
                        when !empty ->
                            line(new FontIcon("remixmz-search-line"), suggestion.term(), suggestion.detail());
                        case IndexedAsset item
                        when !empty ->
                            line(picture(item), item.name(), item.shelf().replace("/", " / "));
                        case null, default -> null;
                    });
        }

        private ImageView picture(IndexedAsset item) {
            ImageView picture = new ImageView(pictures.get(item));
            picture.setFitWidth(PICTURE);
            picture.setFitHeight(PICTURE);
            picture.setPreserveRatio(true);
            return picture;
        }

        private HBox line(Node mark, String name, String side) {
            StackPane first = new StackPane(mark);
            first.setMinSize(PICTURE, PICTURE);
            List<String> typed =
                    List.of(field.getText().strip().toLowerCase(Locale.ROOT).split("\\s+"));
            MarkedText title = new MarkedText(name, typed);
            HBox line = new HBox(8, first, title, Controls.spring(), Controls.label(side, Styles.FAINT));
            line.setAlignment(Pos.CENTER_LEFT);
            title.setMaxHeight(Region.USE_PREF_SIZE);
            return line;
        }
    }
}
