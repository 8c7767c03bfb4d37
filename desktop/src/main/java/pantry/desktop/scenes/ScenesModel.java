package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.collections.ObservableList;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.model.Weight;
import pantry.render.RenderScene;
import pantry.scene.Focus;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** The state and commands of the Scenes workplace. */
public final class ScenesModel {
    /** The distance between the origins in a row, in widths. */
    private static final double ROW_STEP = 1.1;

    private final Session session;
    private final SceneGalleryModel gallery;
    private final OpenScene scene;
    private final SceneDrawers drawers;
    private final SceneDisplay display;
    private final Keeping keeping;
    private final SelectionEdits edits;
    private final Several several;
    private final SceneExports exports;
    private final SectionWatch sections;

    public ScenesModel(Session session) {
        this.session = session;
        this.gallery = new SceneGalleryModel(session);
        this.scene = new OpenScene(session);
        this.drawers = new SceneDrawers(scene);
        this.display = new SceneDisplay(scene, drawers);
        this.keeping = new Keeping(scene);
        this.edits = new SelectionEdits(scene, display, keeping);
        this.several = new Several(scene, edits);
        this.exports = new SceneExports(scene, keeping);
        this.sections = new SectionWatch(scene);
        // One that was just cut out is listed with the others.
        scene.whenOpened(
                opened -> {
                    if (!files().contains(opened.file())) {
                        session.listScenes();
                    }
                },
                closed -> {});
        session.rewrittenProperty().addListener((property, before, now) -> scene.get()
                .map(Scene::file)
                .filter(file -> now.contains(file) && !changedProperty().get())
                .ifPresent(scene::reopen));
        session.movedProperty().addListener((property, before, now) -> now.flatMap(
                        moved -> scene.get().map(Scene::file).flatMap(moved::now))
                .ifPresent(this::open));
        // What the scene refers to may have become another version.
        session.shelving().contentsProperty().addListener((property, before, now) -> {
            if (before.versions() != now.versions()) {
                readAgain();
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
                    session.told("scenes may name files in " + folder);
                }));
        scene.refresh();
    }

    /** The project's scenes. */
    public ObservableList<Path> files() {
        return session.scenes();
    }

    public ReadOnlyObjectProperty<Optional<Scene>> sceneProperty() {
        return scene.property();
    }

    public ObservableList<Placement> placements() {
        return scene.placements();
    }

    public ObjectProperty<Set<SdfPath>> selectionProperty() {
        return scene.selectionProperty();
    }

    public ReadOnlyObjectProperty<SceneDisplay.Shown> shownProperty() {
        return display.shownProperty();
    }

    /** Whether there is something to save. */
    public ReadOnlyBooleanProperty changedProperty() {
        return scene.changedProperty();
    }

    /** What is selected, and through which use it was reached. */
    public SceneSelection selection() {
        return scene.selection();
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
            session.told("made the scene " + made.file().getFileName());
            scene.open(made);
        });
    }

    /** The scenes of the open projects, to choose one. */
    public SceneGalleryModel gallery() {
        return gallery;
    }

    /** Opens a scene, in the background; the one that was open must have been saved or given up. */
    public void open(Path file) {
        scene.open(file);
    }

    /** Closes the scene; changes that were not saved are lost. */
    public void close() {
        scene.close();
    }

    /** Whether this is a section, which is worked on in its own file. */
    public boolean isSection(SdfPath path) {
        return scene.get().flatMap(open -> open.sections().at(path)).isPresent();
    }

    /** Who holds the sections, and what others do to them. */
    SectionWatch sections() {
        return sections;
    }

    /** Opens a section where it stands, with the scene around it; that must have been saved or given up. */
    public void openSection(SdfPath path) {
        session.attempt(() -> scene.openSection(path, shownProperty().get().drawn()));
    }

    /** Goes back from a section to the scene that is around it. */
    public void leaveSection() {
        scene.leaveSection();
    }

    /** The scene that is around the open section, and where that is in it; empty where a scene is open by itself. */
    ReadOnlyObjectProperty<Optional<OpenScene.Surroundings>> aroundProperty() {
        return scene.aroundProperty();
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
        // What has its origin elsewhere than at its base stands by its base all the same.
        double base = asset.shown()
                .map(version -> asset.facts(version).bounds().min()[1])
                .filter(Double::isFinite)
                .orElse(0.0);
        Vec3 down = placing.matrix().direction(new Vec3(0, base, 0));
        placeOrigin(asset, placing.withMove(placing.move().minus(down)));
    }

    private void placeOrigin(Asset asset, TransformComponents placing) {
        // They would be placements of nothing that can be seen.
        Optional<String> unplaceable =
                switch (asset.card().kind()) {
                    case MATERIAL ->
                        Optional.of(
                                " is a material: choose a part of something in the scene, and give it the material there");
                    case MATERIAL_PART ->
                        Optional.of(" is a part of materials: mix it into one on that material's card in Shelves");
                    default -> Optional.empty();
                };
        if (unplaceable.isPresent()) {
            session().wrong(new PantryException(asset.card().name() + unplaceable.get()));
            return;
        }
        scene.act(open -> {
            SdfPath path = open.placements()
                    .place(asset, Optional.empty(), asset.card().name(), placing, Optional.empty());
            scene.selection().set(List.of(path));
        });
    }

    /**
     * Places an asset beside the one selected placement of it, in line with it along a horizontal axis of the world, and
     * selects it; so placing again and again makes a row instead of a heap.
     *
     * @param right a direction in the world, of which the nearest horizontal axis is taken
     * @param otherwise where its base stands if no placement of that asset is selected
     */
    public void placeBeside(Asset asset, Vec3 right, Vec3 otherwise) {
        scene.selection()
                .one()
                .filter(own -> scene.get()
                        .filter(open -> own.path().parent().equals(open.root()))
                        .isPresent())
                .filter(own -> own.placement()
                        .filter(placement -> placement.layer().startsWith(asset.folder()))
                        .isPresent())
                .ifPresentOrElse(own -> placeOrigin(asset, beside(asset, own, right)), () -> place(asset, otherwise));
    }

    private TransformComponents beside(Asset asset, SceneSelection.Own own, Vec3 right) {
        Vec3 axis = Math.abs(right.x()) >= Math.abs(right.z())
                ? new Vec3(Math.copySign(1, right.x()), 0, 0)
                : new Vec3(0, 0, Math.copySign(1, right.z()));
        Box3 drawn = display().box(own.path());
        // What was placed a moment ago may not be drawn yet.
        Box3 box = drawn.isEmpty() ? measured(asset).transformed(own.placing().matrix()) : drawn;
        double extent = box.isEmpty() ? 0 : Math.abs(box.size().dot(axis));
        // To the next centimetre.
        double step = Math.ceil(extent * ROW_STEP * 100 - 1e-6) / 100;
        return own.placing().withMove(own.placing().move().plus(axis.times(step)));
    }

    private static Box3 measured(Asset asset) {
        return asset.shown()
                .map(version -> asset.facts(version).bounds())
                .map(bounds -> new Box3(
                        new Vec3(bounds.min()[0], bounds.min()[1], bounds.min()[2]),
                        new Vec3(bounds.max()[0], bounds.max()[1], bounds.max()[2])))
                .orElse(Box3.EMPTY);
    }

    /** What the scene would weigh with one more use of an asset. */
    public Weight weightWith(Asset asset) {
        Weight now = shownProperty().get().weight();
        long triangles =
                asset.shown().map(version -> asset.facts(version).triangles()).orElse(0L);
        boolean already =
                placements().stream().anyMatch(placement -> placement.layer().startsWith(asset.folder()));
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

    public Session session() {
        return session;
    }

    /** Changes what is selected, which stays selected; nothing where nothing is selected. */
    void arrange(Consumer<Scene> change) {
        scene.arrange(change);
    }

    List<SdfPath> selected() {
        return scene.selected();
    }

    public void undo() {
        scene.undo();
    }

    public void redo() {
        scene.redo();
    }

    /** Changes the scene and writes that down, with its undo. */
    void act(OpenScene.SceneAction action) {
        scene.act(action);
    }

    /** Shows the scene as it is now. */
    /** Reads anew what the scene refers to. */
    void readAgain() {
        scene.readAgain();
    }

    void refresh() {
        scene.refresh();
    }

    /** Shows the scene in a kept way; empty for the usual one. */
    public void showFocus(Optional<Focus> by) {
        drawers.show(by);
        display.showByProxies(drawers.isLight());
    }

    /** Keeps how the scene is seen now, under a name. */
    public void keepFocus(String name, Focus.Eye from) {
        drawers.keepFocus(name, display.proxiesProperty().get() ? Focus.Detail.LIGHT : Focus.Detail.FULL, from);
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
        scene.act(open -> open.alternates().choose(set, alternate));
    }

    /** Does something to the scene that is written down and can be undone. */
    void change(Consumer<Scene> change) {
        act(change::accept);
    }

    /** As above, in the background; see {@link OpenScene#actApart}. */
    void changeApart(String doing, OpenScene.LongChange change, Runnable then) {
        scene.actApart(doing, change, then);
    }

    /** The number of placements that show the same thing as one does. */
    public long like(Placement placement) {
        return scene.like(placement);
    }

    /** What an object is called on the screen. */
    public String title(SdfPath path) {
        return scene.get().map(open -> open.title(path)).orElse(path.name().replace('_', ' '));
    }

    /** The scene's own object that something drawn belongs to: a placement, a use of a group, or what has a surface. */
    public Optional<SdfPath> objectOf(String drawn) {
        Optional<Scene> open = scene.get();
        if (open.isEmpty() || drawn.equals(RenderScene.SURROUNDINGS)) {
            return Optional.empty();
        }
        SdfPath path = SdfPath.of(drawn);
        if (selection().insideProperty().get().isPresent()) {
            return selection().within(path);
        }
        Optional<SdfPath> outermost = Optional.empty();
        for (SdfPath at = path; at.depth() > 0 && !at.equals(SdfPath.ROOT); at = at.parent()) {
            boolean whole = scene.isPlacement(at)
                    || open.get().instancing().contents(at).isPresent();
            if (whole) {
                outermost = Optional.of(at);
            }
        }
        return outermost.or(() -> open.get().spec(path).map(prim -> path));
    }
}
