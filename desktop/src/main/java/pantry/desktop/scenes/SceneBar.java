package pantry.desktop.scenes;

import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WrappingRow;
import pantry.desktop.view3d.View3d;

/** Above the view: the open scene's name, undo and saving, its alternates, and what is to be decided about it. */
final class SceneBar extends VBox {
    private final LeaveNote leaving;

    /**
     * What the view does.
     *
     * @param bringIn asks for a file to bring things in from
     * @param zoomTo brings what is selected near
     */
    record Actions(Runnable bringIn, Runnable zoomTo) {}

    /**
     * @param toolbar of the view below
     * @param written writes the scene for others
     */
    SceneBar(ScenesModel model, ViewToolbar toolbar, View3d view, SceneFiles written, Actions actions) {
        leaving = new LeaveNote(model);
        Label name = Controls.label("", Styles.TITLE);
        name.textProperty()
                .bind(Bindings.createStringBinding(
                        () -> model.sceneProperty()
                                .get()
                                .map(scene -> SceneNames.title(scene.file()))
                                .orElse(""),
                        model.sceneProperty()));
        Label unsaved = Controls.label("not saved", Styles.FAINT, "small");
        unsaved.visibleProperty().bind(model.changedProperty());
        unsaved.managedProperty().bind(model.changedProperty());
        VBox names = new VBox(name, unsaved);
        names.setAlignment(Pos.CENTER_LEFT);
        Button save = Controls.button("Save", "remixmz-save-line", "Save the scene (Ctrl+S)", model.keeping()::save);
        save.setId("save-scene");
        save.disableProperty().bind(model.changedProperty().not());
        Button close = Controls.button("", "remixal-close-line", "Close the scene", () -> leaving.leave(model::close));
        close.setId("close-scene");
        Button undo = Controls.button("", "remixal-arrow-go-back-line", "Undo (Ctrl+Z)", model::undo);
        undo.setId("undo");
        Button redo = Controls.button("", "remixal-arrow-go-forward-line", "Redo (Ctrl+Y)", model::redo);
        redo.setId("redo");
        Button into = Controls.button(
                "Bring in…",
                "remixal-download-2-line",
                "Take things in from another scene or file, as pictures of all it holds (Ctrl+B)",
                actions.bringIn());
        into.setId("bring-in");
        Button near =
                Controls.button("", "remixmz-zoom-in-line", "Show what is selected (Shift+Home)", actions.zoomTo());
        Button all = Controls.button("", "remixal-fullscreen-line", "Show everything (Home)", view::frameAll);
        for (Button button : new Button[] {undo, redo, near, all, close}) {
            button.getStyleClass().addAll(Styles.QUIET, "tight");
        }
        MenuButton more = new MenuButton("", new FontIcon("remixmz-share-forward-line"));
        more.setId("scene-hand-over");
        Controls.hint(more, "Write the scene for others: packed, as a model, or as one layer");
        more.getStyleClass().addAll(Styles.QUIET, "tight");
        more.setMinWidth(USE_PREF_SIZE);
        more.getItems()
                .setAll(
                        item("Pack with all that it names…", written::pack),
                        item("Export as a model…", written::export),
                        item("Flatten into one layer…", written::flatten));
        WrappingRow line = new WrappingRow(6, names, Controls.spring(), undo, redo, near, all, more, into, save, close);
        line.getStyleClass().addAll(Styles.PANEL, Styles.PANEL_TITLE);
        getChildren()
                .setAll(
                        line,
                        new WayLine(model, () -> leaving.leave(model::leaveSection)),
                        new AlternatesStrip(model, toolbar.focusRow()),
                        leaving,
                        new TroubleNote(model));
    }

    private static MenuItem item(String text, Runnable action) {
        MenuItem item = new MenuItem(text);
        item.setOnAction(event -> action.run());
        return item;
    }

    /** Goes on at once where all is saved; otherwise asks below the name. */
    void leave(Runnable then) {
        leaving.leave(then);
    }

    /** Asks no longer. */
    void stay() {
        leaving.setVisible(false);
    }
}
