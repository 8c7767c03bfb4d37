package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.MenuItem;
import javafx.scene.control.Tab;
import javafx.scene.control.TabPane;
import javafx.scene.control.TextField;
import javafx.scene.control.TreeCell;
import javafx.scene.control.TreeItem;
import javafx.scene.control.TreeView;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import pantry.base.NaturalOrder;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.library.Asset;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.UseIndex;

/** The files of the open projects and the assets of the open libraries, to choose what is looked at. */
final class ReachLists extends VBox {
    private final ReachModel model;
    private final TreeView<Entry> files = new TreeView<>(new TreeItem<>());
    private final ListView<Asset> assets = new ListView<>();
    private final TextField find = new TextField();
    private final TabPane lists = new TabPane();
    private boolean filling;

    /**
     * A line of the tree.
     *
     * @param file empty for a project
     */
    private record Entry(Project project, Optional<Path> file, String name, Reach.Waiting waiting) {}

    /**
     * @param openProject lets the user choose a project's folder
     * @param openScene opens the scene of a file
     */
    ReachLists(ReachModel model, Runnable openProject, Consumer<Path> openScene) {
        this.model = model;
        Button another = Controls.button("Project…", "", "Open another project's folder", openProject);
        another.setId("reach-open-project");
        HBox head = new HBox(8, Controls.label("Reach", Styles.TITLE), Controls.spring(), another);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        files.setId("reach-files");
        files.setAccessibleText("Files of the projects");
        files.setShowRoot(false);
        files.setCellFactory(tree -> new EntryCell());
        files.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> {
            if (now != null && !filling) {
                choose(now.getValue());
            }
        });
        files.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER) {
                chosenFile().ifPresent(openScene);
            } else if (event.getCode() == KeyCode.F2) {
                moveChosen();
            }
        });
        MenuItem open = new MenuItem("Open in Scenes");
        open.setOnAction(event -> chosenFile().ifPresent(openScene));
        MenuItem move = new MenuItem("Rename or move…");
        move.setOnAction(event -> moveChosen());
        ContextMenu menu = new ContextMenu(open, move);
        menu.setOnShowing(event -> {
            open.setDisable(chosenFile().isEmpty());
            move.setDisable(chosenFile().isEmpty());
        });
        files.setContextMenu(menu);
        find.setId("reach-find");
        find.setPromptText("Name or shelf");
        find.textProperty().addListener(change -> fillAssets());
        find.setOnAction(event -> {
            assets.requestFocus();
            assets.getSelectionModel().selectFirst();
        });
        assets.setId("reach-assets");
        assets.setCellFactory(list -> new AssetCell());
        assets.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> {
            if (now != null && !filling) {
                model.subjectProperty().set(new Subject.OfAsset(now.card().id()));
            }
        });
        VBox byAsset = new VBox(8, find, assets);
        byAsset.getStyleClass().add("slip");
        VBox.setVgrow(assets, Priority.ALWAYS);
        Tab fileTab = new Tab("Files", files);
        Tab assetTab = new Tab("Assets", byAsset);
        lists.getTabs().setAll(fileTab, assetTab);
        lists.setTabClosingPolicy(TabPane.TabClosingPolicy.UNAVAILABLE);
        lists.setId("reach-lists");
        VBox.setVgrow(lists, Priority.ALWAYS);
        getChildren().setAll(head, lists);
        getStyleClass().addAll(Styles.PANEL, "left");
        Controls.width(this, 17, 20);
        model.knownProperty().addListener(change -> fill());
        fill();
    }

    /** Asks for another name or place of the chosen file. */
    void moveChosen() {
        chosenFile().ifPresent(file -> Ask.of(this, "Its new name or place")
                .named(String.valueOf(file.getFileName()))
                .in(Optional.ofNullable(file.getParent()))
                .saveAs()
                .ifPresent(to -> model.move(file, to)));
    }

    /** Shows the assets rather than the files, to look at another one. */
    void showAssets() {
        lists.getSelectionModel().select(1);
        find.requestFocus();
    }

    /** Takes the keys to the list that is shown. */
    void enter() {
        (lists.getSelectionModel().getSelectedIndex() == 0 ? files : assets).requestFocus();
    }

    /** Shows the files rather than the assets. */
    void showFiles() {
        lists.getSelectionModel().select(0);
        files.requestFocus();
    }

    private Optional<Path> chosenFile() {
        TreeItem<Entry> item = files.getSelectionModel().getSelectedItem();
        return item == null ? Optional.empty() : item.getValue().file();
    }

    private void choose(Entry entry) {
        model.subjectProperty()
                .set(entry.file().<Subject>map(Subject.OfFile::new).orElse(Subject.ALL));
    }

    private void fill() {
        filling = true;
        Optional<Path> chosen = chosenFile();
        List<TreeItem<Entry>> heads = new ArrayList<>();
        Optional<TreeItem<Entry>> chosenNow = Optional.empty();
        Map<Path, Reach.Waiting> waiting = model.knownProperty().get().waiting();
        for (KnownProjects.ProjectFiles project : model.knownProperty().get().projects()) {
            Reach.Waiting whole = project.files().stream()
                    .map(file -> waiting.getOrDefault(file, Reach.Waiting.NOTHING))
                    .reduce(Reach.Waiting.NOTHING, Reach.Waiting::and);
            TreeItem<Entry> head = new TreeItem<>(new Entry(
                    project.project(), Optional.empty(), project.project().name(), whole));
            head.setExpanded(true);
            for (Path file : project.files()) {
                String name =
                        project.project().folder().relativize(file).toString().replace('\\', '/');
                TreeItem<Entry> item = new TreeItem<>(new Entry(
                        project.project(), Optional.of(file), name, waiting.getOrDefault(file, Reach.Waiting.NOTHING)));
                head.getChildren().add(item);
                if (chosen.filter(file::equals).isPresent()) {
                    chosenNow = Optional.of(item);
                }
            }
            heads.add(head);
        }
        files.getSelectionModel().clearSelection();
        files.getRoot().getChildren().setAll(heads);
        // Only what is in the tree can be selected.
        chosenNow.ifPresent(files.getSelectionModel()::select);
        filling = false;
        fillAssets();
    }

    private void fillAssets() {
        filling = true;
        Asset chosen = assets.getSelectionModel().getSelectedItem();
        String words = find.getText().strip().toLowerCase(Locale.ROOT);
        List<Asset> found = model.knownProperty().get().reach().stream()
                .flatMap(reach -> reach.assets().stream())
                .filter(asset -> asset.address().toLowerCase(Locale.ROOT).contains(words))
                .sorted(Comparator.comparing(asset -> asset.card().name(), NaturalOrder.BY_NAME))
                .toList();
        assets.getItems().setAll(found);
        if (chosen != null) {
            found.stream()
                    .filter(asset -> asset.folder().equals(chosen.folder()))
                    .findFirst()
                    .ifPresent(assets.getSelectionModel()::select);
        }
        filling = false;
    }

    /** A project or a file, with what waits in it. */
    private static final class EntryCell extends TreeCell<Entry> {
        @Override
        protected void updateItem(@Nullable Entry entry, boolean empty) {
            super.updateItem(entry, empty);
            setText(null);
            if (empty || entry == null) {
                setGraphic(null);
                return;
            }
            Label name = Controls.path(entry.name());
            name.setMinWidth(0);
            HBox line = new HBox(6, name, Controls.spring());
            line.setAlignment(Pos.CENTER_LEFT);
            if (entry.waiting().total() > 0) {
                Label count = Controls.label(
                        String.valueOf(entry.waiting().total()),
                        "status",
                        entry.waiting().missing() > 0 ? "wrong" : "caution");
                count.setMinWidth(Region.USE_PREF_SIZE);
                line.getChildren().add(count);
            }
            setGraphic(line);
            setPrefWidth(1);
            Controls.hint(
                    this,
                    entry.file()
                                    .map(Path::toString)
                                    .orElse(entry.project().folder().toString()) + ": "
                            + told(entry.waiting()));
        }
    }

    /** An asset, and how much it is used. */
    private final class AssetCell extends ListCell<Asset> {
        @Override
        protected void updateItem(@Nullable Asset asset, boolean empty) {
            super.updateItem(asset, empty);
            setText(null);
            setPrefWidth(1);
            if (empty || asset == null) {
                setGraphic(null);
                return;
            }
            UseIndex.Total total =
                    model.knownProperty().get().totals().getOrDefault(asset.folder(), UseIndex.Total.NONE);
            Label name = Controls.label(asset.card().name());
            name.setMinWidth(0);
            Label count = total.files() == 0
                    ? Controls.label("unused", Styles.FAINT)
                    : Controls.label(Units.count(total.placements()) + " ×", Styles.FIGURE);
            count.setMinWidth(Region.USE_PREF_SIZE);
            HBox line = new HBox(6, name, Controls.spring(), count);
            line.setAlignment(Pos.CENTER_LEFT);
            setGraphic(line);
            Controls.hint(
                    this,
                    asset.address().replace("/", " / ")
                            + (total.files() == 0 ? "" : ": in " + Units.counted(total.files(), "file")));
        }
    }

    /** How much waits in a file, by what waits. */
    static String told(Reach.Waiting waiting) {
        StringBuilder told = new StringBuilder();
        add(told, waiting.behind(), "behind");
        add(told, waiting.unready(), "not ready");
        add(told, waiting.mixed(), "in two versions");
        add(told, waiting.missing(), "missing");
        return told.isEmpty() ? "Nothing waits" : told.toString();
    }

    private static void add(StringBuilder told, int count, String word) {
        if (count > 0) {
            told.append(told.isEmpty() ? "" : ", ").append(count).append(' ').append(word);
        }
    }
}
