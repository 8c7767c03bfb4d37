package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.desktop.session.OrderedWork;
import pantry.scene.Difference;
import pantry.scene.Safekeeping;
import pantry.scene.Scene;
import pantry.scene.SceneException;
import pantry.scene.SceneSave;
import pantry.scene.Sections;

/** Saving a scene, and what keeps it from being lost: what a crash left, and what others do to its file. */
public final class Keeping {
    private final OpenScene scene;
    private final OrderedWork saves;

    /** How many times the scene is being saved: until then its file is what was saved before, or what is saved now. */
    private int saving;

    /** How often what is not saved was begun to be kept. */
    private int begun;

    /** The number of what was kept last. */
    private int kept;

    /** Whether something of the open scene was begun to be kept since it was saved. */
    private boolean isKept;

    /** What was begun to be kept last, and is not to be kept again; empty where the next is to be kept whatever it is. */
    private volatile Optional<State> keptState = Optional.empty();

    /** A state of the open scene, by what was done to it last; empty where all was taken back. */
    private record State(Optional<Object> lastChange) {}

    private final ReadOnlyObjectWrapper<Trouble> trouble = new ReadOnlyObjectWrapper<>(Trouble.NONE);

    Keeping(OpenScene scene) {
        this.scene = scene;
        this.saves = new OrderedWork(scene.session().background(), scene.session()::wrong);
        scene.whenOpened(this::opened, this::closed);
    }

    /** What is to be decided before one goes on. */
    public enum Trouble {
        NONE,
        /** A crash left changes that were not saved. */
        LEFT_UNSAVED,
        /** Another has changed the scene's file. */
        CHANGED_ON_DISK
    }

    /** What is to be decided before one goes on. */
    public ReadOnlyObjectProperty<Trouble> troubleProperty() {
        return trouble.getReadOnlyProperty();
    }

    /** Saves the scene, in the background. */
    public void save() {
        save(() -> {});
    }

    /** Saves the scene in the background, and goes on once it is saved. */
    public void save(Runnable then) {
        scene.get().ifPresent(open -> scene.session().attempt(() -> {
            if (saving == 0 && open.changedOnDisk()) {
                trouble.set(Trouble.CHANGED_ON_DISK);
                throw new SceneException(
                        open.file(), "was changed by another since it was opened; see above the view what can be done");
            }
            write(open, then);
        }));
    }

    /** Saves though another has changed the file; what that one wrote is kept beside it. */
    public void saveOver() {
        scene.get().ifPresent(open -> scene.session().attempt(() -> write(open, () -> {})));
    }

    /** Writes what is not saved now; meanwhile, the scene can be worked on. */
    private void write(Scene open, Runnable then) {
        if (!open.changed()) {
            then.run();
            return;
        }
        Sections.requireFree(open.file(), scene.session().workbench().who());
        keepNoMore();
        SceneSave unsaved = open.unsaved();
        saving++;
        saves.quietly(
                "saving " + open.file().getFileName(),
                progress -> {
                    try {
                        writeOnly(unsaved);
                    } catch (PantryException e) {
                        return Optional.of(e);
                    }
                    return Optional.<PantryException>empty();
                },
                problem -> {
                    saving--;
                    if (problem.isPresent()) {
                        scene.session().wrong(problem.get());
                    } else {
                        open.saved(unsaved);
                        if (scene.isOpen(open)) {
                            saved(open);
                        }
                        then.run();
                    }
                });
    }

    /** What is kept beside the file is not written meanwhile. */
    private synchronized void writeOnly(SceneSave unsaved) {
        unsaved.write();
    }

    private void saved(Scene open) {
        isKept = false;
        scene.noteChanged();
        trouble.set(Trouble.NONE);
        scene.session().told("saved " + open.file().getFileName());
        // What was done while it was being saved is kept again.
        autosave();
    }

    /** Saves to a new file beside the scene's, and goes on with that one. */
    public void saveElsewhere(String name) {
        scene.get().ifPresent(open -> scene.session().attempt(() -> {
            keepNoMore();
            Path file = open.saveElsewhere(open.file().resolveSibling(Names.slug(name) + ".usda"));
            scene.session().told("saved as " + file.getFileName());
            scene.session().listScenes();
            scene.close();
            scene.open(file);
        }));
    }

    /** Opens the file as it is now; what was not saved is lost. */
    public void openAnew() {
        scene.get().map(Scene::file).ifPresent(scene::openAnew);
    }

    /** What differs between the file as another has left it and the open scene. */
    public List<Difference> differences() {
        return scene.get().map(Scene::differences).orElse(List.of());
    }

    /** Takes up what a crash left, or lets it go. */
    public void recover(boolean wanted) {
        trouble.set(Trouble.NONE);
        if (wanted) {
            scene.act(Scene::recover);
        } else {
            giveUp();
        }
    }

    /** Lets what is not saved go, on purpose: it is not offered again. */
    public void giveUp() {
        keepNoMore();
        scene.get().ifPresent(this::forget);
    }

    private void forget(Scene open) {
        scene.session().attempt(() -> Safekeeping.forget(open.file()));
    }

    /** What was begun to be kept and is not yet written is as good as saved. */
    private synchronized void keepNoMore() {
        kept = ++begun;
        keptState = Optional.empty();
    }

    /** Notices what others did to the file. */
    public void watch() {
        scene.get().ifPresent(open -> scene.session().attempt(() -> {
            if (saving == 0 && open.changedOnDisk() && trouble.get() == Trouble.NONE) {
                trouble.set(Trouble.CHANGED_ON_DISK);
            }
        }));
    }

    /** Writes what is not saved beside the file, in the background; where all was undone, nothing is left there. */
    public void autosave() {
        if (trouble.get() == Trouble.LEFT_UNSAVED) {
            return;
        }
        if (!scene.changedProperty().get()) {
            if (isKept) {
                isKept = false;
                giveUp();
            }
        } else {
            isKept = true;
            scene.get().ifPresent(open -> {
                Optional<State> now = Optional.of(new State(open.lastChange()));
                if (now.equals(keptState)) {
                    return;
                }
                keptState = now;
                int number = ++begun;
                scene.session()
                        .quietly(
                                "keeping what is not saved",
                                progress -> {
                                    // Copied here too, which takes a blink for a large scene: with what was done since.
                                    keep(open.unsaved(), number);
                                    return number;
                                },
                                done -> {});
            });
        }
    }

    /** In the background; what was begun later is not written over. */
    private synchronized void keep(SceneSave unsaved, int number) {
        if (number > kept) {
            try {
                unsaved.autosave();
            } catch (RuntimeException e) {
                keptState = Optional.empty();
                throw e;
            }
            kept = number;
        }
    }

    /** What a crash left of the open scene; empty where nothing is to be decided about it. */
    public Optional<Safekeeping.Unsaved> leftUnsaved() {
        return trouble.get() == Trouble.LEFT_UNSAVED
                ? scene.get().flatMap(open -> Safekeeping.left(open.file()))
                : Optional.empty();
    }

    /** Takes note of a scene that was opened: a crash may have left something of it. */
    private void opened(Scene opened) {
        isKept = false;
        keptState = Optional.empty();
        scene.session()
                .attempt(() ->
                        trouble.set(Safekeeping.left(opened.file()).isPresent() ? Trouble.LEFT_UNSAVED : Trouble.NONE));
    }

    /** Takes note that no scene is open any more: what was not saved is given up. */
    private void closed(Scene closed) {
        keepNoMore();
        forget(closed);
        isKept = false;
        trouble.set(Trouble.NONE);
    }
}
