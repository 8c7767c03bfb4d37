package pantry.desktop.shelves;

import java.util.Optional;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.PublishForm;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Session;
import pantry.model.PhysicalMaterial;

/** Asks for an asset's friction, bounce and density. */
final class PhysicsForm extends VBox {
    private final PhysicsModel model;
    private final GridPane fields = new GridPane(8, 6);

    /** @param asset its id */
    PhysicsForm(PhysicsModel model, String asset, Session session, PublishForm.Publishing publishing) {
        super(8);
        this.model = model;
        if (model.materials().size() > 1) {
            getChildren().add(choice());
        }
        ColumnConstraints titles = new ColumnConstraints();
        ColumnConstraints figures = new ColumnConstraints();
        figures.setHgrow(Priority.ALWAYS);
        fields.getColumnConstraints().setAll(titles, figures);
        for (PhysicsModel.Field field : PhysicsModel.Field.values()) {
            TextField text = new TextField();
            text.setId("physics-" + field.name().toLowerCase(java.util.Locale.ROOT));
            text.setPromptText("not said");
            text.setAccessibleText(field.title());
            text.textProperty().bindBidirectional(model.textProperty(field));
            Label title = Controls.label(field.title(), Styles.FAINT);
            title.setMinWidth(USE_PREF_SIZE);
            fields.addRow(field.ordinal(), title, text);
        }
        Label problem = Controls.wrapped("", Styles.WRONG);
        problem.setId("physics-problem");
        problem.textProperty().bind(model.problemProperty());
        model.problemProperty().subscribe(text -> Controls.showOnly(problem, !text.isEmpty()));
        PublishForm publish = new PublishForm(session, Optional.of(asset), "", publishing);
        publish.disableProperty().bind(model.wishProperty().map(Optional::isEmpty));
        model.wishProperty().subscribe(wish -> wish.ifPresent(each -> publish.suggest(each.words())));
        getChildren().addAll(fields, problem, publish);
    }

    private ComboBox<PhysicalMaterial> choice() {
        Choice<PhysicalMaterial> choice = new Choice<>();
        choice.setId("physics-material");
        choice.setMaxWidth(Double.MAX_VALUE);
        choice.getItems().setAll(model.materials());
        choice.shownAs(PhysicalMaterial::name);
        choice.valueProperty().bindBidirectional(model.chosenProperty());
        return choice;
    }

    /** Takes the keys to the first number. */
    void enter() {
        fields.getChildren().stream()
                .filter(TextField.class::isInstance)
                .findFirst()
                .ifPresent(javafx.scene.Node::requestFocus);
    }
}
