package pantry.desktop.app;

import java.lang.management.ManagementFactory;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.beans.InvalidationListener;
import javafx.scene.Scene;
import javafx.stage.Stage;
import pantry.desktop.frame.FrameView;
import pantry.desktop.frame.Workplace;
import pantry.desktop.look.Look;
import pantry.desktop.prep.PrepModel;
import pantry.desktop.receive.ReceiveModel;
import pantry.desktop.scenes.ScenesModel;
import pantry.desktop.session.Background;
import pantry.desktop.session.Session;
import pantry.desktop.shelves.ShelvesModel;
import pantry.workbench.Workbench;

/** The application's window. */
public final class PantryApp extends Application {
    static final int WIDTH = 1280;
    static final int HEIGHT = 800;

    private static Opening opening = new Opening(
            Optional.empty(), List.of(), Optional.empty(), Optional.empty(), List.of(), Optional.empty(), false);

    private final ExecutorService work = Executors.newFixedThreadPool(
            2, Thread.ofPlatform().daemon().name("work-", 0).factory());
    private final ExecutorService answers = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("answers").factory());
    private Optional<Workbench> ownWorkbench = Optional.empty();
    private Optional<Parts> shown = Optional.empty();

    /**
     * What to open at the start.
     *
     * @param workbench to be used, and closed by whoever made it; one of the application's own otherwise
     * @param libraries those that were open last where there is none
     * @param scene to be opened in Scenes
     * @param arrivals files and folders to take note of in Receive
     * @param tour where pictures of all views are to be put, after which the application ends
     * @param tellStart whether the application ends once the first shelf is shown, and tells how long that took
     */
    record Opening(
            Optional<Workbench> workbench,
            List<Path> libraries,
            Optional<Path> project,
            Optional<Path> scene,
            List<Path> arrivals,
            Optional<Path> tour,
            boolean tellStart) {}

    /** Shows the window and comes back when it is closed. */
    static void show(Opening what) {
        opening = what;
        launch(PantryApp.class);
    }

    @Override
    public void start(Stage stage) {
        Look.load();
        Workbench workbench = opening.workbench().orElseGet(() -> {
            ownWorkbench = Optional.of(Workbench.usual());
            return ownWorkbench.get();
        });
        Parts parts = Parts.make(workbench, new Background(work, answers, Platform::runLater));
        shown = Optional.of(parts);
        Scene scene = new Scene(parts.frame(), WIDTH, HEIGHT);
        Look.dress(scene);
        stage.setScene(scene);
        stage.setTitle("Pantry");
        stage.setMinWidth(960);
        stage.setMinHeight(600);
        stage.setOnCloseRequest(event -> {
            event.consume();
            parts.frame().leave(stage::close);
        });
        if (opening.libraries().isEmpty()) {
            parts.session().shelving().openLast();
        }
        opening.libraries().forEach(parts.session()::openLibrary);
        parts.session().shelving().watch();
        parts.session().projectProperty().set(opening.project());
        stage.show();
        opening.scene().ifPresent(file -> {
            parts.frame().go(Workplace.SCENES);
            parts.scenes().open(file);
        });
        if (opening.tellStart()) {
            parts.shelves().items().addListener((InvalidationListener) change -> tellStart(parts));
        }
        if (opening.tour().isPresent()) {
            new Tour(parts, scene, opening.arrivals(), opening.tour().get(), Platform::exit).start();
        } else if (!opening.arrivals().isEmpty()) {
            parts.frame().go(Workplace.RECEIVE);
            parts.receive().add(opening.arrivals());
        }
    }

    private static void tellStart(Parts parts) {
        if (!parts.shelves().items().isEmpty()) {
            // Two pulses on, what was laid out is on the screen.
            Platform.runLater(() -> Platform.runLater(() -> {
                long since = ManagementFactory.getRuntimeMXBean().getStartTime();
                System.out.println("{ \"firstShelfMillis\" : " + (System.currentTimeMillis() - since) + " }");
                Platform.exit();
            }));
        }
    }

    @Override
    public void stop() {
        shown.ifPresent(parts -> parts.session().shelving().stopWatching());
        work.shutdownNow();
        answers.shutdownNow();
        ownWorkbench.ifPresent(Workbench::close);
    }

    /** The view models and the frame that shows them. */
    record Parts(
            Session session,
            ReceiveModel receive,
            ShelvesModel shelves,
            PrepModel prep,
            ScenesModel scenes,
            FrameView frame) {
        static Parts make(Workbench workbench, Background background) {
            Session session = new Session(workbench, background);
            ReceiveModel receive = new ReceiveModel(session);
            ShelvesModel shelves = new ShelvesModel(session);
            PrepModel prep = new PrepModel(session, receive);
            ScenesModel scenes = new ScenesModel(session);
            return new Parts(
                    session, receive, shelves, prep, scenes, new FrameView(session, receive, shelves, prep, scenes));
        }
    }
}
