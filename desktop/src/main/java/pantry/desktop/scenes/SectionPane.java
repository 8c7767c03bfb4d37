package pantry.desktop.scenes;

import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.scene.Placement;
import pantry.usd.SdfPath;

/** A scene's parts in files of their own: cut out, opened where they stand, held, and taken back. */
final class SectionPane extends VBox {
    private final ScenesModel model;
    private final Consumer<SdfPath> enter;

    /** @param enter opens a section where it stands */
    SectionPane(ScenesModel model, Consumer<SdfPath> enter) {
        super(8);
        this.model = model;
        this.enter = enter;
    }

    /** @param placement the one that is selected; a section, or something else, which can be cut out */
    void show(Optional<Placement> placement) {
        Optional<Placement> section = placement.filter(each -> model.isSection(each.path()));
        getChildren().setAll(Controls.section("As a section of the scene"));
        if (section.isPresent()) {
            getChildren().addAll(open(section.get()), held(section.get()));
        } else {
            getChildren().add(cut());
        }
    }

    private VBox cut() {
        TextField name = new TextField();
        name.setId("section-name");
        name.setPromptText("its name");
        Button cut = Controls.button(
                "Cut out",
                "remixmz-scissors-cut-line",
                "Write what is selected into a file of its own, which the scene then references",
                () -> model.exports().cutSection(name.getText().strip()));
        cut.setId("section-cut");
        cut.disableProperty().bind(name.textProperty().isEmpty());
        return new VBox(6, name, cut);
    }

    /** Opens a section in its own file. */
    Button open(Placement section) {
        Button open = Controls.button(
                "Open where it stands",
                "remixal-login-box-line",
                "Work on it in its own file, " + section.layer().getFileName()
                        + ", with the scene around it (a double click)",
                () -> enter.accept(section.path()));
        open.setId("section-open");
        open.getStyleClass().add(Styles.PRIMARY);
        return open;
    }

    private VBox held(Placement section) {
        String holder = model.sceneProperty()
                .get()
                .flatMap(open -> open.sections().holder(section.path()))
                .map(hold -> "held by " + hold.who())
                .orElse("held by nobody");
        Button join =
                small("Take back", "Take the section's contents back into the scene", model.exports()::joinSections);
        join.setId("section-join");
        Button hold = small("Hold", "Hold it for yourself, so that nobody else works on it", () -> hold(true));
        hold.setId("section-hold");
        Button free = small("Let go", "Let others work on it", () -> hold(false));
        return new VBox(
                6,
                Controls.wrapped(section.layer().getFileName() + ", " + holder, Styles.FAINT),
                new HBox(6, join, hold, free));
    }

    private void hold(boolean wanted) {
        model.exports().hold(wanted);
        model.sections().look();
    }

    private static Button small(String text, String hint, Runnable action) {
        Button button = Controls.button(text, "", hint, action);
        button.getStyleClass().add("small");
        return button;
    }
}
