package pantry.desktop.shelves;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.PublishForm;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.usecase.MixParts;

/** Asks which material part is mixed into a material, and how much of it shows; the card's view shows what becomes of it. */
final class MixForm extends VBox {
    private final MixModel model;
    private final Choice<Asset> part = new Choice<>();
    private final Slider amount = new Slider(0, 1, 0);
    private final Choice<MixModel.Where> where = new Choice<>();
    private final CheckBox out = new CheckBox("take it out");
    private final PublishForm publish;

    MixForm(MixModel model, Session session, PublishForm.Publishing publishing) {
        super(8);
        this.model = model;
        part.setId("mix-part");
        part.setPromptText("a material part");
        part.setMaxWidth(Double.MAX_VALUE);
        part.shownAs(asset -> asset.card().name());
        part.setOnAction(event -> model.partProperty().set(Optional.ofNullable(part.getValue())));
        model.partProperty().subscribe(now -> part.setValue(now.orElse(null)));
        amount.setId("mix-amount");
        amount.setBlockIncrement(0.05);
        amount.setAccessibleText("How much of the part shows, per cent");
        HBox.setHgrow(amount, Priority.ALWAYS);
        amount.valueProperty().bindBidirectional(model.amountProperty());
        Label percent = Controls.label("", Styles.FIGURE);
        percent.setMinWidth(44);
        percent.textProperty().bind(model.amountProperty().map(share -> Math.round(100 * share.doubleValue()) + " %"));
        HBox share = new HBox(8, Controls.label("shows", Styles.FAINT), amount, percent);
        share.setAlignment(Pos.CENTER_LEFT);
        share.disableProperty().bind(model.outProperty());
        where.setId("mix-where");
        where.setMaxWidth(Double.MAX_VALUE);
        where.setAccessibleText("Where the part shows");
        where.shownAs(MixModel.Where::words);
        where.setOnAction(event -> {
            if (where.getValue() != null) {
                model.whereProperty().set(where.getValue());
            }
        });
        model.whereProperty().subscribe(now -> showWhere());
        where.disableProperty().bind(model.outProperty());
        out.setId("mix-out");
        out.selectedProperty().bindBidirectional(model.outProperty());
        model.partProperty()
                .subscribe(now -> Controls.showOnly(out, model.already().isPresent()));
        Label problem = Controls.wrapped("", Styles.WRONG);
        problem.setId("mix-problem");
        problem.textProperty().bind(model.problemProperty());
        model.problemProperty().subscribe(text -> Controls.showOnly(problem, !text.isEmpty()));
        Label there = Controls.wrapped("", Styles.FAINT);
        there.setId("mix-there");
        model.mixedProperty().subscribe(mixed -> {
            there.setText(told(mixed));
            Controls.showOnly(there, !mixed.isEmpty());
        });
        publish = new PublishForm(session, Optional.empty(), "", publishing);
        publish.disableProperty().bind(model.wishProperty().map(Optional::isEmpty));
        model.wishProperty().subscribe(wish -> wish.ifPresent(each -> publish.suggest(each.note())));
        Label none = Controls.wrapped(
                "No material part stands in this library yet. A MaterialX file that holds a group of nodes and no surface"
                        + " comes in as one.",
                Styles.FAINT);
        none.setId("mix-none");
        VBox mixing = new VBox(8, there, part, where, share, out, problem, publish);
        getChildren().addAll(none, mixing);
        model.readProperty().subscribe(read -> {
            boolean any = !model.availableProperty().get().parts().isEmpty()
                    || !model.mixedProperty().get().isEmpty();
            part.getItems().setAll(model.availableProperty().get().parts().keySet());
            part.setValue(model.partProperty().get().orElse(null));
            showWhere();
            Controls.showOnly(none, read && !any);
            Controls.showOnly(mixing, read && any);
        });
    }

    private void showWhere() {
        where.getItems().setAll(model.wheres());
        where.setValue(model.whereProperty().get());
        Controls.showOnly(where, where.getItems().size() > 1);
    }

    private static String told(List<MixParts.Mixed> mixed) {
        return "Mixed in by now: "
                + mixed.stream()
                        .map(each ->
                                each.asset().map(asset -> asset.card().name()).orElse(each.name())
                                        + each.amount()
                                                .map(share -> " " + Math.round(100 * share) + " %")
                                                .orElse("")
                                        + each.by()
                                                .map(mask -> " by the mask of "
                                                        + mask.asset()
                                                                .map(asset -> asset.card()
                                                                        .name())
                                                                .orElse(mask.name()))
                                                .orElse(""))
                        .collect(Collectors.joining(", "));
    }

    /** Takes the keys to the choice of a part. */
    void enter() {
        part.requestFocus();
    }
}
