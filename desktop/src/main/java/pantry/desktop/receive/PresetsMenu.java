package pantry.desktop.receive;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import pantry.intake.Presets;
import pantry.intake.Slip;

/** The choices that are kept under names, to be taken over by what is shown, and the keeping of these. */
final class PresetsMenu extends MenuButton {
    private final ReceiveModel model;
    private final Consumer<UnaryOperator<Slip>> change;
    private Optional<Arrival> shown = Optional.empty();

    /** @param change changes the slip of all that are shown */
    PresetsMenu(ReceiveModel model, Consumer<UnaryOperator<Slip>> change) {
        super("Presets");
        this.model = model;
        this.change = change;
        setId("slip-presets");
        setMinWidth(USE_PREF_SIZE);
        setOnShowing(event -> fill());
        getItems().setAll(new MenuItem("none kept yet"));
    }

    /** @param arrival whose choices may be kept */
    void show(Optional<Arrival> arrival) {
        shown = arrival;
    }

    private void fill() {
        List<MenuItem> items = new ArrayList<>();
        for (Presets.Named named : model.choices().presets()) {
            MenuItem item = new MenuItem(named.name());
            item.setOnAction(event -> change.accept(named.preset()::on));
            items.add(item);
        }
        if (!items.isEmpty()) {
            items.add(new SeparatorMenuItem());
        }
        TextField keepAs = new TextField();
        keepAs.setId("keep-preset");
        keepAs.setPromptText("keep these choices as\u2026");
        keepAs.setOnAction(event -> {
            if (!keepAs.getText().isBlank()) {
                shown.ifPresent(arrival ->
                        model.choices().keepPreset(arrival, keepAs.getText().strip()));
                hide();
            }
        });
        CustomMenuItem keep = new CustomMenuItem(keepAs, false);
        MenuItem usual = new MenuItem("Make these the shelf\u2019s usual choices");
        usual.setOnAction(event -> shown.ifPresent(model.choices()::makeUsual));
        keep.setDisable(shown.isEmpty());
        usual.setDisable(shown.isEmpty());
        items.add(keep);
        items.add(usual);
        getItems().setAll(items);
    }
}
