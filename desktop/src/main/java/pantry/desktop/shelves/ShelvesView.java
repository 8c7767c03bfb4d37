package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.animation.PauseTransition;
import javafx.css.PseudoClass;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.Slider;
import javafx.scene.control.SplitPane;
import javafx.scene.control.Tooltip;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import pantry.base.Names;
import pantry.base.math.Vec3;
import pantry.catalogue.Item;
import pantry.desktop.look.Bits;
import pantry.desktop.look.Styles;
import pantry.desktop.look3d.View3d;
import pantry.desktop.session.Session;
import pantry.desktop.session.Units;
import pantry.render.RenderScene;

/** Shelves on the left, assets standing on their shelves' edges, the card on the right. */
public final class ShelvesView extends BorderPane {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");
    private static final double SMALLEST = 96;
    private static final double LARGEST = 240;
    private static final double TILE_PADDING = 12;
    private static final double SEGMENT_GAP = 16;

    private final ShelvesModel model;
    private final Session session;
    private final Thumbs thumbs;
    private final ListView<Row> grid = new ListView<>();
    private final ListView<ShelvesModel.ShelfCount> shelves;
    private final Slider size = new Slider(SMALLEST, LARGEST, 120);
    private final BorderPane card = new BorderPane();
    private final View3d turn = new View3d();
    private final Label heading = Bits.label("All shelves", Styles.TITLE);
    private final Label count = Bits.label("", Styles.FAINT);
    private final StackPane middle = new StackPane();
    private int shownPerRow;
    private double shownSize;
    private Runnable onReceive = () -> {};
    private Consumer<Item> onPlace = item -> {};

    /** Some assets side by side on one shelf's edge. */
    private record Segment(List<Item> items, String shelf) {}

    /** A line of the grid: the ends of shelves that have room beside each other. */
    private record Row(List<Segment> segments) {
        boolean holds(Item item) {
            return segments.stream().anyMatch(segment -> segment.items().contains(item));
        }

        int tiles() {
            return segments.stream().mapToInt(segment -> segment.items().size()).sum();
        }
    }

    public ShelvesView(ShelvesModel model, Session session, Thumbs thumbs) {
        this.model = model;
        this.session = session;
        this.thumbs = thumbs;
        this.shelves = new ListView<>(model.shelves());
        grid.setId("shelf-grid");
        grid.getStyleClass().add("shelf-list");
        grid.setCellFactory(cells -> new RowCell());
        grid.setFocusTraversable(true);
        // Before the list itself takes the arrows for scrolling.
        grid.addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            int step =
                    switch (event.getCode()) {
                        case LEFT -> -1;
                        case RIGHT -> 1;
                        case UP -> -perRow();
                        case DOWN -> perRow();
                        default -> 0;
                    };
            if (step != 0) {
                step(step);
                event.consume();
            }
        });
        PauseTransition settle = new PauseTransition(Duration.millis(80));
        settle.setOnFinished(event -> {
            if (perRow() != shownPerRow || size.getValue() != shownSize) {
                layOut();
            }
        });
        model.items().addListener((javafx.beans.InvalidationListener) change -> layOut());
        grid.widthProperty().addListener(change -> settle.playFromStart());
        size.valueProperty().addListener(change -> settle.playFromStart());
        model.detailsProperty().addListener((property, before, now) -> showCard(now));
        BorderPane centre = new BorderPane(middle);
        size.setPrefWidth(120);
        size.setAccessibleText("Size of the pictures");
        HBox head = new HBox(12, heading, count, Bits.spring(), Bits.label("Pictures", Styles.FAINT), size);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        centre.setTop(head);
        card.getStyleClass().addAll(Styles.PANEL, "right");
        card.setMinWidth(270);
        card.setPrefWidth(310);
        SplitPane parts = new SplitPane(left(), centre, card);
        parts.setDividerPositions(0.18, 0.74);
        SplitPane.setResizableWithParent(parts.getItems().getFirst(), false);
        SplitPane.setResizableWithParent(card, false);
        setCenter(parts);
        showCard(Optional.empty());
        layOut();
    }

    /** Called when somebody wants to take files in. */
    public void setOnReceive(Runnable action) {
        onReceive = action;
    }

    /** Called when an asset is to be placed in the scene. */
    public void setOnPlace(Consumer<Item> action) {
        onPlace = action;
    }

    private VBox left() {
        shelves.setId("shelves");
        shelves.setCellFactory(cells -> new ListCell<>() {
            @Override
            protected void updateItem(ShelvesModel.ShelfCount shelf, boolean empty) {
                super.updateItem(shelf, empty);
                if (empty) {
                    setGraphic(null);
                    return;
                }
                Label name = Bits.label(shelf.name());
                Label number = Bits.label(Units.count(shelf.count()), Styles.FIGURE, Styles.FAINT);
                HBox line = new HBox(6, name, Bits.spring(), number);
                line.setPadding(new Insets(0, 0, 0, 14.0 * shelf.depth()));
                setGraphic(line);
            }
        });
        shelves.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> model.shelfProperty()
                .set(now == null ? "" : now.path()));
        Button all = Bits.button(
                "All", "", "Show all shelves", () -> shelves.getSelectionModel().clearSelection());
        all.getStyleClass().add(Styles.QUIET);
        HBox head = new HBox(8, Bits.label("Shelves", Styles.TITLE), Bits.spring(), all);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        VBox.setVgrow(shelves, Priority.ALWAYS);
        shelves.setPlaceholder(Bits.label("No shelf has anything on it yet.", Styles.FAINT));
        VBox left = new VBox(head, shelves);
        left.getStyleClass().addAll(Styles.PANEL, "left");
        left.setMinWidth(180);
        return left;
    }

    private int perRow() {
        double room = Math.max(200, grid.getWidth() - 48);
        return Math.max(1, (int) (room / (size.getValue() + TILE_PADDING + SEGMENT_GAP / 2)));
    }

    private void step(int by) {
        if (model.items().isEmpty()) {
            return;
        }
        int at = model.selectedProperty().get().map(model.items()::indexOf).orElse(-1);
        int next = Math.clamp(at < 0 ? 0 : at + by, 0, model.items().size() - 1);
        model.selectedProperty().set(Optional.of(model.items().get(next)));
        for (int row = 0; row < grid.getItems().size(); row++) {
            if (grid.getItems().get(row).holds(model.items().get(next))) {
                grid.scrollTo(Math.max(0, row - 1));
            }
        }
    }

    private void layOut() {
        heading.setText(
                model.shelfProperty().get().isEmpty()
                        ? "All shelves"
                        : model.shelfProperty().get());
        String words = model.wordsProperty().get();
        int found = model.items().size();
        count.setText((found == 1 ? "1 asset" : Units.count(found) + " assets")
                + (words.isBlank() ? "" : " for “" + words + "”"));
        if (session.libraries().isEmpty()) {
            middle.getChildren()
                    .setAll(Bits.empty(
                            "remixal-archive-drawer-line",
                            "No library is open",
                            "A library is a folder that a team shares. Open one, or make a new one, with the button at"
                                    + " the upper left."));
            return;
        }
        if (model.items().isEmpty()) {
            Button receive = Bits.button("Take files in…", "", "", () -> onReceive.run());
            receive.getStyleClass().add(Styles.PRIMARY);
            middle.getChildren()
                    .setAll(
                            words.isBlank()
                                    ? Bits.empty(
                                            "remixal-archive-drawer-line",
                                            "The shelves are empty",
                                            "Assets stand here once files have been received.",
                                            receive)
                                    : Bits.empty(
                                            "remixmz-search-line",
                                            "Nothing matches “" + words + "”",
                                            "Every word must begin some word of the name, tags, notes, materials or"
                                                    + " shelf."));
            return;
        }
        middle.getChildren().setAll(grid);
        shownPerRow = perRow();
        shownSize = size.getValue();
        grid.getItems().setAll(rows());
    }

    /** Assets of one shelf after another; a search's hits keep their order and stand on one long shelf. */
    private List<Row> rows() {
        boolean searched = !model.wordsProperty().get().isBlank();
        int perRow = perRow();
        List<Segment> segments = new ArrayList<>();
        List<Item> line = new ArrayList<>();
        String shelf = "";
        for (Item item : model.items()) {
            String own = searched ? "Found" : item.shelf();
            if (line.size() == perRow || !line.isEmpty() && !own.equals(shelf)) {
                segments.add(new Segment(List.copyOf(line), shelf));
                line.clear();
            }
            shelf = own;
            line.add(item);
        }
        if (!line.isEmpty()) {
            segments.add(new Segment(List.copyOf(line), shelf));
        }
        List<Row> rows = new ArrayList<>();
        for (Segment segment : segments) {
            Row last = rows.isEmpty() ? new Row(List.of()) : rows.getLast();
            if (!rows.isEmpty() && last.tiles() + segment.items().size() <= perRow) {
                List<Segment> more = new ArrayList<>(last.segments());
                more.add(segment);
                rows.set(rows.size() - 1, new Row(List.copyOf(more)));
            } else {
                rows.add(new Row(List.of(segment)));
            }
        }
        return rows;
    }

    /** Some assets on their shelves' edges. */
    private final class RowCell extends ListCell<Row> {
        private final Map<Region, Item> choosable = new HashMap<>();

        RowCell() {
            model.selectedProperty().addListener(change -> showChosen());
        }

        private void showChosen() {
            choosable.forEach((region, item) -> region.pseudoClassStateChanged(
                    CHOSEN, model.selectedProperty().get().filter(item::equals).isPresent()));
        }

        @Override
        protected void updateItem(Row row, boolean empty) {
            super.updateItem(row, empty);
            setText(null);
            setPrefWidth(1);
            choosable.clear();
            if (empty) {
                setGraphic(null);
                return;
            }
            HBox line = new HBox(SEGMENT_GAP);
            line.setPadding(new Insets(12, 12, 10, 16));
            row.segments().forEach(segment -> line.getChildren().add(segment(segment, choosable)));
            setGraphic(line);
            showChosen();
        }
    }

    /**
     * Pictures stand on the edge, which carries the shelf's name; their labels hang below it.
     *
     * @param choosable receives what shows whether an asset is selected
     */
    private Node segment(Segment segment, Map<Region, Item> choosable) {
        HBox pictures = new HBox();
        HBox labels = new HBox();
        for (Item item : segment.items()) {
            ImageView image = new ImageView(thumbs.get(preview(item)));
            image.setFitWidth(size.getValue());
            image.setFitHeight(size.getValue());
            StackPane picture = new StackPane(image);
            picture.setPrefWidth(size.getValue() + TILE_PADDING);
            picture.getStyleClass().add(Styles.TILE);
            picture.setId("asset-" + Names.slug(item.name()));
            choosable.put(picture, item);
            onClick(picture, item);
            pictures.getChildren().add(picture);
            Label name = Bits.label(item.name());
            Label figures = Bits.label(
                    Units.length(item.size()[1]) + " · " + Units.count(item.triangles()) + " △",
                    Styles.FIGURE,
                    Styles.FAINT);
            VBox label = new VBox(name, figures);
            label.setMinWidth(size.getValue() + TILE_PADDING);
            label.setMaxWidth(size.getValue() + TILE_PADDING);
            label.getStyleClass().add("tile-label");
            choosable.put(label, item);
            onClick(label, item);
            labels.getChildren().add(label);
        }
        String shelf = segment.shelf();
        Label plate = Bits.label(shelf.substring(shelf.lastIndexOf('/') + 1), "shelf-plate");
        plate.setTooltip(new Tooltip(shelf.replace("/", " / ")));
        HBox edge = new HBox(plate);
        edge.setAlignment(Pos.CENTER_LEFT);
        edge.getStyleClass().add(Styles.EDGE);
        return new VBox(pictures, edge, labels);
    }

    private void onClick(Region region, Item item) {
        Tooltip.install(region, new Tooltip(item.name() + "; double-click places it in the open scene"));
        region.setOnMouseClicked(event -> {
            grid.requestFocus();
            model.selectedProperty().set(Optional.of(item));
            if (event.getClickCount() == 2) {
                onPlace.accept(item);
            }
        });
    }

    private static Path preview(Item item) {
        return Path.of(item.folder(), item.version(), "data", "preview.png");
    }

    private void showCard(Optional<ShelvesModel.Details> details) {
        HBox head =
                new HBox(Bits.label(details.map(d -> d.asset().card().name()).orElse("Card"), Styles.TITLE));
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        card.setTop(head);
        if (details.isEmpty()) {
            VBox box = new VBox(Bits.wrapped("Choose an asset to see its card.", Styles.FAINT));
            box.getStyleClass().add("slip");
            card.setCenter(box);
            card.setBottom(null);
            return;
        }
        ShelvesModel.Details shown = details.get();
        turn.setPrefHeight(230);
        turn.setMinHeight(160);
        turn.drawnProperty()
                .set(RenderScene.of(shown.model(), session.workbench().renderCache()));
        javafx.application.Platform.runLater(turn::frameAll);
        Vec3 size3 = shown.facts().bounds().size();
        FlowPane tags = new FlowPane(6, 6);
        for (String tag : shown.asset().card().tags()) {
            Button button = Bits.button(tag, "", "Find more with this tag", () -> model.wordsProperty()
                    .set(tag));
            button.getStyleClass().add(Styles.TAG);
            tags.getChildren().add(button);
        }
        VBox versions = new VBox(4);
        for (ShelvesModel.VersionLine line : shown.versions()) {
            Label status = Bits.label(line.status(), "status", line.status().equals("ready") ? "good" : "plain");
            Label number = Bits.label(line.version(), Styles.FIGURE);
            number.setMinWidth(Region.USE_PREF_SIZE);
            status.setMinWidth(Region.USE_PREF_SIZE);
            Label date = Bits.label(line.date(), Styles.FIGURE, Styles.FAINT);
            date.setMinWidth(Region.USE_PREF_SIZE);
            HBox version = new HBox(8, number, status, Bits.label(line.who(), Styles.FAINT), Bits.spring(), date);
            version.setAlignment(Pos.CENTER_LEFT);
            versions.getChildren().add(version);
        }
        VBox facts = new VBox(
                4,
                Bits.fact("kind", shown.asset().card().kind().word()),
                Bits.fact("shelf", shown.asset().shelf().replace("/", " / ")),
                Bits.fact("size", Units.size(size3.x(), size3.y(), size3.z())),
                Bits.fact("triangles", Units.count(shown.facts().triangles())),
                Bits.fact("objects", Units.count(shown.facts().meshes())),
                Bits.fact("materials", Units.count(shown.facts().materials().size())),
                Bits.fact("textures", Units.count(shown.facts().textures().size())));
        String licence = shown.asset().card().licence();
        facts.getChildren().add(Bits.fact("licence", licence.isEmpty() ? "none given" : licence));
        String credit = shown.asset().card().credit();
        if (!credit.isEmpty()) {
            facts.getChildren().add(Bits.fact("credit", credit));
        }
        VBox box =
                new VBox(Bits.section("Facts", facts), Bits.section("Tags", tags), Bits.section("Versions", versions));
        box.getStyleClass().add("slip");
        card.setCenter(new VBox(turn, Bits.scrolling(box)));
        Button place = Bits.button("Place in the scene", "remixmz-map-pin-add-line", "", () -> model.selectedProperty()
                .get()
                .ifPresent(onPlace));
        place.setId("card-place");
        place.getStyleClass().add(Styles.PRIMARY);
        HBox actions = new HBox(place);
        actions.getStyleClass().add("strip");
        card.setBottom(actions);
    }

    /** The card's view, for those who look at it from outside. */
    public View3d view() {
        return turn;
    }

    /** The place that takes the focus when the workplace opens. */
    public Region mainPlace() {
        return grid;
    }
}
