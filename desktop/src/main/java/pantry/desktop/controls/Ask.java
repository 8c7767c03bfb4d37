package pantry.desktop.controls;

import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import javafx.stage.Window;
import org.jspecify.annotations.Nullable;

/** Asks for a file or a folder by the system's dialogs, which begin where the last one ended. */
public final class Ask {
    private static Dialogs dialogs = new SystemDialogs();
    private static Optional<Path> last = Optional.empty();

    private final Node near;
    private final String title;
    private final List<FileChooser.ExtensionFilter> kinds = new ArrayList<>();
    private String name = "";
    private Optional<Path> folder = last.filter(Files::isDirectory);

    /** How answers are got. */
    public interface Dialogs {
        /** The files that are chosen, one or {@code several}; none where it was given up. */
        List<Path> open(FileChooser chooser, @Nullable Window window, boolean several);

        Optional<Path> save(FileChooser chooser, @Nullable Window window);

        Optional<Path> folder(DirectoryChooser chooser, @Nullable Window window);
    }

    private static final class SystemDialogs implements Dialogs {
        @Override
        public List<Path> open(FileChooser chooser, @Nullable Window window, boolean several) {
            Stream<File> files = several
                    ? Stream.ofNullable(chooser.showOpenMultipleDialog(window)).flatMap(List::stream)
                    : Stream.ofNullable(chooser.showOpenDialog(window));
            return files.map(File::toPath).toList();
        }

        @Override
        public Optional<Path> save(FileChooser chooser, @Nullable Window window) {
            return Optional.ofNullable(chooser.showSaveDialog(window)).map(File::toPath);
        }

        @Override
        public Optional<Path> folder(DirectoryChooser chooser, @Nullable Window window) {
            return Optional.ofNullable(chooser.showDialog(window)).map(File::toPath);
        }
    }

    private Ask(Node near, String title) {
        this.near = near;
        this.title = title;
    }

    /** A question that is asked over the window that something is in. */
    public static Ask of(Node near, String title) {
        return new Ask(near, title);
    }

    /** Lets others answer than the system's dialogs, such as a test. */
    public static void answerBy(Dialogs others) {
        dialogs = others;
    }

    /** Only files of these endings, such as {@code usda}; several kinds can be given. */
    public Ask kind(String words, String... endings) {
        kinds.add(new FileChooser.ExtensionFilter(
                words, Stream.of(endings).map(ending -> "*." + ending).toList()));
        return this;
    }

    /** Any file too. */
    public Ask orAny() {
        kinds.add(new FileChooser.ExtensionFilter("All files", "*"));
        return this;
    }

    /** The name that a new file would have. */
    public Ask named(String file) {
        name = file;
        return this;
    }

    /** Where it begins. */
    public Ask in(Optional<Path> start) {
        folder = start.filter(Files::isDirectory).or(() -> folder);
        return this;
    }

    /** A file to be read. */
    public Optional<Path> file() {
        return remembered(dialogs.open(chooser(), window(), false)).stream().findFirst();
    }

    /** Files to be read. */
    public List<Path> files() {
        return remembered(dialogs.open(chooser(), window(), true));
    }

    /** A file to be written. */
    public Optional<Path> saveAs() {
        Optional<Path> chosen = dialogs.save(chooser(), window());
        remembered(chosen.stream().toList());
        return chosen;
    }

    public Optional<Path> folder() {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle(title);
        folder.map(Path::toFile).ifPresent(chooser::setInitialDirectory);
        Optional<Path> chosen = dialogs.folder(chooser, window());
        last = chosen.or(() -> last);
        return chosen;
    }

    private FileChooser chooser() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle(title);
        chooser.getExtensionFilters().setAll(kinds);
        if (!name.isEmpty()) {
            chooser.setInitialFileName(name);
        }
        folder.map(Path::toFile).ifPresent(chooser::setInitialDirectory);
        return chooser;
    }

    private static List<Path> remembered(List<Path> chosen) {
        last = chosen.stream().findFirst().map(Path::getParent).or(() -> last);
        return chosen;
    }

    private @Nullable Window window() {
        Scene scene = near.getScene();
        return scene == null ? null : scene.getWindow();
    }
}
