package pantry.desktop.prep;

import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.layout.HBox;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.intake.LengthUnit;
import pantry.model.Axis;
import pantry.workpiece.Workpiece;

/** In which unit and axes the figures of an opened file are understood, until it is changed. */
final class ReadingChoice extends HBox {
    private final Choice<LengthUnit> unit = new Choice<>();
    private final Choice<Axis> up = new Choice<>();
    private final PrepModel model;
    private boolean showing;

    ReadingChoice(PrepModel model) {
        super(8);
        this.model = model;
        setAlignment(Pos.CENTER_LEFT);
        unit.setId("prep-unit");
        unit.getItems().setAll(LengthUnit.values());
        unit.shownAs(LengthUnit::word);
        up.setId("prep-up");
        up.getItems().setAll(Axis.values());
        up.shownAs(axis -> axis == Axis.Y ? "Y up" : "Z up");
        unit.setOnAction(event -> choose());
        up.setOnAction(event -> choose());
        getChildren().setAll(Controls.label("its figures are", Styles.FAINT), unit, up);
        model.openedProperty().addListener(change -> show());
        show();
    }

    private void show() {
        Optional<Opened> now = model.openedProperty().get();
        Optional<Workpiece.Reading> reading =
                now.flatMap(opened -> opened.piece().reading());
        Controls.showOnly(this, reading.isPresent());
        setDisable(now.filter(Opened::changed).isPresent());
        Controls.hint(
                unit,
                isDisabled()
                        ? "What was changed would be lost; undo it to choose otherwise"
                        : "In what unit the file was made; it is opened anew");
        showing = true;
        reading.ifPresent(each -> {
            unit.setPromptText(each.unit() + " m");
            unit.setValue(unitOf(each.unit()).orElse(null));
            up.setValue(each.up());
        });
        showing = false;
    }

    private static Optional<LengthUnit> unitOf(double metres) {
        return List.of(LengthUnit.values()).stream()
                .filter(each -> Math.abs(each.metres() - metres) < 1e-6 * metres)
                .findFirst();
    }

    private void choose() {
        if (!showing) {
            Optional<Workpiece.Reading> before = model.openedProperty().get().flatMap(opened -> opened.piece()
                    .reading());
            before.ifPresent(reading -> model.read(new Workpiece.Reading(
                    Optional.ofNullable(unit.getValue()).map(LengthUnit::metres).orElse(reading.unit()),
                    up.getValue())));
        }
    }
}
