package pantry.desktop.controls;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javafx.beans.InvalidationListener;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import pantry.workbench.Settings.ColumnState;

/** Which columns of a table are shown, how wide and in what order: read from it and given to it again. */
public final class ColumnStates {
    private static final double LEAST = 24;
    private static final double MOST = 2000;

    private ColumnStates() {}

    /** The states of the columns that have a title. */
    public static List<ColumnState> of(TableView<?> table) {
        return table.getColumns().stream()
                .filter(column -> !column.getText().isEmpty())
                .map(column -> new ColumnState(column.getText(), column.getWidth(), column.isVisible()))
                .toList();
    }

    /** Gives the columns of these titles their states and order; others stay as they are, before them or behind. */
    public static <T> void give(TableView<T> table, List<ColumnState> states) {
        Map<String, TableColumn<T, ?>> byTitle = new HashMap<>();
        table.getColumns().stream()
                .filter(column -> !column.getText().isEmpty())
                .forEach(column -> byTitle.put(column.getText(), column));
        List<TableColumn<T, ?>> known = new ArrayList<>();
        for (ColumnState state : states) {
            TableColumn<T, ?> column = byTitle.remove(state.title());
            if (column != null) {
                column.setVisible(state.visible());
                column.setPrefWidth(Double.isFinite(state.width()) ? Math.clamp(state.width(), LEAST, MOST) : LEAST);
                known.add(column);
            }
        }
        List<TableColumn<T, ?>> ordered = new ArrayList<>(table.getColumns().stream()
                .filter(column -> column.getText().isEmpty())
                .toList());
        ordered.addAll(known);
        table.getColumns().stream()
                .filter(column -> byTitle.containsValue(column))
                .forEach(ordered::add);
        table.getColumns().setAll(ordered);
    }

    /** Calls somebody whenever a column is moved, shown, hidden or made wider. */
    public static void onChange(TableView<?> table, Runnable changed) {
        InvalidationListener listener = change -> changed.run();
        table.getColumns().addListener(listener);
        table.getColumns().forEach(column -> {
            column.widthProperty().addListener(listener);
            column.visibleProperty().addListener(listener);
        });
    }
}
