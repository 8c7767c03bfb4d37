package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.usd.Layer;

/**
 * A library in a folder. Safe for use by several threads and several processes at once: versions are published by a
 * rename that only one can win, and cards and places are changed under a lock (see {@link LibraryLock}).
 */
public final class Library {
    private final Path root;
    private final LibraryInfo info;
    private final Author author;
    private final AssetStore store;
    private final Incoming incoming;
    private final Journal journal;
    private final Reservations reservations;
    private final Publishing publishing;
    private final Places places;
    private final Trash trash;

    /** A card that was changed, and how. */
    public record Edited(Asset asset, CardChanges changes) {}

    private Library(Path root, LibraryInfo info, Author author) {
        this.root = root;
        this.info = info;
        this.author = author;
        this.incoming = new Incoming(root, this::finish);
        this.store = new AssetStore(root, info, incoming);
        this.journal = new Journal(root, author);
        this.reservations = new Reservations(root, journal, author);
        this.publishing = new Publishing(store, incoming, journal, reservations, author);
        this.places = new Places(store, incoming, journal, reservations);
        this.trash = new Trash(store, places, journal, reservations, author);
    }

    private void finish(Incoming.Intent intent) {
        places.finish(intent);
    }

    /**
     * Makes an empty library.
     *
     * @param folder missing or empty
     * @param who the name that the journal gives for changes
     * @throws LibraryException where the folder is in use or cannot be written
     */
    public static Library create(Path folder, String name, String who, Clock clock) {
        Path root = folder.toAbsolutePath().normalize();
        try {
            Files.createDirectories(root);
            try (Stream<Path> inside = Files.list(root)) {
                if (inside.findAny().isPresent()) {
                    throw new LibraryException(root, "is not empty; a library needs a folder of its own");
                }
            }
            LibraryInfo info =
                    new LibraryInfo(UUID.randomUUID().toString(), Names.given(name), LibraryInfo.NEWEST, 1, "Y");
            for (String sub : List.of(LibraryLayout.ASSETS, "incoming", "reservations", "journal", "trash")) {
                Files.createDirectories(root.resolve(sub));
            }
            AtomicFiles.write(root.resolve(LibraryLayout.MARKER), Json.write(info));
            return new Library(root, info, new Author(who, clock));
        } catch (IOException e) {
            throw new LibraryException(root, "cannot become a library: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Opens a library and clears what stopped processes left in {@code incoming/}. One of an older format is read and
     * changed as it is; see {@link #upgrade}.
     *
     * @throws LibraryException where the folder is not a library, or one of a newer format
     */
    public static Library open(Path folder, String who, Clock clock) {
        Path root = folder.toAbsolutePath().normalize();
        if (!Files.isDirectory(root)) {
            throw new LibraryException(root, "there is no such folder");
        }
        Path marker = root.resolve(LibraryLayout.MARKER);
        if (!Files.exists(marker)) {
            throw new LibraryException(root, "is not a library: it has no " + LibraryLayout.MARKER);
        }
        LibraryInfo info = Json.read(marker, LibraryInfo.class);
        if (info.id() == null || info.name() == null || info.format() < 1) {
            throw new LibraryException(marker, "lacks the library's id, name or format");
        }
        if (info.format() > LibraryInfo.NEWEST) {
            throw new LibraryException(
                    root,
                    "has format " + info.format() + ", made by a newer Pantry; this one knows up to "
                            + LibraryInfo.NEWEST);
        }
        Library library = new Library(root, info, new Author(who, clock));
        library.incoming.clear();
        return library;
    }

    /** Whether a folder is a library, by its marker. */
    public static boolean isLibrary(Path folder) {
        return Files.isRegularFile(folder.resolve(LibraryLayout.MARKER));
    }

    /** Whether a path leads to what a library keeps of its assets. */
    public static boolean isWithin(Path path) {
        for (Path at = path; at.getParent() != null; at = at.getParent()) {
            if (at.endsWith(LibraryLayout.ASSETS) && isLibrary(at.getParent())) {
                return true;
            }
        }
        return false;
    }

    public Path root() {
        return root;
    }

    public LibraryInfo info() {
        return info;
    }

    /** Whether anything can be written in it. */
    public boolean writable() {
        return Files.isWritable(root.resolve("incoming"));
    }

    /** The place on disk answers: it has not been unplugged, and its server is up. */
    public boolean present() {
        return isLibrary(root);
    }

    /** Who changes it, as its journal says. */
    public String who() {
        return author.who();
    }

    public Journal journal() {
        return journal;
    }

    public Reservations reservations() {
        return reservations;
    }

    public Places places() {
        return places;
    }

    public Trash trash() {
        return trash;
    }

    Incoming incoming() {
        return incoming;
    }

    Publishing publishing() {
        return publishing;
    }

    AssetStore store() {
        return store;
    }

    /** Whether its format is older than what this Pantry makes. */
    public boolean isOlder() {
        return info.format() < LibraryInfo.NEWEST;
    }

    /** Brings the library to the newest format; {@link #downgrade} takes that back. */
    public Library upgrade(Progress progress) {
        return store.changing(root, "cannot be upgraded", () -> {
            Format.upgrade(store, progress);
            return open(root, author.who(), author.clock());
        });
    }

    /** Brings the library back to the format it had before {@link #upgrade}. */
    public Library downgrade(Progress progress) {
        return store.changing(root, "cannot be brought back to its older format", () -> {
            Format.downgrade(store, progress);
            return open(root, author.who(), author.clock());
        });
    }

    /** All shelves, with those that nothing stands on, sorted. */
    public List<String> shelves() {
        return places.shelves();
    }

    /** All assets, by shelf and folder name; those whose card cannot be understood are left out (see {@link #verify}). */
    public List<Asset> assets() {
        return store.assets();
    }

    /** As above, of those whose folders are wanted; no other card is read. */
    public List<Asset> assets(Predicate<Path> wanted) {
        return store.assets(wanted);
    }

    /** Every folder below {@code assets/} that holds a card, sorted. */
    public List<Path> assetFolders() {
        return store.tree().assetFolders();
    }

    /** The folders that hold a card and stand directly on some shelves. */
    public List<Path> assetFolders(Set<String> shelves) {
        return store.tree().assetFolders(shelves);
    }

    /** The asset in a folder of this library. */
    public Asset asset(Path folder) {
        return store.asset(folder);
    }

    /**
     * The asset that a person names: by its id, by shelf and name, or by a name that only one has.
     *
     * @throws LibraryException where there is none, or more than one
     */
    public Asset find(String named) {
        return store.find(named);
    }

    /** The asset with an id. */
    public Optional<Asset> byId(String id) {
        return store.expected(id);
    }

    /** The folder of a shelf, whether it is there or not. @param shelf its path */
    public Path shelfFolder(String shelf) {
        return root().resolve(LibraryLayout.ASSETS).resolve(shelf);
    }

    /** The asset that a file belongs to, also where it was moved since the file's path was written. */
    public Optional<Owner> owner(Path file) {
        return store.owner(file);
    }

    /**
     * An asset as it is now, although it may have been moved or changed since it was read.
     *
     * @throws LibraryException where it is no longer on a shelf
     */
    public Asset current(Asset asset) {
        return store.current(asset);
    }

    /** As above, of an asset of which only the folder where it stood and its id are known. */
    public Asset current(Path stood, String id) {
        return store.current(stood, id);
    }

    /** As above; empty where it is no longer on a shelf. */
    public Optional<Asset> located(Path stood, String id) {
        return store.located(stood, id);
    }

    /**
     * Takes a name that no other asset on a shelf has, on disk or just being shelved by this process: the given one, or
     * that with a number behind it.
     *
     * @return to be {@link #release released} in the end
     */
    public NameClaim claimName(String shelf, String name) {
        return store.claimName(shelf, name);
    }

    /** Gives a name free again: it stands on a card now, or is not needed. */
    public void release(NameClaim claim) {
        store.release(claim);
    }

    /**
     * Puts a new asset on a shelf, with its first version, which is ready.
     *
     * @param shelf made where it is missing
     * @return the asset, whose folder has a number behind its name where that name was taken
     */
    public Published shelve(
            Card card, String shelf, VersionContents contents, Map<String, String> info, Progress progress) {
        return publishing.shelve(card, Shelf.path(shelf), contents, info, progress);
    }

    /**
     * Publishes the next version of an asset. What the one before said of its physics as a whole holds on, unless the
     * contents say something else.
     *
     * @param status as a draft, or as the ready one
     * @throws LibraryException where somebody else has reserved the asset
     */
    public Published publish(
            Asset asset, VersionStatus status, VersionContents contents, Map<String, String> info, Progress progress) {
        VersionContents whole = (data, slug, version) -> {
            contents.write(data, slug, version);
            LastingPhysics.carry(store.current(asset), data, slug);
        };
        return publishing.publish(asset, status, whole, info, progress);
    }

    /** What of a version is not as it was sealed; nothing where all is well. Reads all its files. */
    public static List<Problem> check(Asset asset, String version) {
        return Bag.check(asset.folder().resolve(version));
    }

    /** The labels of a version's seal by which a note is given. */
    public static Map<String, String> noted(String note, Map<String, String> labels) {
        Map<String, String> all = new LinkedHashMap<>(labels);
        if (!note.isBlank()) {
            all.put(Publishing.NOTE_LABEL, note.strip());
        }
        return all;
    }

    /** Publishes an earlier version once more, as the newest and ready one; nothing is lost. */
    public Published goBack(Asset asset, String version, String note, Progress progress) {
        return goBack(asset, version, VersionStatus.READY, note, progress);
    }

    /** As above, as a draft or a ready one. */
    public Published goBack(Asset asset, String version, VersionStatus status, String note, Progress progress) {
        return reissue(asset, version, layer -> {}, status, note.isBlank() ? "as " + version + " was" : note, progress);
    }

    /**
     * Publishes a version's contents once more, with something else in their entry layer.
     *
     * @throws LibraryException where there is no such version, or somebody else has reserved the asset
     */
    public Published reissue(
            Asset asset, String version, Consumer<Layer> edit, VersionStatus status, String note, Progress progress) {
        Asset now = store.current(asset);
        AssetStore.requireVersion(now, version);
        return publishing.publish(
                now,
                status,
                new Reissue(now, version, now.card().id(), edit),
                noted(note, Publishing.lastingLabels(seal(now, version))),
                progress);
    }

    /**
     * Lets those that follow an asset have again what they had before a version was published; that becomes a draft.
     *
     * @param followed the version that was followed before; empty where none was
     */
    public void unfollow(Asset asset, String version, Optional<String> followed) {
        Asset draft = setStatus(asset, version, VersionStatus.DRAFT);
        followed.filter(draft.versions()::contains).ifPresent(before -> setStatus(draft, before, VersionStatus.READY));
    }

    /** Says how far a version may be relied on; scenes that follow get the one made ready last. */
    public Asset setStatus(Asset asset, String version, VersionStatus status) {
        Asset now = store.current(asset);
        AssetStore.requireVersion(now, version);
        return edit(now, card -> card.with(version, status)).asset();
    }

    /**
     * Changes cards, each by what it is at that moment; the journal says what was changed.
     *
     * @return what was changed, for {@link #undo}; cards that stay as they are, are left out
     */
    public List<Edited> edit(List<Asset> assets, UnaryOperator<Card> change, Progress progress) {
        List<Edited> edited = new ArrayList<>();
        for (int i = 0; i < assets.size(); i++) {
            progress.step("changing " + assets.get(i).card().name(), (double) i / assets.size());
            Edited one = edit(assets.get(i), change);
            if (!one.changes().isEmpty()) {
                edited.add(one);
            }
        }
        return edited;
    }

    private Edited edit(Asset asset, UnaryOperator<Card> change) {
        return store.changing(asset.folder(), "the card cannot be changed", () -> {
            Asset before = store.current(asset);
            Card wanted = changed(before, change);
            if (!wanted.licence().equals(before.card().licence())) {
                wanted = wanted.withLicence(Licences.given(wanted.licence()));
            }
            if (!wanted.tags().equals(before.card().tags())) {
                wanted = wanted.withTags(Tags.given(wanted.tags()));
            }
            if (!wanted.name().equals(before.card().name())) {
                wanted = wanted.withName(Names.given(wanted.name()));
                store.requireFreeName(before, wanted.name());
            }
            Asset after = store.writeCard(before, wanted);
            CardChanges changes = CardChanges.between(before.card(), after.card());
            if (!changes.isEmpty()) {
                journal.about("card", after).changes(changes).write();
            }
            return new Edited(after, changes);
        });
    }

    private static Card changed(Asset asset, UnaryOperator<Card> change) {
        try {
            return change.apply(asset.card());
        } catch (IllegalArgumentException e) {
            throw new LibraryException(asset.folder(), "cannot have such a card: " + e.getMessage(), e);
        }
    }

    /** Takes back what {@link #edit} changed, and leaves alone what was changed since. */
    public List<Edited> undo(List<Edited> edited, Progress progress) {
        List<Edited> undone = new ArrayList<>();
        for (Edited each : edited) {
            undone.addAll(edit(List.of(each.asset()), each.changes()::undone, progress));
        }
        return undone;
    }

    /**
     * What a version's seal says of it: who made it, when, and the labels that were given with it.
     *
     * @throws LibraryException where the seal cannot be read
     */
    public Map<String, String> seal(Asset asset, String version) {
        try {
            return Bag.info(asset.folder().resolve(version));
        } catch (IOException e) {
            throw new LibraryException(
                    asset.folder().resolve(version), "the seal cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /** An asset's versions, the oldest first. */
    public List<VersionInfo> history(Asset asset) {
        return asset.versions().stream()
                .map(version -> {
                    Map<String, String> seal = seal(asset, version);
                    return new VersionInfo(
                            version,
                            asset.status(version),
                            version.equals(asset.card().ready()),
                            seal.getOrDefault(Publishing.TIME_LABEL, seal.getOrDefault("Bagging-Date", "")),
                            seal.getOrDefault("Contact-Name", ""),
                            seal.getOrDefault(Publishing.NOTE_LABEL, ""));
                })
                .toList();
    }

    /** Checks every card, every place and every sealed version against its checksums. */
    public Verification verify(Progress progress) {
        incoming.clear();
        return new Verifier(store, incoming, journal, reservations, trash).verify(progress);
    }
}
