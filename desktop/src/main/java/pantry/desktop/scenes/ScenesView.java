package pantry.desktop.scenes;

import java.io.File;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javafx.beans.binding.Bindings;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.SplitPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.control.TreeCell;
import javafx.scene.control.TreeItem;
import javafx.scene.control.TreeView;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;
import javafx.stage.DirectoryChooser;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.base.Names;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.catalogue.Item;
import pantry.desktop.look.Bits;
import pantry.desktop.look.Styles;
import pantry.desktop.look3d.View3d;
import pantry.desktop.session.Session;
import pantry.desktop.shelves.ShelvesModel;
import pantry.desktop.shelves.Thumbs;
import pantry.render.RenderScene;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.schema.Placing;

/** The scene's structure · the view with the tray below it · the placement's slip. */
public final class ScenesView extends BorderPane {
    private final ScenesModel model;
    private final ShelvesModel shelves;
    private final Session session;
    private final Thumbs thumbs;
    private final TreeView<SdfPath> tree = new TreeView<>();
    private final View3d view = new View3d();
    private final Grips grips = new Grips(view);
    private final StackPane middle = new StackPane();
    private final BorderPane open = new BorderPane();
    private final ListView<Item> tray = new ListView<>();
    private final Pane ghosts;
    private final TextField newName = new TextField();
    private final ComboBox<Path> files;
    private final HBox leaving = new HBox(8);
    private final Map<SdfPath, Placement> byPath = new HashMap<>();
    private boolean selecting;
    private Optional<Path> shownFile = Optional.empty();

    /** @param ghosts lies over everything, for what is being dragged */
    public ScenesView(ScenesModel model, ShelvesModel shelves, Session session, Thumbs thumbs, Pane ghosts) {
        this.model = model;
        this.shelves = shelves;
        this.session = session;
        this.thumbs = thumbs;
        this.ghosts = ghosts;
        this.files = new ComboBox<>(model.files());
        view.setId("scene-view");
        view.optionsProperty().set(view.optionsProperty().get().withGrid(true));
        view.setOnPick(this::picked);
        grips.setOnMove(this::dragged);
        StackPane look = new StackPane(view, grips);
        look.setMinSize(80, 80);
        // Grips of what stands outside the picture must not lie over what is beside it.
        Rectangle inside = new Rectangle();
        inside.widthProperty().bind(look.widthProperty());
        inside.heightProperty().bind(look.heightProperty());
        look.setClip(inside);
        open.setTop(strip());
        open.setCenter(look);
        open.setBottom(trayPane());
        middle.getChildren().setAll(open);
        SplitPane parts = new SplitPane(left(), middle, new PlacementSlip(model));
        parts.setDividerPositions(0.21, 0.74);
        SplitPane.setResizableWithParent(parts.getItems().get(0), false);
        SplitPane.setResizableWithParent(parts.getItems().get(2), false);
        setCenter(parts);
        model.sceneProperty().addListener(change -> showScene());
        session.projectProperty().addListener(change -> showScene());
        model.shownProperty().addListener(change -> showContents());
        model.selectionProperty().addListener(change -> showSelection());
        shelves.items().addListener((javafx.beans.InvalidationListener) change -> fillTray());
        fillTray();
        showScene();
    }

    private VBox left() {
        files.setId("scene-files");
        files.setMaxWidth(Double.MAX_VALUE);
        files.setPromptText("Choose a scene");
        files.setCellFactory(cells -> new FileCell());
        files.setButtonCell(new FileCell());
        files.setOnAction(event -> {
            Path chosen = files.getValue();
            boolean other = chosen != null
                    && !model.sceneProperty().get().map(Scene::file).equals(Optional.of(chosen));
            if (other) {
                leave(() -> model.open(chosen));
            }
        });
        newName.setId("new-scene-name");
        newName.setPromptText("Name of a new scene");
        Button create = Bits.button("New", "remixal-add-line", "Make an empty scene of that name", this::create);
        create.setId("new-scene");
        create.disableProperty()
                .bind(Bindings.createBooleanBinding(
                        () -> newName.getText().isBlank()
                                || session.projectProperty().get().isEmpty(),
                        newName.textProperty(),
                        session.projectProperty()));
        newName.setOnAction(event -> create.fire());
        HBox.setHgrow(newName, Priority.ALWAYS);
        HBox make = new HBox(8, newName, create);
        VBox head = new VBox(8, files, make);
        head.getStyleClass().addAll(Styles.PANEL_TITLE, "tall");
        create.setMinWidth(USE_PREF_SIZE);
        tree.setId("scene-tree");
        tree.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        tree.setCellFactory(cells -> new PrimCell());
        tree.getSelectionModel().getSelectedItems().addListener((javafx.beans.InvalidationListener) change -> {
            if (!selecting) {
                Set<SdfPath> chosen = tree.getSelectionModel().getSelectedItems().stream()
                        .filter(item -> item != null && byPath.containsKey(item.getValue()))
                        .map(TreeItem::getValue)
                        .collect(Collectors.toCollection(LinkedHashSet::new));
                model.selectionProperty().set(chosen);
            }
        });
        tree.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.DELETE) {
                model.removeSelected();
                event.consume();
            }
        });
        VBox.setVgrow(tree, Priority.ALWAYS);
        VBox left = new VBox(head, tree);
        left.getStyleClass().addAll(Styles.PANEL, "left");
        left.setMinWidth(210);
        return left;
    }

    private void create() {
        String name = newName.getText().strip();
        if (!name.isEmpty()) {
            leave(() -> {
                model.create(name);
                newName.clear();
            });
        }
    }

    private VBox strip() {
        Label name = Bits.label("", Styles.TITLE);
        name.textProperty()
                .bind(Bindings.createStringBinding(
                        () -> model.sceneProperty()
                                        .get()
                                        .map(scene -> title(scene.file()))
                                        .orElse("")
                                + (model.changedProperty().get() ? " · not saved" : ""),
                        model.sceneProperty(),
                        model.changedProperty()));
        Button save = Bits.button("Save", "remixmz-save-line", "Save the scene (Ctrl+S)", model::save);
        save.setId("save-scene");
        save.disableProperty().bind(model.changedProperty().not());
        Button close = Bits.button("Close", "remixal-close-line", "Close the scene", () -> leave(model::close));
        close.setId("close-scene");
        Button undo = Bits.button("", "remixal-arrow-go-back-line", "Undo (Ctrl+Z)", model::undo);
        undo.setId("undo");
        Button redo = Bits.button("", "remixal-arrow-go-forward-line", "Redo (Ctrl+Y)", model::redo);
        redo.setId("redo");
        Button near = Bits.button("", "remixmz-zoom-in-line", "Show what is selected (Shift+Home)", this::zoomTo);
        Button all = Bits.button("", "remixal-fullscreen-line", "Show everything (Home)", view::frameAll);
        for (Button button : new Button[] {undo, redo, near, all, close}) {
            button.getStyleClass().add(Styles.QUIET);
        }
        ToggleButton light = new ToggleButton("Proxies");
        light.setId("scene-proxies");
        light.getStyleClass().add("small");
        light.setMinWidth(USE_PREF_SIZE);
        light.setTooltip(new Tooltip("Show placements by their proxies while working; what is rendered stays (P)"));
        light.selectedProperty().bindBidirectional(model.lightProperty());
        HBox line = new HBox(6, name, Bits.spring(), light, undo, redo, near, all, save, close);
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().addAll(Styles.PANEL, Styles.PANEL_TITLE);
        leaving.setAlignment(Pos.CENTER_LEFT);
        leaving.getStyleClass().addAll("note-box", "caution");
        leaving.managedProperty().bind(leaving.visibleProperty());
        leaving.setVisible(false);
        return new VBox(line, leaving);
    }

    private static String title(Path file) {
        return Names.stem(file.getFileName().toString());
    }

    /** Goes on at once where all is saved; otherwise asks in the strip above the view. */
    public void leave(Runnable then) {
        if (!model.changedProperty().get()) {
            then.run();
            return;
        }
        Button save = Bits.button("Save and go on", "", "", () -> {
            leaving.setVisible(false);
            model.save();
            if (!model.changedProperty().get()) {
                then.run();
            }
        });
        save.getStyleClass().add(Styles.PRIMARY);
        Button drop = Bits.button("Give up the changes", "", "", () -> {
            leaving.setVisible(false);
            then.run();
        });
        Button stay = Bits.button("Stay", "", "", () -> leaving.setVisible(false));
        leaving.getChildren()
                .setAll(
                        new FontIcon("remixal-alert-line"),
                        Bits.label("The scene has changes that are not saved."),
                        Bits.spring(),
                        save,
                        drop,
                        stay);
        leaving.setVisible(true);
    }

    private VBox trayPane() {
        // A list has nodes only for what is seen, however many assets there are.
        tray.setId("tray");
        tray.setOrientation(Orientation.HORIZONTAL);
        tray.setFixedCellSize(TRAY_TILE);
        tray.getStyleClass().add("tray");
        tray.setPrefHeight(112);
        tray.setMinHeight(112);
        tray.setFocusTraversable(false);
        tray.setCellFactory(cells -> new ListCell<>() {
            @Override
            protected void updateItem(Item item, boolean empty) {
                boolean same = item != null && item.equals(getItem()) && getGraphic() != null;
                super.updateItem(item, empty);
                setText(null);
                if (!same) {
                    // Not under a hand that is dragging it.
                    setGraphic(empty ? null : trayTile(item));
                }
            }
        });
        VBox pane = new VBox(tray);
        pane.getStyleClass().add("strip");
        return pane;
    }

    private void fillTray() {
        tray.setPlaceholder(Bits.label(
                shelves.wordsProperty().get().isBlank()
                        ? "Assets to drag into the scene lie here once a library is open."
                        : "Nothing matches “" + shelves.wordsProperty().get() + "” in the search field.",
                Styles.FAINT));
        tray.getItems().setAll(shelves.items());
    }

    private VBox trayTile(Item item) {
        ImageView image = new ImageView(thumbs.get(item));
        image.setFitWidth(68);
        image.setFitHeight(68);
        Label name = Bits.label(item.name());
        name.setMaxWidth(92);
        VBox tile = new VBox(2, image, name);
        tile.getStyleClass().add("tray-tile");
        tile.setId("tray-" + Names.slug(item.name()));
        tile.setMinWidth(100);
        tile.setFocusTraversable(true);
        tile.setAccessibleText(item.name() + "; drag it into the view, or press Enter to place it");
        Tooltip.install(tile, new Tooltip(item.name() + "; drag it into the view, or double-click"));
        ImageView ghost = new ImageView();
        ghost.setMouseTransparent(true);
        ghost.setOpacity(0.85);
        tile.setOnMouseDragged(event -> {
            if (ghost.getParent() == null) {
                ghost.setImage(image.getImage());
                ghost.setFitWidth(84);
                ghost.setFitHeight(84);
                ghosts.getChildren().add(ghost);
                session.attempt(
                        () -> session.weightAfterProperty().set(Optional.of(model.weightWith(shelves.asset(item)))));
            }
            ghost.relocate(event.getSceneX() - 42, event.getSceneY() - 42);
            event.consume();
        });
        tile.setOnMouseReleased(event -> {
            if (ghost.getParent() != null) {
                ghosts.getChildren().remove(ghost);
                session.weightAfterProperty().set(Optional.empty());
                drop(item, event);
            }
            event.consume();
        });
        tile.setOnMouseClicked(event -> {
            tile.requestFocus();
            if (event.getClickCount() == 2) {
                placeInMiddle(item);
            }
        });
        tile.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER) {
                placeInMiddle(item);
                event.consume();
            }
        });
        return tile;
    }

    private void drop(Item item, MouseEvent event) {
        var at = view.sceneToLocal(event.getSceneX(), event.getSceneY());
        if (view.contains(at) && model.sceneProperty().get().isPresent()) {
            Vec3 ground = view.groundAt(at.getX(), at.getY(), 0);
            session.attempt(() -> model.place(shelves.asset(item), rounded(ground)));
            view.requestFocus();
        }
    }

    /** Places an asset where the view looks. */
    public void placeInMiddle(Item item) {
        if (model.sceneProperty().get().isPresent()) {
            Vec3 target = view.cameraProperty().get().target();
            session.attempt(() -> model.place(shelves.asset(item), rounded(new Vec3(target.x(), 0, target.z()))));
        }
    }

    /** To the centimetre: nobody drops things to the micrometre. */
    private static Vec3 rounded(Vec3 v) {
        return new Vec3(Math.rint(v.x() * 100) / 100, Math.rint(v.y() * 100) / 100, Math.rint(v.z() * 100) / 100);
    }

    private void showScene() {
        Optional<Scene> scene = model.sceneProperty().get();
        leaving.setVisible(false);
        files.setValue(scene.map(Scene::file).orElse(null));
        if (scene.isEmpty()) {
            tree.setRoot(null);
            shownFile = Optional.empty();
            boolean project = session.projectProperty().get().isPresent();
            Button choose = Bits.button("Open a project folder…", "", "", this::chooseProject);
            choose.getStyleClass().add(Styles.PRIMARY);
            middle.getChildren()
                    .setAll(
                            project
                                    ? Bits.empty(
                                            "remixal-landscape-line",
                                            "No scene is open",
                                            "Choose one of the project's scenes at the upper left, or name a new one"
                                                    + " there.")
                                    : Bits.empty(
                                            "remixal-folder-open-line",
                                            "No project is open",
                                            "A project is a folder of scenes. Choose one to begin.",
                                            choose));
        } else {
            middle.getChildren().setAll(open);
        }
    }

    private void chooseProject() {
        File chosen = new DirectoryChooser().showDialog(getScene().getWindow());
        if (chosen != null) {
            session.projectProperty().set(Optional.of(chosen.toPath()));
        }
    }

    private void showContents() {
        Optional<Scene> scene = model.sceneProperty().get();
        if (scene.isEmpty()) {
            return;
        }
        byPath.clear();
        model.placements().forEach(placement -> byPath.put(placement.path(), placement));
        selecting = true;
        // The one root prim that a scene has says nothing here: its contents stand at the top.
        SdfPath top = scene.get().layer().rootPrims().size() == 1 ? scene.get().root() : SdfPath.ROOT;
        TreeItem<SdfPath> root = new TreeItem<>(top);
        fill(root, scene.get().layer().prim(top).orElseThrow(), top);
        tree.setShowRoot(false);
        tree.setRoot(root);
        selecting = false;
        view.drawnProperty().set(model.shownProperty().get().drawn());
        if (!shownFile.equals(Optional.of(scene.get().file()))) {
            shownFile = Optional.of(scene.get().file());
            javafx.application.Platform.runLater(view::frameAll);
        }
        showSelection();
    }

    private void fill(TreeItem<SdfPath> item, PrimSpec prim, SdfPath path) {
        for (PrimSpec child : prim.children()) {
            TreeItem<SdfPath> line = new TreeItem<>(path.child(child.name()));
            line.setExpanded(true);
            item.getChildren().add(line);
            if (!byPath.containsKey(line.getValue())) {
                fill(line, child, line.getValue());
            }
        }
    }

    private void showSelection() {
        Set<SdfPath> chosen = model.selectionProperty().get();
        selecting = true;
        tree.getSelectionModel().clearSelection();
        if (tree.getRoot() != null) {
            select(tree.getRoot(), chosen);
        }
        selecting = false;
        view.optionsProperty()
                .set(view.optionsProperty()
                        .get()
                        .withSelected(chosen.stream().map(SdfPath::toString).collect(Collectors.toSet())));
        Optional<Placement> single = model.single();
        RenderScene drawn = model.shownProperty().get().drawn();
        grips.show(
                single,
                single.map(placement -> model.parentSpace(placement.path())).orElse(Matrix4.IDENTITY),
                single.map(placement -> drawn.boundsBelow(placement.path().toString())
                                .size()
                                .y())
                        .orElse(1.0));
    }

    private void select(TreeItem<SdfPath> item, Set<SdfPath> chosen) {
        if (chosen.contains(item.getValue())) {
            tree.getSelectionModel().select(item);
        }
        item.getChildren().forEach(child -> select(child, chosen));
    }

    private void picked(Optional<String> owner, MouseEvent event) {
        Optional<SdfPath> path = owner.flatMap(model::placementOf);
        if (event.isShortcutDown()) {
            Set<SdfPath> more = new LinkedHashSet<>(model.selectionProperty().get());
            path.ifPresent(p -> {
                if (!more.remove(p)) {
                    more.add(p);
                }
            });
            model.selectionProperty().set(more);
        } else {
            model.selectionProperty().set(path.map(Set::of).orElse(Set.of()));
        }
    }

    private void dragged(Placing placing, boolean finished) {
        Placement placement = model.single().orElseThrow();
        if (finished) {
            if (!placing.equals(placement.placing())) {
                model.move(placement.path(), placing);
            } else {
                view.drawnProperty().set(model.shownProperty().get().drawn());
            }
            return;
        }
        Matrix4 parent = model.parentSpace(placement.path());
        Matrix4 before = placement.placing().matrix().times(parent);
        Matrix4 after = placing.matrix().times(parent);
        view.drawnProperty()
                .set(model.shownProperty()
                        .get()
                        .drawn()
                        .moved(placement.path().toString(), before.inverse().times(after)));
    }

    /** Brings what is selected near. */
    public void zoomTo() {
        Box3 box = Box3.EMPTY;
        for (SdfPath path : model.selectionProperty().get()) {
            box = box.union(model.shownProperty().get().drawn().boundsBelow(path.toString()));
        }
        view.frame(box);
    }

    /** The view, for those who look at it from outside. */
    public View3d view() {
        return view;
    }

    private static final double TRAY_TILE = 104;

    private static final class FileCell extends ListCell<Path> {
        @Override
        protected void updateItem(Path file, boolean empty) {
            super.updateItem(file, empty);
            setText(empty || file == null ? null : title(file));
        }
    }

    /** A line of the structure: its name, and how it is held. */
    private final class PrimCell extends TreeCell<SdfPath> {
        @Override
        protected void updateItem(SdfPath path, boolean empty) {
            super.updateItem(path, empty);
            if (empty || path == null) {
                setGraphic(null);
                setText(null);
                return;
            }
            Placement placement = byPath.get(path);
            FontIcon sign = new FontIcon(placement == null ? "remixal-folder-line" : sign(placement.held()));
            Label name = Bits.label(path.name().replace('_', ' '));
            // Names that differ in their numbers only are to be told apart however narrow the list is.
            name.setTextOverrun(OverrunStyle.CENTER_ELLIPSIS);
            HBox line = new HBox(8, sign, name);
            line.setAlignment(Pos.CENTER_LEFT);
            if (placement != null) {
                long like = model.like(placement);
                Label more = Bits.label(like > 1 ? "× " + like : "", Styles.FIGURE, Styles.FAINT);
                more.setMinWidth(USE_PREF_SIZE);
                line.getChildren().addAll(Bits.spring(), more);
                setTooltip(
                        new Tooltip(words(placement.held()) + (like > 1 ? "; one of " + like + " of the same" : "")));
            }
            setText(null);
            setGraphic(line);
        }

        PrimCell() {
            // No wider than the tree: names give way before the number does.
            setPrefWidth(1);
        }

        private static String sign(Placement.Held held) {
            return switch (held) {
                case PINNED -> "remixmz-pushpin-line";
                case FOLLOWING -> "remixal-links-line";
                case FILE -> "remixal-file-copy-line";
                case MISSING -> "remixal-error-warning-line";
            };
        }

        private static String words(Placement.Held held) {
            return switch (held) {
                case PINNED -> "referenced, pinned to one version";
                case FOLLOWING -> "referenced, follows the ready version";
                case FILE -> "referenced, a file outside the libraries";
                case MISSING -> "missing: what it refers to is not there";
            };
        }
    }
}
