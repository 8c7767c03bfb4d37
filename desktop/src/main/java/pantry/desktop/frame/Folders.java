package pantry.desktop.frame;

import java.nio.file.Path;
import java.util.Optional;
import javafx.scene.Node;
import pantry.desktop.controls.Ask;
import pantry.desktop.session.Session;

/** Lets the user choose the folders of libraries and projects. */
final class Folders {
    private final Session session;
    private final Node near;

    /** @param near is in the window that asks */
    Folders(Session session, Node near) {
        this.session = session;
        this.near = near;
    }

    private Optional<Path> choose(String title) {
        return Ask.of(near, title).folder();
    }

    void openLibrary() {
        choose("Open a library").ifPresent(session::openLibrary);
    }

    void newLibrary() {
        choose("Folder for the new library").ifPresent(session::createLibrary);
    }

    void openProject() {
        choose("Open a project").ifPresent(folder -> session.projectProperty().set(Optional.of(folder)));
    }
}
