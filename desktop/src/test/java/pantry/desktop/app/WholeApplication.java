package pantry.desktop.app;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javafx.stage.Stage;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.demo.Demo;
import pantry.desktop.session.Background;
import pantry.desktop.session.Desk;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.Session;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.workbench.Workbench;

/** The application as it is started, with a library and a project in a folder, and its work in the background. */
final class WholeApplication implements AutoCloseable {
    private final Workbench workbench;
    private Optional<Parts> shown = Optional.empty();
    private final ExecutorService work =
            Executors.newFixedThreadPool(2, Thread.ofPlatform().daemon().factory());
    private final Library library;
    private final Path project;

    private WholeApplication(Workbench workbench, Library library, Path project) {
        this.workbench = workbench;
        this.library = library;
        this.project = project;
    }

    /** With an empty library and an empty project. */
    static WholeApplication in(Path folder, String user) throws IOException {
        Workbench workbench = workbench(folder, user);
        Library library = workbench.createLibrary(folder.resolve("library"), "Skua Point");
        return new WholeApplication(workbench, library, Files.createDirectories(folder.resolve("project")));
    }

    /** With the demo, which takes too long to be made on the interface's thread. */
    static WholeApplication ofDemo(Path folder) {
        Workbench workbench = workbench(folder, "tester");
        Demo demo = Demo.in(folder.resolve("demo"), workbench, Progress.NONE);
        return new WholeApplication(workbench, workbench.openLibrary(demo.library()), demo.project());
    }

    private static Workbench workbench(Path folder, String user) {
        return new Workbench(user, Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL);
    }

    Workbench workbench() {
        return workbench;
    }

    Library library() {
        return library;
    }

    Path project() {
        return project;
    }

    /** The folder of what the demo has to take in; beside it stands what was lost on the way. */
    Path arrivals() {
        return project.resolveSibling("arrivals");
    }

    /** A window with all workplaces, the library and the project open. */
    Parts show(Stage stage) {
        Parts parts = Parts.of(new Session(workbench, new Background(work, work, FxThread::later)));
        shown = Optional.of(parts);
        parts.session().openLibrary(library.root());
        parts.session().projectProperty().set(Optional.of(project));
        Windows.show(stage, parts.frame());
        return parts;
    }

    /** One mesh in one paint. */
    static Model model(String name, Mesh mesh, int colour) {
        Material paint = Material.plain("Paint", Colour.ofDisplay(colour), 0, 0.5);
        return new Model(
                name,
                List.of(Model.Node.of("Body", Matrix4.IDENTITY, List.of(new Model.Part(mesh, paint)), List.of())),
                Model.Extras.NONE);
    }

    Asset shelve(Model model, String shelf, String... tags) {
        return workbench
                .intake()
                .shelve(model, slip(model.name(), shelf, tags), library, Progress.NONE)
                .asset();
    }

    static Slip slip(String name, String shelf, String... tags) {
        return Slip.plain(name, AssetKind.MODEL, shelf, 1, Axis.Y).withTags(List.of(tags));
    }

    /** Closes all; no action may have had a fault. */
    @Override
    public void close() {
        try {
            shown.map(Parts::session).ifPresent(Desk::requireNoFault);
        } finally {
            work.shutdownNow();
            workbench.close();
        }
    }
}
