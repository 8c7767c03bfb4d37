package pantry.desktop.session;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.PantryException;
import pantry.catalogue.IndexedAsset;
import pantry.library.Library;
import pantry.model.Weight;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.workbench.Settings;
import pantry.workbench.Workbench;

/** What all workplaces share. Its properties change on the interface's thread only. */
public final class Session {
    private final Workbench workbench;
    private final Ledger ledger;
    private final BackgroundWork background;
    private final Libraries libraries;
    private final ObjectProperty<Optional<Path>> project = new SimpleObjectProperty<>(Optional.empty());
    private final ObservableList<Path> projects = FXCollections.observableArrayList();
    private final ObjectProperty<Set<Path>> unsaved = new SimpleObjectProperty<>(Set.of());
    private final ObjectProperty<Set<Path>> rewritten = new SimpleObjectProperty<>(Set.of());
    private final ObjectProperty<Optional<MovedFile>> moved = new SimpleObjectProperty<>(Optional.empty());
    private final SceneThumbnails sceneThumbnails;
    private final ObjectProperty<Optional<Reach>> reach = new SimpleObjectProperty<>(Optional.empty());
    private final LatestWork sceneLists;
    private final ObservableList<Path> scenes = FXCollections.observableArrayList();
    private final ObjectProperty<Weight> weight = new SimpleObjectProperty<>(Weight.NOTHING);
    private final ObjectProperty<Optional<Weight>> weightAfter = new SimpleObjectProperty<>(Optional.empty());

    private final ObjectProperty<Optional<IndexedAsset>> chosenAsset = new SimpleObjectProperty<>(Optional.empty());

    public Session(Workbench workbench, Background executors) {
        this.workbench = workbench;
        this.ledger = new Ledger(workbench.clock());
        this.background = new BackgroundWork(executors, ledger);
        this.libraries = new Libraries(workbench, background, ledger);
        this.sceneThumbnails = new SceneThumbnails(workbench, background);
        this.sceneLists = new LatestWork(background);
        workbench.settings().allowed().forEach(folder -> workbench.access().allow(Path.of(folder)));
        // What lies in a project that somebody opens may be named by all that is in it.
        project.addListener((property, before, now) -> {
            now.ifPresent(workbench.access()::allow);
            now.filter(folder -> !projects.contains(folder)).ifPresent(folder -> {
                projects.add(folder);
                rememberProjects();
            });
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

    /** The folders of all projects that are open, {@link #projectProperty} among them. */
    public ObservableList<Path> projects() {
        return projects;
    }

    /** Opens the projects that were open when Pantry was used last; those that are gone are passed over. */
    public void openLastProjects() {
        workbench.settings().projects().stream()
                .map(Path::of)
                .filter(folder -> Files.isDirectory(folder) && !projects.contains(folder))
                .forEach(projects::add);
    }

    /** Opens projects; the scenes of the first are at hand. */
    public void openProjects(List<Path> folders) {
        folders.stream().filter(folder -> !projects.contains(folder)).forEach(projects::add);
        project.set(folders.stream().findFirst());
        if (!folders.isEmpty()) {
            rememberProjects();
        }
    }

    /** No longer shows a project; nothing happens to it. */
    public void closeProject(Path folder) {
        letGo(folder);
        ledger.done(
                "closed the project " + folder.getFileName(),
                Reversal.atOnce(() -> project.set(Optional.of(folder)), () -> letGo(folder)));
    }

    private void letGo(Path folder) {
        projects.remove(folder);
        rememberProjects();
        if (project.get().filter(folder::equals).isPresent()) {
            project.set(projects.stream().findFirst());
        }
    }

    private void rememberProjects() {
        List<String> folders = projects.stream().map(Path::toString).toList();
        changeSettings(settings -> settings.withProjects(folders));
    }

    /** Changes what the user has set, in the background. */
    public void changeSettings(UnaryOperator<Settings> change) {
        libraries.changeSettings(change);
    }

    /** The files that are open with changes which are not saved. */
    public ObjectProperty<Set<Path>> unsavedProperty() {
        return unsaved;
    }

    /** The files that were written last over many at once, for whoever shows one of them. */
    public ObjectProperty<Set<Path>> rewrittenProperty() {
        return rewritten;
    }

    /** What was moved last, for whoever shows it. */
    public ObjectProperty<Optional<MovedFile>> movedProperty() {
        return moved;
    }

    /** The asset whose card is shown. */
    public ObjectProperty<Optional<IndexedAsset>> chosenAssetProperty() {
        return chosenAsset;
    }

    /** Where work is done. */
    public BackgroundWork background() {
        return background;
    }

    public ObservableList<Job> jobs() {
        return background.jobs();
    }

    /** The newest first. */
    public ObservableList<LedgerLine> ledger() {
        return ledger.lines();
    }

    /** The one history of all that was done, to take back from and to do again. */
    public Ledger history() {
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
    public void createLibrary(Path folder) {
        libraries.create(folder, folder.getFileName().toString());
    }

    /** Brings what is shown in line with a library's folders. */
    public void refreshCatalogue(Library library) {
        libraries.refresh(library);
    }

    /** Pictures of scenes. */
    public SceneThumbnails sceneThumbnails() {
        return sceneThumbnails;
    }

    /** What the files of the open projects use, as it was read last; empty where none is open. */
    public ObjectProperty<Optional<Reach>> reachProperty() {
        return reach;
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
        return Project.open(folder).files().stream()
                .filter(file -> !file.getFileName().toString().endsWith(".usdz"))
                .toList();
    }

    /** See {@link BackgroundWork#run}. */
    public <T> Job run(String what, Work<T> work, Consumer<T> then) {
        return background.run(what, work, then);
    }

    /** As above, with failures handled otherwise. */
    public <T> Job run(String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        return background.run(what, work, then, failed);
    }

    /** See {@link BackgroundWork#quietly}. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then) {
        background.quietly(what, work, then);
    }

    /** As above, with failures handled otherwise. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        background.quietly(what, work, then, failed);
    }

    /** See {@link BackgroundWork#answer}. */
    public <T> void answer(String what, Work<T> work, Consumer<T> then) {
        background.answer(what, work, then);
    }

    /** Does something on the interface's thread, soon. */
    public void onInterface(Runnable action) {
        background.onInterface(action);
    }

    /** See {@link Ledger#told}. */
    public void told(String text) {
        ledger.told(text);
    }

    /** See {@link Ledger#done}. */
    public void done(String text, Reversal reversal) {
        ledger.done(text, reversal);
    }

    /** See {@link Ledger#done}. */
    public void done(String text, List<String> details, Reversal reversal) {
        ledger.done(text, details, reversal);
    }

    /** See {@link Ledger#doneForGood}. */
    public void doneForGood(String text, String why) {
        ledger.doneForGood(text, why);
    }

    /** Writes down what went wrong. */
    public void wrong(PantryException problem) {
        ledger.wrong(problem);
    }

    /** Work after which something is done on the interface's thread where it was cancelled: what was begun is let go of. */
    public <T> Work<T> whenCancelled(Work<T> work, Runnable then) {
        return background.whenCancelled(work, then);
    }

    /** Writes down what an action ended with that could not be done, or that has a fault. */
    public void failed(Throwable failure) {
        background.failed("what was asked for", failure, this::wrong);
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
