package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Stream;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.model.Weight;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.compose.Stage;
import pantry.usd.compose.StageChange;
import pantry.usd.schema.TransformComponents;

/** The state and commands of the Scenes workplace. */
public final class ScenesModel {
    private final Session session;
    private final SceneGalleryModel gallery;
    private final ReadOnlyObjectWrapper<Optional<Scene>> scene = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObservableList<Placement> placements = FXCollections.observableArrayList();
    private final ReadOnlyBooleanWrapper changed = new ReadOnlyBooleanWrapper();
    private final List<StageChange> changes = new ArrayList<>();
    private final Map<SdfPath, Integer> numbers = new HashMap<>();
    private final Map<Path, Long> counts = new HashMap<>();
    private Runnable unlisten = () -> {};
    private final SceneSelection selection = new SceneSelection(scene::get);
    private final SceneDrawers drawers = new SceneDrawers(this);
    private final SceneDisplay display;
    private final SelectionEdits edits = new SelectionEdits(this);
    private final Several several = new Several(this);
    private final Keeping keeping;
    private final SceneExports exports = new SceneExports(this);

    public ScenesModel(Session session) {
        this.session = session;
        this.gallery = new SceneGalleryModel(session);
        this.display = new SceneDisplay(this);
        this.keeping = new Keeping(this);
        session.rewrittenProperty().addListener((property, before, now) -> scene.get()
                .map(Scene::file)
                .filter(file -> now.contains(file) && !changed.get())
                .ifPresent(this::open));
        session.movedProperty().addListener((property, before, now) -> now.flatMap(
                        moved -> scene.get().map(Scene::file).flatMap(moved::now))
                .ifPresent(this::open));
        // What the scene refers to may have become another version.
        session.shelving().contentsProperty().addListener((property, before, now) -> {
            if (before.versions() != now.versions()) {
                scene.get().ifPresent(Scene::reload);
                refresh();
            }
        });
    }

    /** Lets scenes name files below a folder from now on, and shows what the open one has there. */
    public void allow(Path folder) {
        session.workbench().access().allow(folder);
        session.changeSettings(settings -> settings.withAllowed(folder.toString()));
        scene.get()
                .ifPresent(open -> session.attempt(() -> {
                    open.allow(folder);
                    session.done("scenes may name files in " + folder, Optional.empty());
                }));
        refresh();
    }

    /** The project's scenes. */
    public ObservableList<Path> files() {
        return session.scenes();
    }

    public ReadOnlyObjectProperty<Optional<Scene>> sceneProperty() {
        return scene.getReadOnlyProperty();
    }

    public ObservableList<Placement> placements() {
        return placements;
    }

    public ObjectProperty<Set<SdfPath>> selectionProperty() {
        return selection.property();
    }

    public ReadOnlyObjectProperty<SceneDisplay.Shown> shownProperty() {
        return display.shownProperty();
    }

    /** Whether there is something to save. */
    public ReadOnlyBooleanProperty changedProperty() {
        return changed.getReadOnlyProperty();
    }

    /** What is selected, and through which use it was reached. */
    public SceneSelection selection() {
        return selection;
    }

    /** The scene as it is drawn. */
    public SceneDisplay display() {
        return display;
    }

    /** The scene's drawers and focuses. */
    public SceneDrawers drawers() {
        return drawers;
    }

    /** Makes an empty scene in the project and opens it. */
    public void create(String name) {
        session.attempt(() -> {
            Path folder = session.projectProperty()
                    .get()
                    .orElseThrow(() -> new PantryException("no project is open; choose a folder for it first"));
            Scene made = session.workbench().createScene(folder.resolve(Names.slug(name) + ".usda"));
            session.listScenes();
            session.done("made the scene " + made.file().getFileName(), Optional.empty());
            open(made);
        });
    }

    /** The scenes of the open projects, to choose one. */
    public SceneGalleryModel gallery() {
        return gallery;
    }

    /** Opens a scene; the one that was open must have been saved or given up. */
    public void open(Path file) {
        session.run(
                "opening " + file.getFileName(),
                progress -> {
                    // Composed and read here, so that what cannot be, or takes long, keeps nobody waiting.
                    Scene opened = session.workbench().openScene(file);
                    opened.model();
                    return opened;
                },
                this::open);
    }

    private void open(Scene opened) {
        changes.clear();
        selection.clear();
        display.opened();
        unlisten.run();
        unlisten = opened.onChange(changes::add);
        scene.set(Optional.of(opened));
        keeping.opened(opened);
        drawers.opened();
        refresh();
    }

    /** Closes the scene; changes that were not saved are lost. */
    public void close() {
        keeping.giveUp();
        unlisten.run();
        unlisten = () -> {};
        scene.set(Optional.empty());
        keeping.closed();
        selection.clear();
        placements.clear();
        display.closed();
        noteChanged();
    }

    /** Places an asset upright, following its ready version, and selects it. */
    public void place(Asset asset, Vec3 at) {
        place(asset, TransformComponents.ORIGIN.withMove(at));
    }

    /**
     * Places an asset, following its ready version, and selects it.
     *
     * @param placing where its base is to stand
     */
    public void place(Asset asset, TransformComponents placing) {
        act(open -> {
            // What has its origin elsewhere than at its base stands by its base all the same.
            double base = asset.shown()
                    .map(version -> asset.facts(version).bounds().min()[1])
                    .filter(Double::isFinite)
                    .orElse(0.0);
            Vec3 down = placing.matrix().direction(new Vec3(0, base, 0));
            SdfPath path = open.placements()
                    .place(
                            asset,
                            Optional.empty(),
                            asset.card().name(),
                            placing.withMove(placing.move().minus(down)),
                            Optional.empty());
            selection.set(List.of(path));
        });
    }

    /** What the scene would weigh with one more use of an asset. */
    public Weight weightWith(Asset asset) {
        Weight now = shownProperty().get().weight();
        long triangles =
                asset.shown().map(version -> asset.facts(version).triangles()).orElse(0L);
        boolean already =
                placements.stream().anyMatch(placement -> placement.layer().startsWith(asset.folder()));
        return new Weight(
                now.trianglesStored() + (already ? 0 : triangles),
                now.trianglesDrawn() + triangles,
                now.placements() + 1,
                now.objects() + 1,
                now.textureBytes(),
                now.fileBytes());
    }

    /** What is done by hand to the selected objects. */
    public SelectionEdits edits() {
        return edits;
    }

    /** What is entered for several selected objects at once. */
    public Several several() {
        return several;
    }

    /** Saving, and what keeps the scene from being lost. */
    public Keeping keeping() {
        return keeping;
    }

    /** What goes from the scene to the library and to files beside it. */
    public SceneExports exports() {
        return exports;
    }

    /** Takes note of whether there is something to save. */
    void noteChanged() {
        changed.set(scene.get().filter(Scene::changed).isPresent());
        session.unsavedProperty()
                .set(scene.get()
                        .filter(Scene::changed)
                        .map(open -> Set.of(open.file()))
                        .orElse(Set.of()));
    }

    public Session session() {
        return session;
    }

    /** Changes what is selected, and selects what came of it; nothing where nothing is selected. */
    void withSelected(Function<Scene, List<SdfPath>> change) {
        if (!selection.isEmpty()) {
            act(open -> selection.set(change.apply(open)));
        }
    }

    List<SdfPath> selected() {
        return selection.all();
    }

    void arrange(Consumer<Scene> change) {
        withSelected(open -> {
            change.accept(open);
            return selected();
        });
    }

    public void undo() {
        scene.get().flatMap(Scene::undoName).ifPresent(name -> {
            session.attempt(() -> scene.get().ifPresent(Scene::undo));
            session.done("took back: " + name, Optional.empty());
            refresh();
        });
    }

    public void redo() {
        scene.get().flatMap(Scene::redoName).ifPresent(name -> {
            session.attempt(() -> {
                scene.get().ifPresent(Scene::redo);
                session.done("did again: " + name, Optional.of(this::undo));
            });
            refresh();
        });
    }

    interface SceneAction {
        void on(Scene scene);
    }

    /** Changes the scene and writes that down, with its undo. */
    void act(SceneAction action) {
        scene.get()
                .ifPresent(open -> session.attempt(() -> {
                    action.on(open);
                    String everywhere = inAllUses(open);
                    open.undoName().ifPresent(name -> session.done(name + everywhere, Optional.of(this::undo)));
                    refresh();
                }));
    }

    /** In how many places a change within shared contents is seen. */
    private String inAllUses(Scene open) {
        boolean shared = changes.stream()
                .flatMap(change -> Stream.concat(change.changed().stream(), change.resynced().stream()))
                .anyMatch(ScenesModel::isInPrototype);
        long uses = selected().stream()
                .filter(path -> open.instancing().isShared(path))
                .mapToLong(open.instancing()::uses)
                .max()
                .orElse(1);
        return shared && uses > 1 ? ", in all " + uses + " uses" : "";
    }

    /** Shows the scene as it is now. Where things were only moved, only these are looked at. */
    void refresh() {
        scene.get()
                .ifPresent(open -> session.attempt(() -> {
                    noteChanged();
                    selection.keepWhatIsIn(open);
                    boolean whole = selection.insideProperty().get().isEmpty();
                    boolean moved =
                            whole && !changes.isEmpty() && changes.stream().allMatch(ScenesModel::isMove);
                    boolean drawnAnew = display.isPending();
                    if (moved) {
                        showMoved(open);
                    }
                    if (!moved || drawnAnew || display.lampsProperty().get()) {
                        showAnew(open, !moved || drawnAnew);
                    }
                    changes.clear();
                }));
    }

    /** What is moved within shared contents is moved in a prototype, which stands wherever it is used. */
    private static boolean isMove(StageChange change) {
        return change.resynced().isEmpty()
                && change.changed().stream()
                        .allMatch(property -> property.name().startsWith("xformOp") && !isInPrototype(property));
    }

    private static boolean isInPrototype(SdfPath property) {
        return property.depth() > 0 && property.names().getFirst().startsWith(Stage.PROTOTYPE);
    }

    private void showMoved(Scene open) {
        Set<SdfPath> paths = new LinkedHashSet<>();
        changes.forEach(change -> change.changed().forEach(property -> paths.add(property.prim())));
        for (SdfPath path : paths) {
            Integer number = numbers.get(path);
            if (number != null) {
                open.placements().at(path).ifPresent(placement -> placements.set(number, placement));
            }
        }
        display.move(open, paths);
    }

    /** @param restructured whether the structure may have become another */
    private void showAnew(Scene open, boolean restructured) {
        placements.setAll(open.placements().all());
        numbers.clear();
        for (int i = 0; i < placements.size(); i++) {
            numbers.put(placements.get(i).path(), i);
        }
        counts.clear();
        placements.forEach(placement -> counts.merge(placement.layer(), 1L, Long::sum));
        display.redraw(open, restructured);
    }

    /** Selects all that is made of a material that something selected is made of. */
    public void selectSameMaterial() {
        Set<SdfPath> found = display.withMaterialOf(selectionProperty().get(), this::objectOf);
        if (!found.isEmpty()) {
            selectionProperty().set(found);
        }
    }

    /** Switches an alternate in. */
    public void switchTo(String set, String alternate) {
        act(open -> open.alternates().choose(set, alternate));
    }

    /** Does something to the scene that is written down and can be undone. */
    void change(Consumer<Scene> change) {
        act(change::accept);
    }

    /** The number of placements that show the same thing as one does. */
    public long like(Placement placement) {
        return counts.getOrDefault(placement.layer(), 1L);
    }

    /** The scene's own object that something drawn belongs to: a placement, a use of a group, or what has a surface. */
    public Optional<SdfPath> objectOf(String drawn) {
        SdfPath path = SdfPath.of(drawn);
        Optional<Scene> open = scene.get();
        if (open.isEmpty()) {
            return Optional.empty();
        }
        if (selection.insideProperty().get().isPresent()) {
            return selection.within(path);
        }
        Optional<SdfPath> outermost = Optional.empty();
        for (SdfPath at = path; at.depth() > 0 && !at.equals(SdfPath.ROOT); at = at.parent()) {
            boolean whole = numbers.containsKey(at)
                    || open.get().instancing().contents(at).isPresent();
            if (whole) {
                outermost = Optional.of(at);
            }
        }
        return outermost.or(() -> open.get().spec(path).map(prim -> path));
    }

    boolean isPlacement(SdfPath path) {
        return numbers.containsKey(path);
    }
}
