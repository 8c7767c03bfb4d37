package pantry.desktop.prep;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.desktop.receive.Arrival;
import pantry.desktop.receive.ReceiveModel;
import pantry.desktop.session.Session;
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
    private final ReceiveModel receive;
    private final ObservableList<Subject> subjects = FXCollections.observableArrayList();
    private final List<Subject> files = new ArrayList<>();
    private final Set<Path> inspectedLibraries = new LinkedHashSet<>();
    private final ObjectProperty<Optional<Subject>> selected = new SimpleObjectProperty<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Opened>> opened = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<PantryException>> refused =
            new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ObjectProperty<Set<String>> ticked = new SimpleObjectProperty<>(Set.of());
    private final ObjectProperty<Optional<Finding>> pointed = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Set<SdfPath>> selection = new SimpleObjectProperty<>(Set.of());
    private final ReadOnlyObjectWrapper<Optional<Weight>> foreseen = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final BooleanProperty busy = new SimpleBooleanProperty();
    /** The number of the last question what things would weigh; those before it need no answer. */
    private volatile long asked;

    public PrepModel(Session session, ReceiveModel receive) {
        this.session = session;
        this.receive = receive;
        selected.addListener((property, before, now) -> {
            keep();
            now.ifPresentOrElse(this::open, this::close);
        });
        ticked.addListener(change -> foresee());
        pointed.addListener(change -> foresee());
    }

    public Session session() {
        return session;
    }

    /** What can be inspected: arrivals, files, scenes, assets. */
    public ObservableList<Subject> subjects() {
        return subjects;
    }

    public ObjectProperty<Optional<Subject>> selectedProperty() {
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
        return subjects.stream()
                .filter(subject -> subject.tallyProperty()
                        .get()
                        .filter(tally -> tally.serious() > 0)
                        .isPresent())
                .count();
    }

    /** Brings the list in line with what there is now, and inspects libraries that were not. */
    public void refresh() {
        List<Subject> now = new ArrayList<>();
        receive.arrivals().stream()
                .filter(Arrival::isOpen)
                .forEach(arrival -> now.add(Subject.of(Subject.From.ARRIVAL, arrival.file())));
        now.addAll(files);
        session.scenes().forEach(scene -> now.add(Subject.of(Subject.From.SCENE, scene)));
        for (Library library : session.shelving().present()) {
            for (Asset asset : library.assets()) {
                asset.shown().ifPresent(version -> now.add(Subject.of(new Workpiece.Shelved(library, asset, version))));
            }
        }
        now.replaceAll(
                subject -> subjects.stream().filter(subject::isSame).findFirst().orElse(subject));
        if (!now.equals(subjects)) {
            subjects.setAll(now);
        }
        for (Library library : session.shelving().present()) {
            if (inspectedLibraries.add(library.root())) {
                inspect(library);
            }
        }
    }

    /** Inspects everything in a library in the background; what was inspected before is known at once. */
    public void inspect(Library library) {
        session.run(
                "Inspecting " + library.info().name(),
                progress -> {
                    RuleSet rules = RuleSet.of(library);
                    ShelfInspection inspection = session.workbench().shelfInspection(library, rules);
                    inspection.all(
                            (asset, result) -> session.onInterface(() -> tell(asset, subject -> {
                                subject.tallyProperty().set(Optional.of(Subject.Tally.of(result.findings())));
                                subject.problemProperty()
                                        .set(result.unanswered().stream().findFirst());
                            })),
                            progress);
                    return library;
                },
                done -> changedTallies());
    }

    private void tell(Asset asset, Consumer<Subject> told) {
        subjects.stream()
                .filter(subject -> subject.shelved()
                        .filter(place ->
                                place.asset().card().id().equals(asset.card().id()))
                        .isPresent())
                .forEach(told);
    }

    /** Lets those who count know that counts have changed. */
    private void changedTallies() {
        if (!subjects.isEmpty()) {
            subjects.set(0, subjects.getFirst());
        }
    }

    /** Adds files to what can be inspected, and opens the first. */
    public void add(List<Path> some) {
        Optional<Subject> first = Optional.empty();
        for (Path file : some) {
            Subject subject =
                    Subject.of(Subject.From.FILE, file.toAbsolutePath().normalize());
            Subject known = files.stream().filter(subject::isSame).findFirst().orElse(subject);
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
        subjects.stream()
                .filter(subject -> subject.from() == Subject.From.ARRIVAL
                        && subject.file().filter(file::equals).isPresent())
                .findFirst()
                .ifPresent(subject -> selected.set(Optional.of(subject)));
    }

    /** Opens an asset of a library. */
    public void open(Library library, Asset asset) {
        refresh();
        asset.shown()
                .map(version -> Subject.of(new Workpiece.Shelved(library, asset, version)))
                .flatMap(wanted -> subjects.stream().filter(wanted::isSame).findFirst())
                .ifPresent(subject -> selected.set(Optional.of(subject)));
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
        return subjects.stream()
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

    private void open(Subject subject) {
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
                            Optional<Library> library = subject.shelved().map(Workpiece.Shelved::library);
                            RuleSet rules = library.map(RuleSet::of)
                                    .orElseGet(() ->
                                            receive.target().map(RuleSet::of).orElse(RuleSet.USUAL));
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
    private <T> Session.Work<T> letting(Session.Work<T> work, Runnable then) {
        return progress -> {
            try {
                return work.run(progress);
            } catch (CancellationException e) {
                session.onInterface(() -> {
                    busy.set(false);
                    then.run();
                });
                throw e;
            }
        };
    }

    private boolean isSelected(Subject subject) {
        return selected.get().filter(now -> now == subject).isPresent();
    }

    private static Opened picture(
            Subject subject,
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
                .set(Optional.of(Subject.Tally.of(now.inspection().brief())));
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
                            () -> look(now)),
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
    private void look(Opened before) {
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
    private void undo(Subject subject) {
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
        long number = asked + 1;
        asked = number;
        foreseen.set(Optional.empty());
        session.weightAfterProperty().set(Optional.empty());
        List<Finding> chosen = wanted();
        opened.get()
                .filter(now -> !chosen.isEmpty())
                .ifPresent(now -> session.quietly(
                        "weighing",
                        progress -> {
                            if (number != asked) {
                                return Optional.<Weight>empty();
                            }
                            Workpiece copy;
                            synchronized (now.piece()) {
                                copy = now.piece().copy();
                            }
                            return Optional.of(Tidy.preview(copy, now.rules(), now.around(), chosen, progress));
                        },
                        weight -> {
                            if (number == asked) {
                                foreseen.set(weight);
                                session.weightAfterProperty().set(weight);
                            }
                        }));
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

    /** Saves the working copy as a file, and takes it in. */
    public void saveAndReceive(Path file, Runnable then) {
        save(file, () -> {
            receive.add(List.of(file));
            then.run();
        });
    }

    private void save(Path file, Runnable then) {
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
        opened.get().filter(now -> now.subject().shelved().isPresent()).ifPresent(now -> {
            busy.set(true);
            session.run(
                    "Publishing " + now.subject().title(),
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
        Library library = now.subject().shelved().orElseThrow().library();
        session.done(published.asset().card().name() + " has the new version " + published.version(), Optional.empty());
        session.refreshCatalogue(library);
        open(library, published.asset());
    }
}
