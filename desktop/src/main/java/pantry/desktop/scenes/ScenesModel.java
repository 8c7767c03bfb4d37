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
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.model.Lamp;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.render.LampLighting;
import pantry.render.RenderCache;
import pantry.render.RenderScene;
import pantry.scene.Anchors;
import pantry.scene.Drawers;
import pantry.scene.Focus;
import pantry.scene.Occurrence;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.compose.Stage;
import pantry.usd.compose.StageChange;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/** The state and commands of the Scenes workplace. */
public final class ScenesModel {
    private final Session session;
    private final SceneGalleryModel gallery;
    private final ReadOnlyObjectWrapper<Optional<Scene>> scene = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObservableList<Placement> placements = FXCollections.observableArrayList();
    private final ObjectProperty<Set<SdfPath>> selection = new SimpleObjectProperty<>(Set.of());
    private final ReadOnlyObjectWrapper<Shown> shown = new ReadOnlyObjectWrapper<>(Shown.NOTHING);
    private final ReadOnlyBooleanWrapper changed = new ReadOnlyBooleanWrapper();
    private final BooleanProperty proxies = new SimpleBooleanProperty();
    private final BooleanProperty lamps = new SimpleBooleanProperty();
    private final DoubleProperty stops = new SimpleDoubleProperty();
    private final Set<SdfPath> otherwise = new HashSet<>();
    private final List<StageChange> changes = new ArrayList<>();
    private final Map<SdfPath, Integer> numbers = new HashMap<>();
    private final Map<Path, Long> counts = new HashMap<>();
    private final ObjectProperty<Set<SdfPath>> isolated = new SimpleObjectProperty<>(Set.of());
    private final ObjectProperty<Optional<Focus>> focus = new SimpleObjectProperty<>(Optional.empty());
    private Set<SdfPath> hidden = Set.of();
    private Set<SdfPath> unloaded = Set.of();
    private int structure;
    private boolean changedStructure;
    private Runnable unlisten = () -> {};
    private Model drawnModel = Model.EMPTY;
    private final LatestWork drawing;
    private final Map<SdfPath, List<SdfPath>> through = new HashMap<>();
    private final SelectionEdits edits = new SelectionEdits(this);
    private final Keeping keeping = new Keeping(this);
    private final SceneExports exports = new SceneExports(this);

    /**
     * The scene as it is drawn.
     *
     * @param lamps how many lights shine on it; 0 where it stands in Pantry's own light
     */
    public record Shown(RenderScene drawn, Weight weight, int lamps) {
        static final Shown NOTHING = new Shown(RenderScene.EMPTY, Weight.NOTHING, 0);
    }

    /**
     * The one object that is selected.
     *
     * @param usual whether its place is told by the usual move, turn and scale
     */
    public record Own(
            SdfPath path,
            TransformComponents placing,
            boolean usual,
            Optional<Placement> placement,
            Optional<Anchors.Mark> mark) {}

    public ScenesModel(Session session) {
        this.session = session;
        this.drawing = new LatestWork(session.background());
        gallery = new SceneGalleryModel(session);
        proxies.addListener(change -> {
            otherwise.clear();
            refresh();
        });
        isolated.addListener(change -> refresh());
        lamps.addListener(change -> relight());
        stops.addListener((property, before, now) -> {
            Shown seen = shown.get();
            RenderScene lighter = seen.drawn().brighter(now.doubleValue() - before.doubleValue());
            shown.set(new Shown(lighter, seen.weight(), seen.lamps()));
        });
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
        session.workbench().keep(session.workbench().settings().withAllowed(folder.toString()));
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
                ? scene.get().flatMap(open -> open.placements()
                        .at(selection.get().iterator().next()))
                : Optional.empty();
    }

    /** The one selected object, a group or an anchor among them; empty where none or several are. */
    public Optional<Own> one() {
        if (selection.get().size() != 1) {
            return Optional.empty();
        }
        SdfPath path = selection.get().iterator().next();
        return scene.get().flatMap(open -> open.spec(path)
                .map(prim -> new Own(
                        path,
                        TransformComponents.read(prim),
                        TransformComponents.isUsual(prim),
                        open.placements().at(path),
                        open.anchors().mark(path))));
    }

    /** Grows whenever the structure may have become another, and not when things are only moved. */
    public int structure() {
        return structure;
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
        otherwise.clear();
        changes.clear();
        through.clear();
        unloaded = Set.of();
        isolated.set(Set.of());
        focus.set(Optional.empty());
        unlisten.run();
        unlisten = opened.onChange(changes::add);
        drawing.drop();
        scene.set(Optional.of(opened));
        selection.set(Set.of());
        keeping.opened(opened);
        reloadDrawers();
        refresh();
    }

    /** Closes the scene; changes that were not saved are lost. */
    public void close() {
        keeping.giveUp();
        unlisten.run();
        unlisten = () -> {};
        scene.set(Optional.empty());
        keeping.closed();
        selection.set(Set.of());
        placements.clear();
        drawing.drop();
        shown.set(Shown.NOTHING);
        noteChanged();
    }

    /** Places an asset, following its ready version, and selects it. */
    public void place(Asset asset, Vec3 at) {
        act(open -> {
            SdfPath path = open.placements()
                    .place(
                            asset,
                            Optional.empty(),
                            asset.card().name(),
                            TransformComponents.ORIGIN.withMove(at),
                            Optional.empty());
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

    public void selectChildren() {
        scene.get().ifPresent(open -> {
            Set<SdfPath> children = new LinkedHashSet<>();
            for (SdfPath path : selection.get()) {
                open.spec(path).ifPresent(prim -> prim.childNames().forEach(name -> children.add(path.child(name))));
            }
            if (!children.isEmpty()) {
                selection.set(children);
            }
        });
    }

    /** Selects what the selected objects hang on. */
    public void selectAbove() {
        scene.get().ifPresent(open -> {
            Set<SdfPath> above = new LinkedHashSet<>();
            selection.get().forEach(path -> above.add(path.parent()));
            above.removeIf(path -> !path.startsWith(open.root()) || path.equals(open.root()));
            if (!above.isEmpty()) {
                selection.set(above);
            }
        });
    }

    /** Shows nothing but what is selected, or everything again. */
    public void isolate() {
        isolated.set(isolated.get().isEmpty() ? Set.copyOf(selection.get()) : Set.of());
    }

    public ObjectProperty<Set<SdfPath>> isolatedProperty() {
        return isolated;
    }

    /** What is done by hand to the selected objects. */
    public SelectionEdits edits() {
        return edits;
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
        if (!selection.get().isEmpty()) {
            act(open -> selection.set(new LinkedHashSet<>(change.apply(open))));
        }
    }

    List<SdfPath> selected() {
        return List.copyOf(selection.get());
    }

    /** Of several that are selected, the one that was chosen last. */
    public Optional<SdfPath> lastOfSeveral() {
        List<SdfPath> chosen = selected();
        return chosen.size() < 2 ? Optional.empty() : Optional.of(chosen.getLast());
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

    /** What is no longer there, such as in an alternate that was switched out, is not selected either. */
    private void keepSelection(Scene open) {
        Set<SdfPath> there = selection.get().stream()
                .filter(path -> open.spec(path).isPresent())
                .collect(Collectors.toCollection(LinkedHashSet::new));
        if (there.size() < selection.get().size()) {
            selection.set(there);
        }
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
        long uses = selection.get().stream()
                .filter(path -> open.instancing().isShared(path))
                .mapToLong(open.instancing()::uses)
                .max()
                .orElse(1);
        return shared && uses > 1 ? ", in all " + uses + " uses" : "";
    }

    /** Shows the scene as it is now. Where things were only moved, only these are looked at. */
    private void refresh() {
        scene.get()
                .ifPresent(open -> session.attempt(() -> {
                    noteChanged();
                    keepSelection(open);
                    boolean moved = !changes.isEmpty() && changes.stream().allMatch(ScenesModel::isMove);
                    boolean drawnAnew = drawing.isPending();
                    if (moved) {
                        showMoved(open);
                    }
                    if (!moved || drawnAnew || lamps.get()) {
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
        RenderScene drawn = shown.get()
                .drawn()
                .placed(paths.stream().map(SdfPath::toString).toList(), path -> open.world(SdfPath.of(path))
                        .orElse(Matrix4.IDENTITY));
        shown.set(new Shown(drawn, shown.get().weight(), shown.get().lamps()));
    }

    private void relight() {
        scene.get().ifPresent(open -> session.attempt(() -> showAnew(open, false)));
    }

    /** Whether the scene is shown in the light of its own lamps rather than in Pantry's. */
    public BooleanProperty lampsProperty() {
        return lamps;
    }

    public void switchLamps() {
        lamps.set(!lamps.get());
    }

    /** How many times more its own light is doubled than what is measured asks for. */
    public DoubleProperty stopsProperty() {
        return stops;
    }

    /**
     * Reads what is to be shown; it is prepared in the background, and what was shown before stays until it is ready.
     *
     * @param restructured whether the structure may have become another
     */
    private void showAnew(Scene open, boolean restructured) {
        placements.setAll(open.placements().all());
        numbers.clear();
        for (int i = 0; i < placements.size(); i++) {
            numbers.put(placements.get(i).path(), i);
        }
        counts.clear();
        placements.forEach(placement -> counts.merge(placement.layer(), 1L, Long::sum));
        Set<SdfPath> away = open.drawers().in(state -> state.hidden() || state.unloaded());
        focus.get().ifPresent(shownBy -> {
            away.addAll(open.drawers().members(shownBy.hidden()));
            away.addAll(open.drawers().members(shownBy.unloaded()));
        });
        hidden = away;
        Model model = open.model(path -> numbers.containsKey(path) && isByProxy(path), this::isLeftOut);
        boolean bare =
                focus.get().filter(each -> each.detail() == Focus.Detail.LIGHT).isPresent();
        List<Lamp> shining = lamps.get() ? open.lamps(this::isLeftOut) : List.of();
        Drawing wanted = new Drawing(model, bare, shining, stops.get(), placements.size(), open.files());
        RenderCache cache = session.workbench().renderCache();
        changedStructure |= restructured;
        drawing.answer("drawing the scene", progress -> wanted.prepared(cache), this::show);
    }

    /**
     * What is drawn of the scene at a moment, to be prepared in the background.
     *
     * @param bare whether surfaces have no colours of their own
     * @param lamps empty where the scene stands in Pantry's own light
     */
    private record Drawing(Model model, boolean bare, List<Lamp> lamps, double stops, int placements, Set<Path> files) {
        Drawn prepared(RenderCache cache) {
            Weight weight = Weight.of(model, placements, files);
            Model drawn = bare ? model.withMaterials(Material::bare) : model;
            RenderScene plain = RenderScene.of(drawn, cache);
            RenderScene lit = lamps.isEmpty() ? plain : LampLighting.lit(plain, lamps, stops);
            return new Drawn(drawn, new Shown(lit, weight, lamps.size()));
        }
    }

    private record Drawn(Model model, Shown shown) {}

    private void show(Drawn drawn) {
        if (changedStructure) {
            changedStructure = false;
            structure++;
        }
        drawnModel = drawn.model();
        shown.set(drawn.shown());
    }

    private boolean isLeftOut(SdfPath path) {
        if (hidden.contains(path)) {
            return true;
        }
        Set<SdfPath> alone = isolated.get().stream()
                .map(each -> occurrence(each).map(Occurrence::seenAs).orElse(each))
                .collect(Collectors.toSet());
        return !alone.isEmpty() && alone.stream().noneMatch(each -> path.startsWith(each) || each.startsWith(path));
    }

    /** Reads, or no longer reads, what drawers say. */
    private void reloadDrawers() {
        scene.get().ifPresent(open -> {
            Set<SdfPath> wanted = new HashSet<>(open.drawers().in(Drawers.State::unloaded));
            focus.get().ifPresent(by -> wanted.addAll(open.drawers().members(by.unloaded())));
            if (!wanted.equals(unloaded)) {
                unloaded = wanted;
                open.load(path -> wanted.stream().noneMatch(path::startsWith));
            }
        });
    }

    /** Puts what is selected into a drawer. */
    public void putInto(String drawer) {
        arrange(open -> open.drawers().put(drawer, selected()));
    }

    /** Takes what is selected out of a drawer. */
    public void takeOut(String drawer) {
        arrange(open -> open.drawers().take(drawer, selected()));
    }

    /** Switches an alternate in. */
    public void switchTo(String set, String alternate) {
        act(open -> open.alternates().choose(set, alternate));
    }

    public void removeDrawer(String drawer) {
        act(open -> open.drawers().remove(drawer));
    }

    /** Hides, locks or unloads a drawer. */
    public void set(String drawer, Drawers.State state) {
        act(open -> {
            open.drawers().set(drawer, state);
            reloadDrawers();
        });
    }

    /** Looks at the scene in a kept way; empty for the usual one. */
    public void showFocus(Optional<Focus> by) {
        focus.set(by);
        session.attempt(this::reloadDrawers);
        boolean wanted = by.filter(each -> each.detail() == Focus.Detail.LIGHT).isPresent();
        if (proxies.get() == wanted) {
            refresh();
        } else {
            proxies.set(wanted);
        }
    }

    public ObjectProperty<Optional<Focus>> focusProperty() {
        return focus;
    }

    /** Keeps how the scene is looked at now, under a name. */
    public void keepFocus(String name, Focus.Eye from) {
        act(open -> {
            Set<String> away = new HashSet<>();
            Set<String> unread = new HashSet<>();
            focus.get().ifPresent(by -> {
                away.addAll(by.hidden());
                unread.addAll(by.unloaded());
            });
            for (Drawers.Drawer drawer : open.drawers().all()) {
                Drawers.State state = open.drawers().state(drawer.name());
                if (state.unloaded()) {
                    unread.add(drawer.name());
                } else if (state.hidden()) {
                    away.add(drawer.name());
                }
            }
            Focus.Detail detail = proxies.get() ? Focus.Detail.LIGHT : Focus.Detail.FULL;
            open.focuses().keep(new Focus(name, detail, away, unread, Optional.of(from)));
        });
    }

    public void removeFocus(String name) {
        act(open -> open.focuses().remove(name));
    }

    /** Does something to the scene that is written down and can be undone. */
    void change(Consumer<Scene> change) {
        act(change::accept);
    }

    /** Whether placements are shown by their proxies, but for those that are shown otherwise. */
    public BooleanProperty proxiesProperty() {
        return proxies;
    }

    /** Whether a placement is shown by its proxy, where it has one. */
    public boolean isByProxy(SdfPath path) {
        return proxies.get() != otherwise.contains(path);
    }

    /** Shows the selected placements by their proxies, or as they are rendered. */
    public void showByProxy(boolean byProxy) {
        for (SdfPath path : selection.get()) {
            if (byProxy == proxies.get()) {
                otherwise.remove(path);
            } else {
                otherwise.add(path);
            }
        }
        refresh();
    }

    /** From the space in which a placement's own place is told to the scene's. */
    public Matrix4 parentSpace(SdfPath path) {
        return occurrence(path).map(Occurrence::parentSpace).orElse(Matrix4.IDENTITY);
    }

    /** The place at which an object is worked on: of shared contents, in the use through which it was chosen. */
    public Optional<Occurrence> occurrence(SdfPath path) {
        return scene.get().flatMap(open -> {
            List<Occurrence> all = open.instancing().occurrences(path);
            return all.stream()
                    .filter(each -> each.through().equals(through.get(path)))
                    .findFirst()
                    .or(() -> all.stream().findFirst());
        });
    }

    /** Takes note of the uses through which something within shared contents was reached, the outermost first. */
    void reached(SdfPath path, List<SdfPath> uses) {
        through.put(path, List.copyOf(uses));
    }

    /** The scene while an object is dragged; what is shared moves wherever it is used. */
    RenderScene preview(Own own, TransformComponents placing) {
        Matrix4 before = own.placing().matrix();
        Matrix4 after = placing.matrix();
        Scene open = scene.get().orElseThrow();
        if (!open.instancing().isShared(own.path())) {
            Matrix4 parent = parentSpace(own.path());
            Matrix4 from = before.times(parent);
            return shown.get()
                    .drawn()
                    .moved(Map.of(own.path().toString(), from.inverse().times(after.times(parent))));
        }
        Matrix4 metres = open.toMetres();
        Map<String, Matrix4> places = new HashMap<>();
        for (Occurrence each : open.instancing().occurrences(own.path())) {
            Matrix4 now = open.stage().prim(each.drawnAs()).map(Xforms::local).orElse(before);
            Matrix4 moved = now.times(before.inverse()).times(after);
            places.put(each.drawnAs().toString(), metres.inverse().times(moved).times(metres));
        }
        return RenderScene.of(drawnModel.withPlaces(places), session.workbench().renderCache())
                .inLightOf(shown.get().drawn());
    }

    /** The box around an object where it is worked on, in the world. */
    public Box3 box(SdfPath path) {
        return box(path, Matrix4.IDENTITY);
    }

    /** As {@link #preview} shows it. */
    Box3 previewBox(Own own, TransformComponents placing) {
        return box(own.path(), own.placing().matrix().inverse().times(placing.matrix()));
    }

    private Box3 box(SdfPath path, Matrix4 change) {
        Optional<Scene> open = scene.get();
        Optional<Occurrence> seen = occurrence(path);
        if (open.isEmpty() || seen.isEmpty() || seen.get().through().isEmpty()) {
            return shown.get().drawn().boundsBelow(path.toString());
        }
        Matrix4 metres = open.get().toMetres();
        Matrix4 local = open.get()
                .stage()
                .prim(seen.get().drawnAs())
                .map(Xforms::local)
                .orElse(Matrix4.IDENTITY)
                .times(change);
        Matrix4 world =
                metres.inverse().times(local.times(seen.get().parentSpace())).times(metres);
        return drawnModel.boundsWithin(seen.get().drawnAs().toString()).transformed(world);
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

    /** Whether a drawer locks an object, so that it is not picked in the view. */
    public boolean isLocked(SdfPath path) {
        return scene.get()
                .filter(open ->
                        open.drawers().in(Drawers.State::locked).stream().anyMatch(path::startsWith))
                .isPresent();
    }
}
