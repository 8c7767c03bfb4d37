package pantry.desktop.frame;

import java.util.HashMap;
import java.util.Map;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.LongExpression;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.desktop.workplace.Workplace;

/** The strip at the left: the workplaces, and a number where something waits. */
final class Rail extends VBox {
    private final Map<Workplace, ToggleButton> buttons = new HashMap<>();

    Rail(Navigator navigator) {
        getStyleClass().add(Styles.RAIL);
        ToggleGroup group = new ToggleGroup();
        int number = 1;
        for (Workplace workplace : navigator.workplaces()) {
            ToggleButton button = new ToggleButton(workplace.name(), new FontIcon(workplace.icon()));
            button.setId("rail-" + workplace.name());
            button.getStyleClass().setAll(Styles.RAIL_BUTTON);
            button.setToggleGroup(group);
            Controls.hint(button, workplace.hint() + " (Ctrl+" + number++ + ")");
            button.setOnAction(event -> {
                // A second click must not let go of the workplace.
                button.setSelected(true);
                navigator.go(workplace);
            });
            buttons.put(workplace, button);
            getChildren().add(withBadge(button, workplace.waiting()));
        }
    }

    /** A button with the number of things that wait there. */
    private static StackPane withBadge(ToggleButton button, LongExpression waiting) {
        Label badge = Controls.label("", "badge");
        badge.setMouseTransparent(true);
        badge.textProperty().bind(Bindings.createStringBinding(() -> Units.brief(waiting.get()), waiting));
        badge.visibleProperty().bind(waiting.greaterThan(0));
        StackPane stack = new StackPane(button, badge);
        StackPane.setAlignment(badge, Pos.TOP_RIGHT);
        StackPane.setMargin(badge, new Insets(4, 12, 0, 0));
        return stack;
    }

    /** Marks the workplace that is open. */
    void show(Workplace workplace) {
        buttons.get(workplace).setSelected(true);
    }
}
