package pantry.desktop.scenes;

import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.scene.Difference;
import pantry.scene.Safekeeping;

/** Says above the view what became of the open scene's file, and what can be done. */
final class TroubleNote extends VBox {
    private final ScenesModel model;

    TroubleNote(ScenesModel model) {
        super(6);
        this.model = model;
        setId("scene-trouble");
        managedProperty().bind(visibleProperty());
        setVisible(false);
        model.keeping().troubleProperty().addListener(change -> showTrouble());
    }

    private void showTrouble() {
        getChildren().clear();
        getStyleClass().setAll("note-box", "caution");
        setVisible(model.keeping().troubleProperty().get() != Keeping.Trouble.NONE);
        switch (model.keeping().troubleProperty().get()) {
            case NONE -> {}
            case LEFT_UNSAVED -> {
                Button take = Controls.button(
                        "Take them up", "", "", () -> model.keeping().recover(true));
                take.setId("trouble-take");
                take.getStyleClass().add(Styles.PRIMARY);
                Button let = Controls.button(
                        "Let them go", "", "", () -> model.keeping().recover(false));
                let.setId("trouble-let");
                row(
                        model.keeping()
                                .leftUnsaved()
                                .map(TroubleNote::told)
                                .orElse("There are changes of this scene that were not saved when Pantry ended."),
                        take,
                        let);
            }
            case CHANGED_ON_DISK -> {
                Button differs = Controls.button("What differs", "", "", this::showDifferences);
                differs.setId("trouble-differs");
                Button anew = Controls.button(
                        "Open it anew", "", "Give up what is not saved here", model.keeping()::openAnew);
                anew.setId("trouble-anew");
                Button over = Controls.button(
                        "Save over it", "", "What the other wrote is kept beside the scene", model.keeping()::saveOver);
                over.setId("trouble-over");
                Button elsewhere = Controls.button("Save as another scene", "", "", () -> model.sceneProperty()
                        .get()
                        .ifPresent(scene -> model.keeping().saveElsewhere(SceneNames.title(scene.file()) + " mine")));
                elsewhere.setId("trouble-elsewhere");
                row("Another has changed this scene's file.", differs, anew, over, elsewhere);
            }
        }
    }

    private void row(String words, Button... buttons) {
        Label said = Controls.wrapped(words);
        HBox.setHgrow(said, Priority.ALWAYS);
        said.setMaxWidth(Double.MAX_VALUE);
        HBox row = new HBox(8, new FontIcon("remixal-alert-line"), said);
        row.setAlignment(Pos.CENTER_LEFT);
        row.getChildren().addAll(buttons);
        getChildren().add(row);
    }

    private void showDifferences() {
        model.session().attempt(() -> {
            List<Difference> all = model.keeping().differences();
            Label words = Controls.wrapped(
                    all.isEmpty()
                            ? "Both say the same."
                            : all.size() + " objects differ: "
                                    + all.stream()
                                            .limit(8)
                                            .map(each -> each.path().name() + " ("
                                                    + switch (each.kind()) {
                                                        case ADDED -> "only here";
                                                        case REMOVED -> "only in the file";
                                                        case CHANGED -> "otherwise";
                                                    }
                                                    + ")")
                                            .collect(Collectors.joining(", "))
                                    + (all.size() > 8 ? " …" : ""));
            words.setId("trouble-words");
            if (getChildren().size() > 1) {
                getChildren().remove(1);
            }
            getChildren().add(words);
        });
    }

    /** What was not saved, and when that was: {@code Not saved, of 29 Nov, 14:32:05: moved Mast; placed Fuel drum}. */
    private static String told(Safekeeping.Unsaved unsaved) {
        List<String> actions = unsaved.actions();
        String what = String.join("; ", actions.subList(0, Math.min(MOST_ACTIONS, actions.size())));
        int more = actions.size() - MOST_ACTIONS;
        return "Not saved, of " + WHEN.format(unsaved.when())
                + (what.isEmpty() ? "" : ": " + what)
                + (more > 0 ? "; and " + more + " before" : "") + ".";
    }

    private static final int MOST_ACTIONS = 3;
    private static final DateTimeFormatter WHEN =
            DateTimeFormatter.ofPattern("d MMM, HH:mm:ss", Locale.ROOT).withZone(ZoneId.systemDefault());
}
