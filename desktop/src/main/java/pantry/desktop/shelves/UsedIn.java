package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.collections.MapChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Hyperlink;
import javafx.scene.control.Label;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.SceneThumbnails;
import pantry.desktop.session.Units;
import pantry.desktop.workplace.Request;
import pantry.library.Asset;

/** On an asset's card, the files of the open projects that use it, as pictures. */
final class UsedIn extends VBox {
    /** So many are shown; Reach shows all. */
    private static final int MOST_FILES = 5;

    private static final double PICTURE_WIDTH = 64;
    private static final double PICTURE_HEIGHT = 40;

    private final SceneThumbnails thumbnails;
    private Consumer<Request> onRequest = request -> {};
    private Optional<CardModel.Details> shown = Optional.empty();

    UsedIn(SceneThumbnails thumbnails) {
        super(4);
        this.thumbnails = thumbnails;
        thumbnails.taken().addListener((MapChangeListener<Path, Path>) change -> {
            boolean used = shown.flatMap(CardModel.Details::usedIn)
                    .filter(uses -> uses.containsKey(change.getKey()))
                    .isPresent();
            if (used && change.wasAdded()) {
                shown.ifPresent(this::show);
            }
        });
    }

    /** Called when a file is to be opened, or all that uses the asset is to be shown. */
    void setOnRequest(Consumer<Request> action) {
        onRequest = action;
    }

    /** Those with most placements first; nothing where no project is open. */
    void show(CardModel.Details details) {
        shown = Optional.of(details);
        getChildren().clear();
        details.usedIn().ifPresent(uses -> getChildren().add(Controls.section("Used in", list(details, uses))));
    }

    private VBox list(CardModel.Details details, Map<Path, Long> uses) {
        VBox list = new VBox(4);
        if (uses.isEmpty()) {
            list.getChildren().add(Controls.wrapped("No file of the open projects uses it.", Styles.FAINT));
            return list;
        }
        List<Map.Entry<Path, Long>> most = uses.entrySet().stream()
                .sorted(Map.Entry.<Path, Long>comparingByValue().reversed().thenComparing(Map.Entry.comparingByKey()))
                .limit(MOST_FILES)
                .toList();
        most.forEach(entry -> list.getChildren().add(line(entry.getKey(), entry.getValue())));
        // The last that is asked for is taken first.
        most.reversed().forEach(entry -> thumbnails.want(entry.getKey()));
        IndexedAsset item = details.item();
        list.getChildren()
                .add(link(
                        "card-uses",
                        uses.size() > MOST_FILES
                                ? "All " + Units.count(uses.size()) + " files"
                                : "What uses it, in Reach",
                        new Request.ShowUses(item)));
        Asset asset = details.asset();
        if (!asset.newest().equals(asset.ready())) {
            list.getChildren()
                    .add(link(
                            "card-what-if",
                            "What if " + asset.newest().orElse("the newest") + " were ready?",
                            new Request.WhatIf(item)));
        }
        return list;
    }

    private Hyperlink link(String id, String text, Request request) {
        Hyperlink link = new Hyperlink(text);
        link.setId(id);
        link.setOnAction(event -> onRequest.accept(request));
        return link;
    }

    private Button line(Path file, long placements) {
        StackPane picture = new StackPane();
        picture.setMinSize(PICTURE_WIDTH, PICTURE_HEIGHT);
        picture.setMaxSize(PICTURE_WIDTH, PICTURE_HEIGHT);
        picture.getStyleClass().add("gallery-picture");
        Path taken = thumbnails.taken().get(file);
        if (taken != null) {
            ImageView view = new ImageView(new Image(taken.toUri().toString(), true));
            view.setFitWidth(PICTURE_WIDTH);
            view.setPreserveRatio(true);
            picture.getChildren().add(view);
        }
        Label name = Controls.label(String.valueOf(file.getFileName()));
        name.setMinWidth(0);
        name.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(name, Priority.ALWAYS);
        HBox whole = new HBox(8, picture, name, Controls.label(Units.count(placements) + " ×", Styles.FIGURE));
        whole.setAlignment(Pos.CENTER_LEFT);
        Button line = new Button("", whole);
        line.getStyleClass().add("card-use");
        line.setMaxWidth(Double.MAX_VALUE);
        whole.prefWidthProperty().bind(line.widthProperty().subtract(8));
        line.setOnAction(event -> onRequest.accept(new Request.OpenScene(file)));
        Controls.hint(line, "Open " + file);
        return line;
    }
}
