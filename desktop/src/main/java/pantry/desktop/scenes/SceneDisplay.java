package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.desktop.view3d.PlayClock;
import pantry.exchange.usd.Viewing;
import pantry.model.Lamp;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.render.LampLighting;
import pantry.render.RenderCache;
import pantry.render.RenderScene;
import pantry.scene.Occurrence;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.scene.SceneMotion;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/** The open scene as it is drawn: in what light, by proxies or not, with what is isolated and what is dragged. */
public final class SceneDisplay implements SceneDrawing {
    private final OpenScene scene;
    private final SceneDrawers drawers;
    private final Session session;
    private final LatestWork drawing;
    private final ReadOnlyObjectWrapper<Shown> shown = new ReadOnlyObjectWrapper<>(Shown.NOTHING);
    private final BooleanProperty proxies = new SimpleBooleanProperty();
    private final BooleanProperty lamps = new SimpleBooleanProperty();
    private final DoubleProperty stops = new SimpleDoubleProperty();
    private final PlayClock clock = new PlayClock(this::seconds);

    /** What is drawn now but for its time, and where things were moved since that was read. */
    private Optional<Drawing> now = Optional.empty();

    private final Map<String, Matrix4> movedSinceRead = new HashMap<>();
    private boolean poseAgain;
    private final ObjectProperty<Set<SdfPath>> isolated = new SimpleObjectProperty<>(Set.of());

    /** The placements that are shown by their proxies although the others are not, or the other way round. */
    private final Set<SdfPath> otherwise = new HashSet<>();

    private Model drawnModel = Model.EMPTY;

    /** Where things were moved since that model was read, by their paths, in their own spaces, metres. */
    private final Map<String, Matrix4> movedSince = new HashMap<>();

    private int structure;
    private boolean changedStructure;

    /**
     * The scene as it is drawn.
     *
     * @param lamps how many lights shine on it; 0 where it stands in Pantry's own light
     */
    public record Shown(RenderScene drawn, Weight weight, int lamps) {
        static final Shown NOTHING = new Shown(RenderScene.EMPTY, Weight.NOTHING, 0);
    }

    SceneDisplay(OpenScene scene, SceneDrawers drawers) {
        this.scene = scene;
        this.drawers = drawers;
        this.session = scene.session();
        this.drawing = new LatestWork(session.background());
        proxies.addListener(change -> {
            otherwise.clear();
            scene.refresh();
        });
        isolated.addListener(change -> scene.refresh());
        scene.selection().insideProperty().addListener(change -> scene.refresh());
        lamps.addListener(change -> scene.get().ifPresent(open -> session.attempt(() -> redraw(open, false))));
        stops.addListener((property, before, now) -> {
            Shown seen = shown.get();
            RenderScene lighter = seen.drawn().brighter(now.doubleValue() - before.doubleValue());
            shown.set(new Shown(lighter, seen.weight(), seen.lamps()));
        });
        clock.timeProperty().addListener(change -> pose());
        scene.drawnBy(this);
        scene.whenOpened(this::opened, this::closed);
    }

    /** Begins with another scene; what was drawn stays until that is ready. */
    private void opened(Scene opened) {
        otherwise.clear();
        isolated.set(Set.of());
        drawing.drop();
        stopAtStart();
    }

    /** What moved in another scene is not played in this one. */
    private void stopAtStart() {
        now = Optional.empty();
        poseAgain = false;
        clock.playingProperty().set(false);
        clock.timeProperty().set(0);
    }

    private void closed(Scene closed) {
        drawing.drop();
        stopAtStart();
        shown.set(Shown.NOTHING);
    }

    public ReadOnlyObjectProperty<Shown> shownProperty() {
        return shown.getReadOnlyProperty();
    }

    /** The time of the scene, from the beginning of what moves in it; nothing moves where its length is 0. */
    public PlayClock clock() {
        return clock;
    }

    /** Whether anything in the scene can move. */
    public boolean moves() {
        return now.flatMap(Drawing::motion).isPresent();
    }

    private double seconds() {
        return now.flatMap(Drawing::motion)
                .map(motion -> motion.end() - motion.start())
                .orElse(0.0);
    }

    /** Draws the scene at another time; where that takes longer than a picture, what comes meanwhile is passed over. */
    private void pose() {
        if (seconds() <= 0) {
            return;
        }
        if (drawing.isPending()) {
            poseAgain = true;
            return;
        }
        Drawing wanted = now.orElseThrow().at(clock.timeProperty().get(), Map.copyOf(movedSinceRead));
        RenderCache cache = session.workbench().renderCache();
        drawing.answer("posing the scene", progress -> wanted.prepared(cache), this::show);
    }

    /** Grows whenever the structure may have become another, and not when things are only moved. */
    public int structure() {
        return structure;
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

    /** Whether placements are shown by their proxies, but for those that are shown otherwise. */
    public BooleanProperty proxiesProperty() {
        return proxies;
    }

    /** Shows all placements by their proxies or as they are rendered, and the scene anew in any case. */
    void showByProxies(boolean wanted) {
        if (proxies.get() == wanted) {
            scene.refresh();
        } else {
            proxies.set(wanted);
        }
    }

    /** Whether a placement is shown by its proxy, where it has one. */
    public boolean isByProxy(SdfPath path) {
        return proxies.get() != otherwise.contains(path);
    }

    /** Shows the selected placements by their proxies, or as they are rendered. */
    public void showSelectedByProxy(boolean byProxy) {
        for (SdfPath path : scene.selected()) {
            if (byProxy == proxies.get()) {
                otherwise.remove(path);
            } else {
                otherwise.add(path);
            }
        }
        scene.refresh();
    }

    /** Shows nothing but what is selected, or everything again. */
    public void isolate() {
        isolated.set(isolated.get().isEmpty() ? Set.copyOf(scene.selected()) : Set.of());
    }

    public ObjectProperty<Set<SdfPath>> isolatedProperty() {
        return isolated;
    }

    /** While the scene is still being prepared to be drawn; and lamps shine elsewhere once something was moved. */
    @Override
    public boolean isStale() {
        return drawing.isPending() || lamps.get();
    }

    @Override
    public void move(Scene open, Set<SdfPath> paths) {
        RenderScene drawn = shown.get()
                .drawn()
                .placed(paths.stream().map(SdfPath::toString).toList(), path -> open.world(SdfPath.of(path))
                        .orElse(Matrix4.IDENTITY));
        Matrix4 metres = open.toMetres();
        paths.forEach(path -> open.stage().prim(path).ifPresent(prim -> {
            Matrix4 place = metres.inverse().times(Xforms.local(prim)).times(metres);
            movedSince.put(path.toString(), place);
            movedSinceRead.put(path.toString(), place);
        }));
        shown.set(new Shown(drawn, shown.get().weight(), shown.get().lamps()));
    }

    /**
     * Reads what is to be shown; it is prepared in the background, and what was shown before stays until it is ready.
     */
    @Override
    public void redraw(Scene open, boolean restructured) {
        drawers.load(open);
        Viewing chosen = chosen(open);
        draw(open, open.model(chosen, scene::isPlacement), chosen, restructured);
    }

    @Override
    public SceneDrawing.Ahead ahead(Scene open) {
        Viewing before = chosen(open);
        AtomicReference<Model> read = new AtomicReference<>();
        return new SceneDrawing.Ahead() {
            @Override
            public void read(Scene changed, List<Placement> placements) {
                Set<SdfPath> paths = placements.stream().map(Placement::path).collect(Collectors.toSet());
                read.set(changed.model(before, paths::contains));
            }

            @Override
            public void draw(Scene now) {
                boolean asRead = !drawers.load(now);
                Viewing chosen = chosen(now);
                asRead &= chosen.equals(before);
                Model model = asRead ? read.get() : now.model(chosen, scene::isPlacement);
                SceneDisplay.this.draw(now, model, chosen, true);
            }
        };
    }

    private Viewing chosen(Scene open) {
        Set<SdfPath> alone = isolated.get().stream()
                .map(each -> scene.selection()
                        .occurrence(each)
                        .map(Occurrence::seenAs)
                        .orElse(each))
                .collect(Collectors.toSet());
        return new Viewing(drawers.hidden(open), alone, proxies.get(), Set.copyOf(otherwise));
    }

    private void draw(Scene open, Model contents, Viewing chosen, boolean restructured) {
        List<Lamp> shining = lamps.get() ? open.lamps(chosen::isLeftOut) : List.of();
        Optional<SdfPath> apart = scene.selection().apart();
        Drawing wanted = new Drawing(
                contents,
                SceneMotion.of(open, contents),
                clock.timeProperty().get(),
                Map.of(),
                drawers.isLight(),
                shining,
                stops.get(),
                scene.placements().size(),
                open.files(),
                apart.map(SdfPath::toString),
                scene.selection().insideAsDrawn().map(SdfPath::toString),
                scene.aroundProperty().get());
        RenderCache cache = session.workbench().renderCache();
        changedStructure |= restructured;
        now = Optional.of(wanted);
        movedSinceRead.clear();
        poseAgain = false;
        drawing.answer("drawing the scene", progress -> wanted.prepared(cache), this::show);
    }

    /**
     * What is drawn of the scene at a moment, to be prepared in the background.
     *
     * @param motion what of the model moves
     * @param time seconds from the beginning of that
     * @param moved where things were moved since the model was read, by their paths, in their own spaces
     * @param bare whether surfaces have no colours of their own
     * @param lamps empty where the scene stands in Pantry's own light
     * @param apart what shares its insides with others and is drawn apart from them
     * @param inside what is worked in, so that the rest fades
     * @param around the scene that a section is worked on in
     */
    private record Drawing(
            Model model,
            Optional<SceneMotion> motion,
            double time,
            Map<String, Matrix4> moved,
            boolean bare,
            List<Lamp> lamps,
            double stops,
            int placements,
            Set<Path> files,
            Optional<String> apart,
            Optional<String> inside,
            Optional<OpenScene.Surroundings> around) {
        Drawing at(double seconds, Map<String, Matrix4> places) {
            return new Drawing(
                    model, motion, seconds, places, bare, lamps, stops, placements, files, apart, inside, around);
        }

        Drawn prepared(RenderCache cache) {
            Weight weight = Weight.of(model, placements, files);
            Model posed = motion.map(each -> each.at(each.start() + time)).orElse(model);
            Model placed = moved.isEmpty() ? posed : posed.withPlaces(moved);
            Model drawn = bare ? placed.withMaterials(Material::bare) : placed;
            RenderScene plain = RenderScene.of(apart.map(drawn::withApart).orElse(drawn), cache);
            RenderScene lit = lamps.isEmpty() ? plain : LampLighting.lit(plain, lamps, stops);
            RenderScene seen = inside.map(lit::fadedBut).orElse(lit);
            RenderScene whole =
                    around.map(each -> seen.within(each.drawn(), each.place())).orElse(seen);
            return new Drawn(drawn, new Shown(whole, weight, lamps.size()));
        }
    }

    private record Drawn(Model model, Shown shown) {}

    private void show(Drawn drawn) {
        if (changedStructure) {
            changedStructure = false;
            structure++;
        }
        drawnModel = drawn.model();
        movedSince.clear();
        shown.set(drawn.shown());
        if (poseAgain) {
            poseAgain = false;
            pose();
        }
    }

    /** What is drawn, as far as it is ready. */
    Model drawnModel() {
        if (!movedSince.isEmpty()) {
            drawnModel = drawnModel.withPlaces(movedSince);
            movedSince.clear();
        }
        return drawnModel;
    }

    /** The scene while an object is dragged; what is shared moves wherever it is used. */
    RenderScene preview(SceneSelection.Own own, TransformComponents placing) {
        Matrix4 before = own.placing().matrix();
        Matrix4 after = placing.matrix();
        Scene open = scene.get().orElseThrow();
        if (!open.instancing().isShared(own.path())) {
            Matrix4 parent = scene.selection().parentSpace(own.path());
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
        RenderScene moved = RenderScene.of(
                        drawnModel().withPlaces(places), session.workbench().renderCache())
                .inLightOf(shown.get().drawn());
        return scene.aroundProperty()
                .get()
                .map(each -> moved.within(each.drawn(), each.place()))
                .orElse(moved);
    }

    /**
     * The objects that something drawn is of, of those that have a material in common with some others.
     *
     * @param objectOf tells the object that something drawn belongs to
     */
    Set<SdfPath> withMaterialOf(Set<SdfPath> others, Function<String, Optional<SdfPath>> objectOf) {
        Map<SdfPath, Set<Material>> materials = new LinkedHashMap<>();
        Map<String, Optional<SdfPath>> known = new HashMap<>();
        drawnModel().visit((owner, part, world) -> known.computeIfAbsent(owner.path(), objectOf)
                .ifPresent(path -> materials
                        .computeIfAbsent(path, object -> new HashSet<>())
                        .add(part.material())));
        Set<Material> wanted = new HashSet<>();
        materials.forEach((path, made) -> {
            if (path.startsWithAny(others)) {
                wanted.addAll(made);
            }
        });
        Set<SdfPath> found = new LinkedHashSet<>();
        materials.forEach((path, made) -> {
            if (!Collections.disjoint(made, wanted)) {
                found.add(path);
            }
        });
        return found;
    }

    /** The box around an object where it is worked on, in the world, metres. */
    public Box3 box(SdfPath path) {
        return box(path, Matrix4.IDENTITY);
    }

    /** As {@link #preview} shows it. */
    Box3 previewBox(SceneSelection.Own own, TransformComponents placing) {
        return box(own.path(), own.placing().matrix().inverse().times(placing.matrix()));
    }

    private Box3 box(SdfPath path, Matrix4 change) {
        Optional<Scene> open = scene.get();
        Optional<Occurrence> seen = scene.selection().occurrence(path);
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
        return drawnModel().boundsWithin(seen.get().drawnAs().toString()).transformed(world);
    }
}
