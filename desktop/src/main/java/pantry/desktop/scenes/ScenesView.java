package pantry.desktop.scenes;

import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.PauseTransition;
import javafx.animation.Timeline;
import javafx.beans.binding.Bindings;
import javafx.collections.ListChangeListener;
import javafx.geometry.Insets;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.SplitPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.RowConstraints;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;
import javafx.util.Duration;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.base.Names;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.Session;
import pantry.desktop.view3d.Measuring;
import pantry.desktop.view3d.View3d;
import pantry.render.Camera;
import pantry.render.Picking;
import pantry.scene.Difference;
import pantry.scene.Occurrence;
import pantry.scene.Safekeeping;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** The scene's structure · the view with the tray below it · the placement's slip. */
public final class ScenesView extends BorderPane {
    private final ScenesModel model;
    private final Session session;
    private final View3d view = new View3d();
    private final Grips grips;
    private final Measuring measuring = new Measuring(view);
    private final ToggleButton measure = ViewToolbar.measure();
    private final ComboBox<String> split = new Choice<>();
    private final GridPane views = new GridPane();
    private final List<View3d> others = new ArrayList<>();
    private final ViewToolbar toolbar;
    private final Label asked =
            Controls.label("click where it is to stand; Esc goes back to what is brought in", "view-note");
    private final LayOutPane layOut;
    private final ImportModel importing;
    private final ImportPane bring;
    private final StackPane middle = new StackPane();
    private final BorderPane open = new BorderPane();
    private final TextField newName = new TextField();
    private final Choice<Path> files;
    private final HBox leaving = new HBox(8);
    private final VBox trouble = new VBox(6);
    private final SceneGallery gallery;

    /** What is placed once a scene is chosen. */
    private Optional<IndexedAsset> toPlace = Optional.empty();

    private Optional<Path> shownFile = Optional.empty();

    /**
     * @param search what the tray below the view holds
     * @param dragged lies over the whole window, for what is dragged
     */
    public ScenesView(ScenesModel model, AssetSearch search, AssetPictures pictures, Pane dragged) {
        this.model = model;
        this.session = model.session();
        this.files = new Choice<>(model.files());
        this.grips = new Grips(view, model);
        this.toolbar = new ViewToolbar(model, view, measure, split);
        this.layOut = new LayOutPane(model);
        this.importing = new ImportModel(model);
        this.bring = new ImportPane(importing, model, this::lookedAt);
        view.setId("scene-view");
        view.optionsProperty().set(view.optionsProperty().get().withGrid(true));
        view.setOnPick((owner, event) -> picked(view, owner, event));
        grips.setOnMove(this::dragged);
        measuring.onProperty().bindBidirectional(measure.selectedProperty());
        asked.setId("asked-point");
        asked.setMouseTransparent(true);
        asked.visibleProperty()
                .bind(Bindings.createBooleanBinding(
                        () -> importing.askingProperty().get().isPresent(), importing.askingProperty()));
        StackPane.setAlignment(asked, Pos.TOP_CENTER);
        StackPane.setMargin(asked, new Insets(8));
        StackPane main = new StackPane(
                view, new AnchorMarks(model, view), new LastChosenMark(model, view), grips, measuring, asked);
        main.setMinSize(80, 80);
        // Grips of what stands outside the picture must not lie over what is beside it.
        Rectangle inside = new Rectangle();
        inside.widthProperty().bind(main.widthProperty());
        inside.heightProperty().bind(main.heightProperty());
        main.setClip(inside);
        splitting(main);
        open.setTop(strip());
        open.setCenter(views);
        TrayPane tray = new TrayPane(model, search, pictures, dragged);
        tray.setOnDrop(this::drop);
        tray.setOnPlace(this::placeInMiddle);
        open.setBottom(new VBox(toolbar, tray));
        middle.getChildren().setAll(open);
        SplitPane parts = new SplitPane(
                left(),
                middle,
                new PlacementSlip(model, new ArrangePane(model, view.drawnProperty()::set, this::lookedAt), layOut));
        parts.setDividerPositions(0.21, 0.74);
        SplitPane.setResizableWithParent(parts.getItems().get(0), false);
        SplitPane.setResizableWithParent(parts.getItems().get(2), false);
        setCenter(parts);
        gallery = new SceneGallery(session, model.gallery());
        gallery.setOnOpen(file -> leave(() -> model.open(file)));
        gallery.setOnGiveUp(this::placeNothing);
        gallery.setOnMakeLike((pattern, file) -> model.gallery().makeLike(pattern, file, model::open));
        model.sceneProperty().addListener(change -> {
            showScene();
            if (model.sceneProperty().get().isPresent()) {
                Optional<IndexedAsset> placing = toPlace;
                toPlace = Optional.empty();
                placing.ifPresent(item -> FxThread.later(() -> placeInMiddle(item)));
            }
        });
        session.projects().addListener((ListChangeListener<Path>) change -> showScene());
        session.projectProperty().addListener(change -> showScene());
        model.shownProperty().addListener(change -> showContents());
        model.selectionProperty().addListener(change -> showSelection());
        model.keeping().troubleProperty().addListener(change -> showTrouble());
        importing.sourceProperty().addListener(change -> showScene());
        importing.askingProperty().addListener(change -> showScene());
        whileOpen(WATCH_SECONDS, model.keeping()::watch);
        whileOpen(AUTOSAVE_SECONDS, model.keeping()::autosave);
        // As soon as the hand rests, what it did is kept.
        PauseTransition rest = new PauseTransition(REST);
        rest.setOnFinished(event -> model.keeping().autosave());
        model.shownProperty().addListener(change -> rest.playFromStart());
        showScene();
    }

    /** What was not saved, and when that was: {@code Not saved, of 29 Nov, 14:32:05: moved Mast; placed Fuel drum}. */
    private static String told(Safekeeping.Unsaved unsaved) {
        List<String> actions = unsaved.actions();
        String what = String.join("; ", actions.subList(0, Math.min(MOST_ACTIONS, actions.size())));
        int more = actions.size() - MOST_ACTIONS;
        return "Not saved, of " + WHEN.format(unsaved.when())
                + (what.isEmpty() ? "" : ": " + what)
                + (more > 0 ? "; and " + more + " before" : "") + ".";
    }

    /** Does something again and again while a scene is open. */
    private void whileOpen(double seconds, Runnable action) {
        Timeline often = new Timeline(new KeyFrame(Duration.seconds(seconds), event -> action.run()));
        often.setCycleCount(Animation.INDEFINITE);
        model.sceneProperty().addListener((property, before, now) -> {
            if (now.isPresent()) {
                often.play();
            } else {
                often.stop();
            }
        });
    }

    private VBox left() {
        files.setId("scene-files");
        files.setMaxWidth(Double.MAX_VALUE);
        files.setPromptText("Choose a scene");
        files.setCellFactory(cells -> new FileCell(""));
        files.setButtonCell(new FileCell("Choose a scene"));
        // For a scene of another project, which is not in the list.
        files.shownAs(ScenesView::title);
        files.setOnShowing(event -> {
            model.session().listScenes();
            files.setValue(model.sceneProperty().get().map(Scene::file).orElse(null));
        });
        files.setOnAction(event -> {
            Path chosen = files.getValue();
            boolean other = chosen != null
                    && !model.sceneProperty().get().map(Scene::file).equals(Optional.of(chosen));
            if (other) {
                leave(() -> model.open(chosen));
            }
        });
        newName.setId("new-scene-name");
        newName.setPromptText("New scene");
        Button create = Controls.button("New", "remixal-add-line", "Make an empty scene of that name", this::create);
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
        StructureTree tree = new StructureTree(model);
        SplitPane parts = new SplitPane(tree, new DrawersPane(model));
        parts.setOrientation(Orientation.VERTICAL);
        parts.setDividerPositions(0.66);
        VBox.setVgrow(parts, Priority.ALWAYS);
        VBox left = new VBox(head, parts);
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
        Label name = Controls.label("", Styles.TITLE);
        name.textProperty()
                .bind(Bindings.createStringBinding(
                        () -> model.sceneProperty()
                                .get()
                                .map(scene -> title(scene.file()))
                                .orElse(""),
                        model.sceneProperty()));
        Label unsaved = Controls.label("not saved", Styles.FAINT, "small");
        unsaved.visibleProperty().bind(model.changedProperty());
        unsaved.managedProperty().bind(model.changedProperty());
        VBox names = new VBox(name, unsaved);
        names.setAlignment(Pos.CENTER_LEFT);
        Button save = Controls.button("Save", "remixmz-save-line", "Save the scene (Ctrl+S)", model.keeping()::save);
        save.setId("save-scene");
        save.disableProperty().bind(model.changedProperty().not());
        Button close = Controls.button("Close", "remixal-close-line", "Close the scene", () -> leave(model::close));
        close.setId("close-scene");
        Button undo = Controls.button("", "remixal-arrow-go-back-line", "Undo (Ctrl+Z)", model::undo);
        undo.setId("undo");
        Button redo = Controls.button("", "remixal-arrow-go-forward-line", "Redo (Ctrl+Y)", model::redo);
        redo.setId("redo");
        Button into = Controls.button(
                "Bring in…",
                "remixal-download-2-line",
                "Take things in from another scene or file, as pictures of all it holds (Ctrl+B)",
                this::bringIn);
        into.setId("bring-in");
        Button near = Controls.button("", "remixmz-zoom-in-line", "Show what is selected (Shift+Home)", this::zoomTo);
        Button all = Controls.button("", "remixal-fullscreen-line", "Show everything (Home)", view::frameAll);
        for (Button button : new Button[] {undo, redo, near, all, close}) {
            button.getStyleClass().addAll(Styles.QUIET, "tight");
        }
        HBox line = new HBox(6, names, Controls.spring(), undo, redo, near, all, into, save, close);
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().addAll(Styles.PANEL, Styles.PANEL_TITLE);
        leaving.setAlignment(Pos.CENTER_LEFT);
        leaving.getStyleClass().addAll("note-box", "caution");
        leaving.managedProperty().bind(leaving.visibleProperty());
        leaving.setVisible(false);
        trouble.managedProperty().bind(trouble.visibleProperty());
        trouble.setVisible(false);
        trouble.setId("scene-trouble");
        return new VBox(line, new AlternatesStrip(model, toolbar.focusRow()), leaving, trouble);
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
        Button save = Controls.button("Save and go on", "", "", () -> {
            leaving.setVisible(false);
            model.keeping().save();
            if (!model.changedProperty().get()) {
                then.run();
            }
        });
        save.getStyleClass().add(Styles.PRIMARY);
        Button drop = Controls.button("Give up the changes", "", "", () -> {
            leaving.setVisible(false);
            model.keeping().giveUp();
            then.run();
        });
        Button stay = Controls.button("Stay", "", "", () -> leaving.setVisible(false));
        leaving.getChildren()
                .setAll(
                        new FontIcon("remixal-alert-line"),
                        Controls.label("The scene has changes that are not saved."),
                        Controls.spring(),
                        save,
                        drop,
                        stay);
        leaving.setVisible(true);
    }

    /** Says what became of the file, and what can be done. */
    private void showTrouble() {
        trouble.getChildren().clear();
        trouble.getStyleClass().setAll("note-box", "caution");
        trouble.setVisible(model.keeping().troubleProperty().get() != Keeping.Trouble.NONE);
        switch (model.keeping().troubleProperty().get()) {
            case NONE -> {}
            case LEFT_UNSAVED -> {
                Button take = Controls.button(
                        "Take them up", "", "", () -> model.keeping().recover(true));
                take.setId("trouble-take");
                take.getStyleClass().add(Styles.PRIMARY);
                Button let = Controls.button(
                        "Let them go", "", "", () -> model.keeping().recover(false));
                let.setId("trouble-let");
                row(
                        model.keeping()
                                .leftUnsaved()
                                .map(ScenesView::told)
                                .orElse("There are changes of this scene that were not saved when Pantry ended."),
                        take,
                        let);
            }
            case CHANGED_ON_DISK -> {
                Button differs = Controls.button("What differs", "", "", this::showDifferences);
                differs.setId("trouble-differs");
                Button anew = Controls.button(
                        "Open it anew", "", "Give up what is not saved here", model.keeping()::openAnew);
                anew.setId("trouble-anew");
                Button over = Controls.button(
                        "Save over it", "", "What the other wrote is kept beside the scene", model.keeping()::saveOver);
                over.setId("trouble-over");
                Button elsewhere = Controls.button("Save as another scene", "", "", () -> model.sceneProperty()
                        .get()
                        .ifPresent(scene -> model.keeping().saveElsewhere(title(scene.file()) + " mine")));
                elsewhere.setId("trouble-elsewhere");
                row("Another has changed this scene's file.", differs, anew, over, elsewhere);
            }
        }
    }

    private void row(String words, Button... buttons) {
        Label said = Controls.wrapped(words);
        HBox.setHgrow(said, Priority.ALWAYS);
        said.setMaxWidth(Double.MAX_VALUE);
        HBox row = new HBox(8, new FontIcon("remixal-alert-line"), said);
        row.setAlignment(Pos.CENTER_LEFT);
        row.getChildren().addAll(buttons);
        trouble.getChildren().add(row);
    }

    private void showDifferences() {
        session.attempt(() -> {
            List<Difference> all = model.keeping().differences();
            Label words = Controls.wrapped(
                    all.isEmpty()
                            ? "Both say the same."
                            : all.size() + " objects differ: "
                                    + all.stream()
                                            .limit(8)
                                            .map(each -> each.path().name() + " ("
                                                    + switch (each.kind()) {
                                                        case ADDED -> "only here";
                                                        case REMOVED -> "only in the file";
                                                        case CHANGED -> "otherwise";
                                                    }
                                                    + ")")
                                            .collect(Collectors.joining(", "))
                                    + (all.size() > 8 ? " …" : ""));
            words.setId("trouble-words");
            if (trouble.getChildren().size() > 1) {
                trouble.getChildren().remove(1);
            }
            trouble.getChildren().add(words);
        });
    }

    /** One view, two, or four: from above, from the front, from the side, all of the same. */
    private void splitting(StackPane main) {
        split.getItems().setAll("1 view", "2 views", "4 views");
        split.setValue("1 view");
        split.setId("look-split");
        split.getStyleClass().add("small");
        Controls.hint(split, "The same from above, from the front and from the side");
        views.setHgap(2);
        views.setVgap(2);
        views.getStyleClass().add("views");
        split.valueProperty().addListener(change -> layViews(main));
        layViews(main);
    }

    private void layViews(StackPane main) {
        int count = new int[] {1, 2, 4}[split.getItems().indexOf(split.getValue())];
        while (others.size() < count - 1) {
            others.add(other(others.size()));
        }
        views.getChildren().clear();
        views.getColumnConstraints().clear();
        views.getRowConstraints().clear();
        int columns = count == 1 ? 1 : 2;
        for (int i = 0; i < columns; i++) {
            ColumnConstraints column = new ColumnConstraints();
            column.setPercentWidth(100.0 / columns);
            views.getColumnConstraints().add(column);
        }
        for (int i = 0; i < (count == 4 ? 2 : 1); i++) {
            RowConstraints row = new RowConstraints();
            row.setPercentHeight(count == 4 ? 50 : 100);
            views.getRowConstraints().add(row);
        }
        views.add(main, 0, 0);
        for (int i = 1; i < count; i++) {
            View3d other = others.get(i - 1);
            views.add(other, i % 2, i / 2);
            FxThread.later(other::frameAll);
        }
    }

    private View3d other(int number) {
        View3d other = new View3d();
        other.setId("scene-view-" + (number + 2));
        double[][] from = {{0, 89.9}, {0, 0}, {90, 0}};
        other.cameraProperty()
                .set(Camera.START.from(from[number][0], from[number][1]).parallel(true));
        other.drawnProperty().bind(view.drawnProperty());
        other.optionsProperty().bind(view.optionsProperty());
        other.setOnPick((owner, event) -> picked(other, owner, event));
        return other;
    }

    /** Where the view looks, on the floor. */
    private Vec3 lookedAt() {
        Vec3 target = view.cameraProperty().get().target();
        return rounded(new Vec3(target.x(), 0, target.z()));
    }

    private void drop(IndexedAsset item, MouseEvent event) {
        var at = view.sceneToLocal(event.getSceneX(), event.getSceneY());
        if (view.contains(at) && model.sceneProperty().get().isPresent()) {
            Vec3 point = model.edits().ontoThingsProperty().get()
                    ? surfaceAt(view, at.getX(), at.getY())
                    : rounded(view.groundAt(at.getX(), at.getY(), 0));
            session.attempt(() -> model.place(session.shelving().asset(item), point));
            view.requestFocus();
        }
    }

    /** Places nothing in the scene that is chosen next. */
    void placeNothing() {
        if (toPlace.isPresent()) {
            toPlace = Optional.empty();
            showScene();
        }
    }

    /** Places an asset where the view looks. */
    public void placeInMiddle(IndexedAsset item) {
        if (model.sceneProperty().get().isEmpty()) {
            // Once a scene is chosen, it goes on.
            toPlace = Optional.of(item);
            showScene();
        } else {
            session.attempt(() -> model.place(session.shelving().asset(item), lookedAt()));
        }
    }

    /** The surface under a point of the view, or the floor where there is none. */
    private static Vec3 surfaceAt(View3d at, double x, double y) {
        return at.hitAt(x, y, Set.of())
                .map(Picking.Hit::point)
                .map(hit -> new Vec3(Math.rint(hit.x() * 100) / 100, hit.y(), Math.rint(hit.z() * 100) / 100))
                .orElseGet(() -> rounded(at.groundAt(x, y, 0)));
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
            shownFile = Optional.empty();
            if (session.projects().isEmpty()) {
                Button choose = Controls.button("Open a project folder…", "", "", this::chooseProject);
                choose.getStyleClass().add(Styles.PRIMARY);
                middle.getChildren()
                        .setAll(Controls.empty(
                                "remixal-folder-open-line",
                                "No project is open",
                                "A project is a folder of scenes. Choose one to begin.",
                                choose));
            } else {
                gallery.askFor(
                        toPlace.map(item -> "Place " + item.name() + " in…").orElse(""));
                model.gallery().refresh();
                middle.getChildren().setAll(gallery);
            }
        } else {
            boolean choosing = importing.sourceProperty().get().isPresent()
                    && importing.askingProperty().get().isEmpty();
            middle.getChildren().setAll(choosing ? bring : open);
        }
    }

    private void chooseProject() {
        Ask.of(this, "A folder of scenes").folder().ifPresent(chosen -> session.projectProperty()
                .set(Optional.of(chosen)));
    }

    private void showContents() {
        Optional<Scene> scene = model.sceneProperty().get();
        if (scene.isEmpty()) {
            return;
        }
        view.drawnProperty().set(model.shownProperty().get().drawn());
        if (!shownFile.equals(Optional.of(scene.get().file()))) {
            shownFile = Optional.of(scene.get().file());
            FxThread.later(view::frameAll);
        }
        showSelection();
    }

    private void showSelection() {
        outline(model::box);
        Optional<ScenesModel.Own> own =
                model.one().filter(ScenesModel.Own::usual).filter(each -> !model.isLocked(each.path()));
        String path = own.map(each -> each.path().toString()).orElse("");
        grips.show(
                own.map(ScenesModel.Own::placing),
                own.map(each -> model.parentSpace(each.path())).orElse(Matrix4.IDENTITY),
                path,
                own.map(each -> model.box(each.path())).orElse(Box3.EMPTY));
    }

    /**
     * Outlines what is selected; of shared contents, the part itself in the use through which it was chosen.
     *
     * @param box where a part stands, metres
     */
    private void outline(Function<SdfPath, Box3> box) {
        Set<String> whole = new HashSet<>();
        Map<String, List<Box3>> parts = new HashMap<>();
        for (SdfPath each : model.selectionProperty().get()) {
            Optional<Occurrence> seen = model.occurrence(each);
            String path = seen.map(Occurrence::seenAs).orElse(each).toString();
            if (seen.isPresent() && !seen.get().through().isEmpty()) {
                parts.computeIfAbsent(path, use -> new ArrayList<>()).add(box.apply(each));
            } else {
                whole.add(path);
            }
        }
        parts.keySet().removeAll(whole);
        whole.addAll(parts.keySet());
        view.optionsProperty().set(view.optionsProperty().get().withSelected(whole, parts));
    }

    /** @param at the view that was clicked */
    private void picked(View3d at, Optional<String> owner, MouseEvent event) {
        if (measure.isSelected() && at == view) {
            measuring.click(event);
            return;
        }
        if (importing.askingProperty().get().isPresent()) {
            Vec3 point = surfaceAt(at, event.getX(), event.getY());
            session.attempt(() -> importing.askingProperty().get().orElseThrow().accept(point));
            return;
        }
        if (layOut.isDrawing()) {
            layOut.point(rounded(at.groundAt(event.getX(), event.getY(), 0)));
            return;
        }
        Optional<SdfPath> path = owner.flatMap(model::objectOf).filter(each -> !model.isLocked(each));
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

    private void dragged(TransformComponents placing, boolean finished) {
        ScenesModel.Own own = model.one().orElseThrow();
        if (finished) {
            if (!placing.equals(own.placing())) {
                model.edits().move(own.path(), placing);
            } else {
                view.drawnProperty().set(model.shownProperty().get().drawn());
                outline(model::box);
            }
            return;
        }
        view.drawnProperty().set(model.preview(own, placing));
        outline(path -> model.previewBox(own, placing));
    }

    /** Shows the scene by the focus of a number. */
    public void showFocus(int number) {
        toolbar.showFocus(number);
    }

    /** Asks for a file to bring things in from. */
    public void bringIn() {
        model.sceneProperty()
                .get()
                .flatMap(scene -> Ask.of(this, "A file to bring things in from")
                        .in(Optional.ofNullable(scene.file().getParent()))
                        .file())
                .ifPresent(importing::open);
    }

    /** Brings things in from a file. */
    public void bringIn(Path file) {
        importing.open(file);
    }

    /** Whether pictures of all that another file holds are shown. */
    public boolean isBringing() {
        return bring.isDrawn();
    }

    /** Goes back to the scene without bringing anything in. */
    public void bringNothing() {
        if (importing.askingProperty().get().isPresent()) {
            importing.askNoMore();
        } else if (importing.sourceProperty().get().isPresent()) {
            importing.close();
        }
    }

    public void measure() {
        measure.setSelected(!measure.isSelected());
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

    private static final double WATCH_SECONDS = 5;
    private static final double AUTOSAVE_SECONDS = 20;
    private static final Duration REST = Duration.seconds(0.7);
    private static final int MOST_ACTIONS = 3;
    private static final DateTimeFormatter WHEN =
            DateTimeFormatter.ofPattern("d MMM, HH:mm:ss", Locale.ROOT).withZone(ZoneId.systemDefault());

    private static final class FileCell extends ListCell<Path> {
        private final String otherwise;

        /** @param otherwise what stands there where there is none */
        FileCell(String otherwise) {
            this.otherwise = otherwise;
        }

        @Override
        protected void updateItem(Path file, boolean empty) {
            super.updateItem(file, empty);
            setText(empty || file == null ? otherwise : title(file));
        }
    }
}
