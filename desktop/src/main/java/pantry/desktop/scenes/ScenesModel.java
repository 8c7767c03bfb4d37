package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.session.Session;
import pantry.exchange.Model;
import pantry.exchange.Weight;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.VersionStatus;
import pantry.render.RenderScene;
import pantry.scene.Arranging;
import pantry.scene.Layout;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.Placing;
import pantry.usd.schema.Xforms;

/** The state and commands of the Scenes workplace. */
public final class ScenesModel {
    private final Session session;
    private final ObservableList<Path> files = FXCollections.observableArrayList();
    private final ReadOnlyObjectWrapper<Optional<Scene>> scene = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObservableList<Placement> placements = FXCollections.observableArrayList();
    private final ObjectProperty<Set<SdfPath>> selection = new SimpleObjectProperty<>(Set.of());
    private final ReadOnlyObjectWrapper<Shown> shown = new ReadOnlyObjectWrapper<>(Shown.NOTHING);
    private final ReadOnlyBooleanWrapper changed = new ReadOnlyBooleanWrapper();
    private final BooleanProperty light = new SimpleBooleanProperty();
    private final Set<SdfPath> otherwise = new HashSet<>();

    /** The scene as it is drawn. */
    public record Shown(RenderScene drawn, Weight weight) {
        static final Shown NOTHING = new Shown(RenderScene.EMPTY, Weight.NOTHING);
    }

    public ScenesModel(Session session) {
        light.addListener(change -> {
            otherwise.clear();
            refresh();
        });
        this.session = session;
        session.projectProperty().addListener((property, before, now) -> files.setAll(session.scenes()));
        // What the scene refers to may have become another version.
        session.shelving().contentsProperty().addListener((property, before, now) -> {
            if (before.versions() != now.versions()) {
                scene.get().ifPresent(Scene::reload);
                refresh();
            }
        });
    }

    /** The project's scenes. */
    public ObservableList<Path> files() {
        return files;
    }

    public ReadOnlyObjectProperty<Optional<Scene>> sceneProperty() {
        return scene.getReadOnlyProperty();
    }

    public ObservableList<Placement> placements() {
        return placements;
    }

    public ObjectProperty<Set<SdfPath>> selectionProperty() {
        return selection;
    }

    public ReadOnlyObjectProperty<Shown> shownProperty() {
        return shown.getReadOnlyProperty();
    }

    /** Whether there is something to save. */
    public ReadOnlyBooleanProperty changedProperty() {
        return changed.getReadOnlyProperty();
    }

    /** The one selected placement; empty where none or several are. */
    public Optional<Placement> single() {
        return selection.get().size() == 1
                ? scene.get()
                        .flatMap(open ->
                                open.placement(selection.get().iterator().next()))
                : Optional.empty();
    }

    /** Makes an empty scene in the project and opens it. */
    public void create(String name) {
        session.attempt(() -> {
            Path folder = session.projectProperty()
                    .get()
                    .orElseThrow(() -> new PantryException("no project is open; choose a folder for it first"));
            Scene made = session.workbench().createScene(folder.resolve(Names.slug(name) + ".usda"));
            files.setAll(session.scenes());
            session.done("made the scene " + made.file().getFileName(), Optional.empty());
            open(made);
        });
    }

    /** Opens a scene; the one that was open must have been saved or given up. */
    public void open(Path file) {
        session.run(
                "opening " + file.getFileName(), progress -> session.workbench().openScene(file), this::open);
    }

    private void open(Scene opened) {
        otherwise.clear();
        scene.set(Optional.of(opened));
        selection.set(Set.of());
        refresh();
    }

    /** Closes the scene; changes that were not saved are lost. */
    public void close() {
        scene.set(Optional.empty());
        selection.set(Set.of());
        placements.clear();
        shown.set(Shown.NOTHING);
        changed.set(false);
        session.weightProperty().set(Weight.NOTHING);
    }

    public void save() {
        scene.get()
                .ifPresent(open -> session.attempt(() -> {
                    open.save();
                    changed.set(open.changed());
                    session.done("saved " + open.file().getFileName(), Optional.empty());
                }));
    }

    /** Places an asset, following its ready version, and selects it. */
    public void place(Asset asset, Vec3 at) {
        act(open -> {
            SdfPath path = open.place(
                    asset, Optional.empty(), asset.card().name(), Placing.ORIGIN.withMove(at), Optional.empty());
            selection.set(Set.of(path));
        });
    }

    /** What the scene would weigh with one more use of an asset. */
    public Weight weightWith(Asset asset) {
        Weight now = shown.get().weight();
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

    /** Gives the one selected placement another place. */
    public void move(SdfPath path, Placing placing) {
        act(open -> open.move(Map.of(path, placing)));
    }

    /** Moves all that is selected by a distance. */
    public void nudge(Vec3 by) {
        act(open -> {
            Map<SdfPath, Placing> placings = new LinkedHashMap<>();
            for (SdfPath path : selection.get()) {
                open.placement(path)
                        .ifPresent(placement -> placings.put(
                                path,
                                placement
                                        .placing()
                                        .withMove(placement.placing().move().plus(by))));
            }
            open.move(placings);
        });
    }

    public void removeSelected() {
        if (!selection.get().isEmpty()) {
            act(open -> {
                open.remove(selection.get());
                selection.set(Set.of());
            });
        }
    }

    public Session session() {
        return session;
    }

    /** Changes what is selected, and selects what came of it; nothing where nothing is selected. */
    private void withSelected(Function<Scene, List<SdfPath>> change) {
        if (!selection.get().isEmpty()) {
            act(open -> selection.set(new LinkedHashSet<>(change.apply(open))));
        }
    }

    private List<SdfPath> selected() {
        return List.copyOf(selection.get());
    }

    /** Puts what is selected on an anchor of its own. */
    public void group(String name) {
        withSelected(open -> List.of(open.structure().group(selected(), name)));
    }

    /** Takes the selected groups apart. */
    public void ungroup() {
        withSelected(open -> open.structure().ungroup(selected()));
    }

    /** Gives the first that is selected another name. */
    public void rename(String name) {
        withSelected(open -> List.of(open.structure().rename(selected().getFirst(), name)));
    }

    /** Lets the selected placements no longer share their insides. */
    public void breakOut() {
        arrange(open -> open.structure().breakOut(selected()));
    }

    private void arrange(Consumer<Scene> change) {
        withSelected(open -> {
            change.accept(open);
            return selected();
        });
    }

    public void mirror(int axis) {
        arrange(open -> open.arranging().mirror(selected(), axis));
    }

    public void align(int axis, Arranging.Side side) {
        arrange(open -> open.arranging().align(selected(), axis, side));
    }

    public void spread(int axis) {
        arrange(open -> open.arranging().spread(selected(), axis));
    }

    /** Lets what is selected down onto what is below it. */
    public void drop() {
        arrange(open -> open.arranging().drop(selected()));
    }

    /** Takes the own transforms of what is selected away. */
    public void resetPlace() {
        arrange(open -> open.arranging().reset(selected()));
    }

    /** Lays the one that is selected out many times. */
    public void layOut(String name, Layout layout) {
        withSelected(open -> List.of(open.laying().lay(selected().getFirst(), name, layout, Layout.Variation.NONE)));
    }

    /** Lays the selected group out otherwise. */
    public void layAgain(Layout layout) {
        arrange(open -> open.laying().relay(selected().getFirst(), layout, Layout.Variation.NONE));
    }

    /** One more use of each selected placement, a little aside; the new ones are selected. */
    public void duplicateSelected() {
        if (!selection.get().isEmpty()) {
            act(open -> selection.set(new LinkedHashSet<>(open.duplicate(selection.get(), new Vec3(1, 0, 0)))));
        }
    }

    /** Puts what is selected on a shelf of the first library that can be written, as a prefab. */
    public void makeAsset(String name, String shelf) {
        Optional<Library> library =
                session.shelving().present().stream().filter(Library::writable).findFirst();
        if (library.isEmpty() || scene.get().isEmpty()) {
            session.wrong(new PantryException("no library is open that " + name + " could be put into"));
            return;
        }
        Scene now = scene.get().get().snapshot();
        List<SdfPath> chosen = List.copyOf(selection.get());
        session.shelving()
                .change(
                        "shelving " + name,
                        library.get(),
                        Set.of(),
                        progress -> session.workbench()
                                .prefab(now, chosen, library.get())
                                .shelve(name, AssetKind.PREFAB, shelf, List.of(), progress)
                                .asset(),
                        asset -> session.done(
                                asset.card().name() + " stands on " + asset.shelf(),
                                Optional.of(() -> takeOff(library.get(), asset))),
                        session::wrong);
    }

    private void takeOff(Library library, Asset asset) {
        session.shelving()
                .change(
                        "taking off " + asset.card().name(),
                        library,
                        Set.of(asset.shelf()),
                        progress -> library.trash().discard(asset),
                        item -> session.done("put " + item.name() + " into the trash", Optional.empty()),
                        session::wrong);
    }

    /** Publishes what is selected as an asset's next version. */
    public void publish(Asset asset, Library library, String note) {
        scene.get().ifPresent(open -> {
            Scene now = open.snapshot();
            List<SdfPath> chosen = List.copyOf(selection.get());
            session.shelving()
                    .change(
                            "publishing " + asset.card().name(),
                            library,
                            Set.of(asset.shelf()),
                            progress -> session.workbench()
                                    .prefab(now, chosen, library)
                                    .publish(asset, VersionStatus.READY, note, progress),
                            published -> session.done(
                                    asset.card().name() + " " + published.version() + " is published",
                                    Optional.empty()),
                            session::wrong);
        });
    }

    public void undo() {
        scene.get().flatMap(Scene::undoName).ifPresent(name -> {
            scene.get().ifPresent(Scene::undo);
            session.done("took back: " + name, Optional.empty());
            keepSelection();
            refresh();
        });
    }

    public void redo() {
        scene.get().flatMap(Scene::redoName).ifPresent(name -> {
            scene.get().ifPresent(Scene::redo);
            session.done("did again: " + name, Optional.of(this::undo));
            keepSelection();
            refresh();
        });
    }

    private void keepSelection() {
        scene.get()
                .ifPresent(open -> selection.set(selection.get().stream()
                        .filter(path -> open.layer().prim(path).isPresent())
                        .collect(Collectors.toCollection(LinkedHashSet::new))));
    }

    private interface SceneAction {
        void on(Scene scene);
    }

    /** Changes the scene and writes that down, with its undo. */
    private void act(SceneAction action) {
        scene.get()
                .ifPresent(open -> session.attempt(() -> {
                    action.on(open);
                    open.undoName().ifPresent(name -> session.done(name, Optional.of(this::undo)));
                    refresh();
                }));
    }

    /** Shows the scene as it is now. Composing is quick, since layers and meshes are kept. */
    private void refresh() {
        scene.get()
                .ifPresent(open -> session.attempt(() -> {
                    placements.setAll(open.placements());
                    changed.set(open.changed());
                    Set<SdfPath> placed = new HashSet<>();
                    placements.forEach(placement -> placed.add(placement.path()));
                    Model model = open.model(path -> placed.contains(path) && isLight(path));
                    Weight weight = open.weight(model);
                    shown.set(
                            new Shown(RenderScene.of(model, session.workbench().renderCache()), weight));
                    session.weightProperty().set(weight);
                }));
    }

    /** Whether placements are shown by their proxies, but for those that are shown otherwise. */
    public BooleanProperty lightProperty() {
        return light;
    }

    /** Whether a placement is shown by its proxy, where it has one. */
    public boolean isLight(SdfPath path) {
        return light.get() != otherwise.contains(path);
    }

    /** Shows the selected placements by their proxies, or as they are rendered. */
    public void showLight(boolean byProxy) {
        for (SdfPath path : selection.get()) {
            if (byProxy == light.get()) {
                otherwise.remove(path);
            } else {
                otherwise.add(path);
            }
        }
        refresh();
    }

    /** From the space in which a placement's own place is told to the scene's. */
    public Matrix4 parentSpace(SdfPath path) {
        return scene.get()
                .flatMap(open -> open.stage().prim(path.parent()))
                .map(Xforms::world)
                .orElse(Matrix4.IDENTITY);
    }

    /** The number of placements that show the same thing as one does. */
    public long like(Placement placement) {
        return placements.stream()
                .filter(other -> other.layer().equals(placement.layer()))
                .count();
    }

    /** The placement that a drawn object belongs to. */
    public Optional<SdfPath> placementOf(String ownerPath) {
        return placements.stream()
                .map(Placement::path)
                .filter(path -> ownerPath.equals(path.toString()) || ownerPath.startsWith(path + "/"))
                .findFirst();
    }
}
