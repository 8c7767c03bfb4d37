package pantry.desktop.prep;

import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
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
import javafx.collections.ObservableList;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.ArrivalSource;
import pantry.desktop.session.Session;
import pantry.desktop.session.Work;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.prep.fix.Tidy;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.RuleSet;
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
    private final InspectionList list;
    private final ObjectProperty<Optional<InspectionItem>> selected = new SimpleObjectProperty<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Opened>> opened = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<PantryException>> refused =
            new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ChosenFindings chosen;
    private final ObjectProperty<Set<SdfPath>> selection = new SimpleObjectProperty<>(Set.of());
    private final BooleanProperty busy = new SimpleBooleanProperty();

    public PrepModel(Session session, ArrivalSource arrivals) {
        this.session = session;
        this.arrivals = arrivals;
        this.list = new InspectionList(session, arrivals);
        this.chosen = new ChosenFindings(session, opened.getReadOnlyProperty());
        selected.addListener((property, before, now) -> {
            keep();
            now.ifPresentOrElse(this::open, this::close);
        });
    }

    public Session session() {
        return session;
    }

    /** What can be inspected, and what is known of it. */
    public InspectionList list() {
        return list;
    }

    /** What can be inspected: arrivals, files, scenes, assets. */
    public ObservableList<InspectionItem> items() {
        return list.items();
    }

    /** The findings that are ticked or pointed at. */
    public ChosenFindings chosen() {
        return chosen;
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

    /** Objects that are selected. */
    public ObjectProperty<Set<SdfPath>> selectionProperty() {
        return selection;
    }

    /** Whether the working copy is being worked on. */
    public BooleanProperty busyProperty() {
        return busy;
    }

    /** Adds files to what can be inspected, and opens the first. */
    public void add(List<Path> some) {
        list.add(some).ifPresent(first -> selected.set(Optional.of(first)));
    }

    /** Opens an arrival. */
    public void openArrival(Path file) {
        list.refresh();
        list.arrival(file).ifPresent(subject -> selected.set(Optional.of(subject)));
    }

    /** Opens the version that an asset shows. */
    public void open(Library library, IndexedAsset asset) {
        list.refresh();
        open(InspectionItem.AssetVersion.of(library, asset));
    }

    private void open(InspectionItem.AssetVersion version) {
        selected.set(Optional.of(list.listed(InspectionItem.of(version))));
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
        return list.items().stream()
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
        chosen.forget();
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
                            Opened.Basis basis =
                                    new Opened.Basis(subject, piece, rules, around, piece.model(), piece.weight());
                            return Opened.of(basis, progress);
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

    private void show(Opened now) {
        opened.set(Optional.of(now));
        chosen.keepWhatIsIn(now.findings());
        Set<SdfPath> there = new LinkedHashSet<>(selection.get());
        there.removeIf(path -> now.contents().find(path).isEmpty());
        selection.set(there);
        now.subject()
                .tallyProperty()
                .set(Optional.of(InspectionItem.Tally.of(now.inspection().brief())));
        list.changedTallies();
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
                                    return new Both<>(result, Opened.of(now.basis(), progress.part(0.6, 1)));
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
                        return Opened.of(before.basis(), progress);
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
        tidy(chosen.ticked());
    }

    /** Puts findings right. */
    public void tidy(List<Finding> wanted) {
        opened.get()
                .ifPresent(now -> change(
                        "Tidying " + now.subject().title(),
                        (piece, progress) -> Tidy.apply(piece, now.rules(), now.around(), wanted, progress),
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
    public void publish(String note, VersionStatus status) {
        opened.get().filter(now -> now.subject().asset().isPresent()).ifPresent(now -> {
            busy.set(true);
            InspectionItem.AssetVersion asset = now.subject().asset().orElseThrow();
            session.run(
                    "Publishing " + now.subject().title(),
                    letting(
                            progress -> {
                                Optional<String> followed = asset.current().ready();
                                synchronized (now.piece()) {
                                    return new Done(
                                            Shelving.publish(
                                                    now.piece(),
                                                    status,
                                                    note,
                                                    session.workbench().renderCache(),
                                                    progress),
                                            status,
                                            followed);
                                }
                            },
                            () -> showAgain(now)),
                    done -> published(now, done),
                    problem -> {
                        busy.set(false);
                        session.wrong(problem);
                    });
        });
    }

    /** @param followed the version that was followed before */
    private record Done(Published published, VersionStatus status, Optional<String> followed) {}

    private void published(Opened now, Done done) {
        busy.set(false);
        now.piece().editor().markSaved(now.piece().layer());
        InspectionItem.AssetVersion before = now.subject().asset().orElseThrow();
        String version = done.published().version();
        String name = done.published().asset().card().name();
        Runnable undo = () -> session.quietly(
                "taking back a version",
                progress -> {
                    before.library().unfollow(done.published().asset(), version, done.followed());
                    return done.followed()
                                    .map(each -> each + " of " + name + " is followed again, ")
                                    .orElse("") + version + " is a draft";
                },
                told -> {
                    session.done("took back: " + told, Optional.empty());
                    session.refreshCatalogue(before.library());
                });
        session.done(
                name + " has the new version " + version,
                done.status() == VersionStatus.READY ? Optional.of(undo) : Optional.empty());
        session.refreshCatalogue(before.library());
        open(before.withVersion(version));
    }
}
