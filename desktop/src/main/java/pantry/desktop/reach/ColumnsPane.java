package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.animation.AnimationTimer;
import javafx.beans.binding.Bindings;
import javafx.css.PseudoClass;
import javafx.geometry.Bounds;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.CubicCurve;
import javafx.scene.shape.Rectangle;
import org.jspecify.annotations.Nullable;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WhileShown;
import pantry.desktop.reach.ReachRows.Link;
import pantry.desktop.reach.ReachRows.Row;
import pantry.desktop.session.Units;
import pantry.project.ReachGraph;
import pantry.project.ReachGraph.Column;
import pantry.project.ReachGraph.State;

/**
 * The versions, what is made with them, and the files, as three columns with a line for each use. What the mouse rests on,
 * or the keys have chosen, lights up everything that it uses and that uses it.
 */
final class ColumnsPane extends StackPane {
    private static final double ROW = 52;
    private static final double GAP = 56;
    private static final PseudoClass DIM = PseudoClass.getPseudoClass("dim");

    /** Lines to rows that are scrolled out of sight end so far beyond the edge, pixels. */
    private static final double BEYOND = 60;

    private final Map<Column, ListView<Row>> lists = new EnumMap<>(Column.class);
    private final Map<Column, Label> heads = new EnumMap<>(Column.class);
    private final Pane curves = new Pane();
    private final Set<Path> unfolded = new HashSet<>();
    private final Map<String, Region> shownCells = new HashMap<>();
    private ReachGraph graph = ReachGraph.EMPTY;
    private ReachRows rows = ReachRows.EMPTY;
    /** Where rows stand, by their ids. */
    private final Map<String, Place> numbers = new HashMap<>();

    private record Place(Column column, int number) {}

    private Optional<Row> lit = Optional.empty();
    private Set<String> connected = Set.of();
    private Consumer<Row> onOpen = row -> {};
    private String drawn = "";

    ColumnsPane() {
        HBox columns = new HBox(GAP);
        columns.getStyleClass().add("reach-columns");
        for (Column column : Column.values()) {
            ListView<Row> list = new ListView<>();
            list.setId("reach-column-" + column.name().toLowerCase(java.util.Locale.ROOT));
            list.getStyleClass().add("reach-list");
            list.setFixedCellSize(ROW);
            list.setCellFactory(cells -> new RowCell());
            list.addEventFilter(KeyEvent.KEY_PRESSED, event -> key(event, column));
            list.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> {
                if (list.isFocused()) {
                    light(Optional.ofNullable(now));
                }
            });
            list.focusedProperty().addListener((property, before, now) -> {
                if (now) {
                    light(Optional.ofNullable(list.getSelectionModel().getSelectedItem()));
                }
            });
            lists.put(column, list);
            Label head = Controls.label("", Styles.SECTION);
            heads.put(column, head);
            VBox whole = new VBox(6, head, list);
            VBox.setVgrow(list, Priority.ALWAYS);
            HBox.setHgrow(whole, Priority.ALWAYS);
            whole.setPrefWidth(200);
            whole.setMinWidth(0);
            // A column without rows leaves its room to the others.
            whole.managedProperty().bind(Bindings.isNotEmpty(list.getItems()));
            whole.visibleProperty().bind(whole.managedProperty());
            columns.getChildren().add(whole);
        }
        curves.setMouseTransparent(true);
        Rectangle clip = new Rectangle();
        clip.widthProperty().bind(widthProperty());
        clip.heightProperty().bind(heightProperty());
        setClip(clip);
        getChildren().setAll(curves, columns);
        // Rows move with every scroll, resize and fold: the lines are drawn again in the next frame, where they moved.
        AnimationTimer following = new AnimationTimer() {
            @Override
            public void handle(long now) {
                draw();
            }
        };
        WhileShown.switched(this, following::start, following::stop);
    }

    /** Called with a row that is double-clicked, or on which Enter is pressed. */
    void setOnOpen(Consumer<Row> action) {
        onOpen = action;
    }

    /** @param titles what stands above each column */
    void show(ReachGraph newGraph, Map<Column, String> titles) {
        graph = newGraph;
        titles.forEach((column, title) -> {
            Label head = heads.get(column);
            if (head != null) {
                head.setText(title);
            }
        });
        lit = Optional.empty();
        layOut();
    }

    private void layOut() {
        rows = ReachRows.of(graph, unfolded);
        shownCells.clear();
        numbers.clear();
        lists.forEach((column, list) -> {
            Row chosen = list.getSelectionModel().getSelectedItem();
            list.getItems().setAll(rows.rows(column));
            for (int i = 0; i < list.getItems().size(); i++) {
                numbers.put(list.getItems().get(i).id(), new Place(column, i));
            }
            if (chosen != null) {
                rows.rows(column).stream()
                        .filter(row -> row.id().equals(chosen.id()))
                        .findFirst()
                        .ifPresent(list.getSelectionModel()::select);
            }
        });
        light(Optional.empty());
        drawn = "";
    }

    private void light(Optional<Row> row) {
        if (row.equals(lit)) {
            return;
        }
        lit = row;
        connected = row.map(rows::connected).orElse(Set.of());
        shownCells.forEach((id, cell) -> cell.pseudoClassStateChanged(DIM, lit.isPresent() && !connected.contains(id)));
        drawn = "";
    }

    private void key(KeyEvent event, Column column) {
        ListView<Row> list = lists.get(column);
        Row row = list.getSelectionModel().getSelectedItem();
        if (event.getCode() == KeyCode.ENTER && row != null) {
            open(row);
            event.consume();
        } else if (event.getCode() == KeyCode.LEFT || event.getCode() == KeyCode.RIGHT) {
            int step = event.getCode() == KeyCode.LEFT ? -1 : 1;
            for (int next = column.ordinal() + step; next >= 0 && next < lists.size(); next += step) {
                ListView<Row> other = lists.get(Column.values()[next]);
                if (!other.getItems().isEmpty()) {
                    choose(other, row);
                    break;
                }
            }
            event.consume();
        }
    }

    /** Goes to a column, to the first row there that has to do with the one that was chosen. */
    private void choose(ListView<Row> list, @Nullable Row from) {
        Set<String> related = from == null ? Set.of() : rows.connected(from);
        Row first = list.getItems().stream()
                .filter(row -> related.contains(row.id()))
                .findFirst()
                .orElse(list.getItems().getFirst());
        list.requestFocus();
        list.getSelectionModel().select(first);
        list.scrollTo(Math.max(0, list.getItems().indexOf(first) - 2));
    }

    private void open(Row row) {
        if (row.isFolder()) {
            if (!unfolded.remove(row.path())) {
                unfolded.add(row.path());
            }
            layOut();
        } else {
            onOpen.accept(row);
        }
    }

    /** Draws the lines of which an end is in sight. */
    private void draw() {
        StringBuilder where = new StringBuilder();
        Map<String, Bounds> places = new HashMap<>();
        shownCells.forEach((id, cell) -> {
            if (cell.getScene() != null && cell.isVisible()) {
                Bounds bounds = curves.sceneToLocal(cell.localToScene(cell.getBoundsInLocal()));
                places.put(id, bounds);
                where.append(id).append((int) bounds.getMinX()).append(',').append((int) bounds.getMinY());
            }
        });
        if (where.toString().equals(drawn)) {
            return;
        }
        drawn = where.toString();
        List<CubicCurve> now = new ArrayList<>();
        Map<Column, Integer> firsts = firstsShown();
        Set<Line> lines = new HashSet<>();
        for (Link link : rows.links()) {
            Bounds from = places.get(link.from().id());
            Bounds to = places.get(link.to().id());
            if (from != null || to != null) {
                Line line = line(link, from, to, firsts);
                // All that leads to rows beyond the edge is one line.
                if (lines.add(line)) {
                    now.add(curve(line));
                }
            }
        }
        curves.getChildren().setAll(now);
    }

    /** A line as it is drawn. */
    private record Line(
            double x0, double y0, double x1, double y1, boolean within, State state, boolean direct, boolean dim) {}

    private Line line(Link link, @Nullable Bounds from, @Nullable Bounds to, Map<Column, Integer> firsts) {
        boolean within = link.from().column() == link.to().column();
        boolean dim = lit.isPresent()
                && !(connected.contains(link.from().id())
                        && connected.contains(link.to().id()));
        return new Line(
                right(link.from(), from),
                from == null ? beyond(link.from(), firsts) : from.getCenterY(),
                within ? right(link.to(), to) : left(link.to(), to),
                to == null ? beyond(link.to(), firsts) : to.getCenterY(),
                within,
                link.state(),
                link.direct(),
                dim);
    }

    private static CubicCurve curve(Line line) {
        double x0 = line.x0();
        double y0 = line.y0();
        double x1 = line.x1();
        double y1 = line.y1();
        boolean within = line.within();
        double bend = within ? GAP / 2 : Math.max(24, (x1 - x0) / 2);
        CubicCurve curve = new CubicCurve(x0, y0, x0 + bend, y0, within ? x1 + bend : x1 - bend, y1, x1, y1);
        curve.getStyleClass().add("reach-line");
        if (line.state() != State.FINE) {
            curve.getStyleClass().add(word(line.state()));
        }
        if (!line.direct()) {
            curve.getStyleClass().add("through");
        }
        curve.pseudoClassStateChanged(DIM, line.dim());
        return curve;
    }

    private double right(Row row, @Nullable Bounds bounds) {
        return bounds != null ? bounds.getMaxX() : column(row).getMaxX();
    }

    private double left(Row row, @Nullable Bounds bounds) {
        return bounds != null ? bounds.getMinX() : column(row).getMinX();
    }

    private Bounds column(Row row) {
        Node list = lists.get(row.column());
        return curves.sceneToLocal(list.localToScene(list.getBoundsInLocal()));
    }

    /** The number of the first row in sight of each column. */
    private Map<Column, Integer> firstsShown() {
        Map<Column, Integer> firsts = new EnumMap<>(Column.class);
        lists.forEach((column, list) -> firsts.put(column, list.getItems().size()));
        shownCells.keySet().forEach(id -> {
            Place place = numbers.get(id);
            if (place != null) {
                firsts.merge(place.column(), place.number(), Math::min);
            }
        });
        return firsts;
    }

    /** Where a row would be that is scrolled out of sight: above or below its column. */
    private double beyond(Row row, Map<Column, Integer> firsts) {
        Place place = numbers.get(row.id());
        Bounds bounds = column(row);
        boolean above = place != null && place.number() < firsts.getOrDefault(row.column(), 0);
        return above ? bounds.getMinY() - BEYOND : bounds.getMaxY() + BEYOND;
    }

    private static String word(State state) {
        return state.name().toLowerCase(java.util.Locale.ROOT);
    }

    /** A version, a file, or a folder of files. */
    private final class RowCell extends ListCell<Row> {
        private @Nullable String shownAs;

        RowCell() {
            setOnMouseEntered(event -> {
                if (getItem() != null) {
                    light(Optional.of(getItem()));
                }
            });
            setOnMouseExited(event -> light(Optional.empty()));
            setOnMouseClicked(event -> {
                if (getItem() != null
                        && (event.getClickCount() == 2 || getItem().isFolder())) {
                    open(getItem());
                }
            });
        }

        @Override
        protected void updateItem(Row row, boolean empty) {
            super.updateItem(row, empty);
            if (shownAs != null && shownCells.get(shownAs) == this) {
                shownCells.remove(shownAs);
            }
            setText(null);
            setPrefWidth(1);
            getStyleClass().removeAll("behind", "unready", "folder");
            if (empty || row == null) {
                shownAs = null;
                setGraphic(null);
                pseudoClassStateChanged(DIM, false);
                return;
            }
            shownAs = row.id();
            shownCells.put(row.id(), this);
            if (row.state() != State.FINE) {
                getStyleClass().add(word(row.state()));
            }
            pseudoClassStateChanged(DIM, lit.isPresent() && !connected.contains(row.id()));
            Label count =
                    Controls.label(row.placements() == 0 ? "—" : Units.count(row.placements()) + " ×", Styles.FIGURE);
            count.setMinWidth(Region.USE_PREF_SIZE);
            VBox words = new VBox(Controls.path(row.title()), detail(row));
            words.setMinWidth(0);
            HBox.setHgrow(words, Priority.ALWAYS);
            HBox line = new HBox(6);
            line.setAlignment(Pos.CENTER_LEFT);
            if (row.isFolder()) {
                getStyleClass().add("folder");
                line.getChildren()
                        .add(new FontIcon(row.open() ? "remixal-arrow-down-s-line" : "remixal-arrow-right-s-line"));
            }
            line.getChildren().addAll(words, count);
            setGraphic(line);
            Controls.hint(this, hint(row));
        }

        /** The version or folder, and what is to be said of it. */
        private static Label detail(Row row) {
            String what = row.isFolder()
                    ? Units.counted(row.files(), "file")
                    : row.column() == Column.FILES ? String.valueOf(row.folder().getFileName()) : row.version();
            String state =
                    switch (row.state()) {
                        case FINE -> "";
                        case BEHIND -> " · behind";
                        case UNREADY -> " · not ready";
                    };
            String style =
                    switch (row.state()) {
                        case FINE -> Styles.FAINT;
                        case BEHIND -> Styles.CAUTION;
                        case UNREADY -> Styles.WRONG;
                    };
            return Controls.label(what + state, style, "detail");
        }

        private String hint(Row row) {
            if (row.isFolder()) {
                return row.path() + ": click to " + (row.open() ? "fold" : "show its files");
            }
            return row.column() == Column.FILES
                    ? row.path() + ": double-click for all that it uses"
                    : row.title() + " " + row.version() + ": double-click for all that uses it";
        }
    }
}
