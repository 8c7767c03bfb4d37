package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;

/** How often each of several objects is used in a layout, compared with the others. Not seen where there is only one. */
final class ShareRows extends VBox {
    private final List<TextField> fields = new ArrayList<>();
    private List<String> shown = List.of();

    ShareRows() {
        super(6);
        managedProperty().bind(visibleProperty());
        setVisible(false);
    }

    /**
     * Shows a row for each object; where these are the same as before, what was typed stays.
     *
     * @param shares of them; empty for all alike
     */
    void show(List<String> names, List<Double> shares) {
        if (names.equals(shown) && shares.isEmpty()) {
            return;
        }
        shown = List.copyOf(names);
        fields.clear();
        getChildren().clear();
        setVisible(names.size() > 1);
        if (names.size() < 2) {
            return;
        }
        getChildren().add(Controls.label("How often each is used", Styles.FAINT, "small"));
        for (int i = 0; i < names.size(); i++) {
            TextField field = new TextField(Figures.show(i < shares.size() ? shares.get(i) : 1));
            field.getStyleClass().add("number-field");
            field.setId("layout-share-" + (i + 1));
            field.setPrefColumnCount(4);
            field.setMaxWidth(64);
            field.setAccessibleText("share of " + names.get(i));
            Controls.hint(field, "3 beside a 1 uses it three times as often; sums are worked out");
            Label name = Controls.label(names.get(i));
            name.setMaxWidth(Double.MAX_VALUE);
            HBox.setHgrow(name, Priority.ALWAYS);
            HBox row = new HBox(6, name, field);
            row.setAlignment(Pos.CENTER_LEFT);
            fields.add(field);
            getChildren().add(row);
        }
    }

    /** The shares as they stand there: empty for one object; none where one of them is no figure above 0. */
    Optional<List<Double>> shares() {
        List<Double> shares = new ArrayList<>();
        for (TextField field : fields) {
            Optional<Double> share = Figures.typed(field.getText(), 0).filter(figure -> figure > 0);
            if (share.isEmpty()) {
                return Optional.empty();
            }
            shares.add(share.get());
        }
        return Optional.of(shares);
    }

    /** The field that has no figure above 0 in it. */
    Optional<TextField> wrong() {
        return fields.stream()
                .filter(field -> Figures.typed(field.getText(), 0)
                        .filter(figure -> figure > 0)
                        .isEmpty())
                .findFirst();
    }
}
