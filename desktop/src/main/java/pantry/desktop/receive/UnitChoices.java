package pantry.desktop.receive;

import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.css.PseudoClass;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.intake.LengthUnit;
import pantry.intake.ScaleCandidate;
import pantry.intake.Slip;

/** In which unit the figures of what arrived are, as choices that say how large it would be. */
final class UnitChoices extends VBox {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");

    private final ReceiveModel model;
    private final Consumer<UnaryOperator<Slip>> change;

    /** @param change changes the slip of all that are shown */
    UnitChoices(ReceiveModel model, Consumer<UnaryOperator<Slip>> change) {
        super(6);
        this.model = model;
        this.change = change;
    }

    /** Shows how the figures of one arrival may be understood. */
    void showOne(Arrival arrival, Slip slip) {
        FlowPane choices = new FlowPane(6, 6);
        String reason = "";
        for (ScaleCandidate candidate : model.choices().candidates(arrival)) {
            String words =
                    "as " + candidate.unit() + ": " + Units.length(candidate.size()[1]) + " tall";
            boolean chosen = same(candidate.factor(), slip.factor());
            Control choice = choice(
                    candidate.unit() + ": " + Units.length(candidate.size()[1]),
                    words,
                    chosen,
                    "unit-" + candidate.unit(),
                    candidate.factor());
            Controls.hint(choice, words + "; " + candidate.reason());
            choices.getChildren().add(choice);
            if (chosen) {
                boolean unusual = model.choices().sizeWarning(arrival).isPresent();
                reason = (candidate.likely() ? unusual ? "best of what is not likely: " : "likely: " : "")
                        + candidate.reason();
            }
        }
        boolean among = model.choices().candidates(arrival).stream().anyMatch(c -> same(c.factor(), slip.factor()));
        TextField own = new TextField(among ? "" : Double.toString(slip.factor()));
        own.setId("slip-factor");
        own.setPromptText("other");
        own.setPrefColumnCount(6);
        Controls.hint(own, "Another factor, metres per unit");
        own.setAccessibleText("Another factor, metres per unit");
        own.setOnAction(event -> changeFactor(own.getText()));
        choices.getChildren().add(own);
        Label why = Controls.wrapped(reason, Styles.FAINT);
        Controls.showOnly(why, !reason.isBlank());
        getChildren().setAll(choices, why);
    }

    private void changeFactor(String written) {
        try {
            double factor = Double.parseDouble(written.strip());
            change.accept(slip -> slip.withFactor(factor));
        } catch (NumberFormatException e) {
            change.accept(slip -> slip.withFactor(Double.NaN));
        }
    }

    /**
     * Shows how large several arrivals would be in each unit.
     *
     * @param factor metres per unit; empty where they differ
     */
    void showSeveral(List<Arrival> shown, Optional<Double> factor) {
        getChildren().clear();
        for (LengthUnit unit : LengthUnit.values()) {
            double low = Double.POSITIVE_INFINITY;
            double high = 0;
            for (Arrival arrival : shown) {
                for (ScaleCandidate candidate : model.choices().candidates(arrival)) {
                    if (same(candidate.factor(), unit.metres())) {
                        low = Math.min(low, candidate.size()[1]);
                        high = Math.max(high, candidate.size()[1]);
                    }
                }
            }
            String words = "as " + unit.word()
                    + (high > 0 ? ": " + Units.length(low) + " to " + Units.length(high) + " tall" : "");
            getChildren()
                    .add(choice(
                            words,
                            words,
                            factor.filter(f -> same(f, unit.metres())).isPresent(),
                            "unit-" + unit.word(),
                            unit.metres()));
        }
    }

    private static boolean same(double a, double b) {
        return Math.abs(a - b) < a * 1e-6;
    }

    private Control choice(String text, String spoken, boolean chosen, String id, double factor) {
        Label label = new Label(text);
        label.setWrapText(true);
        label.setMinHeight(USE_PREF_SIZE);
        label.getStyleClass().add(Styles.CHOICE);
        label.pseudoClassStateChanged(CHOSEN, chosen);
        label.setFocusTraversable(true);
        label.setAccessibleText(spoken + (chosen ? ", chosen" : ""));
        label.setId(id);
        label.setOnMouseClicked(event -> change.accept(s -> s.withFactor(factor)));
        label.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.SPACE || event.getCode() == KeyCode.ENTER) {
                change.accept(s -> s.withFactor(factor));
                event.consume();
            }
        });
        return label;
    }
}
