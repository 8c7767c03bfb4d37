package pantry.desktop.receive;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.RadioButton;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleGroup;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import pantry.desktop.look.Bits;
import pantry.desktop.look.Styles;
import pantry.desktop.session.Units;
import pantry.exchange.Axis;
import pantry.intake.PartsMode;
import pantry.intake.ScaleCandidate;
import pantry.intake.Slip;

/** An arrival's slip: each choice says what it gives. */
final class SlipView extends BorderPane {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");

    private final ReceiveModel model;
    private final TextField name = new TextField();
    private final ComboBox<String> shelf = new ComboBox<>();
    private final TextField tags = new TextField();
    private final TextField licence = new TextField();
    private final TextField credit = new TextField();
    private final VBox scales = new VBox(3);
    private final RadioButton upY = new RadioButton("Y, as in Pantry");
    private final RadioButton upZ = new RadioButton("Z, turned upright");
    private final List<RadioButton> parts = new ArrayList<>();
    private final CheckBox allowMissing = new CheckBox("Shelve without the missing textures");
    private final InvalidationListener changed = change -> update();
    private Optional<Arrival> shown = Optional.empty();
    private boolean updating;

    SlipView(ReceiveModel model) {
        this.model = model;
        getStyleClass().addAll(Styles.PANEL, "right");
        setMinWidth(270);
        setPrefWidth(310);
        HBox head = new HBox(Bits.label("Slip", Styles.TITLE));
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        setTop(head);
        name.setId("slip-name");
        shelf.setId("slip-shelf");
        shelf.setEditable(true);
        shelf.setMaxWidth(Double.MAX_VALUE);
        shelf.setPromptText("such as Instruments/Masts");
        tags.setPromptText("words with commas between");
        licence.setPromptText("SPDX identifier, such as CC0-1.0");
        credit.setPromptText("who made it");
        ToggleGroup axes = new ToggleGroup();
        upY.setToggleGroup(axes);
        upZ.setToggleGroup(axes);
        upY.setOnAction(event -> change(slip -> slip.withUp(Axis.Y)));
        upZ.setOnAction(event -> change(slip -> slip.withUp(Axis.Z)));
        ToggleGroup modes = new ToggleGroup();
        for (PartsMode mode : PartsMode.values()) {
            RadioButton button = new RadioButton(
                    switch (mode) {
                        case KEEP -> "Keep the hierarchy, every part in its place";
                        case BY_MATERIAL -> "One mesh for each material";
                        case SINGLE -> "A single object";
                    });
            button.setWrapText(true);
            button.setToggleGroup(modes);
            button.setUserData(mode);
            button.setOnAction(event -> change(slip -> slip.withParts(mode)));
            parts.add(button);
        }
        allowMissing.setWrapText(true);
        allowMissing.setOnAction(event -> change(slip -> slip.withAllowMissing(allowMissing.isSelected())));
        whenLeft(
                name,
                () -> change(slip -> name.getText().isBlank()
                        ? slip
                        : slip.withName(name.getText().strip())));
        whenLeft(shelf.getEditor(), this::changeShelf);
        shelf.valueProperty().addListener(change -> changeShelf());
        whenLeft(
                tags,
                () -> change(slip -> slip.withTags(Arrays.stream(tags.getText().split(","))
                        .map(String::strip)
                        .filter(tag -> !tag.isEmpty())
                        .toList())));
        whenLeft(licence, this::changeCredit);
        whenLeft(credit, this::changeCredit);
    }

    private void changeShelf() {
        String text = shelf.getEditor().getText();
        change(slip -> text == null || text.isBlank() ? slip : slip.withShelf(text.strip()));
    }

    private void changeCredit() {
        change(slip ->
                slip.withCredit(licence.getText().strip(), credit.getText().strip()));
    }

    /** Takes over what was typed when the field is left or Enter is pressed. */
    private static void whenLeft(TextField field, Runnable take) {
        field.focusedProperty().addListener((property, before, now) -> {
            if (!now) {
                take.run();
            }
        });
        field.setOnAction(event -> take.run());
    }

    private void change(java.util.function.UnaryOperator<Slip> change) {
        if (!updating) {
            shown.ifPresent(arrival -> model.change(arrival, change));
        }
    }

    void show(Optional<Arrival> arrival) {
        shown.ifPresent(before -> {
            before.slipProperty().removeListener(changed);
            before.stateProperty().removeListener(changed);
        });
        shown = arrival;
        arrival.ifPresent(now -> {
            now.slipProperty().addListener(changed);
            now.stateProperty().addListener(changed);
        });
        update();
    }

    private void update() {
        Optional<Slip> slip = shown.flatMap(arrival -> arrival.slipProperty().get());
        if (slip.isEmpty()) {
            Label hint = Bits.wrapped("An arrival's choices stand here: its unit, shelf, name and tags.", Styles.FAINT);
            VBox box = new VBox(hint);
            box.getStyleClass().add("slip");
            setCenter(box);
            return;
        }
        updating = true;
        fill(shown.orElseThrow(), slip.get());
        updating = false;
    }

    private void fill(Arrival arrival, Slip slip) {
        name.setText(slip.name());
        List<String> shelves = new ArrayList<>(model.shelves());
        if (!shelves.contains(slip.shelf())) {
            shelves.add(slip.shelf());
        }
        shelf.getItems().setAll(shelves);
        shelf.setValue(slip.shelf());
        tags.setText(String.join(", ", slip.tags()));
        licence.setText(slip.licence());
        credit.setText(slip.credit());
        upY.setSelected(slip.up() == Axis.Y);
        upZ.setSelected(slip.up() == Axis.Z);
        parts.forEach(button -> button.setSelected(button.getUserData() == slip.parts()));
        allowMissing.setSelected(slip.allowMissing());
        scales.getChildren().clear();
        for (ScaleCandidate candidate : model.candidates(arrival)) {
            scales.getChildren().add(choice(candidate, slip));
        }
        VBox box = new VBox(
                Bits.section("Name", name),
                Bits.section("Shelf", shelf),
                Bits.section("Unit of its figures", scales),
                Bits.section("Upward axis", new HBox(16, upY, upZ)),
                Bits.section("Parts", parts.toArray(new RadioButton[0])),
                Bits.section("Tags", tags),
                Bits.section("Licence and credit", licence, credit));
        if (!arrival.missing().isEmpty()) {
            box.getChildren().add(2, Bits.section("Textures", allowMissing));
        }
        box.getStyleClass().add("slip");
        boolean open = arrival.stateProperty().get() == Arrival.State.READY;
        box.setDisable(!open);
        setCenter(Bits.scrolling(box));
    }

    private Control choice(ScaleCandidate candidate, Slip slip) {
        boolean chosen = Math.abs(candidate.factor() - slip.factor()) < slip.factor() * 1e-6;
        String words = "as " + candidate.unit() + ": " + Units.length(candidate.size()[1]) + " tall";
        Label label = new Label(candidate.likely() ? words + "\nlikely: " + candidate.reason() : words);
        label.setWrapText(true);
        label.setMinHeight(USE_PREF_SIZE);
        label.setMaxWidth(Double.MAX_VALUE);
        label.getStyleClass().add(Styles.CHOICE);
        label.pseudoClassStateChanged(CHOSEN, chosen);
        label.setFocusTraversable(true);
        label.setAccessibleText(words + (chosen ? ", chosen" : ""));
        label.setId("unit-" + candidate.unit());
        label.setOnMouseClicked(event -> change(s -> s.withFactor(candidate.factor())));
        label.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.SPACE || event.getCode() == KeyCode.ENTER) {
                change(s -> s.withFactor(candidate.factor()));
                event.consume();
            }
        });
        return label;
    }
}
