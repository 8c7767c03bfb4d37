package pantry.desktop.shelves;

import java.io.IOException;
import java.io.StringWriter;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import javafx.beans.InvalidationListener;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.ListChangeListener;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableCell;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableRow;
import javafx.scene.control.TableView;
import javafx.scene.image.ImageView;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.util.Duration;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.NaturalOrder;
import pantry.base.PantryException;
import pantry.base.ReportTable;
import pantry.base.Timestamps;
import pantry.catalogue.Finder;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.ColumnStates;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WhileShown;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.Units;
import pantry.workbench.Settings;

/** Assets as a table, whose columns can be chosen, moved and sorted by; it can be copied and written as CSV. */
final class ItemTable extends TableView<IndexedAsset> {
    /** What takes the room that other columns leave. */
    private static final Set<String> WORDY = Set.of("Name", "Shelf", "Tags");

    /** Left for the scroll bar. */
    private static final double BAR = 18;

    private static final double PICTURE = 36;
    private static final Duration REST = Duration.seconds(1);

    private final ShelvesModel model;
    private final List<Column<?>> columns = new ArrayList<>();
    private boolean choosing;

    /**
     * A column's figure or text.
     *
     * @param shown as a person reads it, with its unit
     * @param plain as a spreadsheet reads it
     */
    private record Column<T>(
            TableColumn<IndexedAsset, T> column,
            Function<IndexedAsset, String> shown,
            Function<IndexedAsset, String> plain) {}

    /** The room that columns have beyond their own widths. */
    private double given;

    ItemTable(ShelvesModel model, AssetPictures thumbs, AssetDrag drag) {
        this.model = model;
        setId("shelf-table");
        getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        setTableMenuButtonVisible(true);
        setFixedCellSize(PICTURE + 6);
        getColumns().add(pictures(thumbs));
        text("Name", 150, IndexedAsset::name, true);
        text("Kind", 70, IndexedAsset::kind, true);
        text("Shelf", 130, item -> item.shelf().replace("/", " / "), true);
        ofSurface("Triangles", 96, IndexedAsset::triangles, item -> Units.count(item.triangles()), true);
        ofSurface("Width", 80, item -> item.size()[0], item -> Units.length(item.size()[0]), false);
        ofSurface("Height", 80, item -> item.size()[1], item -> Units.length(item.size()[1]), true);
        ofSurface("Depth", 80, item -> item.size()[2], item -> Units.length(item.size()[2]), false);
        text("Version", 70, IndexedAsset::version, true);
        text("Status", 70, IndexedAsset::status, true);
        text("Tags", 150, item -> String.join(", ", item.tags()), true);
        text("Licence", 90, item -> item.licence().isEmpty() ? "none" : item.licence(), false);
        text("Credit", 120, IndexedAsset::credit, false);
        text("Notes", 160, IndexedAsset::notes, false);
        text("Materials", 150, item -> String.join(", ", item.materials()), false);
        text("Colours", 90, item -> String.join(", ", item.colours()), false);
        figure(
                "Changed",
                130,
                IndexedAsset::changed,
                item -> Timestamps.minutes(Instant.ofEpochMilli(item.changed())),
                false);
        text(
                "Found by",
                120,
                item -> Finder.reason(model.search().queryProperty().get(), item),
                false);
        text(
                "Library",
                110,
                item -> model.session().shelving().at(item.library()).info().name(),
                false);
        ColumnStates.give(this, model.session().workbench().settings().table());
        Runnable keep = WhileShown.afterRest(this, REST, () -> {
            List<Settings.ColumnState> now = ColumnStates.of(this);
            model.session().changeSettings(settings -> settings.withTable(now));
        });
        ColumnStates.onChange(this, keep);
        widthProperty().addListener(change -> useRoom());
        getVisibleLeafColumns().addListener((InvalidationListener) change -> useRoom());
        setRowFactory(table -> row(drag));
        getSelectionModel().getSelectedItems().addListener((ListChangeListener<IndexedAsset>) change -> {
            if (!choosing) {
                List<IndexedAsset> chosen = List.copyOf(getSelectionModel().getSelectedItems());
                choosing = true;
                model.choose(chosen, Optional.ofNullable(getSelectionModel().getSelectedItem()));
                choosing = false;
            }
        });
        model.chosenProperty().addListener(change -> showChosen());
        setPlaceholder(Controls.label("Nothing is found.", Styles.FAINT));
    }

    /** Gives the room that is left to the columns that hold words, and takes it back where there is less. */
    private void useRoom() {
        List<TableColumn<IndexedAsset, ?>> wordy = getVisibleLeafColumns().stream()
                .filter(column -> WORDY.contains(column.getText()))
                .toList();
        double taken = getVisibleLeafColumns().stream()
                .mapToDouble(TableColumn::getWidth)
                .sum();
        double more = Math.max(getWidth() - BAR - taken, -given);
        if (wordy.isEmpty() || getWidth() <= BAR || Math.abs(more) < 1) {
            return;
        }
        given += more;
        wordy.forEach(column -> column.setPrefWidth(column.getWidth() + more / wordy.size()));
    }

    private TableRow<IndexedAsset> row(AssetDrag drag) {
        TableRow<IndexedAsset> row = new TableRow<>();
        row.itemProperty().addListener((property, before, now) -> {
            if (now != null) {
                drag.from(row, now);
            }
        });
        return row;
    }

    private static TableColumn<IndexedAsset, IndexedAsset> pictures(AssetPictures thumbs) {
        TableColumn<IndexedAsset, IndexedAsset> column = new TableColumn<>("");
        column.setPrefWidth(PICTURE + 14);
        column.setSortable(false);
        column.setReorderable(false);
        column.setCellValueFactory(cell -> new ReadOnlyObjectWrapper<>(cell.getValue()));
        column.setCellFactory(cells -> new TableCell<>() {
            private final ImageView picture = new ImageView();

            {
                picture.setFitHeight(PICTURE);
                picture.setFitWidth(PICTURE);
            }

            @Override
            protected void updateItem(IndexedAsset item, boolean empty) {
                super.updateItem(item, empty);
                picture.setImage(empty || item == null ? null : thumbs.get(item));
                setGraphic(empty ? null : picture);
            }
        });
        return column;
    }

    private void text(String title, double width, Function<IndexedAsset, String> text, boolean visible) {
        add(column(title, width, visible), new Cells<>(text, NaturalOrder.BY_NAME, text, text, false));
    }

    private <N extends Number & Comparable<N>> void figure(
            String title,
            double width,
            Function<IndexedAsset, N> number,
            Function<IndexedAsset, String> shown,
            boolean visible) {
        Function<IndexedAsset, String> plain = item -> String.valueOf(number.apply(item));
        add(column(title, width, visible), new Cells<>(number, Comparator.naturalOrder(), shown, plain, true));
    }

    /** What only assets with surfaces of their own have; the others' cells are empty. */
    private <N extends Number & Comparable<N>> void ofSurface(
            String title,
            double width,
            Function<IndexedAsset, N> number,
            Function<IndexedAsset, String> shown,
            boolean visible) {
        figure(title, width, number, item -> item.hasSurface() ? shown.apply(item) : "", visible);
    }

    private static <T> TableColumn<IndexedAsset, T> column(String title, double width, boolean visible) {
        TableColumn<IndexedAsset, T> column = new TableColumn<>(title);
        column.setPrefWidth(width);
        column.setVisible(visible);
        return column;
    }

    /**
     * What stands in a column.
     *
     * @param value by which it is sorted
     * @param plain for tables written to files
     * @param figure whether it is one, which stands on the right
     */
    private record Cells<T>(
            Function<IndexedAsset, T> value,
            Comparator<T> order,
            Function<IndexedAsset, String> shown,
            Function<IndexedAsset, String> plain,
            boolean figure) {}

    private <T> void add(TableColumn<IndexedAsset, T> column, Cells<T> cells) {
        column.setStyle("-fx-alignment: center-" + (cells.figure() ? "right" : "left") + ";");
        column.setComparator(cells.order());
        column.setCellValueFactory(
                cell -> new ReadOnlyObjectWrapper<>(cells.value().apply(cell.getValue())));
        column.setCellFactory(shownIn -> new TableCell<>() {
            @Override
            protected void updateItem(T figure, boolean empty) {
                super.updateItem(figure, empty);
                IndexedAsset item = getTableRow() == null ? null : getTableRow().getItem();
                setText(empty || item == null ? null : cells.shown().apply(item));
                getStyleClass().remove(Styles.FIGURE);
                if (cells.figure()) {
                    getStyleClass().add(Styles.FIGURE);
                }
            }
        });
        columns.add(new Column<>(column, cells.shown(), cells.plain()));
        getColumns().add(column);
    }

    private void showChosen() {
        if (choosing) {
            return;
        }
        choosing = true;
        getSelectionModel().clearSelection();
        for (IndexedAsset item : model.chosenProperty().get()) {
            getSelectionModel().select(item);
        }
        choosing = false;
    }

    /** Shows what the model shows now, sorted as the columns say. */
    void layOut() {
        choosing = true;
        List<IndexedAsset> items = new ArrayList<>(model.search().items());
        if (getComparator() != null) {
            items.sort(getComparator());
        }
        getItems().setAll(items);
        choosing = false;
        showChosen();
    }

    /** The columns that are seen, in the order in which they stand. */
    private List<Column<?>> seen() {
        return getVisibleLeafColumns().stream()
                .flatMap(column -> columns.stream().filter(each -> each.column() == column))
                .toList();
    }

    private String csv(List<IndexedAsset> items, CSVFormat format) {
        List<Column<?>> seen = seen();
        StringWriter text = new StringWriter();
        try (CSVPrinter printer = new CSVPrinter(text, format)) {
            printer.printRecord(
                    seen.stream().map(each -> heading(each.column().getText())).toList());
            for (IndexedAsset item : items) {
                printer.printRecord(seen.stream()
                        .map(each -> ReportTable.harmless(each.plain().apply(item)))
                        .toList());
            }
        } catch (IOException e) {
            throw new java.io.UncheckedIOException("writing to memory failed", e);
        }
        return text.toString();
    }

    /** Lengths are metres where nobody can say so beside each figure. */
    private static String heading(String title) {
        return switch (title) {
            case "Width", "Height", "Depth" -> title + " (m)";
            case "Changed" -> "Changed (ms since 1970)";
            default -> title;
        };
    }

    /** Copies the chosen lines, or all, with their headings, as a spreadsheet takes them. */
    void copy() {
        List<IndexedAsset> items = getSelectionModel().getSelectedItems().size() > 1
                ? getSelectionModel().getSelectedItems()
                : getItems();
        ClipboardContent content = new ClipboardContent();
        content.putString(csv(items, CSVFormat.TDF));
        Clipboard.getSystemClipboard().setContent(content);
    }

    /** Writes all lines as CSV. */
    void write(Path file) {
        try {
            AtomicFiles.write(file, csv(getItems(), CSVFormat.RFC4180));
        } catch (IOException e) {
            throw new PantryException(file, "the table cannot be written: " + IoProblems.describe(e), e);
        }
    }
}
