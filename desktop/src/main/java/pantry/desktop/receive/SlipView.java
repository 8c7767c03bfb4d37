package pantry.desktop.receive;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.RadioButton;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Fold;
import pantry.desktop.controls.LicenceField;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.SuggestedWords;
import pantry.intake.Carried;
import pantry.intake.CollisionShape;
import pantry.intake.PartsMode;
import pantry.intake.Pivot;
import pantry.intake.Slip;
import pantry.intake.Survey;
import pantry.library.AssetKind;
import pantry.library.Licences;
import pantry.library.Tags;
import pantry.model.Axis;

/** An arrival's slip, or that of several: each choice says what it gives. */
final class SlipView extends BorderPane {
    private static final double[] SHARES = {1, 0.5, 0.25, 0.1};
    private static final double LABEL_WIDTH = 44;

    private final ReceiveModel model;
    private final PresetsMenu presets;
    private final Label several = Controls.wrapped("", Styles.FAINT);
    private final TextField name = new TextField();
    private final ComboBox<String> shelf = new Choice<>();
    private final Choice<AssetKind> kind = new Choice<>();
    private final TextField tags = new TextField();
    private final LicenceField licence;
    private final TextField credit = new TextField();
    private final UnitChoices scales;
    private final LikenessPane alike;
    private final VBox kept = new VBox(6);
    private final CheckBox allowMissing = new CheckBox("Shelve without the missing textures");
    private final CheckBox levels = new CheckBox("Coarser levels of detail");
    private final ComboBox<String> share = new Choice<>();
    private final Choices<Axis> up;
    private final Choices<PartsMode> parts;
    private final Choices<Pivot> pivot;
    private final Choices<CollisionShape> collision;
    private final HBox nameSection;
    private final VBox alikeSection;
    private final VBox textureSection;
    private final VBox unitSection;
    private final VBox axisSection;
    private final Fold partsFold;
    private final Fold pivotFold;
    private final Fold keptFold;
    private final Fold collisionFold;
    private final Fold detailFold;
    private final Fold licenceFold;
    private final VBox box = new VBox();
    private final VBox hint;
    private final InvalidationListener changed = change -> update();
    private List<Arrival> shown = List.of();
    private boolean updating;

    /** Whether slips are being changed: they are shown when all of them are. */
    private boolean changing;

    private boolean changedMeanwhile;

    /** Radio buttons for the values of a choice. */
    private static final class Choices<T> {
        private final Map<T, RadioButton> buttons = new LinkedHashMap<>();

        Choices(List<T> values, Function<T, String> words, java.util.function.Consumer<T> chosen) {
            ToggleGroup group = new ToggleGroup();
            for (T value : values) {
                RadioButton button = new RadioButton(words.apply(value));
                button.setWrapText(true);
                button.setToggleGroup(group);
                button.setOnAction(event -> chosen.accept(value));
                buttons.put(value, button);
            }
        }

        RadioButton[] nodes() {
            return buttons.values().toArray(RadioButton[]::new);
        }

        /** Shows a value; none where several arrivals differ. */
        void show(Optional<T> value) {
            buttons.forEach((each, button) ->
                    button.setSelected(value.filter(each::equals).isPresent()));
        }
    }

    SlipView(ReceiveModel model) {
        this.model = model;
        this.licence = new LicenceField(
                "slip-licence",
                begun -> model.session().shelving().suggestions().licences(begun));
        this.presets = new PresetsMenu(model, this::change);
        this.scales = new UnitChoices(model, this::change);
        getStyleClass().addAll(Styles.PANEL, "right");
        Controls.width(this, 21.5, 24.6);
        HBox head = new HBox(8, Controls.label("Slip", Styles.TITLE), Controls.spring(), presets);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        setTop(head);
        up = new Choices<>(
                List.of(Axis.values()),
                axis -> axis == Axis.Y ? "Y, as in Pantry" : "Z, turned upright",
                axis -> change(slip -> slip.withUp(axis)));
        parts = new Choices<>(
                List.of(PartsMode.values()), SlipView::words, mode -> change(slip -> slip.withParts(mode)));
        pivot = new Choices<>(List.of(Pivot.values()), SlipView::words, p -> change(slip -> slip.withPivot(p)));
        collision = new Choices<>(
                List.of(CollisionShape.values()),
                SlipView::words,
                shape -> change(slip -> slip.withMaking(slip.making().withCollision(shape))));
        prepareFields();
        nameSection = row("Name", name);
        alike = new LikenessPane(model);
        alikeSection = Controls.section("Looks like", alike);
        textureSection = Controls.section("Textures", allowMissing);
        unitSection = Controls.section("Unit of its figures", scales);
        HBox axes = new HBox(12, up.nodes());
        axes.setAlignment(Pos.CENTER_LEFT);
        axisSection = Controls.section("Upward axis", axes);
        partsFold = new Fold("Parts", parts.nodes());
        pivotFold = new Fold("Pivot", pivot.nodes());
        keptFold = new Fold("It also carries", Controls.label("Keep", Styles.FAINT), kept);
        collisionFold = new Fold("Collision shape", collision.nodes());
        licenceFold = new Fold("Licence and credit", licence, credit);
        HBox shares = new HBox(8, Controls.label("Triangles"), share);
        shares.setAlignment(Pos.CENTER_LEFT);
        detailFold = new Fold("Detail", shares, levels);
        box.getChildren()
                .setAll(
                        several,
                        alikeSection,
                        nameSection,
                        new VBox(6, nameSection, row("Shelf", shelf), row("Kind", kind), row("Tags", tags)),
                        textureSection,
                        unitSection,
                        axisSection,
                        new VBox(2, partsFold, pivotFold, keptFold, collisionFold, detailFold, licenceFold));
        box.getStyleClass().add("slip");
        hint = new VBox(
                Controls.wrapped("An arrival's choices stand here: its unit, shelf, name and tags.", Styles.FAINT));
        hint.getStyleClass().add("slip");
        setCenter(hint);
    }

    private static HBox row(String title, Region field) {
        Label label = Controls.label(title, Styles.FAINT);
        label.setMinWidth(LABEL_WIDTH);
        label.setLabelFor(field);
        field.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(field, Priority.ALWAYS);
        HBox row = new HBox(6, label, field);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    private static String words(PartsMode mode) {
        return switch (mode) {
            case KEEP -> "Keep the hierarchy, every part in its place";
            case BY_MATERIAL -> "One mesh for each material";
            case SINGLE -> "A single mesh";
            case APART -> "Taken apart: each connected part by itself";
        };
    }

    private static String words(Pivot pivot) {
        return switch (pivot) {
            case KEEP -> "Where the file has it";
            case BASE -> "In the middle of its base";
            case CENTRE -> "In its centre";
        };
    }

    private static String words(CollisionShape shape) {
        return switch (shape) {
            case NONE -> "None";
            case BOX -> "A box around it";
            case HULL -> "Its convex hull";
        };
    }

    private void prepareFields() {
        name.setId("slip-name");
        shelf.setId("slip-shelf");
        shelf.setEditable(true);
        Controls.chosenWhole(shelf, shelf.getEditor());
        shelf.setMaxWidth(Double.MAX_VALUE);
        shelf.setPromptText("such as Instruments/Masts");
        kind.setId("slip-kind");
        kind.setMaxWidth(Double.MAX_VALUE);
        kind.setPrefHeight(36);
        kind.getItems().setAll(AssetKind.values());
        kind.shownAs(AssetKind::word);
        kind.setOnAction(event -> {
            if (kind.getValue() != null) {
                change(slip -> slip.withKind(kind.getValue()));
            }
        });
        tags.setId("slip-tags");
        tags.setPromptText("words with commas between");
        SuggestedWords.behindCommas(
                tags, begun -> model.session().shelving().suggestions().tags(begun));
        credit.setPromptText("who made it");
        allowMissing.setWrapText(true);
        allowMissing.setOnAction(event -> change(slip -> slip.withAllowMissing(allowMissing.isSelected())));
        levels.setWrapText(true);
        levels.setOnAction(event -> change(slip -> slip.withMaking(slip.making().withLevels(levels.isSelected()))));
        for (double each : SHARES) {
            share.getItems().add(words(each));
        }
        share.setId("slip-share");
        share.setOnAction(event -> {
            int index = share.getSelectionModel().getSelectedIndex();
            if (index >= 0) {
                change(slip -> slip.withMaking(slip.making().withShare(SHARES[index])));
            }
        });
        whenLeft(name, () -> {
            String text = name.getText().strip();
            change(slip -> text.isEmpty() ? slip : slip.withName(text));
        });
        // The shelves may be others by now, and the library too.
        shelf.setOnShowing(event -> {
            updating = true;
            fillShelf(Optional.of(shelf.getEditor().getText()).filter(text -> !text.isBlank()));
            updating = false;
        });
        shelf.setOnAction(event -> changeShelf());
        whenLeft(shelf.getEditor(), this::changeShelf);
        whenLeft(tags, () -> model.session().attempt(() -> {
            List<String> given = Tags.given(tags.getText());
            change(slip -> slip.withTags(given));
        }));
        whenLeft(licence.field(), () -> {
            String text = licence.field().getText().strip();
            String given = licence.isUnderstood() ? Licences.given(text) : text;
            change(slip -> slip.withCredit(given, slip.credit()));
        });
        whenLeft(
                credit,
                () -> change(
                        slip -> slip.withCredit(slip.licence(), credit.getText().strip())));
    }

    private static String words(double share) {
        return share == 1 ? "all" : Math.round(share * 100) + "\u202f%";
    }

    private void changeShelf() {
        String text = shelf.getEditor().getText();
        if (text != null && !text.isBlank()) {
            change(slip -> slip.withShelf(text.strip()));
        }
    }

    /** Takes over what was typed when the field is left or Enter is pressed; what was not touched changes nothing. */
    private void whenLeft(TextField field, Runnable take) {
        String[] before = {""};
        Runnable taken = () -> {
            if (!updating && !field.getText().equals(before[0])) {
                before[0] = field.getText();
                take.run();
            }
        };
        field.focusedProperty().addListener((property, was, now) -> {
            if (now) {
                before[0] = field.getText();
            } else {
                taken.run();
            }
        });
        field.setOnAction(event -> taken.run());
    }

    private void change(UnaryOperator<Slip> change) {
        if (updating) {
            return;
        }
        changing = true;
        try {
            if (shown.size() == 1) {
                model.choices().change(shown.getFirst(), change);
            } else {
                model.changeChosen(change);
            }
        } finally {
            changing = false;
        }
        if (changedMeanwhile) {
            update();
        }
    }

    /** Shows the slip of one arrival, or what several have in common. */
    void show(List<Arrival> arrivals) {
        shown.forEach(before -> {
            before.slipProperty().removeListener(changed);
            before.stateProperty().removeListener(changed);
            before.surveyProperty().removeListener(changed);
            before.alikeProperty().removeListener(changed);
            before.knownProperty().removeListener(changed);
        });
        shown = List.copyOf(arrivals);
        presets.show(shown.isEmpty() ? Optional.empty() : Optional.of(shown.getLast()));
        shown.forEach(now -> {
            now.slipProperty().addListener(changed);
            now.stateProperty().addListener(changed);
            now.surveyProperty().addListener(changed);
            now.alikeProperty().addListener(changed);
            now.knownProperty().addListener(changed);
        });
        update();
    }

    private void update() {
        changedMeanwhile = changing;
        if (changing) {
            return;
        }
        List<Slip> slips = shown.stream()
                .flatMap(arrival -> arrival.slipProperty().get().stream())
                .toList();
        if (slips.isEmpty()) {
            setCenter(hint);
            return;
        }
        updating = true;
        fill(slips);
        updating = false;
        if (getCenter() == hint) {
            setCenter(Controls.scrolling(box));
        }
    }

    /** What all slips say alike. */
    private static <T> Optional<T> common(List<Slip> slips, Function<Slip, T> of) {
        T first = of.apply(slips.getFirst());
        return slips.stream().allMatch(slip -> of.apply(slip).equals(first)) ? Optional.of(first) : Optional.empty();
    }

    private void fill(List<Slip> slips) {
        boolean one = shown.size() == 1;
        Arrival arrival = shown.getLast();
        Controls.showOnly(several, !one);
        several.setText("For " + shown.size() + " arrivals. What is empty differs between them; what you choose is"
                + " chosen for all.");
        Controls.showOnly(nameSection, one);
        set(name, slips.getFirst().name());
        fillShelf(slips);
        set(tags, common(slips, slip -> String.join(", ", slip.tags())).orElse(""));
        set(licence.field(), common(slips, Slip::licence).orElse(""));
        set(credit, common(slips, Slip::credit).orElse(""));
        kind.setValue(common(slips, Slip::kind).orElse(null));
        up.show(common(slips, Slip::up));
        parts.show(common(slips, Slip::parts));
        pivot.show(common(slips, Slip::pivot));
        collision.show(common(slips, slip -> slip.making().collision()));
        levels.setSelected(common(slips, slip -> slip.making().levels()).orElse(false));
        share.setValue(common(slips, slip -> slip.making().share())
                .map(SlipView::words)
                .orElse(null));
        allowMissing.setSelected(common(slips, Slip::allowMissing).orElse(false));
        Controls.showOnly(
                textureSection, shown.stream().anyMatch(each -> !each.missing().isEmpty()));
        if (one) {
            scales.showOne(arrival, slips.getFirst());
            fillKept(arrival, slips.getFirst());
            Controls.showOnly(alikeSection, alike.show(arrival, slips.getFirst()));
        } else {
            scales.showSeveral(shown, common(slips, Slip::factor));
            Controls.showOnly(keptFold, false);
            Controls.showOnly(alikeSection, false);
        }
        boolean shaped = !shown.stream().allMatch(Arrival::isShapeless);
        List.of(unitSection, axisSection, partsFold, pivotFold, collisionFold, detailFold)
                .forEach(choice -> Controls.showOnly(choice, shaped));
        Controls.showOnly(keptFold, shaped && keptFold.isVisible());
        tellFolds(slips);
        box.setDisable(shown.stream().noneMatch(Arrival::isOpen));
    }

    /** Each heading says what is set below it. */
    private void tellFolds(List<Slip> slips) {
        partsFold.tell(told(slips, slip -> words(slip.parts())));
        pivotFold.tell(told(slips, slip -> words(slip.pivot())));
        collisionFold.tell(told(slips, slip -> words(slip.making().collision())));
        detailFold.tell(told(
                slips,
                slip -> (slip.making().share() == 1
                                ? "all triangles"
                                : words(slip.making().share()) + " of the triangles")
                        + (slip.making().levels() ? ", with levels" : "")));
        licenceFold.tell(told(slips, slip -> Stream.of(slip.licence(), slip.credit())
                .filter(word -> !word.isBlank())
                .reduce((licence, who) -> licence + ", " + who)
                .orElse("none given")));
    }

    private static String told(List<Slip> slips, Function<Slip, String> words) {
        return common(slips, words).orElse("they differ");
    }

    /** Leaves a field alone that says the same already, so that the caret stays. */
    private static void set(TextField field, String text) {
        if (!text.equals(field.getText())) {
            field.setText(text);
        }
    }

    private void fillShelf(List<Slip> slips) {
        fillShelf(common(slips, Slip::shelf));
    }

    private void fillShelf(Optional<String> chosen) {
        List<String> shelves = new ArrayList<>(model.shelves());
        chosen.filter(path -> !shelves.contains(path)).ifPresent(shelves::add);
        if (!shelf.getItems().equals(shelves)) {
            shelf.getItems().setAll(shelves);
        }
        shelf.setValue(chosen.orElse(null));
        set(shelf.getEditor(), chosen.orElse(""));
    }

    private void fillKept(Arrival arrival, Slip slip) {
        kept.getChildren().clear();
        for (Survey.Told told :
                arrival.surveyProperty().get().map(Survey::carried).orElse(List.of())) {
            String names = String.join(
                            ", ",
                            told.names().subList(0, Math.min(4, told.names().size())))
                    + (told.names().size() > 4 ? " and " + (told.names().size() - 4) + " more" : "");
            if (told.kind() == Carried.Kind.FOREIGN) {
                kept.getChildren().add(Controls.wrapped("Never kept or run: " + names, Styles.FAINT));
                continue;
            }
            CheckBox keep = new CheckBox(told.kind().word() + ": " + names);
            keep.setId("keep-" + told.kind().name().toLowerCase(Locale.ROOT));
            keep.setWrapText(true);
            keep.setSelected(slip.making().kept().contains(told.kind()));
            keep.setOnAction(event -> change(s -> s.withMaking(s.making().keeping(told.kind(), keep.isSelected()))));
            kept.getChildren().add(keep);
        }
        Controls.showOnly(keptFold, !kept.getChildren().isEmpty());
        keptFold.tell(arrival.surveyProperty().get().map(Survey::carried).orElse(List.of()).stream()
                .filter(told -> told.kind() != Carried.Kind.FOREIGN)
                .map(told ->
                        told.kind().word() + (slip.making().kept().contains(told.kind()) ? ", kept" : ", left out"))
                .collect(Collectors.joining("; ")));
    }
}
