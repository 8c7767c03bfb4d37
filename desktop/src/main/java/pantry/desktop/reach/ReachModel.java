package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import javafx.beans.InvalidationListener;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyLongProperty;
import javafx.beans.property.ReadOnlyLongWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ListChangeListener;
import javafx.collections.ObservableList;
import javafx.collections.ObservableSet;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.VersionStatus;
import pantry.project.Change;
import pantry.project.ChangePlan;
import pantry.project.ChangeRuns;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.ReachGraph;
import pantry.project.Relinking;
import pantry.project.Strays;
import pantry.project.Updates;
import pantry.project.UseIndex;
import pantry.project.WhatIf;

/** Which file of which project uses what, and what is planned to be changed about it. */
public final class ReachModel {
    private final Session session;
    private final LatestWork refreshing;
    private final LatestWork graphing;
    private final LatestWork planning;
    private final ReadOnlyObjectWrapper<Known> known = new ReadOnlyObjectWrapper<>(Known.NOTHING);
    private final ObjectProperty<Subject> subject = new SimpleObjectProperty<>(Subject.ALL);
    private final ReadOnlyObjectWrapper<ReachGraph> graph = new ReadOnlyObjectWrapper<>(ReachGraph.EMPTY);
    private final ObjectProperty<Goal> goal = new SimpleObjectProperty<>(Goal.READY);
    private final ReadOnlyObjectWrapper<Planned> planned = new ReadOnlyObjectWrapper<>(Planned.NOTHING);
    private final ObservableSet<Change> unticked = FXCollections.observableSet();
    private final ObservableList<Path> searched = FXCollections.observableArrayList();
    private final ReadOnlyLongWrapper waiting = new ReadOnlyLongWrapper();

    /** What is looked at. */
    public sealed interface Subject {
        /** All projects. */
        Subject ALL = new Everything();

        record Everything() implements Subject {}

        /** @param id of the asset */
        record OfAsset(String id) implements Subject {}

        /** @param file of a project */
        record OfFile(Path file) implements Subject {}
    }

    /** What is planned. */
    public enum Goal {
        READY("To the ready versions"),
        FOLLOW("Let them follow"),
        PIN("Pin what they show"),
        RELINK("Relink what is missing"),
        STRAYS("Place copies of assets"),
        RIPPLE("What if the newest were ready?");

        private final String words;

        Goal(String words) {
            this.words = words;
        }

        /** For a person. */
        public String words() {
            return words;
        }
    }

    /** A project with its files and what waits in them. */
    public record ProjectFiles(Project project, List<Path> files) {}

    /**
     * What is known of the projects at a moment.
     *
     * @param reach empty where no project is open, or nothing was read yet
     */
    public record Known(
            Optional<Reach> reach,
            List<ProjectFiles> projects,
            Map<Path, Reach.Waiting> waiting,
            Map<Path, UseIndex.Total> totals,
            List<UseIndex.Unreadable> unreadable) {
        static final Known NOTHING = new Known(Optional.empty(), List.of(), Map.of(), Map.of(), List.of());
    }

    /**
     * What is planned.
     *
     * @param missing what is not there of what the subject names, where that is planned to be mended
     * @param strays the copies of assets that the changes let be placements, where that is planned
     * @param ripple what a version would do to the files that follow, where that is asked
     */
    public record Planned(
            ChangePlan plan,
            List<Relinking.Missing> missing,
            List<Strays.Group> strays,
            Optional<WhatIf.Ripple> ripple) {
        static final Planned NOTHING = of(new ChangePlan("", List.of()));

        static Planned of(ChangePlan plan) {
            return new Planned(plan, List.of(), List.of(), Optional.empty());
        }
    }

    public ReachModel(Session session) {
        this.session = session;
        refreshing = new LatestWork(session.background());
        graphing = new LatestWork(session.background());
        planning = new LatestWork(session.background());
        session.projects().addListener((ListChangeListener<Path>) change -> refresh());
        session.shelving().contentsProperty().addListener(change -> refresh());
        InvalidationListener again = change -> look();
        subject.addListener(again);
        goal.addListener(change -> plan());
        searched.addListener((ListChangeListener<Path>) change -> plan());
    }

    public Session session() {
        return session;
    }

    public ReadOnlyObjectProperty<Known> knownProperty() {
        return known.getReadOnlyProperty();
    }

    public ObjectProperty<Subject> subjectProperty() {
        return subject;
    }

    public ReadOnlyObjectProperty<ReachGraph> graphProperty() {
        return graph.getReadOnlyProperty();
    }

    public ObjectProperty<Goal> goalProperty() {
        return goal;
    }

    public ReadOnlyObjectProperty<Planned> plannedProperty() {
        return planned.getReadOnlyProperty();
    }

    /** What of the plan shall not be done. */
    public ObservableSet<Change> unticked() {
        return unticked;
    }

    /** Folders in which what is missing is looked for. */
    public ObservableList<Path> searched() {
        return searched;
    }

    /** How many things wait in all projects. */
    public ReadOnlyLongProperty waitingProperty() {
        return waiting.getReadOnlyProperty();
    }

    /** The asset that is looked at. */
    public Optional<Asset> asset() {
        return subject.get() instanceof Subject.OfAsset(String id)
                ? known.get().reach().flatMap(reach -> reach.byId(id))
                : Optional.empty();
    }

    /** Reads what was changed in the projects and libraries. */
    public void refresh() {
        List<Path> folders = List.copyOf(session.projects());
        List<Library> libraries = session.shelving().present();
        Known before = known.get();
        refreshing.quietly(
                "looking at what the projects use", progress -> read(folders, libraries, before, progress), this::show);
    }

    /** Looks whether something was changed, unless that is being done. */
    public void lookAgain() {
        if (!isPending()) {
            refresh();
        }
    }

    /** @return the same as before where nothing has changed, so that nobody who is looking is disturbed */
    private Known read(List<Path> folders, List<Library> libraries, Known before, Progress progress) {
        List<Project> projects = folders.stream().map(Project::open).toList();
        session.workbench().changeRuns().recover();
        UseIndex index = session.workbench().useIndex();
        UseIndex.Refreshed refreshed = index.refresh(projects, libraries, progress);
        Reach reach = new Reach(index, libraries, projects);
        List<Path> files = reach.files();
        List<ProjectFiles> byProject = projects.stream()
                .map(project -> new ProjectFiles(
                        project,
                        files.stream()
                                .filter(file -> file.startsWith(project.folder()))
                                .toList()))
                .toList();
        boolean same = refreshed.read() == 0
                && refreshed.counted() == 0
                && byProject.equals(before.projects())
                && before.reach().filter(known -> known.sameAssets(reach)).isPresent();
        return same
                ? before
                : new Known(
                        projects.isEmpty() ? Optional.empty() : Optional.of(reach),
                        byProject,
                        reach.waiting(),
                        reach.totals(),
                        reach.unreadable());
    }

    private void show(Known now) {
        if (now == known.get()) {
            return;
        }
        // Before those who listen to what is known tell how much waits.
        waiting.set(
                now.waiting().values().stream().mapToLong(Reach.Waiting::total).sum());
        known.set(now);
        look();
    }

    /** Whether something is being worked out. */
    public boolean isPending() {
        return refreshing.isPending() || graphing.isPending() || planning.isPending();
    }

    private void look() {
        Optional<Reach> reach = known.get().reach();
        Subject now = subject.get();
        if (reach.isEmpty()) {
            graphing.drop();
            graph.set(ReachGraph.EMPTY);
        } else {
            graphing.answer("drawing what uses what", progress -> graph(reach.get(), now), graph::set);
        }
        plan();
    }

    private static ReachGraph graph(Reach reach, Subject subject) {
        return switch (subject) {
            case Subject.Everything everything -> ReachGraph.EMPTY;
            case Subject.OfAsset(String id) ->
                reach.byId(id).map(asset -> ReachGraph.of(reach, asset)).orElse(ReachGraph.EMPTY);
            case Subject.OfFile(Path file) -> ReachGraph.ofFile(reach, file);
        };
    }

    /** Works out what would be changed. */
    private void plan() {
        Optional<Reach> reach = known.get().reach();
        if (reach.isEmpty()) {
            planning.drop();
            showPlan(Planned.NOTHING);
            return;
        }
        Subject now = subject.get();
        Goal wanted = goal.get();
        List<Path> folders = List.copyOf(searched);
        planning.answer(
                "planning",
                progress -> {
                    return switch (wanted) {
                        case RELINK -> relinking(reach.get(), now, folders, progress);
                        case STRAYS -> placing(Strays.find(reach.get(), progress), now);
                        case RIPPLE -> ripple(reach.get(), now, progress);
                        default -> Planned.of(plan(reach.get(), now, wanted));
                    };
                },
                this::showPlan);
    }

    private static Planned relinking(Reach reach, Subject subject, List<Path> folders, Progress progress) {
        List<Relinking.Missing> missing = new Relinking(reach, folders, progress)
                .missing().stream().filter(each -> isOf(each.file(), subject)).toList();
        return new Planned(Relinking.plan(missing), missing, List.of(), Optional.empty());
    }

    private static boolean isOf(Path file, Subject subject) {
        return !(subject instanceof Subject.OfFile(Path wanted)) || wanted.equals(file);
    }

    /** Each copy is a line that can be unticked. */
    private static Planned placing(List<Strays.Group> all, Subject subject) {
        List<Strays.Group> groups = new ArrayList<>();
        List<Change> changes = new ArrayList<>();
        for (Strays.Group group : all) {
            if (subject instanceof Subject.OfAsset(String id)
                    && !id.equals(group.asset().card().id())) {
                continue;
            }
            Strays.Group some = group.keeping(copy -> isOf(copy.file(), subject));
            groups.add(some);
            some.copies().forEach(copy -> changes.add(change(some, copy)));
        }
        changes.sort(Comparator.comparing(Change::file));
        return new Planned(
                new ChangePlan("Placed copies of assets", changes), List.of(), List.copyOf(groups), Optional.empty());
    }

    private static Change change(Strays.Group group, Strays.Copy copy) {
        return new Change(
                copy.file(),
                copy.path().toString(),
                copy.file(),
                group.asset().readyLayer(),
                "A copy of " + group.asset().card().name());
    }

    private static Planned ripple(Reach reach, Subject subject, Progress progress) {
        Optional<Asset> asset = subject instanceof Subject.OfAsset(String id) ? reach.byId(id) : Optional.empty();
        return new Planned(Planned.NOTHING.plan(), List.of(), List.of(), asset.flatMap(each -> each.newest()
                .map(version -> WhatIf.ready(reach, each, version, progress))));
    }

    private static ChangePlan plan(Reach reach, Subject subject, Goal goal) {
        List<Asset> assets = subject instanceof Subject.OfAsset(String id)
                ? reach.byId(id).stream().toList()
                : List.of();
        if (subject instanceof Subject.OfAsset && assets.isEmpty()
                || subject instanceof Subject.OfFile(Path file)
                        && !reach.files().contains(file)) {
            return Planned.NOTHING.plan();
        }
        List<Path> files = subject instanceof Subject.OfFile(Path file) ? List.of(file) : List.of();
        Updates updates = new Updates(reach, assets, files);
        return switch (goal) {
            case FOLLOW -> updates.follow();
            case PIN -> updates.pin();
            default -> updates.toReady();
        };
    }

    private void showPlan(Planned now) {
        Set<Change> still = new HashSet<>(now.plan().changes());
        unticked.removeIf(change -> !still.contains(change));
        planned.set(now);
    }

    /** The changes that are ticked. */
    public ChangePlan ticked() {
        return planned.get().plan().without(unticked);
    }

    /**
     * Makes the changes that are ticked; one line in the ledger takes them all back. Where it was asked what a version
     * would do, that is made ready.
     */
    public void carryOut() {
        planned.get().ripple().ifPresent(this::makeReady);
        ChangePlan plan = ticked();
        if (plan.changes().isEmpty()) {
            return;
        }
        List<Strays.Group> strays = planned.get().strays();
        List<Project> projects =
                known.get().projects().stream().map(ProjectFiles::project).toList();
        Set<Path> unsaved = session.unsavedProperty().get();
        Function<Path, String> refused =
                file -> unsaved.contains(file) ? "is open with changes that are not saved; save it first" : "";
        ChangeRuns runs = session.workbench().changeRuns();
        session.run(
                "changing " + plan.byFile().size() + " files",
                progress -> strays.isEmpty()
                        ? runs.run(plan, file -> Project.assetPaths(projects, file), refused, progress)
                        : runs.run(plan.title(), Strays.placing(ticked(strays, plan)), refused, progress),
                done -> {
                    done.failed().forEach((file, reason) -> session.wrong(new PantryException(file, reason)));
                    if (!done.changed().isEmpty()) {
                        session.done(
                                plan.title() + ": " + places(done.changes()) + " in "
                                        + files(done.changed().size()),
                                Optional.of(() -> undo(runs, done.id())));
                    }
                    rewrote(done.changed());
                });
    }

    private static List<Strays.Group> ticked(List<Strays.Group> groups, ChangePlan plan) {
        Set<Change> wanted = Set.copyOf(plan.changes());
        return groups.stream()
                .map(group -> group.keeping(copy -> wanted.contains(change(group, copy))))
                .filter(group -> !group.copies().isEmpty())
                .toList();
    }

    private void makeReady(WhatIf.Ripple ripple) {
        Asset asset = ripple.asset();
        if (asset.ready().equals(Optional.of(ripple.version()))) {
            return;
        }
        Library library = session.shelving().present().stream()
                .filter(each -> asset.folder().startsWith(each.root()))
                .findFirst()
                .orElseThrow(() -> new PantryException(asset.folder(), "is of no library that is open"));
        VersionStatus before = asset.status(ripple.version());
        String told = asset.card().name() + " " + ripple.version();
        setStatus(
                library,
                ripple,
                VersionStatus.READY,
                () -> session.done(
                        "made " + told + " ready",
                        Optional.of(() -> setStatus(
                                library,
                                ripple,
                                before,
                                () -> session.done(told + " is " + before.word() + " again", Optional.empty())))));
    }

    private void setStatus(Library library, WhatIf.Ripple ripple, VersionStatus status, Runnable then) {
        session.shelving()
                .change(
                        "changing " + ripple.asset().card().name(),
                        library,
                        Set.of(ripple.asset().shelf()),
                        progress -> library.setStatus(ripple.asset(), ripple.version(), status),
                        now -> {
                            then.run();
                            refresh();
                        },
                        session::wrong);
    }

    private static String places(int count) {
        return count == 1 ? "1 place" : count + " places";
    }

    private static String files(int count) {
        return count == 1 ? "1 file" : count + " files";
    }

    private void undo(ChangeRuns runs, String id) {
        session.run("taking changes back", progress -> runs.undo(id), undone -> {
            undone.kept()
                    .forEach(file -> session.wrong(new PantryException(file, "was changed since, and stays as it is")));
            session.done(
                    "took back what was changed in " + files(undone.restored().size()), Optional.empty());
            rewrote(undone.restored());
        });
    }

    private void rewrote(List<Path> files) {
        // Twice the same files are two events.
        session.rewrittenProperty().set(Set.of());
        session.rewrittenProperty().set(Set.copyOf(files));
        refresh();
    }
}
