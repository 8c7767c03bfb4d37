package pantry.desktop.scenes;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.scene.Drawers;
import pantry.scene.Scene;

/** The scene's drawers: each with its number of objects, and whether it is shown, locked and loaded. */
final class DrawersPane extends VBox {
    private final ScenesModel model;
    private final ListView<Drawers.Drawer> list = new ListView<>();
    private final TextField name = new TextField();

    DrawersPane(ScenesModel model) {
        this.model = model;
        list.setId("drawers");
        list.setAccessibleText("Drawers");
        list.setPrefHeight(132);
        list.setMinHeight(60);
        list.setPlaceholder(Controls.wrapped(
                "Put what is selected into a drawer, to show, hide, lock or load it together.", Styles.FAINT));
        list.setCellFactory(cells -> new DrawerCell());
        name.setId("drawer-name");
        name.setPromptText("Drawer");
        HBox.setHgrow(name, Priority.ALWAYS);
        Button put = Controls.button("Put in", "remixal-inbox-archive-line", "Put what is selected into it", this::put);
        put.setId("drawer-put");
        name.setOnAction(event -> put());
        HBox make = new HBox(8, name, put);
        make.getStyleClass().add("pane-row");
        Label title = Controls.label("Drawers", Styles.SECTION);
        title.getStyleClass().add("pane-row");
        getChildren().setAll(title, list, make);
        VBox.setVgrow(list, Priority.ALWAYS);
        model.shownProperty().addListener(change -> update());
    }

    private void put() {
        String wanted = name.getText().isBlank()
                ? Optional.ofNullable(list.getSelectionModel().getSelectedItem())
                        .map(Drawers.Drawer::name)
                        .orElse("")
                : name.getText().strip();
        if (!wanted.isEmpty()) {
            model.drawers().put(wanted);
            name.clear();
        }
    }

    private void update() {
        List<Drawers.Drawer> all =
                model.sceneProperty().get().map(open -> open.drawers().all()).orElse(List.of());
        if (!all.equals(list.getItems())) {
            list.getItems().setAll(all);
        }
        list.refresh();
    }

    /** A drawer, with switches that say by a word and a sign what holds. */
    private final class DrawerCell extends ListCell<Drawers.Drawer> {
        DrawerCell() {
            setPrefWidth(1);
        }

        @Override
        protected void updateItem(Drawers.Drawer drawer, boolean empty) {
            super.updateItem(drawer, empty);
            setText(null);
            Optional<Scene> open = model.sceneProperty().get();
            if (empty || drawer == null || open.isEmpty()) {
                setGraphic(null);
                return;
            }
            Drawers.State state = open.get().drawers().state(drawer.name());
            Label title = Controls.label(drawer.name().replace('_', ' '));
            Label count = Controls.label(String.valueOf(drawer.members().size()), Styles.FIGURE, Styles.FAINT);
            count.setMinWidth(USE_PREF_SIZE);
            ToggleButton shown = toggle(
                    state.hidden() ? "remixal-eye-off-line" : "remixal-eye-line",
                    state.hidden() ? "Show it" : "Hide it",
                    !state.hidden(),
                    () -> model.drawers()
                            .set(drawer.name(), new Drawers.State(!state.hidden(), state.locked(), state.unloaded())));
            ToggleButton locked = toggle(
                    state.locked() ? "remixal-lock-line" : "remixal-lock-unlock-line",
                    state.locked() ? "Unlock it" : "Lock it, so that nothing in it is moved",
                    !state.locked(),
                    () -> model.drawers()
                            .set(drawer.name(), new Drawers.State(state.hidden(), !state.locked(), state.unloaded())));
            ToggleButton loaded = toggle(
                    state.unloaded() ? "remixmz-stop-circle-line" : "remixal-download-2-line",
                    state.unloaded() ? "Load it" : "Unload it: nothing of what it refers to is read",
                    !state.unloaded(),
                    () -> model.drawers()
                            .set(drawer.name(), new Drawers.State(state.hidden(), state.locked(), !state.unloaded())));
            Button take = Controls.button(
                    "", "remixal-close-line", "Remove the drawer; what is in it stays", () -> model.drawers()
                            .remove(drawer.name()));
            take.getStyleClass().addAll(Styles.QUIET, "small");
            HBox line = new HBox(4, title, count, Controls.spring(), shown, locked, loaded, take);
            line.setAlignment(Pos.CENTER_LEFT);
            setGraphic(line);
            setOnMouseClicked(event -> {
                if (event.getClickCount() == 2) {
                    model.selectionProperty().set(new LinkedHashSet<>(drawer.members()));
                }
            });
            Controls.hint(this, "Double-click selects what is in it");
        }
    }

    private static ToggleButton toggle(String icon, String hint, boolean on, Runnable action) {
        ToggleButton toggle = new ToggleButton(null, new FontIcon(icon));
        toggle.getStyleClass().addAll("small", "sign-toggle");
        toggle.setSelected(on);
        Controls.hint(toggle, hint);
        toggle.setAccessibleText(hint);
        toggle.setOnAction(event -> action.run());
        return toggle;
    }
}
