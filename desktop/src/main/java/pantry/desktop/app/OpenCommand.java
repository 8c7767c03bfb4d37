package pantry.desktop.app;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.exchange.format.FileKind;
import pantry.library.Library;
import pantry.project.Project;
import pantry.scene.Scene;
import pantry.usd.file.LayerFiles;
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
                    "Libraries, a project's folder or one of its scenes, or files or a folder of them to take in; the libraries that were open last"
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

    /** So deep, and at so many files, a folder is looked at to see what it is. */
    private static final int DEPTH = 4;

    private static final int MOST_LOOKED_AT = 5_000;

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
                (isPack(path) ? arrivals : projects).add(path);
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

    /** Whether a folder holds files to take in and nothing that could be a scene of a project. */
    static boolean isPack(Path folder) {
        try (Stream<Path> within = Files.find(folder, DEPTH, (file, attributes) -> attributes.isRegularFile())) {
            List<String> names = within.limit(MOST_LOOKED_AT)
                    .map(file -> file.getFileName().toString())
                    .toList();
            return Project.around(folder.resolve("any")).isEmpty()
                    && names.stream().noneMatch(LayerFiles::isLayer)
                    && names.stream().map(Names::ending).anyMatch(FileKind.endings()::contains);
        } catch (IOException | UncheckedIOException e) {
            // What cannot be looked into is told where it is opened.
            return false;
        }
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
