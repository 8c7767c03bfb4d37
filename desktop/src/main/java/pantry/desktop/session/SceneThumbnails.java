package pantry.desktop.session;

import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import javafx.collections.FXCollections;
import javafx.collections.ObservableMap;
import pantry.workbench.ScenePictures;
import pantry.workbench.Workbench;

/** Pictures of scenes, taken one after another in the background when somebody wants to see them, and kept. */
public final class SceneThumbnails {
    private final Workbench workbench;
    private final BackgroundWork background;
    private final ObservableMap<Path, Path> taken = FXCollections.observableHashMap();
    private final Set<Path> wanted = new LinkedHashSet<>();
    private final Set<Path> asked = new LinkedHashSet<>();
    private boolean taking;

    SceneThumbnails(Workbench workbench, BackgroundWork background) {
        this.workbench = workbench;
        this.background = background;
    }

    /** The pictures' files, by scene, as far as they were taken. */
    public ObservableMap<Path, Path> taken() {
        return taken;
    }

    /** Asks for the picture of a scene, one that is in sight. */
    public void want(Path scene) {
        if (asked.add(scene)) {
            wanted.add(scene);
            takeNext();
        }
    }

    /** From now on, whoever wants a picture gets one of what the scene shows now. */
    public void outdated() {
        asked.clear();
    }

    private void takeNext() {
        if (taking || wanted.isEmpty()) {
            return;
        }
        // The last that came into sight is likely still there.
        Path next = List.copyOf(wanted).getLast();
        wanted.remove(next);
        taking = true;
        ScenePictures kept = workbench.scenePictures();
        background.quietly(
                "taking a picture of " + next.getFileName(),
                progress -> kept.kept(next).orElseGet(() -> kept.take(workbench.openScene(next))),
                picture -> {
                    // Another picture in the same file is another one.
                    taken.remove(next);
                    taken.put(next, picture);
                    goOn();
                },
                failed -> goOn());
    }

    private void goOn() {
        taking = false;
        takeNext();
    }
}
