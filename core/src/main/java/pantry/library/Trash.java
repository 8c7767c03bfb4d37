package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.Failures;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;

/** What was removed, until somebody empties it. */
public final class Trash {
    /** What the journal says of an asset that was put into the trash. */
    static final String DISCARDED = "discarded";

    /** What the journal says of an asset that was taken out of the trash again. */
    static final String RESTORED = "restored";

    /** What the journal says of an asset that was deleted for good. */
    static final String DELETED = "deleted";

    private static final String LABEL = "trashed.json";

    private final AssetStore store;
    private final Places places;
    private final Journal journal;
    private final Reservations reservations;
    private final Author author;
    private final Path folder;

    private record Label(Instant when, String who, String id, String path, String name) {}

    Trash(AssetStore store, Places places, Journal journal, Reservations reservations, Author author) {
        this.store = store;
        this.places = places;
        this.journal = journal;
        this.reservations = reservations;
        this.author = author;
        this.folder = store.root().resolve("trash");
    }

    Path folder() {
        return folder;
    }

    /**
     * Takes an asset with all its versions off its shelf.
     *
     * @throws LibraryException where somebody else has reserved it
     */
    public TrashItem discard(Asset asset) {
        return store.changing(asset.folder(), "cannot be discarded", () -> {
            Asset now = store.current(asset);
            reservations.requireFree(now);
            TrashItem item = take(now.folder(), now.card().id(), now.card().name());
            journal.about(DISCARDED, now).version(now.newest().orElse("")).write();
            return item;
        });
    }

    /** Moves a file or folder of the library into the trash. */
    TrashItem take(Path path, String id, String name) throws IOException {
        Path place = folder.resolve(Journal.SORTABLE.format(author.now()) + "-" + UUID.randomUUID());
        String stood = store.root().relativize(path).toString().replace('\\', '/');
        Label label = new Label(author.now(), author.who(), id, stood, name);
        Files.createDirectories(place);
        AtomicFiles.write(place.resolve(LABEL), Json.write(label));
        try {
            AtomicFiles.publishFolder(path, place.resolve(path.getFileName()));
        } catch (IOException e) {
            Failures.cleanUp(e, () -> AtomicFiles.deleteTree(place));
            throw e;
        }
        AtomicFiles.forceFolder(path.getParent());
        return new TrashItem(place, label.when(), author.who(), id, stood, name);
    }

    /**
     * What lies in it, the newest first; what cannot be understood is left out.
     *
     * @throws LibraryException where the trash cannot be read
     */
    public List<TrashItem> items() {
        List<TrashItem> items = new ArrayList<>();
        if (!Files.isDirectory(folder)) {
            return items;
        }
        try (Stream<Path> places = Files.list(folder)) {
            for (Path place : places.sorted(java.util.Comparator.reverseOrder()).toList()) {
                if (Files.exists(place.resolve(LABEL))) {
                    TrashItem item = item(place);
                    // Whoever was stopped in the middle left a label of nothing.
                    if (Files.exists(place.resolve(Path.of(item.path()).getFileName()))) {
                        items.add(item);
                    }
                }
            }
            return items;
        } catch (PantryException | IOException e) {
            throw new LibraryException(folder, "the trash cannot be read: " + IoProblems.describe(e), e);
        }
    }

    private static TrashItem item(Path place) {
        Label label = Json.read(place.resolve(LABEL), Label.class);
        return new TrashItem(place, label.when(), label.who(), label.id(), label.path(), label.name());
    }

    /**
     * Puts something back where it stood; an asset whose place is taken gets a folder beside it.
     *
     * @return where it is now
     * @throws LibraryException where an asset with its id stands on a shelf, or a file's place is taken
     */
    public Path restore(TrashItem item) {
        return store.changing(item.folder(), "cannot be restored", () -> {
            Path stood = store.root().resolve(item.path()).normalize();
            if (!stood.startsWith(store.root())) {
                throw new LibraryException(item.folder(), "says that it stood outside the library");
            }
            Path place = stood;
            if (!item.id().isEmpty()) {
                if (store.byId(item.id()).isPresent()) {
                    throw new LibraryException(item.folder(), "is on a shelf already: " + item.name());
                }
                places.takeDown(place, item.id());
                place = stood.resolveSibling(Names.free(
                        stood.getFileName().toString(), "-", taken -> Files.exists(stood.resolveSibling(taken))));
            }
            Files.createDirectories(place.getParent());
            AtomicFiles.publishFolder(item.folder().resolve(stood.getFileName()), place);
            AtomicFiles.deleteTree(item.folder());
            if (!item.id().isEmpty()) {
                Asset asset = store.asset(place);
                if (!place.equals(stood)) {
                    Uses.mend(store.tree().assetFolders(), Map.of(stood, place));
                }
                journal.about(RESTORED, asset).write();
            }
            return place;
        });
    }

    /**
     * Deletes things for good.
     *
     * @throws LibraryException where one cannot be deleted
     */
    public void delete(List<TrashItem> items) {
        for (TrashItem item : items) {
            try {
                AtomicFiles.deleteTree(item.folder());
                if (!item.id().isEmpty()) {
                    journal.about(DELETED, item.id(), item.name()).write();
                }
            } catch (IOException e) {
                throw new LibraryException(item.folder(), "cannot be deleted: " + IoProblems.describe(e), e);
            }
        }
    }
}
