package pantry.desktop.scenes;

import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.beans.InvalidationListener;
import javafx.geometry.Orientation;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.image.ImageView;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.layout.VBox;
import pantry.base.Names;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.OwnKeys;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.Session;

/** The assets that the search finds, as a row of pictures that are dragged into the view. */
final class TrayPane extends VBox {
    private static final double TILE = 104;
    private static final double PICTURE = 60;
    private static final double HEIGHT = 126;

    private final ScenesModel model;
    private final AssetSearch search;
    private final AssetPictures pictures;
    private final Pane dragged;
    private final ListView<IndexedAsset> tray = new ListView<>();
    private BiConsumer<IndexedAsset, MouseEvent> onDrop = (item, event) -> {};
    private BiConsumer<IndexedAsset, MouseEvent> onHover = (item, event) -> {};
    private Consumer<IndexedAsset> onPlace = item -> {};

    TrayPane(ScenesModel model, AssetSearch search, AssetPictures pictures, Pane dragged) {
        this.model = model;
        this.search = search;
        this.pictures = pictures;
        this.dragged = dragged;
        // A list has nodes only for what is seen, however many assets there are.
        tray.setId("tray");
        tray.setOrientation(Orientation.HORIZONTAL);
        tray.setFixedCellSize(TILE);
        tray.getStyleClass().add("tray");
        tray.setPrefHeight(HEIGHT);
        tray.setMinHeight(HEIGHT);
        tray.setAccessibleText("Assets; drag one into the view, or press Enter to place it");
        OwnKeys.onEnter(tray, () -> onPlace.accept(tray.getSelectionModel().getSelectedItem()));
        tray.setCellFactory(cells -> new ListCell<>() {
            @Override
            protected void updateItem(IndexedAsset item, boolean empty) {
                boolean same = item != null && item.equals(getItem()) && getGraphic() != null;
                super.updateItem(item, empty);
                setText(null);
                if (!same) {
                    // Not under a hand that is dragging it.
                    setGraphic(empty ? null : tile(item));
                }
            }
        });
        getChildren().setAll(tray);
        getStyleClass().add("strip");
        search.items().addListener((InvalidationListener) change -> fill());
        fill();
    }

    /** Called when an asset was dragged somewhere. */
    void setOnDrop(BiConsumer<IndexedAsset, MouseEvent> action) {
        onDrop = action;
    }

    /** Called while an asset is dragged. */
    void setOnHover(BiConsumer<IndexedAsset, MouseEvent> action) {
        onHover = action;
    }

    /** Called when an asset is to be placed without being dragged. */
    void setOnPlace(Consumer<IndexedAsset> action) {
        onPlace = action;
    }

    /** Gives the keys to one of the assets that were found: Enter places it. */
    void take(IndexedAsset item) {
        tray.getSelectionModel().select(item);
        tray.scrollTo(item);
        tray.requestFocus();
    }

    /** Gives the keys to the assets that were found. */
    void enter() {
        if (tray.getSelectionModel().isEmpty()) {
            tray.getSelectionModel().selectFirst();
        }
        tray.requestFocus();
    }

    private void fill() {
        tray.setPlaceholder(Controls.label(whyNothing(), Styles.FAINT));
        tray.getItems().setAll(search.items());
    }

    private String whyNothing() {
        Libraries libraries = model.session().shelving();
        if (!libraries.missed().isEmpty() && libraries.present().isEmpty()) {
            return libraries.missed().getFirst().info().name() + " is away; its assets lie here once it is back.";
        }
        return search.wordsProperty().get().isBlank()
                ? "Assets to drag into the scene lie here once a library is open."
                : "Nothing matches “" + search.wordsProperty().get() + "” in the search field.";
    }

    private VBox tile(IndexedAsset item) {
        ImageView image = new ImageView(pictures.get(item));
        image.setFitWidth(PICTURE);
        image.setFitHeight(PICTURE);
        Label name = Controls.label(item.name());
        // Names that differ at their ends only are to be told apart.
        name.setWrapText(true);
        name.setMaxWidth(92);
        name.setMinHeight(USE_PREF_SIZE);
        VBox tile = new VBox(2, image, name);
        tile.getStyleClass().add("tray-tile");
        tile.setId("tray-" + Names.slug(item.name()));
        tile.setMinWidth(100);
        tile.setAccessibleText(item.name());
        Controls.hint(tile, item.name() + "; drag it into the view, or double-click");
        makeDraggable(tile, item, image);
        tile.setOnMouseClicked(event -> {
            // Two double clicks in a row are four clicks.
            if (event.getClickCount() % 2 == 0) {
                onPlace.accept(item);
            }
        });
        return tile;
    }

    private void makeDraggable(VBox tile, IndexedAsset item, ImageView image) {
        ImageView picture = new ImageView();
        picture.setMouseTransparent(true);
        picture.setOpacity(0.85);
        tile.setOnMouseDragged(event -> {
            if (picture.getParent() == null) {
                picture.setImage(image.getImage());
                picture.setFitWidth(84);
                picture.setFitHeight(84);
                dragged.getChildren().add(picture);
                weigh(item);
            }
            // Beside the mouse, so that the place under it is seen.
            picture.relocate(event.getSceneX() + 14, event.getSceneY() + 10);
            onHover.accept(item, event);
            event.consume();
        });
        tile.setOnMouseReleased(event -> {
            if (picture.getParent() != null) {
                dragged.getChildren().remove(picture);
                model.session().weightAfterProperty().set(Optional.empty());
                onDrop.accept(item, event);
            }
            event.consume();
        });
    }

    /** Says what the scene would weigh with one more use of an asset. */
    private void weigh(IndexedAsset item) {
        Session session = model.session();
        session.attempt(() -> session.weightAfterProperty()
                .set(Optional.of(model.weightWith(session.shelving().asset(item)))));
    }
}
