package pantry.desktop.scenes;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Followers;
import pantry.scene.Explanation;
import pantry.scene.OverrideSentence;
import pantry.scene.Overrides;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** What the scene says otherwise of a placement's insides: each can be dropped, or all written back to the asset. */
final class OverridesPane extends VBox {
    private static final int MOST = 40;
    private static final int MOST_EXPLAINED = 3;

    private final ScenesModel model;

    OverridesPane(ScenesModel model) {
        super(4);
        this.model = model;
    }

    /** Shows those of a placement; answers whether there are any. */
    boolean show(Placement placement) {
        getChildren().clear();
        Optional<Scene> open = model.sceneProperty().get();
        List<Overrides.Opinion> all =
                open.map(scene -> scene.overrides().of(placement.path())).orElse(List.of());
        List<OverrideSentence> told =
                open.map(scene -> scene.overrides().told(placement.path())).orElse(List.of());
        for (OverrideSentence each : told.subList(0, Math.min(MOST, told.size()))) {
            getChildren().add(line(open.orElseThrow(), all, each));
        }
        if (told.size() > MOST) {
            getChildren().add(Controls.label("and " + (told.size() - MOST) + " more", Styles.FAINT));
        }
        if (!all.isEmpty()) {
            TextField note = new TextField();
            note.setId("write-back-note");
            note.setPromptText("What to say of the version");
            HBox.setHgrow(note, Priority.ALWAYS);
            Button back = Controls.button(
                    "Write back",
                    "remixmz-upload-line",
                    "Publish the asset with these changes as its next version; the placement then follows it",
                    () -> model.exports()
                            .writeBack(placement.path(), note.getText().strip()));
            back.setId("write-back");
            Button drop = Controls.button(
                    "Drop all",
                    "",
                    "Let the placement show what its asset shows",
                    () -> model.change(scene -> scene.overrides()
                            .drop(all.stream().map(Overrides.Opinion::path).toList())));
            drop.setId("overrides-drop");
            HBox row = new HBox(8, drop, Controls.spring(), back);
            row.setAlignment(Pos.CENTER_LEFT);
            Label follow = Controls.wrapped("", Styles.FAINT);
            Controls.showOnly(follow, false);
            model.exports()
                    .whenShelved(
                            placement,
                            home -> Followers.ask(
                                    model.session(), home.asset().card().id(), followers -> {
                                        follow.setText(
                                                "Written back, it is shown at once in " + followers.words() + ".");
                                        Controls.showOnly(follow, !followers.isNobody());
                                    }));
            getChildren().addAll(note, row, follow);
        }
        return !all.isEmpty();
    }

    private HBox line(Scene open, List<Overrides.Opinion> all, OverrideSentence each) {
        Label words = Controls.wrapped(each.sentence());
        HBox.setHgrow(words, Priority.ALWAYS);
        words.setMaxWidth(Double.MAX_VALUE);
        List<SdfPath> paths = all.stream()
                .map(Overrides.Opinion::path)
                .filter(path -> path.prim().equals(each.part()))
                .toList();
        Button drop = Controls.button(
                "",
                "remixal-close-line",
                "Drop it",
                () -> model.change(scene -> scene.overrides().drop(paths)));
        drop.getStyleClass().addAll(Styles.QUIET, "small");
        HBox line = new HBox(6, words, drop);
        line.setAlignment(Pos.CENTER_LEFT);
        Controls.hint(
                line,
                paths.stream()
                        .limit(MOST_EXPLAINED)
                        .map(path -> explained(open, path))
                        .collect(Collectors.joining("\n\n")));
        return line;
    }

    private static String shortened(String says) {
        return says.length() > 60 ? says.substring(0, 57) + "…" : says;
    }

    /** What each layer says of it, the strongest first. */
    private static String explained(Scene open, SdfPath path) {
        Optional<Explanation> found = Explanation.of(open.stage(), path);
        if (found.isEmpty()) {
            return "It is not there any more, so that this says nothing";
        }
        StringBuilder words =
                new StringBuilder("Here it is " + shortened(found.get().value()));
        found.get().opinions().stream()
                .limit(5)
                .forEach(line ->
                        words.append('\n').append(line.layer()).append(": ").append(shortened(line.says())));
        return words.toString();
    }
}
