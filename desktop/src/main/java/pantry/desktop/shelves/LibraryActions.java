package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import javafx.beans.InvalidationListener;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.collections.ObservableSet;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.Publications;
import pantry.desktop.session.Session;
import pantry.desktop.session.UndoableWork;
import pantry.library.Asset;
import pantry.library.Card;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.Reservation;
import pantry.library.Transfers;
import pantry.library.TrashItem;
import pantry.library.VersionStatus;
import pantry.model.PhysicalMaterial;
import pantry.usecase.ChangePhysics;
import pantry.usecase.EditCopies;
import pantry.usecase.HandOut;
import pantry.usecase.MixParts;
import pantry.usecase.NextVersion;
import pantry.usecase.PublishFile;
import pantry.usecase.WorkingCopy;

/** What is done with assets, shelves and tags: each in the background, written in the ledger, and taken back from it. */
public final class LibraryActions {
    private final Session session;
    private final ShelvesModel shelves;
    private final ObservableList<WorkingCopy> copies = FXCollections.observableArrayList();
    private final ObservableSet<WorkingCopy> saved = FXCollections.observableSet();

    public LibraryActions(ShelvesModel shelves) {
        this.shelves = shelves;
        this.session = shelves.session();
        for (String folder : session.workbench().settings().copies()) {
            try {
                copies.add(WorkingCopy.open(Path.of(folder)));
            } catch (PantryException e) {
                // Its folder is gone: there is nothing left to publish.
            }
        }
        copies.addListener((InvalidationListener) change -> {
            List<String> folders =
                    copies.stream().map(copy -> copy.folder().toString()).toList();
            session.changeSettings(settings -> settings.withCopies(folders));
        });
    }

    /** Looks whether copies were saved since they were looked at last; those are told in the ledger, once. */
    public void lookAtCopies() {
        List<WorkingCopy> looked = List.copyOf(copies);
        session.quietly(
                "looking at edited copies",
                progress -> looked.stream().filter(WorkingCopy::changed).toList(),
                changed -> {
                    for (WorkingCopy copy : changed) {
                        if (copies.contains(copy) && saved.add(copy)) {
                            session.told("the copy of " + copy.name() + " was saved; its card offers to publish it");
                        }
                    }
                });
    }

    /** Edited copies that were saved. */
    public ObservableSet<WorkingCopy> saved() {
        return saved;
    }

    private Libraries libraries() {
        return session.shelving();
    }

    /** Copies that are being edited in other programs. */
    public ObservableList<WorkingCopy> copies() {
        return copies;
    }

    private static String named(List<IndexedAsset> items) {
        return items.size() == 1 ? items.getFirst().name() : items.size() + " assets";
    }

    private static Asset asset(Library library, IndexedAsset item) {
        return library.current(Path.of(item.folder()), item.id());
    }

    private Map<Library, List<IndexedAsset>> byLibrary(List<IndexedAsset> items) {
        Map<Library, List<IndexedAsset>> groups = new LinkedHashMap<>();
        items.forEach(item -> groups.computeIfAbsent(libraries().at(item.library()), library -> new ArrayList<>())
                .add(item));
        return groups;
    }

    private static Set<String> shelvesOf(List<IndexedAsset> items) {
        Set<String> shelves = new HashSet<>();
        items.forEach(item -> shelves.add(item.shelf()));
        return shelves;
    }

    /** Something that is done with some assets of one library; the answer takes it back. */
    private interface Change {
        Runnable run(Library library, List<IndexedAsset> items, Progress progress);
    }

    /**
     * Does something with the chosen assets, library by library.
     *
     * @param done what was done, with {@code %s} for the assets
     * @param also shelves that are touched besides the assets' own
     */
    private void change(String doing, String done, List<IndexedAsset> items, Set<String> also, Change change) {
        byLibrary(items).forEach((library, some) -> {
            Set<String> touched = shelvesOf(some);
            touched.addAll(also);
            start(
                    new UndoableWork<>(
                            doing + " " + named(some),
                            libraries().changing(new Libraries.Touched(library, touched)),
                            progress -> change.run(library, some, progress),
                            (back, progress) -> back.run()),
                    back -> done.formatted(named(some)));
        });
    }

    private <T> void start(UndoableWork<T> work, Function<T, String> told) {
        work.after(result -> shelves.card().reread())
                .failed(problem -> shelves.card().reread())
                .start(session, told);
    }

    private void failed(PantryException problem) {
        session.wrong(problem);
        shelves.card().reread();
    }

    // Cards

    /** Changes cards; {@code done} says what was done, with {@code %s} for the assets. */
    public void edit(List<IndexedAsset> items, String done, UnaryOperator<Card> change) {
        if (items.isEmpty()) {
            return;
        }
        change("changing", done, items, Set.of(), (library, some, progress) -> {
            List<Asset> assets = some.stream().map(item -> asset(library, item)).toList();
            List<Library.Edited> edited = library.edit(assets, change, progress);
            return () -> library.undo(edited, Progress.NONE);
        });
    }

    /** Renames a tag on all assets that have it; where the new one is there already, the two become one. */
    public void renameTag(String tag, String instead) {
        List<IndexedAsset> having = libraries().finder().items().stream()
                .filter(item -> item.tags().contains(tag))
                .toList();
        if (!instead.isBlank() && !instead.equals(tag)) {
            edit(
                    having,
                    "renamed the tag “" + tag + "” to “" + instead.strip() + "” on %s",
                    card -> card.retagged(tag, instead.strip()));
        }
    }

    // Places

    /** Moves assets to a shelf, also of another library. */
    public void move(List<IndexedAsset> items, Path root, String shelf) {
        Library target = libraries().at(root.toString());
        String place = shelf.isEmpty() ? target.info().name() : shelf;
        List<IndexedAsset> elsewhere = items.stream()
                .filter(item -> !item.shelf().equals(shelf) || !item.library().equals(root.toString()))
                .toList();
        if (elsewhere.isEmpty() && !items.isEmpty()) {
            session.told(named(items) + (items.size() == 1 ? " stands" : " stand") + " on " + place + " already");
            return;
        }
        change("moving", "moved %s to " + place, elsewhere, Set.of(shelf), (library, some, progress) -> {
            Set<String> before = Set.copyOf(target.shelves());
            Transfers transfers = new Transfers(library, target);
            List<Runnable> back = new ArrayList<>();
            for (IndexedAsset item : some) {
                Asset now = transfers.move(asset(library, item), shelf, progress);
                back.add(() -> new Transfers(target, library).move(now, item.shelf(), Progress.NONE));
            }
            refreshOther(library, target, Set.of(shelf));
            return () -> {
                back.forEach(Runnable::run);
                target.places().removeNew(shelf, before);
                refreshOther(library, target, Set.of(shelf));
            };
        });
    }

    private void refreshOther(Library library, Library target, Set<String> touched) {
        if (!library.root().equals(target.root())) {
            session.workbench().catalogue().refresh(target, touched);
        }
    }

    /** Copies assets to a shelf, also of another library. */
    public void copy(List<IndexedAsset> items, Path root, String shelf) {
        Library target = libraries().at(root.toString());
        change("copying", "copied %s to " + shelf, items, Set.of(shelf), (library, some, progress) -> {
            Set<String> before = Set.copyOf(target.shelves());
            Transfers transfers = new Transfers(library, target);
            List<Asset> made = new ArrayList<>();
            for (IndexedAsset item : some) {
                made.add(transfers.copy(asset(library, item), shelf, progress));
            }
            refreshOther(library, target, Set.of(shelf));
            return () -> {
                made.forEach(target.trash()::discard);
                target.places().removeNew(shelf, before);
                refreshOther(library, target, Set.of(shelf));
            };
        });
    }

    /** Takes assets off their shelves. */
    public void discard(List<IndexedAsset> items) {
        change("taking off the shelf:", "put %s into the trash", items, Set.of(), (library, some, progress) -> {
            List<TrashItem> trashed = new ArrayList<>();
            for (IndexedAsset item : some) {
                trashed.add(library.trash().discard(asset(library, item)));
            }
            return () -> trashed.forEach(library.trash()::restore);
        });
    }

    /** Puts things from the trash back. */
    public void restore(Library library, List<TrashItem> items, Runnable then) {
        // What is taken off again lies elsewhere in the trash.
        AtomicReference<List<TrashItem>> trashed = new AtomicReference<>(items);
        UndoableWork<List<Path>> work = new UndoableWork<>(
                "restoring",
                libraries().changing(Libraries.Touched.all(library)),
                progress -> trashed.get().stream().map(library.trash()::restore).toList(),
                (folders, progress) -> trashed.set(folders.stream()
                        .map(library::asset)
                        .map(library.trash()::discard)
                        .toList()));
        work.after(folders -> then.run()).failed(problem -> shelves.card().reread());
        String told = "restored " + items.size() + " from the trash";
        if (items.stream().noneMatch(item -> item.id().isEmpty())) {
            work.start(session, folders -> told);
        } else {
            work.startForGood(session, folders -> told, "files that were no assets stand where they stood");
        }
    }

    /** Changes which shelves there are. */
    private void rearrange(Library library, String done, Runnable change, Runnable undo) {
        start(
                new UndoableWork<>(
                        done,
                        libraries().changing(Libraries.Touched.all(library)),
                        progress -> {
                            change.run();
                            return done;
                        },
                        (same, progress) -> undo.run()),
                same -> done);
    }

    public void makeShelf(Library library, String path) {
        rearrange(library, "made the shelf " + path, () -> library.places().make(path), () -> library.places()
                .remove(path));
    }

    /** Moves or renames a shelf with all that stands on it. */
    public void moveShelf(Library library, String from, String to) {
        rearrange(
                library,
                "moved the shelf " + from + " to " + to,
                () -> library.places().move(from, to, Progress.NONE),
                () -> library.places().move(to, from, Progress.NONE));
    }

    public void removeShelf(Library library, String path) {
        rearrange(library, "removed the shelf " + path, () -> library.places().remove(path), () -> library.places()
                .make(path));
    }

    // Versions

    /** Does something with the asset whose card is shown; {@code act} says what was done. */
    private void withCard(String doing, Function<CardModel.Details, String> act, Consumer<CardModel.Details> undo) {
        shelves.card()
                .detailsProperty()
                .get()
                .ifPresent(details -> start(
                        new UndoableWork<>(
                                doing + " " + details.item().name(),
                                libraries()
                                        .changing(Libraries.Touched.shelf(
                                                details.library(),
                                                details.asset().shelf())),
                                progress -> act.apply(details),
                                (done, progress) -> undo.accept(details)),
                        done -> done));
    }

    public void reserve() {
        withCard(
                "reserving",
                details -> {
                    details.library().reservations().reserve(details.asset());
                    return "reserved " + details.item().name();
                },
                details -> details.library().reservations().release(details.asset()));
    }

    public void release() {
        withCard(
                "releasing",
                details -> {
                    details.library().reservations().release(details.asset());
                    return details.item().name() + " is free again";
                },
                details -> details.library().reservations().reserve(details.asset()));
    }

    /** Holds an asset instead of somebody who has forgotten it. */
    public void takeOver(String why) {
        shelves.card().detailsProperty().get().ifPresent(shown -> {
            Optional<Reservation> before = shown.reservation();
            withCard(
                    "taking over",
                    details -> {
                        details.library().reservations().takeOver(details.asset(), why);
                        return "took " + details.item().name() + " over from "
                                + before.map(Reservation::who).orElse("nobody");
                    },
                    details -> details.library().reservations().giveBack(details.asset(), before));
        });
    }

    public void setStatus(String version, VersionStatus status) {
        shelves.card().detailsProperty().get().ifPresent(details -> {
            VersionStatus before = details.asset().status(version);
            Library library = details.library();
            List<String> users =
                    details.usedBy().stream().map(IndexedAsset::name).toList();
            String warning = status == VersionStatus.RETIRED && !users.isEmpty()
                    ? "; it is still used by " + String.join(", ", users)
                    : "";
            withCard(
                    "changing",
                    same -> {
                        library.setStatus(same.asset(), version, status);
                        return same.item().name() + " " + version + " is " + status.word() + warning;
                    },
                    same -> library.setStatus(same.asset(), version, before));
        });
    }

    /** Publishes an earlier version as the newest. */
    public void goBack(String version, String note, VersionStatus status) {
        shelves.card().detailsProperty().get().ifPresent(details -> libraries()
                .change(
                        "going back with " + details.item().name(),
                        Libraries.Touched.shelf(
                                details.library(), details.asset().shelf()),
                        progress -> details.library().goBack(details.asset(), version, status, note, progress),
                        published -> published(details, published, " is as " + version + " was", status),
                        this::failed));
    }

    private void published(CardModel.Details before, Published published, String how, VersionStatus status) {
        String text = before.item().name() + " " + published.version() + how;
        Runnable then = () -> shelves.card().reread();
        new Publications(session).tell(text, before.library(), published, status, then);
        then.run();
    }

    /** Publishes a file as the asset's next version. */
    public void publish(Path file, String note, VersionStatus status) {
        shelves.card().detailsProperty().get().ifPresent(details -> libraries()
                .change(
                        "publishing " + details.item().name(),
                        Libraries.Touched.shelf(
                                details.library(), details.asset().shelf()),
                        progress -> new PublishFile(session.workbench().intake())
                                .run(
                                        details.library(),
                                        new PublishFile.Options(
                                                new NextVersion(details.asset(), status, note),
                                                file,
                                                UnaryOperator.identity()),
                                        progress),
                        published -> published(details, published, " is published from " + file.getFileName(), status),
                        this::failed));
    }

    /** Publishes the material whose card is shown with something else mixed into it. */
    public void mix(MixParts.Change change, String note, VersionStatus status) {
        shelves.card().detailsProperty().get().ifPresent(details -> libraries()
                .change(
                        "mixing " + details.item().name(),
                        Libraries.Touched.shelf(
                                details.library(), details.asset().shelf()),
                        progress -> details.mixParts(session)
                                .publish(new NextVersion(details.asset(), status, note), change, progress),
                        published -> published(details, published, " is published: " + note, status),
                        this::failed));
    }

    /** Publishes the asset whose card is shown with another friction, bounce or density. */
    public void changePhysics(PhysicalMaterial material, String note, VersionStatus status) {
        shelves.card().detailsProperty().get().ifPresent(details -> libraries()
                .change(
                        "publishing " + details.item().name(),
                        Libraries.Touched.shelf(
                                details.library(), details.asset().shelf()),
                        progress -> new ChangePhysics(session.workbench().readers(), details.library())
                                .publish(new NextVersion(details.asset(), status, note), material, progress),
                        published -> published(details, published, " is published: " + note, status),
                        this::failed));
    }

    /** Makes the materials anew that use the part whose card is shown. */
    public void remake() {
        shelves.card().detailsProperty().get().ifPresent(details -> libraries()
                .change(
                        "making materials anew",
                        Libraries.Touched.all(details.library()),
                        progress -> details.mixParts(session).remake(details.asset(), progress),
                        remade -> remade(details, remade),
                        this::failed));
    }

    private void remade(CardModel.Details details, MixParts.Remade remade) {
        shelves.card().reread();
        List<Publications.Part> parts = remade.made().stream()
                .map(each -> Publications.ofVersion(details.library(), each))
                .toList();
        String names = remade.made().stream()
                .map(each -> each.asset().card().name() + " " + each.version())
                .collect(Collectors.joining(", "));
        if (!parts.isEmpty()) {
            UndoableWork<List<Publications.Part>> work = new Publications(session)
                    .together("making materials anew", Libraries.Touched.all(details.library()), parts)
                    .after(same -> shelves.card().reread())
                    .afterUndo(same -> shelves.card().reread());
            session.done("made anew with " + details.item().name() + ": " + names, work.done(session, parts));
        }
        if (!remade.left().isEmpty()) {
            session.wrong(new PantryException(
                    details.asset().folder(), "not made anew: " + String.join("; ", remade.left())));
        }
    }

    private EditCopies editCopies() {
        return new EditCopies(
                new HandOut(session.workbench()), session.workbench().intake());
    }

    // Edited copies

    /**
     * Unpacks the version that is looked at, reserves the asset, and opens the file in the user's program.
     *
     * @param folder missing or empty
     */
    public void editCopy(Path folder, String ending) {
        shelves.card()
                .detailsProperty()
                .get()
                .ifPresent(details -> session.run(
                        "unpacking " + details.item().name(),
                        progress -> editCopies()
                                .unpack(
                                        details.library(),
                                        new EditCopies.Options(
                                                details.asset(), details.version(), ending, folder, true),
                                        progress),
                        copy -> {
                            copies.add(copy);
                            session.told("unpacked " + details.item().name() + " " + details.version() + " to "
                                    + copy.file());
                            shelves.card().reread();
                            String program = session.workbench().settings().editor();
                            if (!program.isBlank()) {
                                session.attempt(() -> copy.openIn(program));
                            }
                        },
                        this::failed));
    }

    /** Publishes a copy that was saved, and gives the asset free. */
    public void publishCopy(WorkingCopy copy, String note, VersionStatus status) {
        Library library = libraries().at(copy.library().toString());
        libraries()
                .change(
                        "publishing " + copy.name(),
                        Libraries.Touched.all(library),
                        progress -> editCopies().publish(copy, library, status, note, progress),
                        published -> published(copy, library, published, status),
                        this::failed);
    }

    private void published(WorkingCopy copy, Library library, Published published, VersionStatus status) {
        Runnable gone = () -> {
            copies.remove(copy);
            saved.remove(copy);
            shelves.card().reread();
        };
        gone.run();
        String text = copy.name() + " " + published.version() + " is published from its copy";
        Publications publications = new Publications(session);
        if (status != VersionStatus.READY) {
            publications.tell(text, library, published, status, () -> {});
            return;
        }
        // The asset was given free; taken back, it is reserved for the copy again.
        List<Publications.Part> parts =
                List.of(Publications.ofVersion(library, published), Publications.ofRelease(library, published.asset()));
        UndoableWork<List<Publications.Part>> work = publications
                .together(
                        "publishing " + copy.name(),
                        Libraries.Touched.shelf(library, published.asset().shelf()),
                        parts)
                .after(same -> gone.run())
                .afterUndo(same -> {
                    copies.add(copy);
                    shelves.card().reread();
                });
        session.done(text, work.done(session, parts));
    }

    /** Gives a copy up: the asset is free again, the file stays where it is. */
    public void giveUp(WorkingCopy copy) {
        copies.remove(copy);
        saved.remove(copy);
        Library library = libraries().at(copy.library().toString());
        session.quietly(
                "releasing " + copy.name(),
                progress -> {
                    library.byId(copy.asset()).ifPresent(library.reservations()::release);
                    return copy;
                },
                same -> shelves.card().reread());
    }

    // Handing out

    /** Writes the chosen assets as files in the user's format, and hands the files over. */
    public void handOut(List<IndexedAsset> items, Path folder, Consumer<List<HandOut.HandedOut>> then) {
        String ending = session.workbench().settings().handOutFormat();
        session.run(
                "writing " + named(items),
                progress -> {
                    List<HandOut.HandedOut> files = new ArrayList<>();
                    for (IndexedAsset item : items) {
                        Asset asset = asset(libraries().at(item.library()), item);
                        files.add(new HandOut(session.workbench())
                                .write(asset, item.version(), ending, folder, progress));
                    }
                    return files;
                },
                then,
                this::failed);
    }
}
