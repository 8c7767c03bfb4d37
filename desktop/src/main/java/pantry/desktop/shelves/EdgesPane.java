package pantry.desktop.shelves;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.animation.PauseTransition;
import javafx.beans.InvalidationListener;
import javafx.beans.WeakInvalidationListener;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.css.PseudoClass;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.base.Names;
import pantry.catalogue.FigureSeries;
import pantry.catalogue.Finder;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.Order;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.SearchScope;
import pantry.desktop.session.Units;

/**
 * Assets standing on their shelves' edges; figures with one skeleton share a tile there, with a strip to choose among them.
 * Only the lines that are seen have nodes, however many assets there are.
 */
final class EdgesPane extends StackPane {
    static final double SMALLEST = 96;
    static final double LARGEST = 240;
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");
    private static final double TILE_PADDING = 12;
    private static final double SEGMENT_GAP = 16;
    private static final double SMALL_PICTURE = 26;

    /** So many of a series have a picture in its strip; the others are reached with the arrow keys. */
    private static final int MOST_IN_STRIP = 12;

    private final ShelvesModel model;
    private final AssetPictures thumbs;
    private final AssetDrag drag;
    private final ListView<Row> list = new ListView<>();
    private final DoubleProperty size = new SimpleDoubleProperty(120);
    private int shownPerRow;
    private double shownSize;
    private String shownFor = "";
    private boolean byHand;
    private Consumer<IndexedAsset> onOpen = item -> {};

    /** What is laid out, in order. */
    private List<FigureSeries> tiles = List.of();

    /** Which of a series is shown, by the folder of its first; the first itself where there is none. */
    private final Map<String, IndexedAsset> shownOfSeries = new HashMap<>();

    /** Tiles side by side on one shelf's edge. */
    private record Segment(int from, int to, String shelf) {
        int tiles() {
            return to - from;
        }
    }

    /** A line: the ends of shelves that have room beside each other. */
    private record Row(List<Segment> segments) {
        int from() {
            return segments.getFirst().from();
        }

        int to() {
            return segments.getLast().to();
        }
    }

    EdgesPane(ShelvesModel model, AssetPictures thumbs, AssetDrag drag) {
        this.model = model;
        this.thumbs = thumbs;
        this.drag = drag;
        list.setId("shelf-grid");
        list.setAccessibleText("Assets on the shelves");
        list.getStyleClass().add("shelf-list");
        list.setCellFactory(cells -> new RowCell());
        list.setFocusTraversable(true);
        // Before the list itself takes the arrows for scrolling.
        list.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        PauseTransition settle = new PauseTransition(Duration.millis(80));
        settle.setOnFinished(event -> {
            if (perRow() != shownPerRow || size.get() != shownSize) {
                layOut();
            }
        });
        list.widthProperty().addListener(change -> settle.playFromStart());
        size.addListener(change -> settle.playFromStart());
        model.selectedProperty().addListener((property, before, now) -> {
            now.ifPresent(this::showOfSeries);
            // What is chosen elsewhere, in a list of uses or by the search field, is scrolled to.
            if (!byHand && !before.map(IndexedAsset::id).equals(now.map(IndexedAsset::id))) {
                now.map(this::tileOf).filter(index -> index >= 0).ifPresent(this::reveal);
            }
        });
        getChildren().setAll(list);
    }

    /** The edge of the pictures, pixels. */
    DoubleProperty sizeProperty() {
        return size;
    }

    /** Called with an asset that is double-clicked. */
    void setOnOpen(Consumer<IndexedAsset> action) {
        onOpen = action;
    }

    /** Where an asset is seen; where it is not, all of them. */
    Region standing(IndexedAsset item) {
        return lookup("#" + id(item)) instanceof Region tile ? tile : list;
    }

    private static String id(IndexedAsset item) {
        return "asset-" + Names.slug(item.name());
    }

    Region list() {
        return list;
    }

    private void key(KeyEvent event) {
        if (tiles.isEmpty()) {
            return;
        }
        Optional<IndexedAsset> next =
                switch (event.getCode()) {
                    case LEFT -> Optional.of(beside(-1));
                    case RIGHT -> Optional.of(beside(1));
                    case UP -> Optional.of(atTile(-perRow()));
                    case DOWN -> Optional.of(atTile(perRow()));
                    case PAGE_UP -> Optional.of(atTile(-4 * perRow()));
                    case PAGE_DOWN -> Optional.of(atTile(4 * perRow()));
                    case HOME -> Optional.of(inOrder().getFirst());
                    case END -> Optional.of(inOrder().getLast());
                    default -> Optional.empty();
                };
        next.ifPresent(item -> {
            go(item, event.isShiftDown());
            event.consume();
        });
    }

    /** All assets in the order in which they are laid out. */
    private List<IndexedAsset> inOrder() {
        return tiles.stream().flatMap(tile -> tile.items().stream()).toList();
    }

    /** The asset so many after the selected one; of a series, each in turn. */
    private IndexedAsset beside(int by) {
        List<IndexedAsset> order = inOrder();
        int at = model.selectedProperty().get().map(order::indexOf).orElse(-1);
        return order.get(Math.clamp(at < 0 ? 0 : at + by, 0, order.size() - 1));
    }

    /** What is shown on the tile so many after that of the selected asset. */
    private IndexedAsset atTile(int by) {
        int at = model.selectedProperty().get().map(this::tileOf).orElse(-1);
        return shown(tiles.get(Math.clamp(at < 0 ? 0 : at + by, 0, tiles.size() - 1)));
    }

    /** The place of the tile that an asset is on; -1 where there is none. */
    private int tileOf(IndexedAsset item) {
        for (int i = 0; i < tiles.size(); i++) {
            if (tiles.get(i).items().contains(item)) {
                return i;
            }
        }
        return -1;
    }

    /** The asset whose picture a tile has. */
    private IndexedAsset shown(FigureSeries tile) {
        IndexedAsset first = tile.items().getFirst();
        IndexedAsset last = shownOfSeries.getOrDefault(first.folder(), first);
        return tile.items().stream()
                .filter(item -> item.folder().equals(last.folder()))
                .findFirst()
                .orElse(first);
    }

    /** Gives the tile of a series the picture of one of it. */
    private void showOfSeries(IndexedAsset item) {
        int at = tileOf(item);
        if (at >= 0 && tiles.get(at).isSeries() && !shown(tiles.get(at)).equals(item)) {
            shownOfSeries.put(tiles.get(at).items().getFirst().folder(), item);
            list.refresh();
        }
    }

    private int perRow() {
        double room = Math.max(200, list.getWidth() - 48);
        return Math.max(1, (int) (room / (size.get() + TILE_PADDING + SEGMENT_GAP / 2)));
    }

    private void go(IndexedAsset item, boolean extend) {
        if (extend) {
            List<IndexedAsset> more = new ArrayList<>(model.chosenProperty().get());
            if (!more.contains(item)) {
                more.add(item);
            }
            model.choose(more, Optional.of(item));
        } else {
            model.choose(List.of(item), Optional.of(item));
        }
        reveal(tileOf(item));
    }

    /** Scrolls to a tile by its place. */
    private void reveal(int index) {
        List<Row> rows = list.getItems();
        for (int row = 0; row < rows.size(); row++) {
            if (index >= rows.get(row).from() && index < rows.get(row).to()) {
                list.scrollTo(Math.max(0, row - 1));
                return;
            }
        }
    }

    /** Lays out what the model shows now. */
    void layOut() {
        shownPerRow = perRow();
        shownSize = size.get();
        tiles = ranked()
                ? model.search().items().stream()
                        .map(item -> new FigureSeries(List.of(item)))
                        .toList()
                : FigureSeries.of(model.search().items());
        model.selectedProperty().get().ifPresent(this::showOfSeries);
        list.getItems().setAll(rows());
        String asked = model.search().wordsProperty().get() + "\n"
                + model.search().scopeProperty().get() + "\n"
                + model.search().orderProperty().get();
        if (!asked.equals(shownFor)) {
            // Something else is looked for: its first hits are what counts.
            shownFor = asked;
            list.scrollTo(0);
        }
    }

    /** Whether what is shown stands in an order of its own rather than shelf by shelf. */
    private boolean ranked() {
        return model.search().orderProperty().get() != Order.BEST
                || !model.search().queryProperty().get().isAll()
                || model.search().scopeProperty().get() instanceof SearchScope.Alike
                || model.search().scopeProperty().get() instanceof SearchScope.Recent;
    }

    private List<Row> rows() {
        boolean ranked = ranked();
        String together = model.search().scopeProperty().get() instanceof SearchScope.All
                ? "Found"
                : model.search().scopeProperty().get().title();
        int perRow = perRow();
        List<Row> rows = new ArrayList<>();
        List<Segment> line = new ArrayList<>();
        int room = perRow;
        for (int from = 0; from < tiles.size(); ) {
            String shelf = ranked ? together : shown(tiles.get(from)).shelf();
            int to = from + 1;
            while (to < tiles.size()
                    && to - from < perRow
                    && (ranked || shown(tiles.get(to)).shelf().equals(shelf))) {
                to++;
            }
            if (to - from > room) {
                rows.add(new Row(List.copyOf(line)));
                line.clear();
                room = perRow;
            }
            line.add(new Segment(from, to, shelf));
            room -= to - from;
            from = to;
        }
        if (!line.isEmpty()) {
            rows.add(new Row(List.copyOf(line)));
        }
        return rows;
    }

    /** Some assets on their shelves' edges. */
    private final class RowCell extends ListCell<Row> {
        private final Map<Region, List<IndexedAsset>> choosable = new HashMap<>();
        private final InvalidationListener onChoice = change -> showChosen();

        RowCell() {
            // Weakly: the list makes and drops cells as it likes.
            model.chosenProperty().addListener(new WeakInvalidationListener(onChoice));
        }

        private void showChosen() {
            Set<IndexedAsset> chosen = new HashSet<>(model.chosenProperty().get());
            choosable.forEach((region, items) ->
                    region.pseudoClassStateChanged(CHOSEN, items.stream().anyMatch(chosen::contains)));
        }

        @Override
        protected void updateItem(Row row, boolean empty) {
            super.updateItem(row, empty);
            setText(null);
            setPrefWidth(1);
            choosable.clear();
            if (empty || row.to() > tiles.size()) {
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
     * @param choosable receives what shows whether one of some assets is selected
     */
    private Node segment(Segment segment, Map<Region, List<IndexedAsset>> choosable) {
        HBox pictures = new HBox();
        HBox labels = new HBox();
        for (FigureSeries tile : tiles.subList(segment.from(), segment.to())) {
            IndexedAsset item = shown(tile);
            StackPane picture = picture(item, tile);
            VBox label = label(item);
            for (Region region : List.of(picture, label)) {
                choosable.put(region, tile.items());
                onClick(region, item);
            }
            pictures.getChildren().add(picture);
            labels.getChildren().add(tile.isSeries() ? new VBox(label, strip(tile, choosable)) : label);
        }
        String shelf = segment.shelf();
        Label plate = Controls.label(shelf.substring(shelf.lastIndexOf('/') + 1), "shelf-plate");
        Controls.hint(plate, shelf.replace("/", " / "));
        HBox edge = new HBox(plate);
        edge.setAlignment(Pos.CENTER_LEFT);
        edge.getStyleClass().add(Styles.EDGE);
        return new VBox(pictures, edge, labels);
    }

    /** Small pictures of all that are a series, to choose the one that is shown. */
    private FlowPane strip(FigureSeries series, Map<Region, List<IndexedAsset>> choosable) {
        FlowPane strip = new FlowPane(2, 2);
        strip.getStyleClass().add("series-strip");
        strip.setPrefWrapLength(size.get());
        series.items().stream().limit(MOST_IN_STRIP).forEach(item -> {
            ImageView image = new ImageView(thumbs.get(item));
            image.setFitWidth(SMALL_PICTURE);
            image.setFitHeight(SMALL_PICTURE);
            StackPane pick = new StackPane(image);
            pick.getStyleClass().add("series-pick");
            pick.setId("series-" + Names.slug(item.name()));
            pick.setAccessibleText("Show " + item.name());
            choosable.put(pick, List.of(item));
            onClick(pick, item);
            strip.getChildren().add(pick);
        });
        if (series.items().size() > MOST_IN_STRIP) {
            strip.getChildren()
                    .add(Controls.label("+" + (series.items().size() - MOST_IN_STRIP), Styles.FAINT, Styles.FIGURE));
        }
        return strip;
    }

    /** @param tile that it stands on, with the rest of its series */
    private StackPane picture(IndexedAsset item, FigureSeries tile) {
        ImageView image = new ImageView(thumbs.get(item));
        image.setFitWidth(size.get());
        image.setFitHeight(size.get());
        StackPane picture = new StackPane(image);
        picture.setPrefWidth(size.get() + TILE_PADDING);
        picture.getStyleClass().add(Styles.TILE);
        picture.setId(id(item));
        String place = tile.isSeries()
                ? (tile.items().indexOf(item) + 1) + " of " + tile.items().size()
                : "";
        picture.setAccessibleText(item.name() + ", " + item.kind() + " on " + item.shelf()
                + (place.isEmpty() ? "" : ", " + place + " with one skeleton"));
        HBox signs = new HBox(4);
        signs.setMouseTransparent(true);
        signs.setAlignment(Pos.TOP_RIGHT);
        if (!item.status().equals("ready")) {
            signs.getChildren()
                    .add(Controls.label(
                            item.status(), "status", item.status().equals("retired") ? "wrong" : "caution"));
        }
        if (!item.kind().equals("model")) {
            signs.getChildren().add(Controls.label(item.kind(), "status"));
        }
        if (!place.isEmpty()) {
            signs.getChildren().add(Controls.label(place, "status"));
        }
        if (model.isFavourite(item)) {
            signs.getChildren().add(new FontIcon("remixmz-star-fill"));
        }
        StackPane.setMargin(signs, new Insets(4));
        picture.getChildren().add(signs);
        return picture;
    }

    /** What tells most of it in few words: what is only shown on a ball has no size and no triangles of its own. */
    private static String figures(IndexedAsset item) {
        if (item.hasSurface()) {
            return Units.length(item.size()[1]) + " · " + Units.count(item.triangles()) + " △";
        }
        return item.moving().bones() > 0
                ? Units.counted(item.moving().bones(), "bone")
                : item.colours().stream().limit(2).collect(Collectors.joining(" · "));
    }

    private VBox label(IndexedAsset item) {
        Label figures = Controls.wrapped(figures(item), Styles.FIGURE, Styles.FAINT);
        VBox label = new VBox(Controls.label(item.name()), figures);
        String reason = Finder.reason(model.search().queryProperty().get(), item);
        if (!reason.isEmpty()) {
            Label why = Controls.label(reason, "reason");
            Controls.hint(why, "Found by " + reason);
            label.getChildren().add(why);
        }
        label.setMinWidth(size.get() + TILE_PADDING);
        label.setMaxWidth(size.get() + TILE_PADDING);
        label.getStyleClass().add("tile-label");
        return label;
    }

    /** Takes the keys. */
    void enter() {
        list.requestFocus();
    }

    private void onClick(Region region, IndexedAsset item) {
        Controls.hint(region, item.name() + " on " + item.shelf().replace("/", " / "));
        region.setOnMouseClicked(event -> click(event, item));
        region.setOnContextMenuRequested(event -> {
            if (!model.chosenProperty().get().contains(item)) {
                list.requestFocus();
                byHand = true;
                model.choose(List.of(item), Optional.of(item));
                byHand = false;
            }
        });
        drag.from(region, item);
    }

    private void click(MouseEvent event, IndexedAsset item) {
        if (event.getButton() != MouseButton.PRIMARY || !event.isStillSincePress()) {
            return;
        }
        list.requestFocus();
        byHand = true;
        choose(event, item);
        byHand = false;
        if (event.getClickCount() == 2 && !event.isShortcutDown() && !event.isShiftDown()) {
            onOpen.accept(item);
        }
    }

    private void choose(MouseEvent event, IndexedAsset item) {
        if (event.isShortcutDown()) {
            model.toggle(item);
        } else if (event.isShiftDown()) {
            model.chooseTo(item, inOrder());
        } else {
            model.choose(List.of(item), Optional.of(item));
        }
    }
}
