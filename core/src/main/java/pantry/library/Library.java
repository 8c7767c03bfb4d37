package pantry.library;

import java.io.IOException;
import java.net.InetAddress;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import java.util.stream.Stream;
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

/**
 * A library in a folder. Safe for use by several threads and several processes at once: versions are published by a
 * rename that only one can win, and cards are changed under a lock on the library's lock file.
 *
 * <p>The lock is the operating system's; on a network share that has none, two people changing the same card in the
 * same instant may lose one of the changes, but never a version.
 */
public final class Library {
    static final String READY_LAYER = "ready.usda";
    private static final String MARKER = "pantry-library.json";
    private static final String CARD = "card.json";
    private static final int FORMAT = 1;
    private static final Pattern VERSION = Pattern.compile("v\\d{3,}");
    private static final DateTimeFormatter SORTABLE =
            DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmssSSS").withZone(ZoneOffset.UTC);
    private static final Duration STALE = Duration.ofDays(1);

    private final Path root;
    private final Info info;
    private final String who;
    private final Clock clock;
    private final ReentrantLock ownThreads = new ReentrantLock();
    private final Set<Claim> claimed = new HashSet<>();

    /** The library's own facts, as its marker file holds them. */
    public record Info(String id, String name, int format, double unit, String upAxis) {}

    private record Entry(Instant when, String who, String what, String asset, String version) {}

    private Library(Path root, Info info, String who, Clock clock) {
        this.root = root;
        this.info = info;
        this.who = who;
        this.clock = clock;
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
            Info info = new Info(UUID.randomUUID().toString(), name, FORMAT, 1, "Y");
            for (String sub : List.of("assets", "incoming", "reservations", "journal", "trash")) {
                Files.createDirectories(root.resolve(sub));
            }
            AtomicFiles.write(root.resolve(MARKER), Json.write(info));
            return new Library(root, info, who, clock);
        } catch (IOException e) {
            throw new LibraryException(root, "cannot become a library: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Opens a library and clears what stopped processes left in {@code incoming/}.
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
        if (info.format() > FORMAT) {
            throw new LibraryException(
                    root, "has format " + info.format() + ", made by a newer Pantry; this one knows up to " + FORMAT);
        }
        Library library = new Library(root, info, who, clock);
        library.clearIncoming();
        return library;
    }

    /** Whether a folder is a library, by its marker. */
    public static boolean isLibrary(Path folder) {
        return Files.isRegularFile(folder.resolve(MARKER));
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
        Path folder = root.resolve("assets").resolve(path);
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

    /** Removes what processes that no longer run, or that nobody knows for a day, were building. */
    private void clearIncoming() {
        Path incoming = root.resolve("incoming");
        try (Stream<Path> rubbish = Files.list(incoming)) {
            for (Path folder : rubbish.toList()) {
                if (abandoned(folder)) {
                    AtomicFiles.deleteTree(folder);
                }
            }
        } catch (IOException e) {
            // A library that cannot be written keeps its rubbish; it can be read all the same.
        }
    }

    private boolean abandoned(Path folder) throws IOException {
        String[] parts = folder.getFileName().toString().split("~");
        if (parts.length == 3 && parts[0].equals(host()) && parts[1].matches("\\d{1,18}")) {
            return ProcessHandle.of(Long.parseLong(parts[1])).isEmpty();
        }
        return Files.getLastModifiedTime(folder)
                .toInstant()
                .isBefore(clock.instant().minus(STALE));
    }

    private static String host() {
        try {
            return Names.slug(InetAddress.getLocalHost().getHostName());
        } catch (java.net.UnknownHostException e) {
            return "unknown";
        }
    }

    private Path newIncoming() throws IOException {
        Path folder = root.resolve("incoming")
                .resolve(host() + "~" + ProcessHandle.current().pid() + "~" + UUID.randomUUID());
        return Files.createDirectories(folder);
    }

    /** All shelves with something on them, sorted. */
    public List<String> shelves() {
        return assets().stream().map(Asset::shelf).distinct().sorted().toList();
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
        List<Path> folders = new ArrayList<>();
        collect(root.resolve("assets"), folders);
        return folders;
    }

    private void collect(Path folder, List<Path> found) {
        if (Files.exists(folder.resolve(CARD))) {
            found.add(folder);
            return;
        }
        try (Stream<Path> inside = Files.list(folder)) {
            inside.filter(path -> Files.isDirectory(path)
                            && !path.getFileName().toString().startsWith("."))
                    .sorted()
                    .forEach(path -> collect(path, found));
        } catch (IOException e) {
            throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /** The asset in a folder of this library. */
    public Asset asset(Path folder) {
        Card card = Json.read(folder.resolve(CARD), Card.class);
        Path shelf = root.resolve("assets").relativize(folder).getParent();
        return new Asset(folder, shelf == null ? "" : shelf.toString().replace('\\', '/'), card, versions(folder));
    }

    private static List<String> versions(Path folder) {
        try (Stream<Path> inside = Files.list(folder)) {
            return inside.filter(Files::isDirectory)
                    .map(path -> path.getFileName().toString())
                    .filter(name -> VERSION.matcher(name).matches())
                    .sorted(java.util.Comparator.comparingInt(Library::number))
                    .toList();
        } catch (IOException e) {
            throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    private static int number(String version) {
        return Integer.parseInt(version.substring(1));
    }

    private static String version(int number) {
        return String.format("v%03d", number);
    }

    /**
     * The asset that a person names: by its id, by shelf and name, or by a name that only one has.
     *
     * @throws LibraryException where there is none, or more than one
     */
    public Asset find(String named) {
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
        if (hits.isEmpty()) {
            throw new LibraryException(root, "has no asset \"" + named + "\"; give an id or Shelf/Name");
        }
        if (hits.size() > 1) {
            throw new LibraryException(
                    root,
                    "has " + hits.size() + " assets \"" + named + "\": "
                            + String.join(
                                    ", ", hits.stream().map(Asset::address).toList()) + "; give Shelf/Name");
        }
        return hits.getFirst();
    }

    /**
     * Puts a new asset on a shelf, with its first version, which is ready.
     *
     * @param shelf made where it is missing
     * @return the asset, whose folder has a number behind its name where that name was taken
     */
    public Published shelve(Card card, String shelf, Contents contents, Map<String, String> info, Progress progress) {
        String shelfPath = Shelf.path(shelf);
        try {
            Path shelfFolder = root.resolve("assets");
            for (String name : shelfPath.split("/")) {
                shelfFolder = shelfFolder.resolve(name);
                if (Files.exists(shelfFolder.resolve(CARD))) {
                    throw new LibraryException(shelfFolder, "is an asset and cannot hold others");
                }
            }
            Files.createDirectories(shelfFolder);
            Path incoming = newIncoming();
            try {
                while (true) {
                    Path shelfNow = shelfFolder;
                    String slug =
                            Names.free(Names.slug(card.name()), "-", taken -> Files.exists(shelfNow.resolve(taken)));
                    Path building = incoming.resolve(slug);
                    AtomicFiles.deleteTree(building);
                    String version = version(1);
                    seal(building.resolve(version), slug, version, contents, info, progress);
                    Card first = card.with(version, VersionStatus.READY);
                    AtomicFiles.write(building.resolve(CARD), Json.write(first));
                    writeReadyLayer(new Asset(building, shelfPath, first, List.of(version)));
                    try {
                        AtomicFiles.publishFolder(building, shelfFolder.resolve(slug));
                    } catch (FileAlreadyExistsException e) {
                        // Somebody shelved under this name meanwhile: take the next one.
                        continue;
                    }
                    Asset asset = asset(shelfFolder.resolve(slug));
                    journal("shelved", asset, version);
                    return new Published(asset, version);
                }
            } finally {
                AtomicFiles.deleteTree(incoming);
            }
        } catch (IOException e) {
            throw new LibraryException(root, "the asset could not be shelved: " + IoProblems.describe(e), e);
        }
    }

    /** Publishes the next version of an asset, as a draft or as the ready one. */
    public Published publish(
            Asset asset, VersionStatus status, Contents contents, Map<String, String> info, Progress progress) {
        try {
            Path incoming = newIncoming();
            try {
                while (true) {
                    int next = versions(asset.folder()).stream()
                                    .mapToInt(Library::number)
                                    .max()
                                    .orElse(0)
                            + 1;
                    String version = version(next);
                    Path building = incoming.resolve(version);
                    AtomicFiles.deleteTree(building);
                    seal(building, asset.slug(), version, contents, info, progress);
                    try {
                        AtomicFiles.publishFolder(building, asset.folder().resolve(version));
                    } catch (FileAlreadyExistsException e) {
                        // Somebody published meanwhile: ours is the one after.
                        continue;
                    }
                    Asset changed = changeCard(asset, card -> card.with(version, status));
                    journal("published", changed, version);
                    return new Published(changed, version);
                }
            } finally {
                AtomicFiles.deleteTree(incoming);
            }
        } catch (IOException e) {
            throw new LibraryException(
                    asset.folder(), "the version could not be published: " + IoProblems.describe(e), e);
        }
    }

    private void seal(
            Path bag, String slug, String version, Contents contents, Map<String, String> info, Progress progress)
            throws IOException {
        Path data = Files.createDirectories(bag.resolve("data"));
        contents.write(data, slug, version);
        Map<String, String> labels = new LinkedHashMap<>();
        labels.put("Bagging-Date", LocalDate.now(clock).toString());
        labels.put("Bag-Software-Agent", "Pantry");
        labels.put("Contact-Name", who);
        labels.put("Internal-Sender-Identifier", slug + " " + version);
        labels.putAll(info);
        Bag.seal(bag, labels, progress);
    }

    /** Changes a card under the library's lock, and the layer that followers reference with it. */
    public Asset changeCard(Asset asset, UnaryOperator<Card> change) {
        ownThreads.lock();
        try (FileChannel channel = FileChannel.open(
                        root.resolve(".pantry-lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                FileLock lock = channel.lock()) {
            Card before = Json.read(asset.folder().resolve(CARD), Card.class);
            Card after = change.apply(before);
            AtomicFiles.write(asset.folder().resolve(CARD), Json.write(after));
            Asset changed = asset(asset.folder());
            writeReadyLayer(changed);
            return changed;
        } catch (IOException e) {
            throw new LibraryException(asset.folder(), "the card cannot be changed: " + IoProblems.describe(e), e);
        } finally {
            ownThreads.unlock();
        }
    }

    private static void writeReadyLayer(Asset asset) {
        Optional<String> ready = asset.ready();
        if (ready.isEmpty()) {
            return;
        }
        Path entry = asset.entryLayer(ready.get());
        String root = LayerFiles.read(entry)
                .defaultPrim()
                .orElseThrow(() -> new LibraryException(entry, "the entry layer has no default prim"));
        Layer layer = Layer.inMetres(asset.readyLayer(), root);
        PrimSpec prim = layer.root().define("", root);
        prim.setReferences(Reference.to("./" + ready.get() + "/data/" + entry.getFileName()));
        LayerFiles.write(layer, asset.readyLayer());
    }

    /**
     * Takes an asset with all its versions off its shelf, into {@code trash/}, where it stays until somebody empties it.
     *
     * @return where it is now
     */
    public Path discard(Asset asset) {
        Path target = root.resolve("trash").resolve(SORTABLE.format(clock.instant()) + "-" + UUID.randomUUID());
        try {
            Files.createDirectories(target);
            Path kept = target.resolve(asset.slug());
            AtomicFiles.publishFolder(asset.folder(), kept);
            AtomicFiles.forceFolder(asset.folder().getParent());
            journal("discarded", asset, asset.newest().orElse(""));
            return kept;
        } catch (IOException e) {
            throw new LibraryException(asset.folder(), "cannot be discarded: " + IoProblems.describe(e), e);
        }
    }

    private void journal(String what, Asset asset, String version) throws IOException {
        Instant now = clock.instant();
        Path folder = Files.createDirectories(root.resolve("journal"));
        AtomicFiles.write(
                folder.resolve(SORTABLE.format(now) + "-" + UUID.randomUUID() + ".json"),
                Json.write(new Entry(now, who, what, asset.card().id(), version)));
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

    /** Checks every card and every sealed version against its checksums. */
    public Verification verify(Progress progress) {
        List<Problem> problems = new ArrayList<>();
        List<Path> folders = assetFolders();
        int checked = 0;
        for (int i = 0; i < folders.size(); i++) {
            Path folder = folders.get(i);
            progress.step("checking " + folder.getFileName(), (double) i / folders.size());
            try {
                asset(folder);
            } catch (PantryException e) {
                problems.add(new Problem(folder.resolve(CARD), Problem.Kind.CARD, String.valueOf(e.getMessage())));
            }
            for (String version : versions(folder)) {
                problems.addAll(Bag.check(folder.resolve(version)));
                checked++;
            }
        }
        return new Verification(checked, problems.isEmpty(), problems);
    }
}
