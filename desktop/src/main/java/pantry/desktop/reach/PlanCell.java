package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.project.Change;
import pantry.project.Lost;
import pantry.project.Overlap;
import pantry.project.Relinking;
import pantry.project.WhatIf;

/** A line of a plan: with a tick where it can be left out, with a click where there are pictures. */
final class PlanCell extends ListCell<PlanLine> {
    private static final int MOST_OVERLAPS = 3;

    /** Growth of a scene that is worth a word, metres. */
    private static final double GROWS = 0.01;

    private final ReachModel model;

    PlanCell(ReachModel model) {
        this.model = model;
    }

    @Override
    protected void updateItem(@Nullable PlanLine line, boolean empty) {
        super.updateItem(line, empty);
        setText(null);
        setPrefWidth(1);
        setGraphic(empty || line == null ? null : node(line));
    }

    private Node node(PlanLine line) {
        return switch (line) {
            case PlanLine.Head(Path file, List<Change> changes) -> {
                CheckBox all = new CheckBox(model.titleOf(file));
                long off = changes.stream().filter(model.unticked()::contains).count();
                all.setSelected(off == 0);
                all.setIndeterminate(off > 0 && off < changes.size());
                all.setFocusTraversable(false);
                all.getStyleClass().add(Styles.SECTION);
                all.setOnAction(event -> changes.forEach(change -> tick(change, off > 0)));
                Controls.hint(all, file.toString());
                yield all;
            }
            case PlanLine.One(Change change) -> {
                CheckBox one = new CheckBox();
                one.setSelected(!model.unticked().contains(change));
                one.setFocusTraversable(false);
                one.setAccessibleText(change.says());
                one.setOnAction(event -> tick(change, one.isSelected()));
                Label says = Controls.label(change.says());
                Label where = Controls.path(
                        change.place().isEmpty() ? "sublayer" : change.place(), Styles.FAINT, Styles.FIGURE);
                VBox words = new VBox(says, where);
                words.setMinWidth(0);
                HBox box = new HBox(8, one, words);
                box.getStyleClass().add("reach-change");
                Controls.hint(box, change.before() + " → " + change.after());
                yield box;
            }
            case PlanLine.Touched(WhatIf.Effect effect) -> touched(effect);
            case PlanLine.Note(String title, String more, boolean wrong) -> {
                Label head = wrong ? Controls.label(title, Styles.WRONG) : Controls.label(title);
                Label below = wrong ? Controls.wrapped(more, Styles.FAINT) : Controls.label(more, Styles.FAINT);
                VBox words = new VBox(head, below);
                words.setMinWidth(0);
                words.getStyleClass().add("reach-change");
                Controls.hint(words, more);
                yield words;
            }
            case PlanLine.NotFound(Relinking.Missing missing) -> {
                Label says = Controls.path(String.valueOf(missing.target().getFileName()), Styles.WRONG);
                Label where = Controls.label(
                        missing.candidates().isEmpty()
                                ? "nothing like it was found"
                                : missing.candidates().size() + " are as likely: "
                                        + missing.candidates().getFirst().path(),
                        Styles.FAINT);
                VBox words = new VBox(says, where);
                words.setMinWidth(0);
                words.getStyleClass().add("reach-change");
                Controls.hint(words, missing.file() + " names " + missing.target());
                yield words;
            }
        };
    }

    private Node touched(WhatIf.Effect effect) {
        VBox words = new VBox(2, Controls.path(String.valueOf(effect.file().getFileName()), Styles.SECTION));
        words.setMinWidth(0);
        words.getStyleClass().add("reach-touched");
        words.setOnMouseClicked(event -> model.ripple().show(effect.file()));
        if (!effect.problem().isEmpty()) {
            words.getChildren().add(Controls.label(effect.problem(), Styles.WRONG));
            return words;
        }
        words.getChildren()
                .add(Controls.label(
                        Units.counted(effect.placements(), "placement") + ", "
                                + Units.count(effect.before().trianglesDrawn()) + " → "
                                + Units.count(effect.after().trianglesDrawn()) + " triangles",
                        Styles.FAINT));
        for (Lost lost : effect.lost()) {
            Label line = Controls.path(lost.path() + " " + lost.detail(), Styles.CAUTION, Styles.FIGURE);
            Controls.hint(
                    line,
                    "Would lose what it is about"
                            + (lost.likely().isEmpty()
                                    ? ""
                                    : "; now perhaps " + lost.likely().getFirst()));
            words.getChildren().add(line);
        }
        for (Overlap overlap : effect.overlaps().stream().limit(MOST_OVERLAPS).toList()) {
            Label line = Controls.label(
                    name(overlap.thing()) + " " + Units.length(overlap.depth()) + " deep in " + name(overlap.other()),
                    Styles.CAUTION);
            Controls.hint(line, overlap.thing() + " would newly stand in " + overlap.other());
            words.getChildren().add(line);
        }
        if (effect.overlaps().size() > MOST_OVERLAPS) {
            words.getChildren()
                    .add(Controls.label(
                            "and " + (effect.overlaps().size() - MOST_OVERLAPS) + " more stand in something else",
                            Styles.CAUTION));
        }
        if (effect.growth() > GROWS) {
            words.getChildren().add(Controls.label("grows by " + Units.length(effect.growth()), Styles.CAUTION));
        }
        Controls.hint(words, effect.file() + ": click for pictures before and after");
        return words;
    }

    private static String name(String path) {
        return path.substring(path.lastIndexOf('/') + 1);
    }

    private void tick(Change change, boolean on) {
        if (on) {
            model.unticked().remove(change);
        } else {
            model.unticked().add(change);
        }
    }
}
