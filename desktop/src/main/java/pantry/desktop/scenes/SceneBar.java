package pantry.desktop.scenes;

import java.nio.file.Path;
import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.base.Names;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.view3d.View3d;

/** Above the view: the open scene's name, undo and saving, its alternates, and what is to be decided about it. */
final class SceneBar extends VBox {
    private final LeaveNote leaving;

    /**
     * @param toolbar of the view below
     * @param bringIn asks for a file to bring things in from
     * @param zoomTo brings what is selected near
     */
    SceneBar(ScenesModel model, ViewToolbar toolbar, View3d view, Runnable bringIn, Runnable zoomTo) {
        leaving = new LeaveNote(model);
        Label name = Controls.label("", Styles.TITLE);
        name.textProperty()
                .bind(Bindings.createStringBinding(
                        () -> model.sceneProperty()
                                .get()
                                .map(scene -> title(scene.file()))
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
        Button close =
                Controls.button("Close", "remixal-close-line", "Close the scene", () -> leaving.leave(model::close));
        close.setId("close-scene");
        Button undo = Controls.button("", "remixal-arrow-go-back-line", "Undo (Ctrl+Z)", model::undo);
        undo.setId("undo");
        Button redo = Controls.button("", "remixal-arrow-go-forward-line", "Redo (Ctrl+Y)", model::redo);
        redo.setId("redo");
        Button into = Controls.button(
                "Bring in…",
                "remixal-download-2-line",
                "Take things in from another scene or file, as pictures of all it holds (Ctrl+B)",
                bringIn);
        into.setId("bring-in");
        Button near = Controls.button("", "remixmz-zoom-in-line", "Show what is selected (Shift+Home)", zoomTo);
        Button all = Controls.button("", "remixal-fullscreen-line", "Show everything (Home)", view::frameAll);
        for (Button button : new Button[] {undo, redo, near, all, close}) {
            button.getStyleClass().addAll(Styles.QUIET, "tight");
        }
        HBox line = new HBox(6, names, Controls.spring(), undo, redo, near, all, into, save, close);
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().addAll(Styles.PANEL, Styles.PANEL_TITLE);
        getChildren()
                .setAll(
                        line,
                        new WayLine(model),
                        new AlternatesStrip(model, toolbar.focusRow()),
                        leaving,
                        new TroubleNote(model));
    }

    /** Goes on at once where all is saved; otherwise asks below the name. */
    void leave(Runnable then) {
        leaving.leave(then);
    }

    /** Asks no longer. */
    void stay() {
        leaving.setVisible(false);
    }

    /** The name of a scene as it is shown: its file's, without the ending. */
    static String title(Path file) {
        return Names.stem(file.getFileName().toString());
    }
}
