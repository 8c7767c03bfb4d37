package pantry.desktop.scenes;

import java.util.List;
import java.util.function.IntFunction;
import javafx.scene.Node;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;

/** Move, turn and scale below each other, x, y and z beside each other. */
final class FigureGrid extends GridPane {
    static final String MOVE = "move, m";
    static final String TURN = "turn, °";
    static final String SCALE = "scale, ×";

    /**
     * @param axis what stands above a column: 0 to 2
     * @param rows what stands before move, turn and scale
     * @param field of a figure, by its index in {@link PlaceFigures}
     */
    FigureGrid(IntFunction<Node> axis, List<Node> rows, IntFunction<Node> field) {
        setHgap(6);
        setVgap(6);
        getColumnConstraints().add(new ColumnConstraints(USE_PREF_SIZE, USE_COMPUTED_SIZE, USE_PREF_SIZE));
        for (int column = 0; column < 3; column++) {
            ColumnConstraints wide = new ColumnConstraints(40, 70, Double.MAX_VALUE);
            wide.setHgrow(Priority.ALWAYS);
            getColumnConstraints().add(wide);
            add(axis.apply(column), column + 1, 0);
        }
        for (int row = 0; row < 3; row++) {
            add(rows.get(row), 0, row + 1);
            for (int column = 0; column < 3; column++) {
                add(field.apply(row * 3 + column), column + 1, row + 1);
            }
        }
    }
}
