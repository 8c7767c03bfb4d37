package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.binding.Bindings;
import javafx.collections.ListChangeListener;
import javafx.geometry.Orientation;
import javafx.scene.control.Button;
import javafx.scene.control.ListCell;
import javafx.scene.control.SplitPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/** Left of the view: the project's scenes, the open one's structure, and its drawers. */
final class StructurePanel extends VBox {
    private final ScenesModel model;
    private final Consumer<Runnable> leave;
    private final Choice<Path> files;
    private final StructureTree tree;
    private final TextField newName = new TextField();

    /**
     * What is done elsewhere.
     *
     * @param leave goes on once the open scene is saved or given up
     * @param enter goes into an object
     */
    record Actions(Consumer<Runnable> leave, Consumer<SdfPath> enter) {}

    StructurePanel(ScenesModel model, Actions actions) {
        this.model = model;
        this.leave = actions.leave();
        this.files = new Choice<>(model.files());
        files.setId("scene-files");
        files.setMaxWidth(Double.MAX_VALUE);
        files.setPromptText("Choose a scene");
        files.setCellFactory(cells -> new FileCell(""));
        files.setButtonCell(new FileCell("Choose a scene"));
        // For a scene of another project, which is not in the list.
        files.shownAs(SceneNames::title);
        files.setOnShowing(event -> {
            model.session().listScenes();
            files.setValue(model.sceneProperty().get().map(Scene::file).orElse(null));
        });
        model.files().addListener((ListChangeListener<Path>) change -> showFile());
        files.setOnAction(event -> {
            Path chosen = files.getValue();
            boolean other = chosen != null
                    && !model.sceneProperty().get().map(Scene::file).equals(Optional.of(chosen));
            if (other) {
                leave.accept(() -> model.open(chosen));
            }
        });
        newName.setId("new-scene-name");
        newName.setPromptText("New scene");
        Button create = Controls.button("New", "remixal-add-line", "Make an empty scene of that name", this::create);
        create.setId("new-scene");
        create.disableProperty()
                .bind(Bindings.createBooleanBinding(
                        () -> newName.getText().isBlank()
                                || model.session().projectProperty().get().isEmpty(),
                        newName.textProperty(),
                        model.session().projectProperty()));
        newName.setOnAction(event -> create.fire());
        HBox.setHgrow(newName, Priority.ALWAYS);
        HBox make = new HBox(8, newName, create);
        VBox head = new VBox(8, files, make);
        head.getStyleClass().addAll(Styles.PANEL_TITLE, "tall");
        head.setMinHeight(USE_PREF_SIZE);
        create.setMinWidth(USE_PREF_SIZE);
        tree = new StructureTree(model, actions.enter());
        SplitPane parts = new SplitPane(new FoundObjects(model, tree, actions.enter()), new DrawersPane(model));
        parts.setOrientation(Orientation.VERTICAL);
        parts.setDividerPositions(0.66);
        VBox.setVgrow(parts, Priority.ALWAYS);
        getChildren().setAll(head, parts);
        getStyleClass().addAll(Styles.PANEL, "left");
        Controls.width(this, 16, 19);
    }

    private void create() {
        String name = newName.getText().strip();
        if (!name.isEmpty()) {
            leave.accept(() -> {
                model.create(name);
                newName.clear();
                // What is typed next is meant for the scene.
                tree.requestFocus();
            });
        }
    }

    /** Shows in the list which scene is open. */
    void showFile() {
        files.setValue(model.sceneProperty().get().map(Scene::file).orElse(null));
    }

    private static final class FileCell extends ListCell<Path> {
        private final String otherwise;

        /** @param otherwise what stands there where there is none */
        FileCell(String otherwise) {
            this.otherwise = otherwise;
        }

        @Override
        protected void updateItem(Path file, boolean empty) {
            super.updateItem(file, empty);
            setText(empty || file == null ? otherwise : SceneNames.title(file));
        }
    }
}
