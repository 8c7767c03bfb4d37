package pantry.desktop.frame;

import java.util.EnumMap;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.LongSupplier;
import javafx.beans.Observable;
import javafx.beans.binding.Bindings;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.look.Controls;
import pantry.desktop.look.Styles;
import pantry.desktop.prep.PrepModel;
import pantry.desktop.receive.ReceiveModel;

/** The strip at the left: the workplaces, and a number where something waits. */
final class Rail extends VBox {
    private final Map<Workplace, ToggleButton> buttons = new EnumMap<>(Workplace.class);

    Rail(ReceiveModel receive, PrepModel prep, Consumer<Workplace> go) {
        getStyleClass().add(Styles.RAIL);
        ToggleGroup group = new ToggleGroup();
        for (Workplace place : Workplace.values()) {
            ToggleButton button = new ToggleButton(place.word(), new FontIcon(place.icon()));
            button.setId("rail-" + place.word());
            button.getStyleClass().setAll(Styles.RAIL_BUTTON);
            button.setToggleGroup(group);
            button.setTooltip(new Tooltip(place.hint() + " (Ctrl+" + (place.ordinal() + 1) + ")"));
            button.setOnAction(event -> {
                // A second click must not let go of the workplace.
                button.setSelected(true);
                go.accept(place);
            });
            buttons.put(place, button);
            getChildren()
                    .add(
                            switch (place) {
                                case RECEIVE -> withBadge(button, receive::waiting, receive.arrivals());
                                case PREP -> withBadge(button, prep::waiting, prep.subjects());
                                default -> button;
                            });
        }
    }

    /** A button with the number of things that wait there. */
    private static StackPane withBadge(ToggleButton button, LongSupplier waiting, Observable changes) {
        Label badge = Controls.label("", "badge");
        badge.setMouseTransparent(true);
        badge.textProperty().bind(Bindings.createStringBinding(() -> Long.toString(waiting.getAsLong()), changes));
        badge.visibleProperty().bind(Bindings.createBooleanBinding(() -> waiting.getAsLong() > 0, changes));
        StackPane stack = new StackPane(button, badge);
        StackPane.setAlignment(badge, Pos.TOP_RIGHT);
        StackPane.setMargin(badge, new Insets(4, 12, 0, 0));
        return stack;
    }

    /** Marks the workplace that is open. */
    void show(Workplace place) {
        buttons.get(place).setSelected(true);
    }
}
