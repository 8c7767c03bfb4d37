package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.file.LayerFiles;
import pantry.usd.text.UsdaWriter;

/**
 * A library in a folder. Safe for use by several threads and several processes at once: versions are published by a
 * rename that only one can win, and cards and places are changed under a lock (see {@link LibraryLock}).
 */
public final class Library {
    static final String READY_LAYER = "ready.usda";
    static final String CARD = "card.json";
    static final String MARKER = "pantry-library.json";
    static final String ASSETS = "assets";

    /** So often may an asset have been moved that its first place still leads to it. */
    private static final int MOST_HOPS = 100;

    /** How often the shelves are walked until somebody is told that something is not there. */
    private static final int MOST_WALKS = 3;

    private final Path root;
    private final Info info;
    private final LibraryLock lock;
    private final Journal journal;
    private final Reservations reservations;
    private final Publishing publishing;
    private final Places places;
    private final Trash trash;
    private final String who;
    private final Clock clock;
    private final Set<Claim> claimed = new HashSet<>();

    /** The library's own facts, as its marker file holds them. */
    public record Info(String id, String name, int format, double unit, String upAxis) {}

    /** A card that was changed, and how. */
    public record Edited(Asset asset, CardChanges changes) {}

    private Library(Path root, Info info, String who, Clock clock) {
        this.root = root;
        this.info = info;
        this.who = who;
        this.clock = clock;
        this.lock = new LibraryLock(root);
        this.journal = new Journal(root, who, clock);
        this.reservations = new Reservations(root, journal, who, Publishing.host(), clock);
        this.publishing = new Publishing(this, who, clock);
        this.places = new Places(this);
        this.trash = new Trash(this, who, clock);
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
            Info info = new Info(UUID.randomUUID().toString(), Names.given(name), Format.NOW, 1, "Y");
            for (String sub : List.of(ASSETS, "incoming", "reservations", "journal", "trash")) {
                Files.createDirectories(root.resolve(sub));
            }
            AtomicFiles.write(root.resolve(MARKER), Json.write(info));
            return new Library(root, info, who, clock);
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
        Path marker = root.resolve(MARKER);
        if (!Files.exists(marker)) {
            throw new LibraryException(root, "is not a library: it has no " + MARKER);
        }
        Info info = Json.read(marker, Info.class);
        if (info.id() == null || info.name() == null || info.format() < 1) {
            throw new LibraryException(marker, "lacks the library's id, name or format");
        }
        if (info.format() > Format.NOW) {
            throw new LibraryException(
                    root,
                    "has format " + info.format() + ", made by a newer Pantry; this one knows up to " + Format.NOW);
        }
        Library library = new Library(root, info, who, clock);
        library.publishing.clearIncoming();
        return library;
    }

    /** Whether a folder is a library, by its marker. */
    public static boolean isLibrary(Path folder) {
        return Files.isRegularFile(folder.resolve(MARKER));
    }

    /** Whether a path leads to what a library keeps of its assets. */
    public static boolean isWithin(Path path) {
        for (Path at = path; at.getParent() != null; at = at.getParent()) {
            if (at.endsWith(ASSETS) && isLibrary(at.getParent())) {
                return true;
            }
        }
        return false;
    }

    /** A name that is taken for an asset that is being shelved, until that is done or given up. */
    public record Claim(String shelf, String name) {}

    /**
     * Takes a name that no other asset on a shelf has, on disk or just being shelved by this process: the given one, or
     * that with a number behind it.
     *
     * @return to be {@link #release released} in the end
     */
    public Claim claimName(String shelf, String name) {
        String path = Shelf.path(shelf);
        Path folder = root.resolve(ASSETS).resolve(path);
        // Equal names have equal slugs, but for a number behind.
        String slug = Names.slug(name);
        synchronized (claimed) {
            Set<String> taken = new HashSet<>();
            claimed.stream()
                    .filter(claim -> claim.shelf().equals(path))
                    .forEach(claim -> taken.add(folded(claim.name())));
            if (Files.isDirectory(folder)) {
                try (Stream<Path> inside = Files.list(folder)) {
                    for (Path asset : inside.filter(each ->
                                    each.getFileName().toString().startsWith(slug) && Files.exists(each.resolve(CARD)))
                            .toList()) {
                        taken.add(folded(
                                Json.read(asset.resolve(CARD), Card.class).name()));
                    }
                } catch (IOException e) {
                    throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
                }
            }
            Claim claim = new Claim(path, Names.free(name, " ", candidate -> taken.contains(folded(candidate))));
            claimed.add(claim);
            return claim;
        }
    }

    /**
     * Makes sure that no other asset on a shelf has a name, in whatever case.
     *
     * @throws LibraryException where one has
     */
    private void requireFreeName(Asset asset, String name) {
        boolean taken = places.assetFolders(Set.of(asset.shelf())).stream()
                .filter(folder -> !folder.equals(asset.folder()))
                .anyMatch(folder -> nameIn(folder).filter(folded(name)::equals).isPresent());
        if (taken) {
            throw new LibraryException(
                    asset.folder(), "cannot be called \"" + name + "\": another asset on its shelf is");
        }
    }

    /** The name on a card; none where that cannot be understood. */
    private static Optional<String> nameIn(Path folder) {
        try {
            return Optional.of(
                    folded(Json.read(folder.resolve(CARD), Card.class).name()));
        } catch (PantryException e) {
            return Optional.empty();
        }
    }

    /** Gives a name free again: it stands on a card now, or is not needed. */
    public void release(Claim claim) {
        synchronized (claimed) {
            claimed.remove(claim);
        }
    }

    private static String folded(String name) {
        return name.toLowerCase(Locale.ROOT);
    }

    public Path root() {
        return root;
    }

    public Info info() {
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
        return who;
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

    Publishing publishing() {
        return publishing;
    }

    /** Whether its format is older than what this Pantry makes. */
    public boolean isOlder() {
        return info.format() < Format.NOW;
    }

    /** Brings the library to the newest format; {@link #downgrade} takes that back. */
    public Library upgrade(Progress progress) {
        return changing(root, "cannot be upgraded", () -> {
            Format.upgrade(this, progress);
            return open(root, who, clock);
        });
    }

    /** Brings the library back to the format it had before {@link #upgrade}. */
    public Library downgrade(Progress progress) {
        return changing(root, "cannot be brought back to its older format", () -> {
            Format.downgrade(this, progress);
            return open(root, who, clock);
        });
    }

    /** Does something while nobody else changes the library. */
    <T> T changing(Path what, String failure, LibraryLock.Action<T> action) {
        try {
            return lock.holding(action);
        } catch (IOException e) {
            throw new LibraryException(what, failure + ": " + IoProblems.describe(e), e);
        }
    }

    /** All shelves, with those that nothing stands on, sorted. */
    public List<String> shelves() {
        return places.shelves();
    }

    /** All assets, by shelf and folder name; those whose card cannot be understood are left out (see {@link #verify}). */
    public List<Asset> assets() {
        List<Asset> assets = new ArrayList<>();
        for (Path folder : assetFolders()) {
            try {
                assets.add(asset(folder));
            } catch (PantryException e) {
                // Said by verify; one bad card must not close the shelf.
            }
        }
        return assets;
    }

    /** Every folder below {@code assets/} that holds a card, sorted. */
    public List<Path> assetFolders() {
        return places.assetFolders();
    }

    /** The folders that hold a card and stand directly on some shelves. */
    public List<Path> assetFolders(Set<String> shelves) {
        return places.assetFolders(shelves);
    }

    /** The asset in a folder of this library. */
    public Asset asset(Path folder) {
        return new Asset(
                folder, shelfOf(folder.getParent()), Json.read(folder.resolve(CARD), Card.class), versions(folder));
    }

    /** The path of the shelf that is in a folder. */
    String shelfOf(Path folder) {
        return root.resolve(ASSETS).relativize(folder).toString().replace('\\', '/');
    }

    static List<String> versions(Path folder) {
        try (Stream<Path> inside = Files.list(folder)) {
            return inside.filter(
                            path -> VersionName.matches(path.getFileName().toString()) && !Files.isSymbolicLink(path))
                    .map(path -> path.getFileName().toString())
                    .sorted(VersionName.ORDER)
                    .toList();
        } catch (IOException e) {
            throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /**
     * The asset that a person names: by its id, by shelf and name, or by a name that only one has.
     *
     * @throws LibraryException where there is none, or more than one
     */
    public Asset find(String named) {
        // What is being moved while the shelves are walked may be met neither where it was nor where it goes.
        for (int attempt = 1; attempt < MOST_WALKS; attempt++) {
            Optional<Asset> found = lookFor(named);
            if (found.isPresent()) {
                return found.get();
            }
        }
        return lookFor(named)
                .orElseThrow(
                        () -> new LibraryException(root, "has no asset \"" + named + "\"; give an id or Shelf/Name"));
    }

    private Optional<Asset> lookFor(String named) {
        List<Asset> assets = assets();
        List<Asset> hits = assets.stream()
                .filter(asset -> asset.card().id().equals(named)
                        || asset.address().equalsIgnoreCase(named)
                        || (asset.shelf() + "/" + asset.slug()).equalsIgnoreCase(named))
                .toList();
        if (hits.isEmpty()) {
            hits = assets.stream()
                    .filter(asset -> asset.card().name().equalsIgnoreCase(named)
                            || asset.slug().equalsIgnoreCase(named))
                    .toList();
        }
        if (hits.size() > 1) {
            throw new LibraryException(
                    root,
                    "has " + hits.size() + " assets \"" + named + "\": "
                            + String.join(
                                    ", ", hits.stream().map(Asset::address).toList()) + "; give Shelf/Name");
        }
        return hits.stream().findFirst();
    }

    /** The asset with an id. */
    public Optional<Asset> byId(String id) {
        return assets().stream().filter(asset -> asset.card().id().equals(id)).findFirst();
    }

    /** The asset that a file belongs to, also where it was moved since the file's path was written. */
    public Optional<Owner> owner(Path file) {
        Path at = file.toAbsolutePath().normalize();
        Optional<String> version = Optional.empty();
        for (Path up = at; up != null && up.startsWith(root.resolve(ASSETS)); up = up.getParent()) {
            String name = up.getFileName().toString();
            if (VersionName.matches(name)) {
                version = Optional.of(name);
            }
            Path folder = up;
            for (int hops = 0; hops < MOST_HOPS && Redirects.target(folder).isPresent(); hops++) {
                folder = Redirects.target(folder).get();
            }
            if (Files.exists(folder.resolve(CARD))) {
                return Optional.of(new Owner(asset(folder), version));
            }
        }
        return Optional.empty();
    }

    /**
     * An asset as it is now, although it may have been moved or changed since it was read.
     *
     * @throws LibraryException where it is no longer on a shelf
     */
    public Asset current(Asset asset) {
        return current(asset.folder(), asset.card().id());
    }

    /** As above, of an asset of which only the folder where it stood and its id are known. */
    public Asset current(Path stood, String id) {
        Path folder = stood;
        for (int hops = 0; hops < MOST_HOPS; hops++) {
            if (Files.exists(folder.resolve(CARD))) {
                Asset found = asset(folder);
                if (found.card().id().equals(id)) {
                    return found;
                }
                break;
            }
            Optional<Path> further = Redirects.target(folder);
            if (further.isEmpty()) {
                break;
            }
            folder = further.get();
        }
        return byId(id).orElseThrow(() -> new LibraryException(stood, "is no longer on a shelf"));
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
     * Publishes the next version of an asset.
     *
     * @param status as a draft, or as the ready one
     * @throws LibraryException where somebody else has reserved the asset
     */
    public Published publish(
            Asset asset, VersionStatus status, VersionContents contents, Map<String, String> info, Progress progress) {
        return publishing.publish(asset, status, contents, info, progress);
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
        Asset now = current(asset);
        requireVersion(now, version);
        return publish(
                now,
                VersionStatus.READY,
                new Reissue(now, version, now.card().id()),
                noted(note.isBlank() ? "as " + version + " was" : note, Publishing.lastingLabels(seal(now, version))),
                progress);
    }

    static void requireVersion(Asset asset, String version) {
        if (!asset.versions().contains(version)) {
            throw new LibraryException(
                    asset.folder(), "has no version " + version + "; it has " + String.join(", ", asset.versions()));
        }
    }

    /** Says how far a version may be relied on; scenes that follow get the one made ready last. */
    public Asset setStatus(Asset asset, String version, VersionStatus status) {
        Asset now = current(asset);
        requireVersion(now, version);
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
        return changing(asset.folder(), "the card cannot be changed", () -> {
            Asset before = current(asset);
            Card wanted = changed(before, change);
            if (!wanted.licence().equals(before.card().licence())) {
                Licences.require(wanted.licence());
            }
            if (!wanted.name().equals(before.card().name())) {
                wanted = wanted.withName(Names.given(wanted.name()));
                requireFreeName(before, wanted.name());
            }
            Asset after = writeCard(before, wanted);
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

    /** Changes a card, and the layer that followers reference with it; the journal says nothing of it. */
    Asset changeCard(Asset asset, UnaryOperator<Card> change) {
        return changing(asset.folder(), "the card cannot be changed", () -> {
            Asset before = current(asset);
            return writeCard(before, change.apply(before.card()));
        });
    }

    /** Writes a card and what depends on it; to be called while nobody else changes the library. */
    Asset writeCard(Asset asset, Card card) throws IOException {
        Card placed = placed(card, asset.shelf());
        Asset changed = new Asset(asset.folder(), asset.shelf(), placed, versions(asset.folder()));
        Path file = asset.folder().resolve(CARD);
        if (!Objects.equals(asset.card().ready(), placed.ready()) || !Files.exists(changed.readyLayer())) {
            publishing.intending(asset.folder(), () -> {
                AtomicFiles.write(file, Json.write(placed));
                writeReadyLayer(changed);
                return file;
            });
        } else if (!placed.equals(asset.card())) {
            AtomicFiles.write(file, Json.write(placed));
        }
        return changed;
    }

    /** A card of an asset on a shelf, as this library's format keeps it. */
    Card placed(Card card, @Nullable String shelf) {
        return card.on(info.format() >= Format.WITH_SHELF ? shelf : null);
    }

    void writeReadyLayer(Asset asset) {
        Optional<String> ready = asset.ready();
        if (ready.isEmpty()) {
            // Whoever follows keeps what was ready last; that it is retired is said where it is used.
            return;
        }
        LayerFiles.write(readyLayer(asset, ready.get()), asset.readyLayer());
    }

    /** The layer that leads those who follow an asset to a version. */
    private static Layer readyLayer(Asset asset, String version) {
        Path entry = asset.entryLayer(version);
        String prim = LayerFiles.read(entry)
                .defaultPrim()
                .orElseThrow(() -> new LibraryException(entry, "the entry layer has no default prim"));
        Layer layer = Layer.inMetres(asset.readyLayer(), prim);
        PrimSpec spec = layer.root().define("", prim);
        spec.setReferences(Reference.to("./" + version + "/data/" + entry.getFileName()));
        return layer;
    }

    /**
     * Whether the layer that followers reference leads to the ready version, and says nothing else. True too where that
     * version cannot be read, which is its own damage and not the layer's.
     */
    boolean leadsToReady(Asset asset) {
        String expected;
        try {
            expected = UsdaWriter.write(readyLayer(asset, asset.ready().orElseThrow()));
        } catch (PantryException e) {
            return true;
        }
        try {
            return !Files.isSymbolicLink(asset.readyLayer())
                    && UsdaWriter.write(LayerFiles.read(asset.readyLayer())).equals(expected);
        } catch (PantryException e) {
            return false;
        }
    }

    /** What a version's seal says of it: who made it, when, and the labels that were given with it. */
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
        publishing.clearIncoming();
        return new Verifier(this).verify(progress);
    }
}
