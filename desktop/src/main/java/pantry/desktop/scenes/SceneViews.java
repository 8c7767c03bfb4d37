package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.ComboBox;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.RowConstraints;
import javafx.scene.layout.StackPane;
import pantry.desktop.controls.Controls;
import pantry.desktop.session.FxThread;
import pantry.desktop.view3d.View3d;
import pantry.render.Camera;

/** One view of the scene, two, or four: from above, from the front, from the side, all of the same. */
final class SceneViews extends GridPane {
    private final ComboBox<String> split;
    private final StackPane main;
    private final View3d view;
    private final Pick onPick;
    private final List<View3d> others = new ArrayList<>();

    /** What is done with a click in one of the views. */
    interface Pick {
        /** @param owner what is drawn there; empty beside everything */
        void picked(View3d at, Optional<String> owner, MouseEvent event);
    }

    /**
     * @param split chooses how many views there are
     * @param main the first view, with what lies over it
     */
    SceneViews(ComboBox<String> split, StackPane main, View3d view, Pick onPick) {
        this.split = split;
        this.main = main;
        this.view = view;
        this.onPick = onPick;
        split.getItems().setAll("1 view", "2 views", "4 views");
        split.setValue("1 view");
        split.setId("look-split");
        split.getStyleClass().add("small");
        Controls.hint(split, "The same from above, from the front and from the side");
        setHgap(2);
        setVgap(2);
        getStyleClass().add("views");
        split.valueProperty().addListener(change -> layOut());
        layOut();
    }

    private void layOut() {
        int count = new int[] {1, 2, 4}[split.getItems().indexOf(split.getValue())];
        while (others.size() < count - 1) {
            others.add(other(others.size()));
        }
        getChildren().clear();
        getColumnConstraints().clear();
        getRowConstraints().clear();
        int columns = count == 1 ? 1 : 2;
        for (int i = 0; i < columns; i++) {
            ColumnConstraints column = new ColumnConstraints();
            column.setPercentWidth(100.0 / columns);
            getColumnConstraints().add(column);
        }
        for (int i = 0; i < (count == 4 ? 2 : 1); i++) {
            RowConstraints row = new RowConstraints();
            row.setPercentHeight(count == 4 ? 50 : 100);
            getRowConstraints().add(row);
        }
        add(main, 0, 0);
        for (int i = 1; i < count; i++) {
            View3d other = others.get(i - 1);
            add(other, i % 2, i / 2);
            FxThread.later(other::frameAll);
        }
    }

    private View3d other(int number) {
        View3d other = new View3d();
        other.setId("scene-view-" + (number + 2));
        double[][] from = {{0, 89.9}, {0, 0}, {90, 0}};
        other.cameraProperty()
                .set(Camera.START.from(from[number][0], from[number][1]).parallel(true));
        other.drawnProperty().bind(view.drawnProperty());
        other.optionsProperty().bind(view.optionsProperty());
        other.setOnPick((owner, event) -> onPick.picked(other, owner, event));
        return other;
    }
}
