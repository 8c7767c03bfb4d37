package pantry.desktop.receive;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.desktop.session.Session;
import pantry.intake.DropFolder;

/** The folder that is watched for arrivals. */
public final class DropFolderWatch {
    private final Session session;
    private final Consumer<List<Path>> arrivals;
    private final ObjectProperty<Optional<DropFolder>> folder = new SimpleObjectProperty<>(Optional.empty());
    private boolean looking;

    /** @param arrivals takes note of what has arrived */
    DropFolderWatch(Session session, Consumer<List<Path>> arrivals) {
        this.session = session;
        this.arrivals = arrivals;
    }

    /** The folder that is watched. */
    public ObjectProperty<Optional<DropFolder>> folderProperty() {
        return folder;
    }

    /** Watches a folder from now on, instead of the one before; with none, no longer. */
    public void watch(Optional<Path> wanted) {
        folder.set(wanted.map(DropFolder::new));
        session.told(wanted.map(f -> "watching " + f.getFileName() + " for arrivals")
                .orElse("no folder is watched any more"));
    }

    /** Looks whether something has arrived in the watched folder; to be called now and then. */
    public void look() {
        Optional<DropFolder> watched = folder.get();
        if (watched.isEmpty() || looking) {
            return;
        }
        looking = true;
        session.quietly(
                "looking into " + watched.get().folder().getFileName(),
                progress -> {
                    try {
                        return watched.get().look();
                    } finally {
                        session.onInterface(() -> looking = false);
                    }
                },
                arrived -> {
                    if (!arrived.isEmpty()) {
                        arrivals.accept(arrived);
                    }
                });
    }
}
