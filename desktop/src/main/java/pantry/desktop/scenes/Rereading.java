package pantry.desktop.scenes;

import java.util.List;
import java.util.Optional;
import pantry.desktop.session.LatestWork;
import pantry.scene.Placement;
import pantry.scene.Scene;

/**
 * Reads in the background what a large scene refers to, once that may be another. Meanwhile the scene is shown as it was, and
 * can be changed; then it is read once more.
 */
final class Rereading {
    private final OpenScene scene;
    private final LatestWork reading;

    Rereading(OpenScene scene) {
        this.scene = scene;
        this.reading = new LatestWork(scene.session().background());
    }

    void read(Scene open) {
        Scene fork = open.fork();
        Optional<OpenScene.Ahead> ahead = scene.ahead(open);
        reading.quietly(
                "reading what the scene refers to",
                progress -> {
                    List<Placement> all = fork.placements().again();
                    ahead.ifPresent(each -> each.read(fork, all));
                    return all;
                },
                all -> take(open, fork, all, ahead));
    }

    private void take(Scene open, Scene fork, List<Placement> all, Optional<OpenScene.Ahead> ahead) {
        if (!scene.isOpen(open)) {
            return;
        }
        if (scene.isIdle(open) && open.isAsForked(fork)) {
            boolean asRead = open.adopt(fork);
            scene.showTaken(open, asRead, all, ahead);
        } else {
            scene.readAgain();
        }
    }
}
