package pantry.desktop.session;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.Executor;
import java.util.concurrent.RejectedExecutionException;
import java.util.function.Consumer;
import java.util.stream.Stream;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.library.Library;
import pantry.model.Weight;
import pantry.usd.file.LayerFiles;
import pantry.workbench.Workbench;

/** What all workplaces share. Its properties change on the interface's thread only. */
public final class Session {
    private static final Logger LOG = LoggerFactory.getLogger(Session.class);

    private final Workbench workbench;
    private final Background background;
    private final Libraries libraries;
    private final ObjectProperty<Optional<Path>> project = new SimpleObjectProperty<>(Optional.empty());
    private final LatestWork sceneLists;
    private final ObservableList<Path> scenes = FXCollections.observableArrayList();
    private final ObservableList<Job> jobs = FXCollections.observableArrayList();
    private final ObservableList<LedgerLine> ledger = FXCollections.observableArrayList();
    private final ObjectProperty<Weight> weight = new SimpleObjectProperty<>(Weight.NOTHING);
    private final ObjectProperty<Optional<Weight>> weightAfter = new SimpleObjectProperty<>(Optional.empty());

    private final ObjectProperty<Optional<IndexedAsset>> chosenAsset = new SimpleObjectProperty<>(Optional.empty());

    /** Work that takes time. */
    @FunctionalInterface
    public interface Work<T> {
        T run(Progress progress);
    }

    public Session(Workbench workbench, Background background) {
        this.workbench = workbench;
        this.background = background;
        this.libraries = new Libraries(this);
        this.sceneLists = new LatestWork(this);
        workbench.settings().allowed().forEach(folder -> workbench.access().allow(Path.of(folder)));
        // What lies in a project that somebody opens may be named by all that is in it.
        project.addListener((property, before, now) -> {
            now.ifPresent(workbench.access()::allow);
            listScenes();
        });
    }

    public Workbench workbench() {
        return workbench;
    }

    /** The libraries that are open, and what stands in them. */
    public Libraries shelving() {
        return libraries;
    }

    /** The libraries that are open, in the order in which they were opened. */
    public ObservableList<Library> libraries() {
        return libraries.open();
    }

    /** The folder whose scenes are at hand. */
    public ObjectProperty<Optional<Path>> projectProperty() {
        return project;
    }

    /** The asset whose card is shown. */
    public ObjectProperty<Optional<IndexedAsset>> chosenAssetProperty() {
        return chosenAsset;
    }

    public ObservableList<Job> jobs() {
        return jobs;
    }

    /** The newest first. */
    public ObservableList<LedgerLine> ledger() {
        return ledger;
    }

    /** What is on the screen weighs so much. */
    public ObjectProperty<Weight> weightProperty() {
        return weight;
    }

    /** What it would weigh after the action that is being prepared. */
    public ObjectProperty<Optional<Weight>> weightAfterProperty() {
        return weightAfter;
    }

    /** Opens a library; see {@link Libraries#open}. */
    public void openLibrary(Path folder) {
        libraries.open(folder);
    }

    /** Makes a library and opens it. */
    public void createLibrary(Path folder, String name) {
        libraries.create(folder, name);
    }

    /** Brings what is shown in line with a library's folders. */
    public void refreshCatalogue(Library library) {
        libraries.refresh(library);
    }

    /** The project's scenes, by name, as they were listed last. */
    public ObservableList<Path> scenes() {
        return scenes;
    }

    /** Lists the project's scenes anew, with those that others have made meanwhile. */
    public void listScenes() {
        Optional<Path> folder = project.get();
        sceneLists.answer(
                "listing scenes", progress -> folder.map(Session::scenesIn).orElse(List.of()), now -> {
                    if (!scenes.equals(now)) {
                        scenes.setAll(now);
                    }
                });
    }

    private static List<Path> scenesIn(Path folder) {
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(file -> LayerFiles.isLayer(file.getFileName().toString()))
                    .filter(file -> !file.getFileName().toString().endsWith(".usdz"))
                    // What is kept beside scenes, so that nothing is lost.
                    .filter(file -> !file.getFileName().toString().startsWith("."))
                    .sorted()
                    .toList();
        } catch (IOException e) {
            throw new PantryException(folder, "the project's folder cannot be read", e);
        }
    }

    /** Does work in the background, shown as a job; failures go to the ledger. */
    public <T> Job run(String what, Work<T> work, Consumer<T> then) {
        return run(what, work, then, this::wrong);
    }

    /** As above, with failures handled otherwise. */
    public <T> Job run(String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        Job job = new Job(what, background.ui());
        jobs.add(job);
        start(background.work(), job, what, work, then, failed);
        return job;
    }

    /** Does work that is soon done, in the background, without showing it as a job; failures go to the ledger. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then) {
        start(background.work(), new Job(what, background.ui()), what, work, then, this::wrong);
    }

    private <T> void start(
            Executor executor, Job job, String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        submit(executor, () -> {
            try {
                T result = work.run(job);
                background.ui().execute(() -> {
                    jobs.remove(job);
                    then.accept(result);
                });
            } catch (CancellationException e) {
                background.ui().execute(() -> {
                    jobs.remove(job);
                    done(String.valueOf(e.getMessage()), Optional.empty());
                });
            } catch (PantryException e) {
                background.ui().execute(() -> {
                    jobs.remove(job);
                    failed.accept(e);
                });
            } catch (RuntimeException | Error e) {
                LOG.error("{} failed", what, e);
                background.ui().execute(() -> {
                    jobs.remove(job);
                    failed.accept(
                            new PantryException(null, null, what + " failed by a fault of Pantry's own: " + e, e));
                });
            }
        });
    }

    /** As above, with failures handled otherwise. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        start(background.work(), new Job(what, background.ui()), what, work, then, failed);
    }

    /** Answers a question that must not wait behind long work; failures go to the ledger. */
    public <T> void answer(String what, Work<T> work, Consumer<T> then) {
        start(background.answers(), new Job(what, background.ui()), what, work, then, this::wrong);
    }

    private static void submit(Executor executor, Runnable work) {
        try {
            executor.execute(work);
        } catch (RejectedExecutionException e) {
            LOG.debug("the application ends; nothing more is begun");
        }
    }

    /** Does something on the interface's thread, soon. */
    public void onInterface(Runnable action) {
        background.ui().execute(action);
    }

    private LocalTime now() {
        return LocalTime.now(workbench.clock().withZone(ZoneId.systemDefault()));
    }

    /** Writes down what was done. */
    public void done(String text, Optional<Runnable> undo) {
        ledger.addFirst(new LedgerLine(now(), LedgerLine.Kind.DONE, text, undo));
    }

    /** Writes down what went wrong. */
    public void wrong(PantryException problem) {
        String file = problem.file()
                .map(name -> name.substring(name.replace('\\', '/').lastIndexOf('/') + 1) + ": ")
                .orElse("");
        String place = problem.place().map(where -> where + ": ").orElse("");
        ledger.addFirst(
                new LedgerLine(now(), LedgerLine.Kind.WRONG, file + place + problem.getMessage(), Optional.empty()));
    }

    /** Does something that may be refused; the refusal goes to the ledger. */
    public void attempt(Runnable action) {
        try {
            action.run();
        } catch (PantryException e) {
            wrong(e);
        }
    }
}
