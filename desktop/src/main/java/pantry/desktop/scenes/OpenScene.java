package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.ObservableList;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.desktop.session.EditReversal;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.Reversal;
import pantry.desktop.session.Session;
import pantry.desktop.session.Work;
import pantry.exchange.usd.Viewing;
import pantry.render.RenderScene;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.compose.StageChange;

/** The scene that is open, what is selected in it, and the one way to change it, so that it is told and undone. */
final class OpenScene implements Rereading.Host {
    /** As many prims are composed before anybody notices. */
    private static final int SOON = 5000;

    private final Session session;
    private final ReadOnlyObjectWrapper<Optional<Scene>> scene = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final PlacementList placements = new PlacementList();
    private final ReadOnlyBooleanWrapper changed = new ReadOnlyBooleanWrapper();
    private final StageChanges changes = new StageChanges();
    private final SceneSelection selection = new SceneSelection(scene::get);
    private final ReadOnlyObjectWrapper<Optional<Surroundings>> around = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final Rereading rereading;
    private Runnable unlisten = () -> {};
    private @Nullable SceneDrawing drawing;

    private boolean acting;

    /** The scene of which a fork is being changed in the background. */
    private Optional<Scene> underWay = Optional.empty();

    /** A change that may take long, made of a fork of the scene; tells what is to be selected then. */
    interface LongChange {
        List<SdfPath> on(Scene fork, Progress progress);
    }

    /**
     * The scene that a section is worked on in, as it is drawn around it.
     *
     * @param file the scene's
     * @param section where the section is in it
     * @param drawn the scene without the section
     * @param place from the scene's space to the section's, metres
     * @param outer what was around that scene, if it is a section itself
     */
    record Surroundings(Path file, SdfPath section, RenderScene drawn, Matrix4 place, Optional<Surroundings> outer) {}

    /** A change of the scene, which may fail for what it asks for. */
    interface SceneAction {
        void on(Scene scene);
    }

    OpenScene(Session session) {
        this.session = session;
        this.rereading = new Rereading(this, session.background());
    }

    /** Has the scene drawn by this one from now on. */
    void drawnBy(SceneDrawing by) {
        drawing = by;
    }

    Session session() {
        return session;
    }

    Optional<Scene> get() {
        return scene.get();
    }

    ReadOnlyObjectProperty<Optional<Scene>> property() {
        return scene.getReadOnlyProperty();
    }

    /** Has something done with each scene that is opened, and with each that was closed. */
    void whenOpened(Consumer<Scene> opened, Consumer<Scene> closed) {
        scene.addListener((property, before, now) -> now.ifPresentOrElse(opened, () -> before.ifPresent(closed)));
    }

    /** Whether this is the scene that is still open; what took long may end when another is. */
    @Override
    public boolean isOpen(Scene other) {
        return scene.get().filter(now -> now == other).isPresent();
    }

    ObservableList<Placement> placements() {
        return placements.all();
    }

    /** For each file that is not of a library and is placed, one of the placements that show it. */
    Collection<Placement> placementsOfFiles() {
        return placements.ofFiles();
    }

    boolean isPlacement(SdfPath path) {
        return placements.contains(path);
    }

    /** The number of placements that show the same thing as one does. */
    long like(Placement placement) {
        return placements.like(placement);
    }

    /** Whether there is something to save. */
    ReadOnlyBooleanProperty changedProperty() {
        return changed.getReadOnlyProperty();
    }

    SceneSelection selection() {
        return selection;
    }

    ObjectProperty<Set<SdfPath>> selectionProperty() {
        return selection.property();
    }

    List<SdfPath> selected() {
        return selection.all();
    }

    /** What is around a section that is worked on where it stands; empty where a scene is worked on by itself. */
    ReadOnlyObjectProperty<Optional<Surroundings>> aroundProperty() {
        return around.getReadOnlyProperty();
    }

    /** Opens a scene, in the background; the one that was open must have been saved or given up. */
    void open(Path file) {
        open(file, Optional.empty(), Optional.empty());
    }

    /** Opens the open file as it is now; what is seen stays until it is read. */
    void reopen(Path file) {
        open(file, around.get(), Optional.empty());
    }

    /** As above, with the scene closed meanwhile, so that nothing of what was not saved is kept. */
    void openAnew(Path file) {
        Optional<Surroundings> within = around.get();
        close();
        open(file, within, Optional.empty());
    }

    /**
     * Opens a section of the open scene where it stands, with that scene around it.
     *
     * @param drawn the open scene as it is drawn
     */
    void openSection(SdfPath path, RenderScene drawn) {
        Scene open = scene.get().orElseThrow();
        Path file = open.sections()
                .at(path)
                .orElseThrow(() -> new PantryException(open.file(), "<" + path + "> is no section"))
                .layer();
        Matrix4 place = open.world(path).orElse(Matrix4.IDENTITY).inverse();
        RenderScene without = drawn.without(path.toString());
        open(file, Optional.of(new Surroundings(open.file(), path, without, place, around.get())), Optional.empty());
    }

    /** Goes back from a section to the scene that is around it, where the section is selected then. */
    void leaveSection() {
        around.get().ifPresent(outer -> open(outer.file(), outer.outer(), Optional.of(outer.section())));
    }

    private void open(Path file, Optional<Surroundings> within, Optional<SdfPath> selected) {
        Libraries.Contents before = session.shelving().contentsProperty().get();
        session.run(
                "opening " + file.getFileName(),
                progress -> {
                    // Composed and read here, so that what cannot be, or takes long, keeps nobody waiting.
                    Scene opened = session.workbench().openScene(file);
                    return opened.watched(progress, () -> {
                        opened.model(Viewing.WHOLE, placement -> false);
                        opened.placements().again();
                        return opened;
                    });
                },
                opened -> {
                    open(opened, within);
                    Libraries.Contents now =
                            session.shelving().contentsProperty().get();
                    if (before.isRead() && before.versions() != now.versions()) {
                        // What it refers to became another version while it was read.
                        readAgain();
                    }
                    selected.filter(path -> opened.spec(path).isPresent())
                            .ifPresent(path -> selection.set(List.of(path)));
                });
    }

    void open(Scene opened) {
        open(opened, Optional.empty());
    }

    private void open(Scene opened, Optional<Surroundings> within) {
        around.set(within);
        changes.clear();
        selection.clear();
        unlisten.run();
        unlisten = opened.onChange(changes::add);
        scene.set(Optional.of(opened));
        refresh();
    }

    /** Closes the scene; changes that were not saved are lost. */
    void close() {
        unlisten.run();
        unlisten = () -> {};
        around.set(Optional.empty());
        scene.set(Optional.empty());
        selection.clear();
        placements.set(List.of());
        noteChanged();
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

    /** Changes the scene and writes that down as one change, with its undo; within another, as a part of that. */
    void act(SceneAction action) {
        if (acting) {
            scene.get().ifPresent(action::on);
            return;
        }
        scene.get()
                .filter(this::isFree)
                .ifPresent(open -> session.attempt(() -> {
                    Optional<Object> before = open.lastChange();
                    acting = true;
                    try {
                        action.on(open);
                    } catch (RuntimeException e) {
                        // None of it stands where a part of it fails.
                        open.giveUpSince(before);
                        throw e;
                    } finally {
                        acting = false;
                    }
                    open.joinSince(before);
                    tellDone(open, before);
                    refresh();
                }));
    }

    /**
     * Makes a change that takes the longer the more it is of; in the background where that would be noticed.
     *
     * @param doing what is done, for a person
     * @param size how many prims it makes or looks at, roughly
     * @param then is done once it stands
     */
    void act(String doing, long size, LongChange change, Runnable then) {
        if (size > SOON) {
            actApart(doing, change, then);
        } else {
            act(open -> {
                selection.set(change.on(open, Progress.NONE));
                then.run();
            });
        }
    }

    /**
     * Changes the scene in the background. It is shown as it was meanwhile, and not to be changed otherwise; where this is
     * cancelled it stays so.
     *
     * @param doing what is done, for a person
     * @param then is done once it stands
     */
    void actApart(String doing, LongChange change, Runnable then) {
        scene.get().filter(this::isFree).ifPresent(open -> {
            Optional<Object> before = open.lastChange();
            LongChange asOne = (fork, progress) -> {
                List<SdfPath> made = change.on(fork, progress);
                fork.joinSince(before);
                return made;
            };
            apart(open, doing, asOne, new Reversal.Outcome() {
                @Override
                public void done() {
                    tellDone(open, before);
                    then.run();
                }

                @Override
                public void failed(PantryException problem) {
                    session.wrong(problem);
                }

                @Override
                public void stopped() {
                    // Nothing was changed.
                }
            });
        });
    }

    /** @param before what was done last before */
    private void tellDone(Scene open, Optional<Object> before) {
        String everywhere = inAllUses(open);
        // Some actions find that there is nothing to do.
        open.lastChange()
                .filter(change -> !before.equals(Optional.of(change)))
                .ifPresent(change -> session.done(
                        open.undoName().orElseThrow() + everywhere, new EditReversal(editor(open), change)));
    }

    private EditReversal.Editor editor(Scene open) {
        String name = String.valueOf(open.file().getFileName());
        return new EditReversal.Editor(
                open::lastChange,
                open::lastUndone,
                () -> isOpen(open) ? Optional.empty() : Optional.of(name + " was closed since"),
                () -> underWay.filter(open::equals).map(same -> name + " is being changed"),
                (back, outcome) -> step(open, back, outcome));
    }

    private void apart(Scene open, String doing, LongChange change, Reversal.Outcome outcome) {
        Optional<SceneDrawing.Ahead> ahead = ahead(open);
        underWay = Optional.of(open);
        Work<Changed> work = progress -> {
            Scene fork = open.fork();
            List<StageChange> seen = new ArrayList<>();
            fork.onChange(seen::add);
            return fork.watched(progress.withoutSteps(), () -> {
                List<SdfPath> made = change.on(fork, progress);
                progress.step("drawing the scene", -1);
                List<Placement> all = fork.placements().again();
                ahead.ifPresent(each -> each.read(fork, all));
                progress.check();
                return new Changed(fork, made, all, seen, ahead);
            });
        };
        session.run(
                doing,
                session.whenCancelled(work, () -> {
                    setFree(open);
                    outcome.stopped();
                }),
                changed -> {
                    setFree(open);
                    if (!isOpen(open)) {
                        outcome.stopped();
                        return;
                    }
                    try {
                        take(open, changed, outcome::done);
                    } catch (PantryException problem) {
                        outcome.failed(problem);
                    } catch (RuntimeException fault) {
                        outcome.stopped();
                        throw fault;
                    }
                },
                problem -> {
                    setFree(open);
                    outcome.failed(problem);
                });
    }

    /** What draws a scene that is read in the background. */
    @Override
    public Optional<SceneDrawing.Ahead> ahead(Scene open) {
        return Optional.ofNullable(drawing).map(by -> by.ahead(open));
    }

    private void setFree(Scene open) {
        // Another may have been opened since, and be under way itself.
        underWay = underWay.filter(other -> other != open);
    }

    /** What came of a change in the background. */
    private record Changed(
            Scene fork,
            List<SdfPath> selected,
            List<Placement> placements,
            List<StageChange> changes,
            Optional<SceneDrawing.Ahead> ahead) {}

    private void take(Scene open, Changed changed, Runnable then) {
        boolean asRead = open.adopt(changed.fork());
        changes.set(changed.changes());
        selection.set(changed.selected());
        then.run();
        showTaken(open, asRead, changed.placements(), changed.ahead());
    }

    /** Shows what was taken over of a fork; as it was read in the background, where that is still so. */
    @Override
    public void showTaken(Scene open, boolean asRead, List<Placement> read, Optional<SceneDrawing.Ahead> ahead) {
        noteChanged();
        selection.keepWhatIsIn(open);
        if (asRead) {
            placements.set(read);
            ahead.ifPresent(each -> each.draw(open));
        } else {
            showAnew(open, true);
        }
        changes.clear();
    }

    /** Whether the scene can be changed; where it is being changed in the background, that is said. */
    private boolean isFree(Scene open) {
        boolean free = isIdle(open);
        if (!free) {
            session.wrong(new PantryException(
                    open.file(), "is being changed; wait until that is done, or stop it, and then do this"));
        }
        return free;
    }

    /** Changes what is selected, and selects what came of it; nothing where nothing is selected. */
    void withSelected(Function<Scene, List<SdfPath>> change) {
        if (!selection.isEmpty()) {
            act(open -> selection.set(change.apply(open)));
        }
    }

    /** Changes what is selected, which stays selected; nothing where nothing is selected. */
    void arrange(Consumer<Scene> change) {
        withSelected(open -> {
            change.accept(open);
            return selected();
        });
    }

    /** Takes back what was done last to the scene. */
    void undo() {
        lineOf(Scene::lastChange).ifPresent(session.history()::undo);
    }

    /** Does again what was taken back last. */
    void redo() {
        lineOf(Scene::lastUndone).ifPresent(session.history()::redo);
    }

    private Optional<LedgerLine> lineOf(Function<Scene, Optional<Object>> change) {
        return scene.get().filter(this::isFree).flatMap(change).flatMap(session.history()::lineOf);
    }

    /** Takes back or does again the last change; in the background where it is large. */
    private void step(Scene open, boolean back, Reversal.Outcome outcome) {
        Consumer<Scene> step = back ? Scene::undo : Scene::redo;
        if ((back ? open.undoSize() : open.redoSize()) <= SOON) {
            try {
                step.accept(open);
                outcome.done();
            } catch (PantryException e) {
                outcome.failed(e);
            }
            refresh();
            return;
        }
        List<SdfPath> selected = selected();
        String name = (back ? open.undoName() : open.redoName()).orElseThrow();
        apart(
                open,
                (back ? "taking back: " : "doing again: ") + name,
                (fork, progress) -> {
                    step.accept(fork);
                    return selected;
                },
                outcome);
    }

    /** In how many places a change within shared contents is seen. */
    private String inAllUses(Scene open) {
        long uses = selected().stream()
                .filter(path -> open.instancing().isShared(path))
                .mapToLong(open.instancing()::uses)
                .max()
                .orElse(1);
        return changes.areShared() && uses > 1 ? ", in all " + uses + " uses" : "";
    }

    /** Reads anew what the scene refers to, which others may have changed; in the background where that takes long. */
    @Override
    public void readAgain() {
        scene.get().ifPresent(open -> {
            if (placements.all().size() > SOON && isIdle(open)) {
                rereading.read(open);
            } else {
                session.attempt(open::reload);
                refresh();
            }
        });
    }

    /** Whether nothing is being done to the scene in the background. */
    @Override
    public boolean isIdle(Scene open) {
        return underWay.filter(open::equals).isEmpty();
    }

    /** Shows the scene as it is now. Where things were only moved, only these are looked at. */
    void refresh() {
        scene.get()
                .ifPresent(open -> session.attempt(() -> {
                    noteChanged();
                    selection.keepWhatIsIn(open);
                    boolean whole = selection.insideProperty().get().isEmpty();
                    boolean moved = whole && changes.areMoves();
                    boolean stale = drawing != null && drawing.isStale();
                    if (moved) {
                        showMoved(open);
                    }
                    if (!moved || stale) {
                        showAnew(open, !moved);
                    }
                    changes.clear();
                }));
    }

    private void showMoved(Scene open) {
        Set<SdfPath> paths = changes.prims();
        placements.moved(open, paths);
        if (drawing != null) {
            drawing.move(open, paths);
        }
    }

    private void showAnew(Scene open, boolean restructured) {
        placements.set(open.placements().again());
        if (drawing != null) {
            drawing.redraw(open, restructured);
        }
    }
}
