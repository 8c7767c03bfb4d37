package pantry.desktop.scenes;

import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.layout.HBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;

/** Asks above the view what is to become of changes before the scene is left. */
final class LeaveNote extends HBox {
    private final ScenesModel model;

    LeaveNote(ScenesModel model) {
        super(8);
        this.model = model;
        setAlignment(Pos.CENTER_LEFT);
        getStyleClass().addAll("note-box", "caution");
        managedProperty().bind(visibleProperty());
        setVisible(false);
    }

    /** Goes on at once where all is saved; otherwise asks. */
    void leave(Runnable then) {
        if (!model.changedProperty().get()) {
            then.run();
            return;
        }
        Button save = Controls.button("Save and go on", "", "", () -> {
            setVisible(false);
            model.keeping().save(then);
        });
        save.getStyleClass().add(Styles.PRIMARY);
        Button drop = Controls.button("Give up the changes", "", "", () -> {
            setVisible(false);
            model.keeping().giveUp();
            then.run();
        });
        Button stay = Controls.button("Stay", "", "", () -> setVisible(false));
        getChildren()
                .setAll(
                        new FontIcon("remixal-alert-line"),
                        Controls.label("The scene has changes that are not saved."),
                        Controls.spring(),
                        save,
                        drop,
                        stay);
        setVisible(true);
    }
}
