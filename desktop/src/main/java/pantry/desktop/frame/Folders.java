package pantry.desktop.frame;

import java.io.File;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.stage.DirectoryChooser;
import javafx.stage.Window;
import pantry.desktop.session.Session;

/** Lets the user choose the folders of libraries and projects. */
final class Folders {
    private final Session session;
    private final Supplier<Window> window;

    Folders(Session session, Supplier<Window> window) {
        this.session = session;
        this.window = window;
    }

    private Optional<File> choose(String title) {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle(title);
        return Optional.ofNullable(chooser.showDialog(window.get()));
    }

    void openLibrary() {
        choose("Open a library").ifPresent(folder -> session.openLibrary(folder.toPath()));
    }

    void newLibrary() {
        choose("Folder for the new library")
                .ifPresent(folder -> session.createLibrary(folder.toPath(), folder.getName()));
    }

    void openProject() {
        choose("Open a project").ifPresent(folder -> session.projectProperty().set(Optional.of(folder.toPath())));
    }
}
