package pantry.desktop.session;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.function.Consumer;
import java.util.stream.Stream;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyLongProperty;
import javafx.beans.property.ReadOnlyLongWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.library.Library;
import pantry.scene.Weight;
import pantry.usd.file.LayerFiles;
import pantry.workbench.Workbench;

/** What all workplaces share. Its properties change on the interface's thread only. */
public final class Session {
    private static final Logger LOG = LoggerFactory.getLogger(Session.class);

    private final Workbench workbench;
    private final Background background;
    private final ObservableList<Library> libraries = FXCollections.observableArrayList();
    private final ObjectProperty<Optional<Path>> project = new SimpleObjectProperty<>(Optional.empty());
    private final ObservableList<Job> jobs = FXCollections.observableArrayList();
    private final ObservableList<LedgerLine> ledger = FXCollections.observableArrayList();
    private final ObjectProperty<Weight> weight = new SimpleObjectProperty<>(Weight.NOTHING);
    private final ObjectProperty<Optional<Weight>> weightAfter = new SimpleObjectProperty<>(Optional.empty());
    private final ReadOnlyLongWrapper catalogueEdition = new ReadOnlyLongWrapper();

    /** Work that takes time. */
    @FunctionalInterface
    public interface Work<T> {
        T run(Progress progress);
    }

    public Session(Workbench workbench, Background background) {
        this.workbench = workbench;
        this.background = background;
    }

    public Workbench workbench() {
        return workbench;
    }

    public ObservableList<Library> libraries() {
        return libraries;
    }

    /** The folders of the open libraries. */
    public List<Path> libraryFolders() {
        return libraries.stream().map(Library::root).toList();
    }

    /** The folder whose scenes are at hand. */
    public ObjectProperty<Optional<Path>> projectProperty() {
        return project;
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

    /** Goes up whenever the catalogue may answer differently. */
    public ReadOnlyLongProperty catalogueEditionProperty() {
        return catalogueEdition.getReadOnlyProperty();
    }

    /** Opens a library and indexes it in the background. */
    public void openLibrary(Path folder) {
        run(
                "opening " + folder.getFileName(),
                progress -> {
                    Library library = workbench.openLibrary(folder);
                    workbench.catalogue().refresh(library, progress);
                    return library;
                },
                library -> {
                    libraries.removeIf(open -> open.root().equals(library.root()));
                    libraries.add(library);
                    catalogueChanged();
                });
    }

    /** Makes a library and opens it. */
    public void createLibrary(Path folder, String name) {
        run("making " + name, progress -> workbench.createLibrary(folder, name), library -> {
            done("made the library " + name, Optional.empty());
            openLibrary(library.root());
        });
    }

    /** Brings the index in line with a library and tells all who show it. */
    public void refreshCatalogue(Library library) {
        run(
                "indexing " + library.info().name(),
                progress -> {
                    workbench.catalogue().refresh(library, progress);
                    return library;
                },
                same -> catalogueChanged());
    }

    private void catalogueChanged() {
        catalogueEdition.set(catalogueEdition.get() + 1);
    }

    /** The project's scenes, by name. */
    public List<Path> scenes() {
        if (project.get().isEmpty()) {
            return List.of();
        }
        try (Stream<Path> files = Files.list(project.get().get())) {
            return files.filter(file -> LayerFiles.isLayer(file.getFileName().toString()))
                    .filter(file -> !file.getFileName().toString().endsWith(".usdz"))
                    .sorted()
                    .toList();
        } catch (java.io.IOException e) {
            wrong(new PantryException(project.get().get(), "the project's folder cannot be read"));
            return new ArrayList<>();
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
        start(job, what, work, then, failed);
        return job;
    }

    /** Does work that is soon done, in the background, without showing it as a job; failures go to the ledger. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then) {
        start(new Job(what, background.ui()), what, work, then, this::wrong);
    }

    private <T> void start(Job job, String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        background.work().execute(() -> {
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
            } catch (RuntimeException e) {
                LOG.error("{} failed", what, e);
                background.ui().execute(() -> {
                    jobs.remove(job);
                    failed.accept(
                            new PantryException(null, null, what + " failed by a fault of Pantry's own: " + e, e));
                });
            }
        });
    }

    /** Does something on the interface's thread, soon. */
    public void onInterface(Runnable action) {
        background.ui().execute(action);
    }

    /** Writes down what was done. */
    public void done(String text, Optional<Runnable> undo) {
        ledger.addFirst(new LedgerLine(LocalTime.now(), LedgerLine.Kind.DONE, text, undo));
    }

    /** Writes down what went wrong. */
    public void wrong(PantryException problem) {
        String file = problem.file()
                .map(name -> name.substring(name.replace('\\', '/').lastIndexOf('/') + 1) + ": ")
                .orElse("");
        String place = problem.place().map(where -> where + ": ").orElse("");
        ledger.addFirst(new LedgerLine(
                LocalTime.now(), LedgerLine.Kind.WRONG, file + place + problem.getMessage(), Optional.empty()));
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
