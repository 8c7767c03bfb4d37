package pantry.desktop.scenes;

import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.collections.ListChangeListener;
import javafx.collections.MapChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Session;
import pantry.desktop.session.Units;

/** The scenes of the open projects as pictures, to choose one. */
final class SceneGallery extends BorderPane {
    /** A tile is at least so wide, pixels; what is left over is shared among those of a row. */
    private static final double LEAST = 232;

    private static final double GAP = 12;
    private static final double EDGE = 8;

    /** Beside the rows, with room for the scroll bar, pixels. */
    private static final double SIDES = 54;

    /** Height by width. */
    private static final double SHAPE = 0.625;

    private static final DateTimeFormatter DAY =
            DateTimeFormatter.ofPattern("d MMM yyyy, HH:mm", Locale.ENGLISH).withZone(ZoneId.systemDefault());

    private final Session session;
    private final SceneGalleryModel model;
    private final ListView<List<SceneGalleryModel.Entry>> rows = new ListView<>();
    private final Label title = Controls.label("Scenes", Styles.TITLE);
    private final Label count = Controls.label("", Styles.FAINT);
    private final TextField find = new TextField();
    private final Button giveUp = Controls.button("Do not place it", "", "Only choose a scene to open (Esc)", () -> {});
    private int columns = 1;
    private double width = LEAST;
    private Consumer<Path> onOpen = file -> {};
    private BiConsumer<Path, Path> onMakeLike = (pattern, file) -> {};

    SceneGallery(Session session, SceneGalleryModel model) {
        this.session = session;
        this.model = model;
        find.setId("gallery-find");
        find.setPromptText("Name, or uses: behind:");
        Controls.hint(
                find,
                "Words of names; uses:mast, behind:, behind:>2, missing:, mixed:, and unused: for what no other file uses");
        find.setPrefWidth(196);
        find.textProperty().bindBidirectional(model.wordsProperty());
        find.setOnAction(event -> {
            if (!model.shown().isEmpty()) {
                onOpen.accept(model.shown().getFirst().file());
            }
        });
        giveUp.setId("gallery-give-up");
        giveUp.setMinWidth(Region.USE_PREF_SIZE);
        title.setMinWidth(0);
        count.setMinWidth(Region.USE_PREF_SIZE);
        find.setMinWidth(Region.USE_PREF_SIZE);
        HBox head = new HBox(12, title, count, Controls.spring(), giveUp, find);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().addAll(Styles.PANEL, Styles.PANEL_TITLE);
        rows.setId("gallery");
        rows.getStyleClass().add("gallery");
        rows.setCellFactory(list -> new RowCell());
        rows.setFocusTraversable(false);
        setTop(head);
        setCenter(rows);
        widthProperty().addListener(change -> layOutRows());
        model.shown().addListener((ListChangeListener<SceneGalleryModel.Entry>) change -> layOutRows());
        session.sceneThumbnails().taken().addListener((MapChangeListener<Path, Path>) change -> {
            if (change.wasAdded()) {
                rows.refresh();
            }
        });
        session.reachProperty().addListener(change -> rows.refresh());
        layOutRows();
    }

    /** Called with a scene that is chosen. */
    void setOnOpen(Consumer<Path> action) {
        onOpen = action;
    }

    /** Called where nothing is to be chosen for any more. */
    void setOnGiveUp(Runnable action) {
        giveUp.setOnAction(event -> action.run());
    }

    /** Called with a scene that a new one shall be like, and the file of that. */
    void setOnMakeLike(BiConsumer<Path, Path> action) {
        onMakeLike = action;
    }

    /** Says what a scene is chosen for; empty where it is only to be opened. */
    void askFor(String what) {
        title.setText(what.isEmpty() ? "Scenes" : what);
        giveUp.setVisible(!what.isEmpty());
        giveUp.setManaged(!what.isEmpty());
    }

    private void layOutRows() {
        double room = Math.max(LEAST, getWidth() - SIDES);
        columns = Math.max(1, (int) ((room + GAP) / (LEAST + GAP)));
        double wide = Math.floor((room + GAP) / columns - GAP);
        boolean resized = wide != width;
        width = wide;
        List<List<SceneGalleryModel.Entry>> now = new ArrayList<>();
        List<SceneGalleryModel.Entry> shown = model.shown();
        for (int from = 0; from < shown.size(); from += columns) {
            now.add(List.copyOf(shown.subList(from, Math.min(shown.size(), from + columns))));
        }
        if (!rows.getItems().equals(now)) {
            rows.getItems().setAll(now);
        } else if (resized) {
            rows.refresh();
        }
        count.setText(
                Units.counted(shown.size(), "scene") + (shown.size() < model.count() ? " of " + model.count() : ""));
        rows.setPlaceholder(Controls.label(
                model.count() == 0
                        ? "No scene stands in the open projects yet. Name a new one at the upper left."
                        : "No scene has these words in its name.",
                Styles.FAINT));
    }

    private final class RowCell extends ListCell<List<SceneGalleryModel.Entry>> {
        @Override
        protected void updateItem(@Nullable List<SceneGalleryModel.Entry> row, boolean empty) {
            super.updateItem(row, empty);
            setText(null);
            if (empty || row == null) {
                setGraphic(null);
                return;
            }
            HBox tiles = new HBox(GAP);
            row.forEach(entry -> tiles.getChildren().add(tile(entry)));
            setGraphic(tiles);
        }
    }

    private Button tile(SceneGalleryModel.Entry entry) {
        StackPane picture = new StackPane();
        double across = width - 2 * EDGE - 2;
        picture.setMinSize(across, Math.floor(across * SHAPE));
        picture.setMaxSize(across, Math.floor(across * SHAPE));
        picture.getStyleClass().add("gallery-picture");
        Path taken = session.sceneThumbnails().taken().get(entry.file());
        if (taken == null) {
            picture.getChildren().add(Controls.label("…", Styles.FAINT));
        } else {
            ImageView view = new ImageView(new Image(taken.toUri().toString(), true));
            view.setFitWidth(across);
            view.setPreserveRatio(true);
            picture.getChildren().add(view);
        }
        session.sceneThumbnails().want(entry.file());
        int waiting = session.reachProperty()
                .get()
                .map(reach -> reach.waiting(entry.file()).total())
                .orElse(0);
        if (waiting > 0) {
            Label sign = Controls.label(String.valueOf(waiting), "status", "caution");
            StackPane.setAlignment(sign, Pos.TOP_RIGHT);
            picture.getChildren().add(sign);
        }
        Label name = Controls.label(entry.name(), Styles.SECTION);
        name.setMinWidth(0);
        HBox.setHgrow(name, Priority.ALWAYS);
        Label where = Controls.label(entry.project() + " · " + DAY.format(entry.modified()), Styles.FAINT, "small");
        where.setMinWidth(0);
        VBox whole = new VBox(4, picture, name, where);
        whole.setMaxWidth(across);
        Button tile = new Button("", whole);
        tile.getStyleClass().add("gallery-tile");
        tile.setPrefWidth(width);
        tile.setMinWidth(width);
        tile.setOnAction(event -> onOpen.accept(entry.file()));
        tile.setContextMenu(menu(entry));
        Controls.hint(
                tile,
                entry.file() + (waiting == 0 ? "" : ": " + Units.counted(waiting, "thing") + " to look at in Reach"));
        return tile;
    }

    private ContextMenu menu(SceneGalleryModel.Entry entry) {
        MenuItem open = new MenuItem("Open");
        open.setOnAction(event -> onOpen.accept(entry.file()));
        MenuItem like = new MenuItem("New scene like this, without its placements…");
        like.setOnAction(event -> newFile(entry).ifPresent(file -> onMakeLike.accept(entry.file(), file)));
        return new ContextMenu(open, like);
    }

    private Optional<Path> newFile(SceneGalleryModel.Entry entry) {
        return Ask.of(this, "The new scene")
                .kind("A scene", "usda")
                .named("new-scene.usda")
                .in(Optional.ofNullable(entry.file().getParent()))
                .saveAs();
    }
}
