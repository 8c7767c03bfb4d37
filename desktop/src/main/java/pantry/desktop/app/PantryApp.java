package pantry.desktop.app;

import java.lang.management.ManagementFactory;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javafx.animation.PauseTransition;
import javafx.application.Application;
import javafx.beans.InvalidationListener;
import javafx.beans.Observable;
import javafx.scene.Scene;
import javafx.stage.Stage;
import javafx.util.Duration;
import org.slf4j.LoggerFactory;
import pantry.base.PantryException;
import pantry.desktop.controls.Theme;
import pantry.desktop.session.Background;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.Session;
import pantry.desktop.session.StallMonitor;
import pantry.desktop.session.StartGate;
import pantry.desktop.workplace.Request;
import pantry.workbench.Workbench;

/** The application's window. */
public final class PantryApp extends Application {
    static final int WIDTH = 1280;
    static final int HEIGHT = 800;

    /** How long what the first view does not need waits for it at the most. */
    private static final Duration PATIENCE = Duration.seconds(4);

    private static Opening opening =
            new Opening(Optional.empty(), List.of(), List.of(), Optional.empty(), List.of(), Optional.empty(), false);

    private static CompletableFuture<?> toolkit = CompletableFuture.completedFuture(null);

    private final ExecutorService work = Executors.newFixedThreadPool(
            2, Thread.ofPlatform().daemon().name("work-", 0).factory());
    private final ExecutorService answers = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("answers").factory());
    private final StartGate gate = new StartGate(FxThread::later);
    private Optional<Workbench> ownWorkbench = Optional.empty();
    private Optional<StallMonitor> stalls = Optional.empty();
    private Optional<Parts> shown = Optional.empty();

    /**
     * What to open at the start.
     *
     * @param workbench to be used, and closed by whoever made it; one of the application's own otherwise
     * @param libraries those that were open last where there is none
     * @param projects the first of which is at hand in Scenes
     * @param scene to be opened in Scenes
     * @param arrivals files and folders to take note of in Receive
     * @param tour where pictures of all views are to be put, after which the application ends
     * @param tellStart whether the application ends once the first shelf is shown, and tells how long that took
     */
    record Opening(
            Optional<Workbench> workbench,
            List<Path> libraries,
            List<Path> projects,
            Optional<Path> scene,
            List<Path> arrivals,
            Optional<Path> tour,
            boolean tellStart) {}

    /** Starts the toolkit in the background, which {@link #show} waits for. */
    static void getReady() {
        toolkit = CompletableFuture.runAsync(() -> FxThread.startToolkit(PantryApp::loadTheme));
    }

    /** A command that was called wrongly ends the process meanwhile; what fails otherwise fails again in {@link #start}. */
    private static void loadTheme() {
        try {
            Theme.load();
        } catch (RuntimeException e) {
            LoggerFactory.getLogger(PantryApp.class).debug("the theme is not loaded ahead", e);
        }
    }

    /**
     * Shows the window and comes back when it is closed.
     *
     * @throws PantryException where there is no display
     */
    static void show(Opening what) {
        opening = what;
        try {
            toolkit.join();
        } catch (CompletionException e) {
            throw new PantryException(
                    null,
                    null,
                    "the window cannot be shown: "
                            + Optional.ofNullable(e.getCause())
                                    .map(Throwable::getMessage)
                                    .orElse("the toolkit does not start"),
                    e);
        }
        launch(PantryApp.class);
    }

    @Override
    public void start(Stage stage) {
        stalls = StallMonitor.ofSwitch(FxThread::later);
        Theme.load();
        Workbench workbench = opening.workbench().orElseGet(() -> {
            ownWorkbench = Optional.of(Workbench.usual());
            return ownWorkbench.get();
        });
        Parts parts = Parts.of(new Session(workbench, new Background(work, answers, FxThread::later, gate)));
        shown = Optional.of(parts);
        Scene scene = new Scene(parts.frame(), WIDTH, HEIGHT);
        Theme.dress(scene);
        stage.setScene(scene);
        stage.setTitle("Pantry");
        stage.setMinWidth(960);
        stage.setMinHeight(600);
        if (opening.tour().isEmpty()) {
            WindowMemory remembered = new WindowMemory(stage, parts.frame());
            remembered.restore(workbench.settings().window());
            stage.setOnHidden(event -> parts.session().attempt(() -> workbench.changeSettings(remembered.state())));
        }
        stage.setOnCloseRequest(event -> {
            event.consume();
            parts.frame().leave(stage::close);
        });
        if (opening.libraries().isEmpty()) {
            parts.session().shelving().openLast();
            parts.session().openLastProjects();
        }
        opening.libraries().forEach(parts.session()::openLibrary);
        parts.session().shelving().watch();
        parts.session().openProjects(opening.projects());
        stage.show();
        parts.frame().enterWorkplace();
        opening.scene().ifPresent(file -> parts.navigator().send(new Request.OpenScene(file)));
        onceShown(parts, () -> {
            if (opening.tellStart()) {
                tellStart();
            }
            gate.open();
        });
        PauseTransition patience = new PauseTransition(PATIENCE);
        patience.setOnFinished(event -> gate.open());
        patience.play();
        if (opening.tour().isPresent()) {
            new Tour(parts, scene, opening.arrivals(), opening.tour().get(), FxThread::exit).start();
        } else if (!opening.arrivals().isEmpty()) {
            parts.navigator().send(new Request.TakeIn(opening.arrivals()));
        }
    }

    /** Does something when the first shelf is on the screen. */
    private static void onceShown(Parts parts, Runnable action) {
        parts.search().foundProperty().addListener(new InvalidationListener() {
            @Override
            public void invalidated(Observable found) {
                if (parts.session().shelving().contentsProperty().get().isRead()) {
                    found.removeListener(this);
                    // Two pulses on, what was laid out is on the screen.
                    FxThread.later(() -> FxThread.later(action));
                }
            }
        });
    }

    private static void tellStart() {
        long since = ManagementFactory.getRuntimeMXBean().getStartTime();
        System.out.println("{ \"firstShelfMillis\" : " + (System.currentTimeMillis() - since) + " }");
        FxThread.exit();
    }

    @Override
    public void stop() {
        shown.ifPresent(parts -> parts.session().shelving().stopWatching());
        stalls.ifPresent(StallMonitor::close);
        work.shutdownNow();
        answers.shutdownNow();
        ownWorkbench.ifPresent(Workbench::close);
    }
}
