package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import pantry.base.Names;
import pantry.scene.Difference;
import pantry.scene.Safekeeping;
import pantry.scene.Scene;

/** Saving a scene, and what keeps it from being lost: what a crash left, and what others do to its file. */
public final class Keeping {
    private final ScenesModel model;
    private final ReadOnlyObjectWrapper<Trouble> trouble = new ReadOnlyObjectWrapper<>(Trouble.NONE);

    Keeping(ScenesModel model) {
        this.model = model;
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

    public void save() {
        model.sceneProperty().get().ifPresent(open -> model.session().attempt(() -> {
            if (open.changedOnDisk()) {
                trouble.set(Trouble.CHANGED_ON_DISK);
            }
            open.save();
            saved(open);
        }));
    }

    private void saved(Scene open) {
        model.noteChanged();
        trouble.set(Trouble.NONE);
        model.session().done("saved " + open.file().getFileName(), Optional.empty());
    }

    /** Saves though another has changed the file; what that one wrote is kept beside it. */
    public void saveOver() {
        model.sceneProperty().get().ifPresent(open -> model.session().attempt(() -> {
            open.saveOver();
            saved(open);
        }));
    }

    /** Saves to a new file beside the scene's, and goes on with that one. */
    public void saveElsewhere(String name) {
        model.sceneProperty().get().ifPresent(open -> model.session().attempt(() -> {
            Path file = open.saveElsewhere(open.file().resolveSibling(Names.slug(name) + ".usda"));
            model.session().done("saved as " + file.getFileName(), Optional.empty());
            model.session().listScenes();
            model.close();
            model.open(file);
        }));
    }

    /** Opens the file as it is now; what was not saved is lost. */
    public void openAnew() {
        model.sceneProperty().get().map(Scene::file).ifPresent(file -> {
            model.close();
            model.open(file);
        });
    }

    /** What differs between the file as another has left it and the open scene. */
    public List<Difference> differences() {
        return model.sceneProperty().get().map(Scene::differences).orElse(List.of());
    }

    /** Takes up what a crash left, or lets it go. */
    public void recover(boolean wanted) {
        trouble.set(Trouble.NONE);
        if (wanted) {
            model.act(Scene::recover);
        } else {
            giveUp();
        }
    }

    /** Lets what is not saved go, on purpose: it is not offered again. */
    public void giveUp() {
        model.sceneProperty().get().ifPresent(open -> model.session().attempt(() -> Safekeeping.forget(open.file())));
    }

    /** Notices what others did to the file. */
    public void watch() {
        model.sceneProperty().get().ifPresent(open -> model.session().attempt(() -> {
            if (open.changedOnDisk() && trouble.get() == Trouble.NONE) {
                trouble.set(Trouble.CHANGED_ON_DISK);
            }
        }));
    }

    /** Writes what is not saved beside the file, in the background. */
    public void autosave() {
        if (model.changedProperty().get() && trouble.get() != Trouble.LEFT_UNSAVED) {
            model.sceneProperty().get().ifPresent(open -> {
                Scene now = open.snapshot();
                model.session()
                        .quietly(
                                "keeping what is not saved",
                                progress -> {
                                    now.autosave(true);
                                    return now;
                                },
                                done -> {});
            });
        }
    }

    /** Takes note of a scene that was opened: a crash may have left something of it. */
    void opened(Scene opened) {
        model.session()
                .attempt(() ->
                        trouble.set(Safekeeping.left(opened.file()).isPresent() ? Trouble.LEFT_UNSAVED : Trouble.NONE));
    }

    /** Takes note that no scene is open any more. */
    void closed() {
        trouble.set(Trouble.NONE);
    }
}
