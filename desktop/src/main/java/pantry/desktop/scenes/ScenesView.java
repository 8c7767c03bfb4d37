package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import javafx.beans.binding.Bindings;
import javafx.collections.ListChangeListener;
import javafx.geometry.Bounds;
import javafx.geometry.Insets;
import javafx.geometry.Point2D;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.SplitPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;
import javafx.util.Duration;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WhileShown;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.Session;
import pantry.desktop.view3d.Measuring;
import pantry.desktop.view3d.PlayRow;
import pantry.desktop.view3d.View3d;
import pantry.render.Camera;
import pantry.render.Picking;
import pantry.scene.Occurrence;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** The scene's structure · the view with the tray below it · the placement's slip. */
public final class ScenesView extends BorderPane {
    private final ScenesModel model;
    private final Session session;
    private final View3d view = new View3d();
    private final Grips grips;
    private final Measuring measuring = new Measuring(view, Measuring.Way.CHAIN);
    private final ToggleButton measure = ViewToolbar.measure();
    private final ComboBox<String> split = new Choice<>();
    private final ViewToolbar toolbar;
    private final TrayPane tray;
    private final Label asked =
            Controls.label("click where it is to stand; Esc goes back to what is brought in", "view-note");
    private final LayOutPane layOut;
    private final ImportModel importing;
    private final ImportPane bring;
    private final StackPane middle = new StackPane();
    private final BorderPane open = new BorderPane();
    private final SceneBar bar;
    private final SceneMenu menu;
    private final DropMark dropMark = new DropMark(view);
    private final SceneFiles written;
    private final PlacementSlip slip;
    private final StructurePanel structure;
    private final SceneGallery gallery;

    /** What is placed once a scene is chosen. */
    private Optional<IndexedAsset> toPlace = Optional.empty();

    private Optional<Path> shownFile = Optional.empty();

    /** What was around what is seen. */
    private Optional<OpenScene.Surroundings> seenAround = Optional.empty();

    /**
     * @param search what the tray below the view holds
     * @param dragged lies over the whole window, for what is dragged
     */
    public ScenesView(ScenesModel model, AssetSearch search, AssetPictures pictures, Pane dragged) {
        this.model = model;
        this.session = model.session();
        this.grips = new Grips(view, model);
        this.toolbar = new ViewToolbar(model, view, measure, split);
        this.layOut = new LayOutPane(model);
        this.importing = new ImportModel(model);
        this.bring = new ImportPane(importing, model, this::lookedAt);
        view.setId("scene-view");
        view.optionsProperty().set(view.optionsProperty().get().withGrid(true));
        view.setOnPick((owner, event) -> picked(view, owner, event));
        view.setOnBand((area, event) -> banded(view, area, event));
        view.setOnMenu(event -> showMenu(view, event));
        menu = new SceneMenu(model, this::enter);
        written = new SceneFiles(model, this);
        grips.setOnMove(this::dragged);
        measuring.onProperty().bindBidirectional(measure.selectedProperty());
        asked.setId("asked-point");
        asked.setMouseTransparent(true);
        asked.visibleProperty()
                .bind(Bindings.createBooleanBinding(
                        () -> importing.askingProperty().get().isPresent(), importing.askingProperty()));
        StackPane.setAlignment(asked, Pos.TOP_CENTER);
        StackPane.setMargin(asked, new Insets(8));
        VBox settings = toolbar.settings();
        StackPane.setAlignment(settings, Pos.BOTTOM_LEFT);
        StackPane.setMargin(settings, new Insets(8));
        StackPane main = new StackPane(
                view,
                new AnchorMarks(model, view),
                new LastChosenMark(model, view),
                new LayoutMarks(view, layOut),
                new CutMark(view, toolbar.cutting()),
                dropMark,
                grips,
                measuring,
                asked,
                settings);
        main.setMinSize(80, 80);
        // Grips of what stands outside the picture must not lie over what is beside it.
        Rectangle inside = new Rectangle();
        inside.widthProperty().bind(main.widthProperty());
        inside.heightProperty().bind(main.heightProperty());
        main.setClip(inside);
        bar = new SceneBar(model, toolbar, view, written, new SceneBar.Actions(this::bringIn, this::zoomTo));
        structure = new StructurePanel(model, new StructurePanel.Actions(this::leave, this::enter));
        open.setTop(bar);
        open.setCenter(new SceneViews(split, main, view, this::picked));
        tray = new TrayPane(model, search, pictures, dragged);
        tray.setOnDrop(this::drop);
        tray.setOnHover(this::hover);
        tray.setOnPlace(this::placeInMiddle);
        PlayRow time = new PlayRow(model.display().clock(), "play-scene", "Play what moves, or stop (Shift+Space)");
        time.getStyleClass().add("motion-bar");
        Controls.showOnly(time, false);
        model.display().shownProperty().addListener(change -> {
            Controls.showOnly(time, model.display().clock().length() > 0);
            time.fit();
        });
        open.setBottom(new VBox(time, toolbar, tray));
        middle.getChildren().setAll(open);
        slip = new PlacementSlip(
                model,
                new PlacementSlip.Pages(
                        new ArrangePane(model, view.drawnProperty()::set),
                        new GroupPane(model, this::lookedAt),
                        layOut),
                this::enter);
        SplitPane parts = new SplitPane(structure, middle, slip);
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
        importing.sourceProperty().addListener(change -> showScene());
        importing.askingProperty().addListener(change -> showScene());
        whileOpen(WATCH_SECONDS, model.keeping()::watch);
        whileOpen(WATCH_SECONDS, model.sections()::look);
        whileOpen(AUTOSAVE_SECONDS, model.keeping()::autosave);
        // As soon as the hand rests, what it did is kept.
        Runnable rested = WhileShown.afterRest(this, REST, model.keeping()::autosave);
        model.shownProperty().addListener(change -> rested.run());
        showScene();
    }

    /** Does something again and again while a scene is open. */
    private void whileOpen(double seconds, Runnable action) {
        WhileShown.every(this, Duration.seconds(seconds), () -> {
            if (model.sceneProperty().get().isPresent()) {
                action.run();
            }
        });
    }

    /** Goes on at once where all is saved; otherwise asks in the strip above the view. */
    public void leave(Runnable then) {
        bar.leave(then);
    }

    /** Where the view looks, on the floor. */
    private Vec3 lookedAt() {
        Vec3 target = view.cameraProperty().get().target();
        return PlaceFigures.rounded(new Vec3(target.x(), 0, target.z()));
    }

    /** Where something that is dragged over the view would stand; empty where that is not over the view. */
    private Optional<TransformComponents> landing(MouseEvent event) {
        Point2D at = view.sceneToLocal(event.getSceneX(), event.getSceneY());
        if (!view.contains(at) || model.sceneProperty().get().isEmpty()) {
            return Optional.empty();
        }
        Optional<Picking.Hit> hit = model.edits().droppedOntoThingsProperty().get()
                ? view.hitAt(at.getX(), at.getY(), Set.of())
                : Optional.empty();
        TransformComponents upright = TransformComponents.ORIGIN.withMove(standing(view, hit, at.getX(), at.getY()));
        return Optional.of(
                event.isAltDown()
                        ? hit.flatMap(each -> TransformComponents.of(leaning(each.normal())))
                                .map(leaning -> leaning.withMove(hit.get().point()))
                                .orElse(upright)
                        : upright);
    }

    /** A turn that brings what stands upright to stand on a surface. */
    private static Matrix4 leaning(Vec3 normal) {
        Vec3 up = normal.unit();
        Vec3 side = Math.abs(up.y()) > 0.999 ? new Vec3(1, 0, 0) : new Vec3(up.z(), 0, -up.x()).unit();
        Vec3 front = side.cross(up);
        return Matrix4.ofRows(
                side.x(), side.y(), side.z(), 0, up.x(), up.y(), up.z(), 0, front.x(), front.y(), front.z(), 0, 0, 0, 0,
                1);
    }

    /** Takes the keys to the view, or to the scenes to choose from where none is open. */
    void enter() {
        (model.sceneProperty().get().isPresent() ? view : gallery).requestFocus();
    }

    private void hover(IndexedAsset item, MouseEvent event) {
        landing(event).ifPresentOrElse(place -> dropMark.show(item.size(), place.matrix()), dropMark::hide);
    }

    private void drop(IndexedAsset item, MouseEvent event) {
        dropMark.hide();
        landing(event).ifPresent(place -> {
            session.attempt(() -> model.place(session.shelving().asset(item), place));
            view.requestFocus();
        });
    }

    /** Places nothing in the scene that is chosen next. */
    void placeNothing() {
        if (toPlace.isPresent()) {
            toPlace = Optional.empty();
            showScene();
        }
    }

    TrayPane tray() {
        return tray;
    }

    /** Places an asset where the view looks, or beside what is selected if that shows the same asset. */
    public void placeInMiddle(IndexedAsset item) {
        if (model.sceneProperty().get().isEmpty()) {
            // Once a scene is chosen, it goes on.
            toPlace = Optional.of(item);
            showScene();
        } else {
            Vec3 right = view.cameraProperty().get().right();
            session.attempt(() -> model.placeBeside(session.shelving().asset(item), right, lookedAt()));
            model.selection()
                    .single()
                    .ifPresent(placed -> keepInSight(model.display().box(placed.path())));
        }
    }

    /** Looks as far aside as it takes to see something whole. */
    private void keepInSight(Box3 box) {
        if (!view.isWithin(box, view.getLayoutBounds())) {
            Camera now = view.cameraProperty().get();
            view.cameraProperty().set(now.withTarget(box.centre()));
        }
    }

    /** The surface under a point of the view, or the floor where there is none. */
    private static Vec3 surfaceAt(View3d at, double x, double y) {
        return standing(at, at.hitAt(x, y, Set.of()), x, y);
    }

    /** Where something stands on what was hit, not in it, or else on the floor under a point of the view. */
    private static Vec3 standing(View3d at, Optional<Picking.Hit> hit, double x, double y) {
        return hit.map(Picking.Hit::point)
                .map(point -> new Vec3(PlaceFigures.rounded(point.x()), point.y(), PlaceFigures.rounded(point.z())))
                .orElseGet(() -> PlaceFigures.rounded(at.groundAt(x, y, 0)));
    }

    private void showScene() {
        Optional<Scene> scene = model.sceneProperty().get();
        bar.stay();
        structure.showFile();
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
        boolean wasEmpty = view.drawnProperty().get().bounds().isEmpty();
        view.drawnProperty().set(model.shownProperty().get().drawn());
        if (wasEmpty && model.placements().size() == 1) {
            // The first thing in a scene is looked at whole.
            FxThread.later(view::frameAll);
        }
        if (!shownFile.equals(Optional.of(scene.get().file()))) {
            lookAtOpened(scene.get().file());
        }
        showSelection();
    }

    /**
     * Looks at what was opened: at a section in its scene, and at that scene again, from where one looks already, and at all
     * of anything else.
     */
    private void lookAtOpened(Path file) {
        Optional<OpenScene.Surroundings> around = model.aroundProperty().get();
        Optional<Matrix4> place = around.filter(each -> shownFile.equals(Optional.of(each.file())))
                .map(OpenScene.Surroundings::place)
                .or(() -> seenAround.filter(each -> each.file().equals(file)).map(each -> each.place()
                        .inverse()));
        seenAround = around;
        shownFile = Optional.of(file);
        place.filter(ScenesView::isShift)
                .ifPresentOrElse(
                        shift -> {
                            Camera now = view.cameraProperty().get();
                            view.cameraProperty().set(now.withTarget(shift.point(now.target())));
                        },
                        () -> FxThread.later(view::frameAll));
    }

    /** Whether a transform turns and sizes nothing. */
    private static boolean isShift(Matrix4 place) {
        return List.of(new Vec3(1, 0, 0), Vec3.UP, new Vec3(0, 0, 1)).stream()
                .allMatch(axis -> place.direction(axis).minus(axis).length() < 1e-9);
    }

    private void showSelection() {
        outline(model.display()::box);
        Optional<SceneSelection.Own> own = model.selection()
                .one()
                .filter(SceneSelection.Own::usual)
                .filter(each -> !model.drawers().isLocked(each.path()));
        String path = own.map(each -> each.path().toString()).orElse("");
        grips.show(
                own.map(SceneSelection.Own::placing),
                own.map(each -> model.selection().parentSpace(each.path())).orElse(Matrix4.IDENTITY),
                path,
                own.map(each -> model.display().box(each.path())).orElse(Box3.EMPTY));
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
            Optional<Occurrence> seen = model.selection().occurrence(each);
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
            layOut.point(PlaceFigures.rounded(at.groundAt(event.getX(), event.getY(), 0)));
            return;
        }
        if (layOut.isTakingEdge() && owner.isPresent()) {
            at.hitAt(event.getX(), event.getY(), Set.of()).ifPresent(hit -> layOut.edge(owner.get(), hit.point()));
            return;
        }
        Optional<SdfPath> path =
                owner.flatMap(model::objectOf).filter(each -> !model.drawers().isLocked(each));
        if (event.getClickCount() == 2) {
            // Beside what one works in, it leads out again.
            path.ifPresentOrElse(this::enter, model.selection()::leave);
        } else if (event.isShortcutDown() || event.isShiftDown()) {
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

    /** Chooses what a band was drawn around: all of which something is seen in it, or with Shift what is wholly in it. */
    private void banded(View3d at, Bounds area, MouseEvent event) {
        Set<SdfPath> chosen = new LinkedHashSet<>(model.selectionProperty().get());
        for (String owner : at.ownersIn(area)) {
            model.objectOf(owner)
                    .filter(path -> !model.drawers().isLocked(path))
                    .filter(path ->
                            !event.isShiftDown() || at.isWithin(model.display().box(path), area))
                    .ifPresent(chosen::add);
        }
        model.selectionProperty().set(chosen);
    }

    /** Shows what can be done; what is under the mouse is selected for it unless it is selected already. */
    private void showMenu(View3d at, MouseEvent event) {
        at.ownerAt(event.getX(), event.getY())
                .flatMap(model::objectOf)
                .filter(path -> !model.selectionProperty().get().contains(path))
                .ifPresent(path -> model.selectionProperty().set(Set.of(path)));
        menu.show(at, event.getScreenX(), event.getScreenY());
    }

    private void dragged(TransformComponents placing, boolean finished) {
        SceneSelection.Own own = model.selection().one().orElseThrow();
        if (finished) {
            if (!placing.equals(own.placing())) {
                model.edits().move(own.path(), placing);
            } else {
                view.drawnProperty().set(model.shownProperty().get().drawn());
                outline(model.display()::box);
            }
            return;
        }
        view.drawnProperty().set(model.display().preview(own, placing));
        outline(path -> model.display().previewBox(own, placing));
    }

    /** Shows the scene by the focus of a number. */
    public void showFocus(int number) {
        toolbar.showFocus(number);
    }

    /** Asks for a scene's file, of whatever folder, and opens it. */
    public void openFile() {
        Ask.of(this, "Open a scene")
                .kind("Scenes", "usda")
                .in(session.projectProperty().get())
                .file()
                .ifPresent(file -> leave(() -> model.open(file)));
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

    /** Goes back one step: from bringing in, from placing, out of what one works in; or selects nothing. */
    public void goBack() {
        boolean asked = importing.sourceProperty().get().isPresent() || toPlace.isPresent();
        bringNothing();
        placeNothing();
        if (!asked && model.selection().insideProperty().get().isPresent()) {
            model.selection().leave();
        } else if (!asked && !model.selection().isEmpty()) {
            model.selectionProperty().set(Set.of());
        } else if (!asked && model.aroundProperty().get().isPresent()) {
            leave(model::leaveSection);
        }
    }

    /** Goes into a group, a use of one or a placement; into a section by opening its file where it stands. */
    void enter(SdfPath path) {
        if (model.isSection(path)) {
            leave(() -> model.openSection(path));
        } else {
            model.selection().enter(path);
        }
    }

    /** Goes back to the scene without bringing anything in. */
    public void bringNothing() {
        if (importing.askingProperty().get().isPresent()) {
            importing.askNoMore();
        } else if (importing.sourceProperty().get().isPresent()) {
            importing.close();
        }
    }

    /** What is told and changed of what is selected. */
    PlacementSlip slip() {
        return slip;
    }

    /** Packing, exporting and flattening the open scene. */
    SceneFiles written() {
        return written;
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
}
