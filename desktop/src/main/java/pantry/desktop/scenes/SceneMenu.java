package pantry.desktop.scenes;

import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Control;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.input.KeyCombination;
import pantry.usd.SdfPath;

/** What can be done with what is selected, on the other button: in the view and in the list of objects alike. */
final class SceneMenu extends ContextMenu {
    private final ScenesModel model;
    private final Consumer<SdfPath> enter;

    /** @param enter goes into an object */
    SceneMenu(ScenesModel model, Consumer<SdfPath> enter) {
        this.model = model;
        this.enter = enter;
        setOnShowing(event -> fill());
        // So that it has something to show before it is filled for the first time.
        getItems().setAll(new MenuItem(""));
    }

    private void fill() {
        SceneSelection selection = model.selection();
        SelectionEdits edits = model.edits();
        boolean any = !selection.isEmpty();
        boolean parts = selection.isOfParts();
        Optional<SdfPath> enterable = selection.lastChosen().filter(selection::canEnter);
        MenuItem in = item("Go in", "Enter", () -> enterable.ifPresent(enter), enterable.isPresent());
        MenuItem out = item(
                "Go out",
                "Esc",
                selection::leave,
                selection.insideProperty().get().isPresent());
        Menu select = new Menu("Select");
        select.getItems()
                .setAll(
                        item("Everything here", "Shortcut+A", selection::selectAll, true),
                        item("The others here", "Shortcut+I", selection::selectOthers, true),
                        item("All of the same asset", "Shift+S", selection::selectSameAsset, any && !parts),
                        item("All of the same material", "", model::selectSameMaterial, any && !parts),
                        item("All in the same drawer", "", selection::selectSameDrawer, any && !parts),
                        item("What hangs on it", "Alt+Down", selection::selectChildren, any && !parts),
                        item("What it hangs on", "Alt+Up", selection::selectAbove, any && !parts));
        getItems()
                .setAll(
                        in,
                        out,
                        select,
                        new SeparatorMenuItem(),
                        item("Copy", "Shortcut+C", edits::copy, any && !parts),
                        item("Cut", "Shortcut+X", edits::cut, any && !parts),
                        item("Paste", "Shortcut+V", edits::paste, true),
                        item("Once more", "Shortcut+D", edits::duplicateSelected, any && !parts),
                        item("Copy as its own", "Shortcut+Shift+D", edits::copyAsOwn, any && !parts),
                        new SeparatorMenuItem(),
                        item("Hide", "", () -> edits.hide(true), any),
                        item("Show", "", () -> edits.hide(false), any),
                        item("Alone, or everything again", "I", model.display()::isolate, any || isIsolated()),
                        item("Group", "Shortcut+G", () -> edits.group("Group"), any && !parts),
                        item("Take apart", "Shortcut+Shift+G", edits::ungroup, any && !parts),
                        item("Drop onto what is below", "Shift+D", edits::drop, any && !parts),
                        item("Break out", "", edits::breakOut, any && !parts),
                        new SeparatorMenuItem(),
                        item(parts ? "Hide" : "Remove", "Delete", edits::removeSelected, any));
    }

    private boolean isIsolated() {
        return !model.display().isolatedProperty().get().isEmpty();
    }

    /** @param key as {@link KeyCombination#valueOf} reads it; empty for none. It is only told: the window handles it */
    private static MenuItem item(String text, String key, Runnable action, boolean possible) {
        MenuItem item = new MenuItem(text);
        if (!key.isEmpty()) {
            item.setAccelerator(KeyCombination.valueOf(key));
        }
        item.setOnAction(event -> action.run());
        item.setDisable(!possible);
        return item;
    }

    /** Shows it where it is asked for; a menu that belonged to a control would take its keys from the window. */
    static void on(Control control, ScenesModel model, Consumer<SdfPath> enter) {
        SceneMenu menu = new SceneMenu(model, enter);
        control.setOnContextMenuRequested(event -> {
            menu.show(control, event.getScreenX(), event.getScreenY());
            event.consume();
        });
    }
}
