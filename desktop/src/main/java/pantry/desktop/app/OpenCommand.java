package pantry.desktop.app;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import pantry.base.PantryException;
import pantry.library.Library;
import pantry.project.Project;
import pantry.scene.Scene;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "open", description = "Open the application.")
final class OpenCommand implements Callable<Integer> {
    @Parameters(
            arity = "0..*",
            paramLabel = "LIBRARY|PROJECT|SCENE|FILE",
            description =
                    "Libraries, a project's folder or one of its scenes, or files to take in; the libraries that were open last"
                            + " where none is given.")
    private List<Path> what = new ArrayList<>();

    @Option(
            names = "--tell-start",
            description = "Tell how long it took until the first shelf stood there, and end; for measuring.")
    private boolean tellStart;

    @Option(
            names = {"-h", "--help"},
            usageHelp = true,
            description = "Show this help.")
    private boolean help;

    @Override
    public Integer call() {
        List<Path> libraries = new ArrayList<>();
        List<Path> projects = new ArrayList<>();
        Optional<Path> scene = Optional.empty();
        List<Path> arrivals = new ArrayList<>();
        for (Path path : what) {
            if (!Files.exists(path)) {
                throw new PantryException(path, "there is no such file or folder");
            }
            if (Files.exists(path.resolve("pantry-library.json"))) {
                libraries.add(path);
            } else if (Files.isDirectory(path)) {
                projects.add(path);
            } else if (Scene.isScene(path)) {
                scene = Optional.of(path.toAbsolutePath().normalize());
            } else {
                arrivals.add(path);
            }
        }
        if (projects.isEmpty()) {
            scene.map(OpenCommand::projectOf).ifPresent(projects::add);
        }
        try (Workbench workbench = Workbench.usual()) {
            List<Path> shown = libraries.isEmpty()
                    ? workbench.settings().libraries().stream().map(Path::of).toList()
                    : libraries;
            Thread.ofPlatform().daemon().name("reading ahead").start(() -> readAhead(workbench, shown));
            PantryApp.show(new PantryApp.Opening(
                    Optional.of(workbench), libraries, projects, scene, arrivals, Optional.empty(), tellStart));
        }
        return 0;
    }

    /** The folder that is opened as the project of a scene: the one marked as such, or else the scene's own. */
    private static Path projectOf(Path scene) {
        return Project.around(scene).orElseGet(scene::getParent);
    }

    /** Reads what the index knows while the toolkit starts, which keeps only one core busy. */
    private static void readAhead(Workbench workbench, List<Path> folders) {
        try {
            List<Library> libraries = folders.stream()
                    .filter(Library::isLibrary)
                    .map(workbench::openLibrary)
                    .toList();
            workbench.catalogue().finder(libraries).prepareFirst();
        } catch (RuntimeException e) {
            // It is said where the library is opened for the user.
        }
    }
}
