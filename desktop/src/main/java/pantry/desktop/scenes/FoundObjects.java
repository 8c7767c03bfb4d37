package pantry.desktop.scenes;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import javafx.animation.PauseTransition;
import javafx.beans.InvalidationListener;
import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.OwnKeys;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.Units;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** A field above the list of objects: while something stands in it, only what is found is listed, to be selected. */
final class FoundObjects extends VBox {
    /** So many are listed; more than that nobody looks through. */
    private static final int MOST = 20_000;

    private static final Duration REST = Duration.millis(120);

    private final ScenesModel model;
    private final NewerVersions newer;
    private final TextField text = new TextField();
    private final ListView<SdfPath> list = new ListView<>();
    private final Label count = Controls.label("", Styles.FAINT);
    private final Node all;
    private final VBox found;
    private final PauseTransition rest = new PauseTransition(REST);
    private boolean filling;
    private boolean telling;

    /**
     * @param all what is shown while nothing is looked for
     * @param enter goes into an object
     */
    FoundObjects(ScenesModel model, Node all, Consumer<SdfPath> enter) {
        this.model = model;
        this.all = all;
        this.newer = new NewerVersions(model.session());
        text.setId("object-search");
        text.setPromptText("Find a name, or behind:");
        Controls.hint(
                text,
                "Words of names and assets; behind: overridden: missing: pinned: hidden: kind:group, with a minus for the"
                        + " others. Down goes to what is found, Esc shows all again");
        text.textProperty().addListener(change -> rest.playFromStart());
        rest.setOnFinished(event -> fill());
        text.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ESCAPE && !text.getText().isEmpty()) {
                text.clear();
                event.consume();
            } else if (event.getCode() == KeyCode.DOWN) {
                // Whoever is quicker than the pause still goes into what the words find.
                rest.stop();
                fill();
                list.requestFocus();
                list.getSelectionModel().selectFirst();
                event.consume();
            }
        });
        text.setOnAction(event -> selectAll());
        list.setId("found-objects");
        list.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        list.setCellFactory(cells -> new FoundCell());
        OwnKeys.onEnter(list, () -> model.selection().lastChosen().ifPresent(enter));
        SceneMenu.on(list, model, enter);
        list.getSelectionModel().getSelectedItems().addListener((InvalidationListener) change -> {
            if (!filling) {
                // What listens may show the scene anew, and the list's rows cannot change while it tells of a change.
                telling = true;
                model.selectionProperty()
                        .set(new LinkedHashSet<>(list.getSelectionModel().getSelectedItems()));
                telling = false;
            }
        });
        list.setPlaceholder(Controls.wrapped("Nothing in the scene is called so.", Styles.FAINT));
        Button select = Controls.button("Select all", "", "Select all that is found (Enter)", this::selectAll);
        select.setId("found-select");
        select.getStyleClass().add("small");
        HBox head = new HBox(8, count, Controls.spring(), select);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add("strip");
        VBox.setVgrow(list, Priority.ALWAYS);
        found = new VBox(head, list);
        StackPane shown = new StackPane(all, found);
        VBox.setVgrow(shown, Priority.ALWAYS);
        HBox field = new HBox(text);
        HBox.setHgrow(text, Priority.ALWAYS);
        field.getStyleClass().add("strip");
        getChildren().setAll(field, shown);
        text.disableProperty()
                .bind(Bindings.createBooleanBinding(
                        () -> model.sceneProperty().get().isEmpty(), model.sceneProperty()));
        model.sceneProperty().addListener(change -> text.clear());
        model.shownProperty().addListener(change -> {
            if (telling) {
                FxThread.later(this::fill);
            } else if (!text.getText().isBlank()) {
                fill();
            }
        });
        fill();
    }

    private void fill() {
        boolean looking = !text.getText().isBlank();
        Controls.showOnly(all, !looking);
        Controls.showOnly(found, looking);
        Optional<Scene> scene = model.sceneProperty().get();
        if (!looking || scene.isEmpty()) {
            return;
        }
        List<SdfPath> paths = new ObjectSearch(scene.get(), model.placements(), newer).find(text.getText(), MOST);
        filling = true;
        if (!paths.equals(list.getItems())) {
            Set<SdfPath> chosen = Set.copyOf(list.getSelectionModel().getSelectedItems());
            list.getItems().setAll(paths);
            IntStream.range(0, paths.size())
                    .filter(i -> chosen.contains(paths.get(i)))
                    .forEach(list.getSelectionModel()::select);
        }
        filling = false;
        count.setText(paths.size() == MOST ? "more than " + Units.count(MOST) : Units.count(paths.size()) + " found");
    }

    private void selectAll() {
        fill();
        if (!list.getItems().isEmpty() && !text.getText().isBlank()) {
            filling = true;
            list.getSelectionModel().selectAll();
            filling = false;
            model.selectionProperty().set(new LinkedHashSet<>(list.getItems()));
        }
    }

    /** A found object, with what it hangs on. */
    private final class FoundCell extends ListCell<SdfPath> {
        @Override
        protected void updateItem(SdfPath path, boolean empty) {
            super.updateItem(path, empty);
            setPrefWidth(1);
            if (empty || path == null) {
                setGraphic(null);
                return;
            }
            Label name = Controls.label(model.title(path));
            Label on = Controls.label(model.title(path.parent()), Styles.FAINT);
            on.setMinWidth(0);
            HBox line = new HBox(8, name, Controls.spring(), on);
            line.setAlignment(Pos.CENTER_LEFT);
            setGraphic(line);
        }
    }
}
