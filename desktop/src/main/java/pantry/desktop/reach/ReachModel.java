package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.beans.InvalidationListener;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyLongProperty;
import javafx.beans.property.ReadOnlyLongWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ListChangeListener;
import javafx.collections.ObservableList;
import javafx.collections.ObservableSet;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.project.Change;
import pantry.project.ChangePlan;
import pantry.project.HandOver;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.ReachGraph;
import pantry.project.Refreshed;
import pantry.project.Swapping;
import pantry.project.UseIndex;
import pantry.project.WhatIf;

/** Which file of which project uses what, and what is planned to be changed about it. */
public final class ReachModel {
    private final Session session;
    private final LatestWork refreshing;
    private final LatestWork graphing;
    private final LatestWork planning;
    private final ReadOnlyObjectWrapper<KnownProjects> known = new ReadOnlyObjectWrapper<>(KnownProjects.NOTHING);
    private final ObjectProperty<Subject> subject = new SimpleObjectProperty<>(Subject.ALL);
    private final ReadOnlyObjectWrapper<ReachGraph> graph = new ReadOnlyObjectWrapper<>(ReachGraph.EMPTY);
    private final ObjectProperty<Goal> goal = new SimpleObjectProperty<>(Goal.READY);
    private final ReadOnlyObjectWrapper<Planned> planned = new ReadOnlyObjectWrapper<>(Planned.NOTHING);
    private final ObjectProperty<HandOver.Form> form = new SimpleObjectProperty<>(HandOver.Form.FOLDER);
    private final ObservableSet<Change> unticked = FXCollections.observableSet();
    private final ObservableList<Path> searched = FXCollections.observableArrayList();
    private final ObjectProperty<Optional<String>> instead = new SimpleObjectProperty<>(Optional.empty());
    private final BooleanProperty keepBase = new SimpleBooleanProperty(true);
    private final ReadOnlyLongWrapper waiting = new ReadOnlyLongWrapper();
    private final PlanRunner runner;
    private final RippleModel ripple;
    private final WeightModel weight;

    public ReachModel(Session session) {
        this.session = session;
        refreshing = new LatestWork(session.background());
        graphing = new LatestWork(session.background());
        planning = new LatestWork(session.background());
        weight = new WeightModel(session, known.getReadOnlyProperty(), subject);
        runner = new PlanRunner(session, this::refresh);
        ripple = new RippleModel(session, known.getReadOnlyProperty(), planned.getReadOnlyProperty());
        InvalidationListener reread = change -> session.background().onceShown(this::refresh);
        session.projects().addListener(reread);
        session.shelving().contentsProperty().addListener(reread);
        InvalidationListener again = change -> look();
        subject.addListener(again);
        goal.addListener(change -> plan());
        form.addListener(change -> plan());
        instead.addListener(change -> plan());
        searched.addListener((ListChangeListener<Path>) change -> plan());
    }

    /** What a change would do, in pictures. */
    public RippleModel ripple() {
        return ripple;
    }

    /** The id of the asset that would be used instead. */
    public ObjectProperty<Optional<String>> insteadProperty() {
        return instead;
    }

    /** What the projects weigh. */
    public WeightModel weight() {
        return weight;
    }

    public Session session() {
        return session;
    }

    public ReadOnlyObjectProperty<KnownProjects> knownProperty() {
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

    /** Whether what is swapped is moved so that its base stands where the other's stood. */
    public BooleanProperty keepBaseProperty() {
        return keepBase;
    }

    /** How far that is, metres; empty where it need not be moved, or nothing is swapped. */
    public Optional<Vec3> swapOffset() {
        return planned.get().ripple().map(WhatIf.Ripple::change).flatMap(change -> change.other()
                .flatMap(other -> Swapping.offset(change.asset(), other)));
    }

    /** In which form files are handed over. */
    public ObjectProperty<HandOver.Form> formProperty() {
        return form;
    }

    private List<Project> projects() {
        return known.get().projects().stream()
                .map(KnownProjects.ProjectFiles::project)
                .toList();
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
        KnownProjects before = known.get();
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
    private KnownProjects read(List<Path> folders, List<Library> libraries, KnownProjects before, Progress progress) {
        List<Project> projects = folders.stream().map(Project::open).toList();
        session.workbench().changeRuns().recover();
        if (projects.isEmpty()) {
            return before.projects().isEmpty() ? before : KnownProjects.NOTHING;
        }
        UseIndex index = session.workbench().useIndex();
        Refreshed refreshed = index.refresh(projects, libraries, progress);
        Reach reach = new Reach(index, libraries, projects);
        List<Path> files = reach.files();
        List<KnownProjects.ProjectFiles> byProject = projects.stream()
                .map(project -> new KnownProjects.ProjectFiles(
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
                : new KnownProjects(Optional.of(reach), byProject, reach.waiting(), reach.totals(), reach.unreadable());
    }

    private void show(KnownProjects now) {
        if (now == known.get()) {
            return;
        }
        // Before those who listen to what is known tell how much waits.
        waiting.set(
                now.waiting().values().stream().mapToLong(Reach.Waiting::total).sum());
        session.reachProperty().set(now.reach());
        known.set(now);
        look();
    }

    /** Whether something is being worked out. */
    public boolean isPending() {
        return refreshing.isPending()
                || graphing.isPending()
                || planning.isPending()
                || weight.isPending()
                || ripple.isPending();
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
        List<Project> projects = projects();
        Planning.Wishes wishes = new Planning.Wishes(List.copyOf(searched), form.get(), instead.get());
        planning.answer(
                "planning",
                progress -> new Planning(reach.get(), projects, now, progress).plan(wanted, wishes),
                this::showPlan);
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
        runner.run(planned.get(), ticked(), projects(), keepBase.get() ? swapOffset() : Optional.empty());
    }

    /**
     * Hands over what is planned.
     *
     * @param parent the folder in which one of its own is made
     */
    public void handOver(Path parent) {
        planned.get().handOver().ifPresent(handOver -> runner.handOver(handOver, projects(), parent));
    }

    /** Gives a file another name or place, wherever it is named. */
    public void move(Path from, Path to) {
        known.get().reach().ifPresent(reach -> runner.move(reach, projects(), from, to));
    }

    /** What a file of a plan is called, for a person; a library has its own name. */
    String titleOf(Path file) {
        return session.libraries().stream()
                .filter(library -> library.root().equals(file))
                .map(library -> library.info().name())
                .findFirst()
                .orElse(String.valueOf(file.getFileName()));
    }

    /** Merges the ticked pairs of assets. */
    public void merge() {
        known.get().reach().ifPresent(reach -> runner.merge(reach, projects(), planned.get(), ticked()));
    }

    /** Takes the ticked assets to an archive, a library in a folder. */
    public void archive(Path folder) {
        runner.archive(planned.get(), ticked(), folder);
    }
}
