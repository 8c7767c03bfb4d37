package pantry.desktop.scenes;

import java.util.List;
import java.util.Optional;
import pantry.desktop.session.BackgroundWork;
import pantry.desktop.session.LatestWork;
import pantry.scene.Placement;
import pantry.scene.Scene;

/**
 * Reads in the background what a large scene refers to, once that may be another. Meanwhile the scene is shown as it was, and
 * can be changed; then it is read once more.
 */
final class Rereading {
    private final Host scene;
    private final LatestWork reading;

    /** The open scene. */
    interface Host {
        /** Whether this is the scene that is still open. */
        boolean isOpen(Scene other);

        /** Whether nothing is being done to the scene in the background. */
        boolean isIdle(Scene open);

        /** What draws a scene that is read in the background. */
        Optional<SceneDrawing.Ahead> ahead(Scene open);

        /** Shows what was taken over of a fork; as it was read, where that is still so. */
        void showTaken(Scene open, boolean asRead, List<Placement> read, Optional<SceneDrawing.Ahead> ahead);

        /** Begins anew. */
        void readAgain();
    }

    Rereading(Host scene, BackgroundWork background) {
        this.scene = scene;
        this.reading = new LatestWork(background);
    }

    void read(Scene open) {
        Optional<SceneDrawing.Ahead> ahead = scene.ahead(open);
        reading.quietly(
                "reading what the scene refers to",
                progress -> {
                    Scene fork = open.fork();
                    return fork.watched(progress.withoutSteps(), () -> {
                        List<Placement> all = fork.placements().again();
                        ahead.ifPresent(each -> each.read(fork, all));
                        return new Read(fork, all);
                    });
                },
                read -> take(open, read, ahead));
    }

    private record Read(Scene fork, List<Placement> placements) {}

    private void take(Scene open, Read read, Optional<SceneDrawing.Ahead> ahead) {
        if (!scene.isOpen(open)) {
            return;
        }
        if (scene.isIdle(open) && open.isAsForked(read.fork())) {
            boolean asRead = open.adopt(read.fork());
            scene.showTaken(open, asRead, read.placements(), ahead);
        } else {
            scene.readAgain();
        }
    }
}
