package pantry.desktop.prep;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ListChangeListener;
import javafx.collections.ObservableList;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.ArrivalSource;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.desktop.session.Work;
import pantry.exchange.usd.UsdModelReader;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.prep.fix.Tidy;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.Inspection;
import pantry.prep.inspect.KeptInspections;
import pantry.prep.inspect.RuleSet;
import pantry.prep.inspect.ShelfInspection;
import pantry.prep.tools.TwinSets;
import pantry.prep.tools.WorkpieceContents;
import pantry.twins.TwinOptions;
import pantry.usd.SdfPath;
import pantry.workpiece.Shelving;
import pantry.workpiece.Surroundings;
import pantry.workpiece.Workpiece;

/**
 * What can be inspected, what was found, and what is done about it. A working copy is worked on by one thread at a time;
 * what is shown of it is a picture of a moment.
 */
public final class PrepModel {
    private final Session session;
    private final ArrivalSource arrivals;
    private final ObservableList<InspectionItem> items = FXCollections.observableArrayList();
    private final List<InspectionItem> files = new ArrayList<>();
    private final Set<Path> inspectedLibraries = new LinkedHashSet<>();
    private final ObjectProperty<Optional<InspectionItem>> selected = new SimpleObjectProperty<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Opened>> opened = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<PantryException>> refused =
            new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObjectProperty<Set<String>> ticked = new SimpleObjectProperty<>(Set.of());
    private final ObjectProperty<Optional<Finding>> pointed = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Set<SdfPath>> selection = new SimpleObjectProperty<>(Set.of());
    private final ReadOnlyObjectWrapper<Optional<Weight>> foreseen = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final BooleanProperty busy = new SimpleBooleanProperty();
    private final LatestWork foresight;
    private boolean visited;

    public PrepModel(Session session, ArrivalSource arrivals) {
        this.session = session;
        this.arrivals = arrivals;
        this.foresight = new LatestWork(session.background());
        selected.addListener((property, before, now) -> {
            keep();
            now.ifPresentOrElse(this::open, this::close);
        });
        session.shelving().contentsProperty().addListener(change -> listAgain());
        session.scenes().addListener((ListChangeListener<Path>) change -> listAgain());
        ticked.addListener(change -> foresee());
        pointed.addListener(change -> foresee());
    }

    /** What is listed is kept in line once somebody has looked at it. */
    private void listAgain() {
        // Asked for, so that the next change is told as well.
        session.shelving().contentsProperty().get();
        if (visited) {
            list();
        }
    }

    public Session session() {
        return session;
    }

    /** What can be inspected: arrivals, files, scenes, assets. */
    public ObservableList<InspectionItem> items() {
        return items;
    }

    public ObjectProperty<Optional<InspectionItem>> selectedProperty() {
        return selected;
    }

    /** The working copy of what is selected, once it was read and inspected. */
    public ReadOnlyObjectProperty<Optional<Opened>> openedProperty() {
        return opened.getReadOnlyProperty();
    }

    /** Why what is selected cannot be inspected. */
    public ReadOnlyObjectProperty<Optional<PantryException>> refusedProperty() {
        return refused.getReadOnlyProperty();
    }

    /** The ids of findings that are to be put right. */
    public ObjectProperty<Set<String>> tickedProperty() {
        return ticked;
    }

    /** The finding that is shown in the picture. */
    public ObjectProperty<Optional<Finding>> pointedProperty() {
        return pointed;
    }

    /** Objects that are selected. */
    public ObjectProperty<Set<SdfPath>> selectionProperty() {
        return selection;
    }

    /** What the working copy would weigh with the ticked findings put right, or the one that is pointed at. */
    public ReadOnlyObjectProperty<Optional<Weight>> foreseenProperty() {
        return foreseen.getReadOnlyProperty();
    }

    /** Whether the working copy is being worked on. */
    public BooleanProperty busyProperty() {
        return busy;
    }

    /** How many things are known to have findings that somebody ought to look at. */
    public long waiting() {
        return items.stream()
                .filter(subject -> subject.tallyProperty()
                        .get()
                        .filter(tally -> tally.serious() > 0)
                        .isPresent())
                .count();
    }

    /** Brings the list in line with what there is now, and inspects libraries that were not. */
    public void refresh() {
        visited = true;
        list();
        for (Library library : session.shelving().present()) {
            if (inspectedLibraries.add(library.root())) {
                inspect(library);
            }
        }
    }

    /** Lists what there is by what is known of it; reads nothing. */
    private void list() {
        List<InspectionItem> now = new ArrayList<>();
        arrivals.waitingFiles().forEach(file -> now.add(InspectionItem.of(InspectionItem.From.ARRIVAL, file)));
        now.addAll(files);
        session.scenes().forEach(scene -> now.add(InspectionItem.of(InspectionItem.From.SCENE, scene)));
        Map<String, Library> present = new HashMap<>();
        session.shelving()
                .present()
                .forEach(library -> present.put(library.root().toString(), library));
        for (IndexedAsset item : session.shelving().finder().items()) {
            Library library = present.get(item.library());
            if (library != null && !item.version().isEmpty()) {
                now.add(InspectionItem.of(InspectionItem.AssetVersion.of(library, item)));
            }
        }
        show(now);
    }

    /** Shows a list; what was in it before keeps what is known of it. */
    private void show(List<InspectionItem> now) {
        Map<InspectionItem.Key, InspectionItem> known = new HashMap<>();
        items.forEach(item -> known.put(item.key(), item));
        now.replaceAll(item -> known.getOrDefault(item.key(), item));
        if (!now.equals(items)) {
            items.setAll(now);
        }
    }

    /** Inspects everything in a library in the background; what was inspected before is known at once. */
    public void inspect(Library library) {
        session.run(
                "Inspecting " + library.info().name(),
                progress -> {
                    RuleSet rules = RuleSet.of(library);
                    ShelfInspection inspection = session.workbench().shelfInspection(library, rules);
                    inspection.all((asset, result) -> session.onInterface(() -> tell(asset, result)), progress);
                    return library;
                },
                done -> changedTallies());
    }

    private void tell(Asset asset, KeptInspections.Result result) {
        String id = asset.card().id();
        items.stream()
                .filter(item ->
                        item.asset().filter(version -> version.id().equals(id)).isPresent())
                .forEach(item -> {
                    item.tallyProperty().set(Optional.of(InspectionItem.Tally.of(result.findings())));
                    item.problemProperty().set(result.unanswered().stream().findFirst());
                });
    }

    /** Lets those who count know that counts have changed. */
    private void changedTallies() {
        if (!items.isEmpty()) {
            items.set(0, items.getFirst());
        }
    }

    /** Adds files to what can be inspected, and opens the first. */
    public void add(List<Path> some) {
        Optional<InspectionItem> first = Optional.empty();
        for (Path file : some) {
            InspectionItem subject = InspectionItem.of(
                    InspectionItem.From.FILE, file.toAbsolutePath().normalize());
            InspectionItem known = files.stream()
                    .filter(item -> item.key().equals(subject.key()))
                    .findFirst()
                    .orElse(subject);
            if (known == subject) {
                files.add(subject);
            }
            first = first.or(() -> Optional.of(known));
        }
        refresh();
        first.ifPresent(subject -> selected.set(Optional.of(subject)));
    }

    /** Opens an arrival. */
    public void openArrival(Path file) {
        refresh();
        items.stream()
                .filter(subject -> subject.from() == InspectionItem.From.ARRIVAL
                        && subject.file().filter(file::equals).isPresent())
                .findFirst()
                .ifPresent(subject -> selected.set(Optional.of(subject)));
    }

    /** Opens the version that an asset shows. */
    public void open(Library library, IndexedAsset asset) {
        refresh();
        open(InspectionItem.AssetVersion.of(library, asset));
    }

    private void open(InspectionItem.AssetVersion version) {
        InspectionItem wanted = InspectionItem.of(version);
        Optional<InspectionItem> listed =
                items.stream().filter(item -> item.key().equals(wanted.key())).findFirst();
        if (listed.isEmpty()) {
            items.add(wanted);
        }
        selected.set(Optional.of(listed.orElse(wanted)));
    }

    /** A working copy that was changed waits until somebody comes back to it. */
    private void keep() {
        opened.get()
                .ifPresent(
                        now -> now.subject().keptProperty().set(Optional.of(now).filter(Opened::changed)));
    }

    /** Working copies that were changed and are neither saved nor published. */
    public long unsaved() {
        keep();
        return items.stream()
                .filter(subject ->
                        subject.keptProperty().get().filter(Opened::unsaved).isPresent())
                .count();
    }

    private void close() {
        opened.set(Optional.empty());
        refused.set(Optional.empty());
        forget();
    }

    private void forget() {
        ticked.set(Set.of());
        pointed.set(Optional.empty());
        selection.set(Set.of());
    }

    private void open(InspectionItem subject) {
        close();
        Optional<Opened> left = subject.keptProperty().get();
        if (left.isPresent()) {
            show(left.get());
            return;
        }
        busy.set(true);
        session.run(
                "Inspecting " + subject.title(),
                letting(
                        progress -> {
                            Workpiece piece = subject.open(session.workbench(), progress);
                            Optional<Library> library = subject.asset().map(InspectionItem.AssetVersion::library);
                            RuleSet rules = library.map(RuleSet::of)
                                    .orElseGet(() ->
                                            arrivals.target().map(RuleSet::of).orElse(RuleSet.USUAL));
                            Optional<Surroundings> around = library.map(Surroundings::of);
                            return picture(subject, piece, rules, around, piece.model(), piece.weight(), progress);
                        },
                        () -> selected.set(Optional.empty())),
                now -> {
                    if (isSelected(subject)) {
                        busy.set(false);
                        show(now);
                    }
                },
                problem -> {
                    if (isSelected(subject)) {
                        busy.set(false);
                        refused.set(Optional.of(problem));
                        subject.problemProperty().set(Optional.of(problem.getMessage()));
                    }
                });
    }

    /** Work that lets go of the working copy when it is cancelled. */
    private <T> Work<T> letting(Work<T> work, Runnable then) {
        return session.whenCancelled(work, () -> {
            busy.set(false);
            then.run();
        });
    }

    private boolean isSelected(InspectionItem subject) {
        return selected.get().filter(now -> now == subject).isPresent();
    }

    private static Opened picture(
            InspectionItem subject,
            Workpiece piece,
            RuleSet rules,
            Optional<Surroundings> around,
            Model original,
            Weight weightBefore,
            Progress progress) {
        Inspection inspection = Inspection.of(piece, rules, around, progress.part(0, 0.8));
        Model proxy = piece.model(UsdModelReader.LIGHT);
        return new Opened(
                subject,
                piece,
                rules,
                around,
                inspection,
                TwinSets.find(piece, TwinOptions.USUAL, progress.part(0.8, 1)),
                WorkpieceContents.of(piece),
                piece.model(),
                original,
                proxy.objects() == 0 ? Optional.empty() : Optional.of(proxy),
                piece.weight(),
                weightBefore,
                piece.editor().undoName(),
                piece.editor().redoName());
    }

    private void show(Opened now) {
        Set<String> still = new LinkedHashSet<>(ticked.get());
        still.retainAll(now.findings().stream().map(Finding::id).toList());
        opened.set(Optional.of(now));
        pointed.set(pointed.get().flatMap(before -> now.findings().stream()
                .filter(finding -> finding.id().equals(before.id()))
                .findFirst()));
        ticked.set(still);
        Set<SdfPath> there = new LinkedHashSet<>(selection.get());
        there.removeIf(path -> now.contents().find(path).isEmpty());
        selection.set(there);
        now.subject()
                .tallyProperty()
                .set(Optional.of(InspectionItem.Tally.of(now.inspection().brief())));
        changedTallies();
    }

    /** Work on a working copy. */
    @FunctionalInterface
    private interface Change<T> {
        T make(Workpiece piece, Progress progress);
    }

    /**
     * Changes the working copy in the background, and shows it as it is then.
     *
     * @param told what is written down of it
     */
    private <T> void change(String what, Change<T> change, Function<T, Optional<String>> told) {
        opened.get().filter(now -> !busy.get()).ifPresent(now -> {
            busy.set(true);
            record Both<T>(T result, Opened after) {}
            session.run(
                    what,
                    letting(
                            progress -> {
                                synchronized (now.piece()) {
                                    T result = change.make(now.piece(), progress.part(0, 0.6));
                                    return new Both<>(
                                            result,
                                            picture(
                                                    now.subject(),
                                                    now.piece(),
                                                    now.rules(),
                                                    now.around(),
                                                    now.original(),
                                                    now.weightBefore(),
                                                    progress.part(0.6, 1)));
                                }
                            },
                            () -> showAgain(now)),
                    both -> {
                        busy.set(false);
                        if (isSelected(now.subject())) {
                            show(both.after());
                        }
                        told.apply(both.result())
                                .ifPresent(text -> session.done(text, Optional.of(() -> undo(now.subject()))));
                    },
                    problem -> {
                        busy.set(false);
                        session.wrong(problem);
                    });
        });
    }

    /** Shows a working copy as a change that was cancelled has left it. */
    private void showAgain(Opened before) {
        session.quietly(
                "looking again",
                progress -> {
                    synchronized (before.piece()) {
                        return picture(
                                before.subject(),
                                before.piece(),
                                before.rules(),
                                before.around(),
                                before.original(),
                                before.weightBefore(),
                                progress);
                    }
                },
                now -> {
                    if (isSelected(before.subject())) {
                        show(now);
                    }
                });
    }

    /** Changes the working copy by a tool. */
    public void change(String what, Consumer<Workpiece> work) {
        change(
                what,
                (piece, progress) -> {
                    work.accept(piece);
                    return what;
                },
                Optional::of);
    }

    /** Puts the ticked findings right. */
    public void tidy() {
        opened.get()
                .ifPresent(now -> tidy(now.findings().stream()
                        .filter(finding -> ticked.get().contains(finding.id()))
                        .toList()));
    }

    /** Puts findings right. */
    public void tidy(List<Finding> chosen) {
        opened.get()
                .ifPresent(now -> change(
                        "Tidying " + now.subject().title(),
                        (piece, progress) -> Tidy.apply(piece, now.rules(), now.around(), chosen, progress),
                        result -> {
                            result.done().stream()
                                    .filter(done -> done.outcome() == Tidy.Outcome.REFUSED)
                                    .forEach(done -> session.wrong(new PantryException(
                                            "not done: " + done.finding().message() + ": " + done.detail())));
                            long fixed = result.count(Tidy.Outcome.FIXED);
                            return fixed == 0
                                    ? Optional.empty()
                                    : Optional.of("Put right: " + fixed + " of "
                                            + now.subject().title());
                        }));
    }

    /** Takes back the last change of a working copy, which is opened for it where another one is. */
    private void undo(InspectionItem subject) {
        if (!isSelected(subject)) {
            selected.set(Optional.of(subject));
        }
        undo();
    }

    /** Takes back the last change of the working copy. */
    public void undo() {
        opened.get()
                .flatMap(Opened::undo)
                .ifPresent(name -> change(
                        "Undo: " + name,
                        (piece, progress) -> {
                            piece.editor().undo();
                            return name;
                        },
                        done -> {
                            session.done("Taken back: " + done, Optional.empty());
                            return Optional.empty();
                        }));
    }

    /** Does the last change again that was taken back. */
    public void redo() {
        opened.get()
                .flatMap(Opened::redo)
                .ifPresent(name -> change(
                        "Again: " + name,
                        (piece, progress) -> {
                            piece.editor().redo();
                            return name;
                        },
                        done -> Optional.of("Done again: " + done)));
    }

    /** Works something out of the working copy, which stays as it is. */
    public <T> void ask(String what, Function<Workpiece, Function<Progress, T>> work, Consumer<T> then) {
        opened.get()
                .ifPresent(now -> session.run(
                        what,
                        progress -> {
                            synchronized (now.piece()) {
                                return work.apply(now.piece()).apply(progress);
                            }
                        },
                        then));
    }

    /** Says what the working copy would weigh after what is being prepared. */
    private void foresee() {
        foreseen.set(Optional.empty());
        session.weightAfterProperty().set(Optional.empty());
        List<Finding> chosen = wanted();
        Optional<Opened> now = opened.get();
        if (now.isEmpty() || chosen.isEmpty()) {
            foresight.drop();
            return;
        }
        Opened work = now.get();
        foresight.quietly(
                "weighing",
                progress -> {
                    Workpiece copy;
                    synchronized (work.piece()) {
                        copy = work.piece().copy();
                    }
                    return Tidy.preview(copy, work.rules(), work.around(), chosen, progress);
                },
                weight -> {
                    foreseen.set(Optional.of(weight));
                    session.weightAfterProperty().set(Optional.of(weight));
                });
    }

    /** The ticked findings, or else the one that is pointed at. */
    private List<Finding> wanted() {
        List<Finding> chosen = opened.get()
                .map(now -> now.findings().stream()
                        .filter(finding -> ticked.get().contains(finding.id()))
                        .toList())
                .orElse(List.of());
        return chosen.isEmpty()
                ? pointed.get().filter(Finding::fixable).stream().toList()
                : chosen;
    }

    /** Ticks all findings that can be put right, of some rules or of all. */
    public void tick(java.util.function.Predicate<Finding> which, boolean on) {
        Set<String> now = new LinkedHashSet<>(ticked.get());
        opened.get().map(Opened::findings).orElse(List.of()).stream()
                .filter(finding -> finding.fixable() && which.test(finding))
                .forEach(finding -> {
                    if (on) {
                        now.add(finding.id());
                    } else {
                        now.remove(finding.id());
                    }
                });
        ticked.set(now);
    }

    /** Saves the working copy as a file. */
    public void save(Path file) {
        save(file, () -> {});
    }

    /** Saves the working copy as a file, and goes on once it is written. */
    public void save(Path file, Runnable then) {
        opened.get()
                .ifPresent(now -> session.run(
                        "Saving " + file.getFileName(),
                        progress -> {
                            synchronized (now.piece()) {
                                List<String> left = now.piece().save(file);
                                now.piece().editor().markSaved(now.piece().layer());
                                return left;
                            }
                        },
                        left -> {
                            String lost = left.isEmpty() ? "" : "; it cannot hold all: " + String.join("; ", left);
                            session.done("Saved as " + file + lost, Optional.empty());
                            then.run();
                        }));
    }

    /** Publishes the working copy as the asset's next version. */
    public void publish(String note) {
        opened.get().filter(now -> now.subject().asset().isPresent()).ifPresent(now -> {
            busy.set(true);
            session.run(
                    "Publishing " + now.subject().title(),
                    letting(
                            progress -> {
                                synchronized (now.piece()) {
                                    return Shelving.publish(
                                            now.piece(),
                                            VersionStatus.READY,
                                            note,
                                            session.workbench().renderCache(),
                                            progress);
                                }
                            },
                            () -> showAgain(now)),
                    published -> published(now, published),
                    problem -> {
                        busy.set(false);
                        session.wrong(problem);
                    });
        });
    }

    private void published(Opened now, Published published) {
        busy.set(false);
        now.piece().editor().markSaved(now.piece().layer());
        InspectionItem.AssetVersion before = now.subject().asset().orElseThrow();
        session.done(published.asset().card().name() + " has the new version " + published.version(), Optional.empty());
        session.refreshCatalogue(before.library());
        open(before.withVersion(published.version()));
    }
}
