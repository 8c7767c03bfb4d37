package pantry.desktop.receive;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.base.FileGate;
import pantry.base.Printable;
import pantry.base.math.Box3;
import pantry.desktop.controls.Controls;
import pantry.desktop.session.Units;
import pantry.exchange.format.Imported;
import pantry.exchange.format.TextureSet;
import pantry.intake.ArrivalSummary;
import pantry.intake.Intake;
import pantry.intake.Pivot;
import pantry.intake.Slip;
import pantry.intake.Survey;
import pantry.model.Facts;
import pantry.render.Figure;

/** What somebody should know about an arrival before it is shelved: what it lacks, what is odd, what is left out. */
final class ArrivalNotes extends VBox {
    private final ReceiveModel model;
    private final Runnable findTextures;

    /** @param findTextures lets the user choose a folder in which missing textures are looked for */
    ArrivalNotes(ReceiveModel model, Runnable findTextures) {
        super(4);
        this.model = model;
        this.findTextures = findTextures;
        setPadding(new Insets(0, 12, 8, 12));
    }

    /**
     * @param box around the arrival as it will be shelved, metres
     * @param figureShown whether the figure stands beside it
     */
    void show(Arrival arrival, Slip choices, Box3 box, boolean figureShown) {
        getChildren().clear();
        Survey survey = arrival.surveyProperty().get().orElseThrow();
        if (!survey.missing().isEmpty()) {
            HBox missing = note(
                    "wrong",
                    "remixal-error-warning-line",
                    lacking(survey)
                            + String.join(", ", survey.missing()).replace(" " + FileGate.Reason.OUTSIDE.words(), ""));
            getChildren().add(missing);
            if (arrival.state() != Arrival.State.SHELVED) {
                Button find = Controls.button(
                        "Find\u2026", "", "Look for the missing textures in a folder and below it", findTextures);
                find.setId("find-textures");
                missing.getChildren().addAll(Controls.spring(), find);
            }
            survey.outside().forEach(folder -> getChildren().add(outside(folder)));
        }
        if (survey.outline().holds() == Imported.Holds.MATERIALS && TextureSet.isImage(arrival.file())) {
            getChildren().add(together(arrival, survey));
        }
        if (arrival.isShapeless() && survey.outline().holds() == Imported.Holds.FIXTURES) {
            getChildren()
                    .add(apart(
                            arrival,
                            survey,
                            "The picture of a sky, all around and up: in scenes it gives the light. The ball only shows it",
                            "As an image",
                            "Take it as an image on a board instead"));
        }
        survey.outline().series().ifPresent(series -> getChildren().add(series(arrival, survey, series)));
        model.choices().sizeWarning(arrival).ifPresent(why -> getChildren()
                .add(note(
                        "caution",
                        "remixal-alert-line",
                        Units.length(box.size().y()) + " tall is out of the ordinary: " + why)));
        Intake.lostStructure(survey.outline(), choices).ifPresent(lost -> getChildren()
                .add(note(
                        "caution",
                        "remixal-alert-line",
                        lost.substring(0, 1).toUpperCase(Locale.ROOT) + lost.substring(1))));
        double away = survey.outline().distance() * choices.factor();
        if (survey.outline().isFarOff()) {
            getChildren()
                    .add(note(
                            "caution",
                            "remixmz-map-pin-line",
                            "It stands " + Units.length(away) + " off its own origin"
                                    + (choices.pivot() == Pivot.KEEP ? "" : "; the pivot is set at the thing itself")));
        }
        if (survey.facts().closed() && survey.facts().volume() < 0) {
            getChildren().add(note("caution", "remixal-alert-line", "Its faces look inwards: it is turned inside out"));
        }
        if (!figureShown) {
            getChildren()
                    .add(note(
                            "info",
                            "remixal-information-line",
                            "The figure of 1.75\u202fm is left out: beside "
                                    + Units.size(
                                            box.size().x(),
                                            box.size().y(),
                                            box.size().z())
                                    + (box.size().length() > Figure.HEIGHT
                                            ? " it would not be seen"
                                            : " it would fill the view")));
        }
        List<String> left = survey.carried().stream()
                .filter(told -> !choices.making().kept().contains(told.kind()))
                .map(told -> told.kind().counted(told.names().size()))
                .toList();
        if (!left.isEmpty()) {
            getChildren()
                    .add(note(
                            "info", "remixal-information-line", "Left out, see the slip: " + String.join(", ", left)));
        }
        if (arrival.state() == Arrival.State.SHELVED) {
            getChildren()
                    .add(note(
                            "good",
                            "remixal-check-line",
                            arrival.messageProperty().get()));
        }
    }

    /** Images that were taken for one material, by their names. */
    private HBox together(Arrival arrival, Survey survey) {
        List<String> images = survey.facts().textures().stream()
                .map(Facts.TextureFact::name)
                .distinct()
                .toList();
        return apart(
                arrival,
                survey,
                "One material of " + images.size() + " images, whose names differ only in what each is for: "
                        + images.getFirst() + " and " + (images.size() - 1) + " more",
                "Take apart",
                "Take each image by itself instead");
    }

    /** Files that were taken for one thing, by their names. */
    private HBox series(Arrival arrival, Survey survey, ArrivalSummary.Series series) {
        return apart(
                arrival,
                survey,
                "One thing with " + series.words()
                        + ". The files are named alike but for that; each becomes a variant, "
                        + series.names().getFirst() + " is shown first",
                "Take apart",
                "Take each file by itself instead");
    }

    private HBox apart(Arrival arrival, Survey survey, String why, String label, String hint) {
        HBox note = note(
                "info",
                "remixal-information-line",
                why + survey.facts().foreign().stream().map(told -> "; " + told).collect(Collectors.joining()));
        Button apart = Controls.button(label, "", hint, () -> model.takeApart(arrival));
        apart.setId("take-apart");
        apart.setMinWidth(Region.USE_PREF_SIZE);
        note.getChildren().addAll(Controls.spring(), apart);
        return note;
    }

    private static String lacking(Survey survey) {
        if (!survey.outside().isEmpty()) {
            return "It names files that it did not come with: ";
        }
        return survey.missing().size() == 1 ? "Texture not found: " : "Textures not found: ";
    }

    /** A file may name only what it came with; for any other folder somebody has to say yes. */
    private HBox outside(Path folder) {
        HBox note = note(
                "caution",
                "remixal-alert-line",
                "Nothing was read from " + Printable.of(folder.toString())
                        + ". Allow it only if you know why the file names it.");
        Button allow = Controls.button(
                "Allow this folder",
                "",
                "Let files that are received name others in " + folder + ", until Pantry is closed",
                () -> model.allow(folder));
        allow.setMinWidth(Region.USE_PREF_SIZE);
        note.getChildren().addAll(Controls.spring(), allow);
        return note;
    }

    private static HBox note(String style, String icon, String text) {
        HBox box = new HBox(8, new FontIcon(icon), Controls.wrapped(text));
        box.setAlignment(Pos.CENTER_LEFT);
        box.getStyleClass().addAll("note-box", style);
        return box;
    }
}
