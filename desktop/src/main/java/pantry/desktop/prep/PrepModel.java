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
import pantry.desktop.session.EditReversal;
import pantry.desktop.session.Publications;
import pantry.desktop.session.Reversal;
import pantry.desktop.session.Session;
import pantry.desktop.session.Work;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.prep.fix.Tidy;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.RuleSet;
import pantry.prep.tools.FoundImages;
import pantry.usd.SdfPath;
import pantry.usd.edit.StageEditor;
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

    /** Understands the figures of the opened file otherwise: it is opened anew. Nothing where it was changed already. */
    public void read(Workpiece.Reading reading) {
        opened.get()
                .filter(now -> !now.changed() && !busy.get())
                .map(Opened::subject)
                .ifPresent(subject -> {
                    subject.read(Optional.of(reading));
                    open(subject);
                });
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
        if (subject.reading().isEmpty()) {
            subject.read(subject.file().flatMap(arrivals::reading));
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
                        subject.problemProperty().set(Optional.of(problem.reason()));
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
            Optional<Object> before = now.piece().editor().lastChange();
            change(now, what, change, new Ending<T>() {
                @Override
                public void done(T result) {
                    tell(now, before, told.apply(result).orElse(what));
                }

                @Override
                public void failed(PantryException problem) {
                    session.wrong(problem);
                    tell(now, before, what);
                }

                @Override
                public void stopped() {
                    // It may have been stopped while what it had done was looked at.
                    tell(now, before, what);
                }
            });
        });
    }

    /** Writes down what was done to a working copy, as one change; nothing where that is as it was before. */
    private void tell(Opened now, Optional<Object> before, String text) {
        now.piece().editor().joinSince(before);
        now.piece()
                .editor()
                .lastChange()
                .filter(made -> !before.equals(Optional.of(made)))
                .ifPresent(made -> session.done(text, new EditReversal(editor(now), made)));
    }

    /** How a change of a working copy ended. */
    private interface Ending<T> {
        void done(T result);

        void failed(PantryException problem);

        void stopped();
    }

    private <T> void change(Opened now, String what, Change<T> change, Ending<T> ending) {
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
                        () -> {
                            showAgain(now);
                            ending.stopped();
                        }),
                both -> {
                    busy.set(false);
                    if (isSelected(now.subject())) {
                        show(both.after());
                    }
                    ending.done(both.result());
                },
                problem -> {
                    busy.set(false);
                    ending.failed(problem);
                });
    }

    private EditReversal.Editor editor(Opened now) {
        InspectionItem subject = now.subject();
        StageEditor editor = now.piece().editor();
        return new EditReversal.Editor(
                editor::lastChange,
                editor::lastUndone,
                () -> openedOf(subject)
                                .filter(other -> other.piece() == now.piece())
                                .isPresent()
                        ? Optional.empty()
                        : Optional.of(subject.title() + " was closed since"),
                () -> busy.get() ? Optional.of("a working copy is being changed") : Optional.empty(),
                (back, outcome) -> step(subject, back, outcome));
    }

    private Optional<Opened> openedOf(InspectionItem subject) {
        return isSelected(subject) ? opened.get() : subject.keptProperty().get();
    }

    /** Takes back, or does again, a change of a working copy, which is opened for it where another one is. */
    private void step(InspectionItem subject, boolean back, Reversal.Outcome outcome) {
        if (!isSelected(subject)) {
            selected.set(Optional.of(subject));
        }
        Opened now = opened.get().orElseThrow();
        StageEditor editor = now.piece().editor();
        Optional<Object> before = editor.lastChange();
        Ending<Boolean> ending = new Ending<>() {
            @Override
            public void done(Boolean result) {
                outcome.done();
            }

            @Override
            public void failed(PantryException problem) {
                outcome.failed(problem);
            }

            @Override
            public void stopped() {
                if (editor.lastChange().equals(before)) {
                    outcome.stopped();
                } else {
                    outcome.done();
                }
            }
        };
        Optional<String> name = back ? now.undo() : now.redo();
        change(
                now,
                (back ? "Undo: " : "Again: ") + name.orElse(""),
                (piece, progress) -> {
                    if (back) {
                        piece.editor().undo();
                    } else {
                        piece.editor().redo();
                    }
                    return back;
                },
                ending);
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
        opened.get().ifPresent(now -> {
            Tidy.Choice choice = new Tidy.Choice(now.inspection().findings(), wanted);
            change(
                    "Tidying " + now.subject().title(),
                    (piece, progress) -> Tidy.apply(piece, now.rules(), now.around(), choice, progress),
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
                    });
        });
    }

    /** Looks for images that are not there in a folder and below it. */
    public void findImages(Path folder) {
        change(
                "Looking for images",
                (piece, progress) -> FoundImages.take(piece, List.of(folder), progress),
                result -> {
                    if (result.found().isEmpty()) {
                        session.wrong(new PantryException(folder, result.says()));
                        return Optional.empty();
                    }
                    return Optional.of(result.says());
                });
    }

    /** Takes back the last change of the working copy. */
    public void undo() {
        opened.get()
                .flatMap(now -> now.piece().editor().lastChange())
                .flatMap(session.history()::lineOf)
                .ifPresent(session.history()::undo);
    }

    /** Does the last change again that was taken back. */
    public void redo() {
        opened.get()
                .flatMap(now -> now.piece().editor().lastUndone())
                .flatMap(session.history()::lineOf)
                .ifPresent(session.history()::redo);
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
                            session.told("Saved as " + file + lost);
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
                                synchronized (now.piece()) {
                                    return Shelving.publish(
                                            now.piece(),
                                            status,
                                            note,
                                            session.workbench().renderCache(),
                                            progress);
                                }
                            },
                            () -> showAgain(now)),
                    made -> published(now, made, status),
                    problem -> {
                        busy.set(false);
                        session.wrong(problem);
                    });
        });
    }

    private void published(Opened now, Published made, VersionStatus status) {
        busy.set(false);
        now.piece().editor().markSaved(now.piece().layer());
        InspectionItem.AssetVersion before = now.subject().asset().orElseThrow();
        String version = made.version();
        String text = made.asset().card().name() + " has the new version " + version;
        new Publications(session).tell(text, before.library(), made, status, () -> {});
        session.refreshCatalogue(before.library());
        open(before.withVersion(version));
    }
}
