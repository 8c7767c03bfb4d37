package pantry.desktop.shelves;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.base.Names;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.LicenceField;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.SuggestedWords;
import pantry.desktop.session.Libraries;
import pantry.library.AssetKind;
import pantry.library.Card;
import pantry.library.Tags;
import pantry.model.Facts;

/** The facts on cards that people write, for one asset or for many at once. */
final class CardForm extends VBox {
    /** Fields for what is new; what is written in them stands until it is taken over. */
    static final List<String> NEW = List.of("card-add-tag", "card-new-field", "card-new-value");

    /** The property of a field for the text that it had, or that was taken over of it, last. */
    private static final Object TAKEN_OVER = new Object();

    private static final double LABEL_WIDTH = 66;

    private final ShelvesModel model;
    private final LibraryActions actions;
    private final VBox tags = new VBox();

    CardForm(ShelvesModel model, LibraryActions actions) {
        super(16);
        this.model = model;
        this.actions = actions;
    }

    /** The tags, which stand apart from the rest: they are looked at more often than written. */
    VBox tags() {
        return tags;
    }

    /** @param cards of the chosen assets */
    void show(List<IndexedAsset> items, List<Card> cards, List<Facts.MaterialFact> materials, boolean writable) {
        tags.getChildren().setAll(tags(items, writable));
        tags.setDisable(!writable);
        VBox words = new VBox(6);
        if (items.size() == 1) {
            words.getChildren()
                    .add(row("name", field(items, cards, new Word("card-name", Card::name, Card::withName, "named"))));
        }
        words.getChildren().add(row("kind", kind(items, cards)));
        words.getChildren().add(row("licence", licence(items, cards)));
        words.getChildren()
                .add(row(
                        "credit",
                        field(items, cards, new Word("card-credit", Card::credit, Card::withCredit, "credited"))));
        words.getChildren()
                .add(row(
                        "source",
                        field(
                                items,
                                cards,
                                new Word("card-source", Card::source, Card::withSource, "changed the source of"))));
        words.getChildren().add(notes(items, cards));
        getChildren().setAll(Controls.section("Words", words));
        getChildren().add(Controls.section("Fields", fields(items, cards)));
        if (items.size() == 1 && !materials.isEmpty()) {
            getChildren()
                    .add(Controls.section("Colour may be chosen for", colourable(items, cards.getFirst(), materials)));
        }
        setDisable(!writable);
    }

    private static HBox row(String name, Node field) {
        Label label = Controls.label(name, Styles.FAINT);
        label.setMinWidth(LABEL_WIDTH);
        label.setLabelFor(field);
        HBox.setHgrow(field, Priority.ALWAYS);
        HBox row = new HBox(6, label, field);
        row.setAlignment(Pos.BASELINE_LEFT);
        return row;
    }

    /** What all cards have in a field; empty where they differ. */
    private static String common(List<Card> cards, Function<Card, String> fact) {
        Set<String> values = cards.stream().map(fact).collect(Collectors.toSet());
        return values.size() == 1 ? values.iterator().next() : "";
    }

    private static boolean differ(List<Card> cards, Function<Card, ?> fact) {
        return cards.stream().map(fact).distinct().count() > 1;
    }

    /**
     * A word of cards that is written in a field of its own.
     *
     * @param done what is said of its being changed, before the asset's name
     */
    private record Word(String id, Function<Card, String> fact, BiFunction<Card, String, Card> change, String done) {}

    private TextField field(List<IndexedAsset> items, List<Card> cards, Word word) {
        TextField field = new TextField(common(cards, word.fact()));
        field.setId(word.id());
        field.setPromptText(differ(cards, word.fact()) ? "several" : "");
        commit(field, text -> {
            if (!text.isBlank() || !word.id().equals("card-name")) {
                actions.edit(items, word.done() + " %s", card -> word.change().apply(card, text.strip()));
            }
        });
        field.setOnAction(event -> field.getParent().requestFocus());
        return field;
    }

    /** Takes over what was written when the field is left, where it was changed; Escape brings it back. */
    private static void commit(TextInputControl field, Consumer<String> change) {
        field.getProperties().put(TAKEN_OVER, field.getText());
        field.focusedProperty().addListener((property, was, now) -> {
            if (!now && isWritten(field)) {
                field.getProperties().put(TAKEN_OVER, field.getText());
                change.accept(field.getText());
            }
        });
        field.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ESCAPE) {
                field.setText(takenOver(field));
                event.consume();
            }
        });
    }

    /** Whether a field says something that is not taken over yet. */
    static boolean isWritten(TextInputControl field) {
        return !field.getText().equals(takenOver(field));
    }

    private static String takenOver(TextInputControl field) {
        return String.valueOf(field.getProperties().getOrDefault(TAKEN_OVER, ""));
    }

    private ComboBox<String> kind(List<IndexedAsset> items, List<Card> cards) {
        ComboBox<String> kind = new Choice<>();
        for (AssetKind each : AssetKind.values()) {
            kind.getItems().add(each.word());
        }
        kind.setMaxWidth(Double.MAX_VALUE);
        // None, rather than an empty one: what stands for several is said only then.
        kind.setValue(differ(cards, Card::kind) ? null : cards.getFirst().kind().word());
        kind.setPromptText("several");
        kind.setOnAction(event -> {
            for (AssetKind each : AssetKind.values()) {
                if (each.word().equals(kind.getValue())) {
                    actions.edit(items, "made %s a " + each.word(), card -> card.withKind(each));
                }
            }
        });
        return kind;
    }

    private LicenceField licence(List<IndexedAsset> items, List<Card> cards) {
        LicenceField licence = new LicenceField(
                "card-licence",
                begun -> model.session().shelving().suggestions().licences(begun));
        TextField field = licence.field();
        field.setText(common(cards, Card::licence));
        if (differ(cards, Card::licence)) {
            field.setPromptText("several");
        }
        commit(field, text -> {
            if (licence.isUnderstood()) {
                actions.edit(items, "licensed %s", card -> card.withLicence(text.strip()));
            }
        });
        field.setOnAction(event -> field.getParent().requestFocus());
        return licence;
    }

    private VBox notes(List<IndexedAsset> items, List<Card> cards) {
        TextArea notes = new TextArea(common(cards, Card::notes));
        notes.setId("card-notes");
        notes.setPromptText(differ(cards, Card::notes) ? "several" : "notes");
        notes.setPrefRowCount(2);
        notes.setWrapText(true);
        commit(notes, text -> actions.edit(items, "noted something on %s", card -> card.withNotes(text.strip())));
        return new VBox(notes);
    }

    private VBox tags(List<IndexedAsset> items, boolean writable) {
        FlowPane flow = new FlowPane(6, 6);
        Set<String> all = new LinkedHashSet<>();
        items.forEach(item -> all.addAll(item.tags()));
        for (String tag : all) {
            boolean everywhere = items.stream().allMatch(item -> item.tags().contains(tag));
            Button find = Controls.button(
                    everywhere ? tag : tag + " (some)", "", "Find more with this tag", () -> model.search()
                            .narrow("tag", tag));
            find.getStyleClass().add(Styles.TAG);
            Button off = Controls.button(
                    "",
                    "remixal-close-line",
                    "Take the tag " + tag + " off",
                    () -> actions.edit(items, "took the tag “" + tag + "” off %s", card -> card.untagged(tag)));
            off.getStyleClass().addAll("tag-off", Styles.QUIET);
            off.setVisible(writable);
            off.setManaged(writable);
            HBox chip = new HBox(find, off);
            chip.setAlignment(Pos.CENTER_LEFT);
            flow.getChildren().add(chip);
        }
        TextField add = new TextField();
        add.setId("card-add-tag");
        add.setPromptText("add a tag");
        add.setPrefColumnCount(8);
        add.setOnAction(event -> {
            model.session().attempt(() -> {
                List<String> given = Tags.given(add.getText());
                if (!given.isEmpty()) {
                    add.clear();
                    actions.edit(items, "tagged %s “" + String.join(", ", given) + "”", card -> tagged(card, given));
                }
            });
        });
        SuggestedWords.behindCommas(
                add, begun -> model.session().shelving().suggestions().tags(begun));
        flow.getChildren().add(add);
        return Controls.section("Tags", flow);
    }

    private static Card tagged(Card card, List<String> tags) {
        Card tagged = card;
        for (String tag : tags) {
            tagged = tagged.tagged(tag);
        }
        return tagged;
    }

    private VBox fields(List<IndexedAsset> items, List<Card> cards) {
        VBox box = new VBox(6);
        Set<String> names = new LinkedHashSet<>();
        cards.forEach(card -> names.addAll(card.fields().keySet()));
        for (String name : names) {
            box.getChildren()
                    .add(row(
                            name,
                            field(
                                    items,
                                    cards,
                                    new Word(
                                            "card-field-" + Names.slug(name),
                                            card -> card.fields().getOrDefault(name, ""),
                                            (card, text) -> card.withField(name, text),
                                            "changed “" + name + "” of"))));
        }
        TextField name = new TextField();
        name.setId("card-new-field");
        name.setPromptText("another field");
        name.setPrefColumnCount(7);
        TextField value = new TextField();
        value.setId("card-new-value");
        value.setPromptText("its value");
        HBox.setHgrow(value, Priority.ALWAYS);
        Libraries shelving = model.session().shelving();
        SuggestedWords.ofAll(name, begun -> shelving.suggestions().fields(begun));
        SuggestedWords.ofAll(value, begun -> shelving.suggestions()
                .fieldValues(name.getText().strip(), begun));
        value.setOnAction(event -> {
            String field = name.getText().strip();
            String text = value.getText().strip();
            if (!field.isEmpty() && !text.isEmpty()) {
                name.clear();
                value.clear();
                actions.edit(items, "set “" + field + "” of %s", card -> card.withField(field, text));
            }
        });
        box.getChildren().add(new HBox(6, name, value));
        return box;
    }

    private VBox colourable(List<IndexedAsset> items, Card card, List<Facts.MaterialFact> materials) {
        VBox box = new VBox(4);
        for (Facts.MaterialFact material : materials) {
            CheckBox tick = new CheckBox(material.name());
            tick.setSelected(card.colourable().contains(material.name()));
            tick.setOnAction(event -> actions.edit(items, "changed what of %s may be coloured", now -> {
                List<String> parts = new ArrayList<>(now.colourable());
                parts.remove(material.name());
                if (tick.isSelected()) {
                    parts.add(material.name());
                }
                return now.withColourable(parts);
            }));
            box.getChildren().add(tick);
        }
        return box;
    }
}
