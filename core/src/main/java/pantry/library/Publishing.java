package pantry.library;

import java.io.IOException;
import java.net.InetAddress;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.HeldFolder;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;

/** Builds assets and versions in {@code incoming/} and puts them into their places in one step. */
final class Publishing {
    /** The label of a seal that tells day and time; the day alone stands in {@code Bagging-Date} (RFC 8493). */
    static final String TIME_LABEL = "Pantry-Published";

    /** The label of a seal that tells what was said of the version (RFC 8493, section 2.2.2). */
    static final String NOTE_LABEL = "Internal-Sender-Description";

    private static final Duration STALE = Duration.ofDays(1);

    /** No small file takes as long to be written. */
    private static final Duration WRITTEN_WITHIN = Duration.ofHours(1);

    private final Library library;
    private final Path incoming;
    private final String who;
    private final Clock clock;

    Publishing(Library library, String who, Clock clock) {
        this.library = library;
        this.incoming = library.root().resolve("incoming");
        this.who = who;
        this.clock = clock;
    }

    static String host() {
        try {
            return Names.slug(InetAddress.getLocalHost().getHostName());
        } catch (java.net.UnknownHostException e) {
            return "unknown";
        }
    }

    /** Deletes a folder, of which nothing is left in its place at once. */
    void remove(Path folder) throws IOException {
        try (HeldFolder scratch = newIncoming()) {
            AtomicFiles.publishFolder(folder, scratch.path().resolve("removed"));
        }
    }

    /** In a folder in {@code incoming/}: what is being done, so that the next start can finish it. */
    private static final String INTENT = "intent.json";

    /**
     * What is being done.
     *
     * @param from where an asset or shelf stood that is being moved; empty where a card and its ready layer are written
     * @param to where it will stand, or where the card is
     */
    private record Intent(String from, String to) {}

    /** Writes an asset's card and ready layer; whoever is stopped between the two leaves a note. */
    void intending(Path asset, LibraryLock.Action<?> action) throws IOException {
        noting(new Intent("", relative(asset)), action);
    }

    /** Moves an asset or a shelf; whoever is stopped in the middle leaves a note. */
    void intendingMove(Path from, Path to, LibraryLock.Action<?> action) throws IOException {
        noting(new Intent(relative(from), relative(to)), action);
    }

    private String relative(Path path) {
        return library.root().relativize(path).toString().replace('\\', '/');
    }

    private void noting(Intent intent, LibraryLock.Action<?> action) throws IOException {
        HeldFolder.sweep(incoming, this::finishQuietly);
        HeldFolder note = newIncoming();
        try {
            AtomicFiles.write(note.path().resolve(INTENT), Json.write(intent));
            action.run();
        } catch (IOException | RuntimeException e) {
            // What fails stays noted, and is finished by whoever changes, checks or opens the library next.
            note.abandon();
            throw e;
        }
        note.close();
    }

    /**
     * Removes what processes that no longer run, or that nobody knows for a day, were building, and finishes what they
     * intended.
     */
    void clearIncoming() {
        try {
            HeldFolder.sweep(incoming, this::finishQuietly);
            for (Path folder : unheld()) {
                finishQuietly(folder);
                AtomicFiles.deleteTree(folder);
            }
            for (Path each :
                    List.of(incoming, library.journal().folder(), library.root().resolve("reservations"))) {
                for (Path left : AtomicFiles.leftIn(each)) {
                    if (isLeft(left)) {
                        Files.deleteIfExists(left);
                    }
                }
            }
        } catch (IOException e) {
            // A library that cannot be written keeps its rubbish; it can be read all the same.
            return;
        }
    }

    private void finishQuietly(Path folder) throws IOException {
        try {
            finish(folder.resolve(INTENT));
        } catch (PantryException e) {
            // What cannot be finished is found, and said, by the library's check.
            return;
        }
    }

    /** Folders without a lock, made by an older Pantry, that nobody touched for a day. */
    private List<Path> unheld() throws IOException {
        List<Path> unheld = new ArrayList<>();
        try (Stream<Path> inside = Files.list(incoming)) {
            for (Path each : inside.toList()) {
                if (Files.isDirectory(each, LinkOption.NOFOLLOW_LINKS)
                        && !HeldFolder.isHeldOnce(each)
                        && isOlder(each, STALE)) {
                    unheld.add(each);
                }
            }
        }
        return unheld;
    }

    /** Whether a file that was being written was so long ago that nobody can be writing it any more. */
    boolean isLeft(Path file) throws IOException {
        return isOlder(file, WRITTEN_WITHIN);
    }

    /** By the clock of the machine that keeps the files, whatever the one here says. */
    private boolean isOlder(Path file, Duration age) throws IOException {
        Path probe = Files.createTempFile(incoming, ".now-", "");
        try {
            return Files.getLastModifiedTime(file, LinkOption.NOFOLLOW_LINKS)
                    .toInstant()
                    .isBefore(Files.getLastModifiedTime(probe).toInstant().minus(age));
        } catch (NoSuchFileException e) {
            return false;
        } finally {
            Files.delete(probe);
        }
    }

    private void finish(Path note) throws IOException {
        if (!Files.exists(note)) {
            return;
        }
        Intent intent = Json.read(note, Intent.class);
        Path from = library.root().resolve(intent.from()).normalize();
        Path to = library.root().resolve(intent.to()).normalize();
        boolean within = from.startsWith(library.root()) && to.startsWith(library.root());
        if (!within || !Files.exists(to)) {
            // Of other folders than the library's no note can speak; and where nothing stands at the new place, nothing
            // was moved, and all is as it was before.
            return;
        }
        library.changing(to, "what was interrupted cannot be finished", () -> {
            if (!intent.from().isEmpty()) {
                library.places().settle(from, to, Progress.NONE);
            } else if (Files.exists(to.resolve(Library.CARD))) {
                for (Path left : AtomicFiles.leftIn(to)) {
                    Files.deleteIfExists(left);
                }
                library.writeReadyLayer(library.asset(to));
            }
            return to;
        });
    }

    private HeldFolder newIncoming() throws IOException {
        Files.createDirectories(incoming);
        return HeldFolder.create(
                () -> incoming.resolve(host() + "~" + ProcessHandle.current().pid() + "~" + UUID.randomUUID()));
    }

    /** See {@link Library#shelve}. */
    Published shelve(
            Card card, String shelfPath, VersionContents contents, Map<String, String> info, Progress progress) {
        return place(card, shelfPath, (building, slug) -> {
            String version = VersionName.of(1);
            seal(building.resolve(version), slug, version, contents, info, progress);
            return card.with(version, VersionStatus.READY);
        });
    }

    /** Fills the folder of a new asset and tells its card. */
    @FunctionalInterface
    interface Filling {
        Card fill(Path building, String slug) throws IOException;
    }

    /** Puts a new asset on a shelf, whose folder gets a number behind its name where that is taken. */
    Published place(Card named, String shelfPath, Filling filling) {
        try {
            Path shelf = library.places().folder(shelfPath);
            library.places().prepare(shelf);
            try (HeldFolder scratch = newIncoming()) {
                while (true) {
                    String slug =
                            Names.free(Names.slug(named.name()), "-", taken -> Files.exists(shelf.resolve(taken)));
                    Path building = scratch.path().resolve(slug);
                    AtomicFiles.deleteTree(building);
                    Files.createDirectories(building);
                    Card card = library.placed(filling.fill(building, slug), shelfPath);
                    AtomicFiles.write(building.resolve(Library.CARD), Json.write(card));
                    library.writeReadyLayer(new Asset(building, shelfPath, card, Library.versions(building)));
                    try {
                        Files.createDirectories(shelf);
                        AtomicFiles.publishFolder(building, shelf.resolve(slug));
                    } catch (FileAlreadyExistsException e) {
                        // Somebody shelved under this name meanwhile: take the next one.
                        continue;
                    } catch (NoSuchFileException e) {
                        // The shelf was moved or removed meanwhile: it is made anew.
                        continue;
                    }
                    Asset asset =
                            new Asset(shelf.resolve(slug), shelfPath, card, Library.versions(shelf.resolve(slug)));
                    String version = asset.newest().orElse("");
                    library.journal().about("shelved", asset).version(version).write();
                    return new Published(asset, version);
                }
            }
        } catch (IOException e) {
            throw new LibraryException(library.root(), "the asset could not be shelved: " + IoProblems.describe(e), e);
        }
    }

    /** See {@link Library#publish}. */
    Published publish(
            Asset asset, VersionStatus status, VersionContents contents, Map<String, String> info, Progress progress) {
        library.reservations().requireFree(asset);
        try {
            try (HeldFolder scratch = newIncoming()) {
                while (true) {
                    Asset now = library.current(asset);
                    int next;
                    try {
                        next = highest(now) + 1;
                    } catch (LibraryException e) {
                        if (Files.exists(now.folder())) {
                            throw e;
                        }
                        // It was moved meanwhile.
                        continue;
                    }
                    String version = VersionName.of(next);
                    Path building = scratch.path().resolve(version);
                    AtomicFiles.deleteTree(building);
                    seal(building, now.slug(), version, contents, info, progress);
                    if (!stand(building, now, version)) {
                        continue;
                    }
                    Asset changed = library.changeCard(now, card -> card.with(version, status));
                    library.journal()
                            .about("published", changed)
                            .version(version)
                            .note(info.getOrDefault(NOTE_LABEL, ""))
                            .write();
                    return new Published(changed, version);
                }
            }
        } catch (IOException e) {
            throw new LibraryException(
                    asset.folder(), "the version could not be published: " + IoProblems.describe(e), e);
        }
    }

    /** The highest number that an asset's versions ever had: no number is given out twice. */
    private int highest(Asset asset) {
        return Stream.of(
                        Library.versions(asset.folder()),
                        asset.card().versions().keySet(),
                        library.journal().versions(asset.card().id()))
                .flatMap(Collection::stream)
                .filter(VersionName::matches)
                .mapToInt(VersionName::number)
                .max()
                .orElse(0);
    }

    /**
     * Puts a finished version into its place.
     *
     * @return false where somebody published meanwhile, or moved the asset: once more then, where it is now
     */
    private boolean stand(Path building, Asset asset, String version) {
        return library.changing(asset.folder(), "the version could not be published", () -> {
            // Where an asset stood before, there is still a folder, in which nobody would find the version.
            Asset now = library.current(asset);
            if (!now.folder().equals(asset.folder())) {
                return false;
            }
            library.reservations().requireFree(now);
            try {
                AtomicFiles.publishFolder(building, now.folder().resolve(version));
                return true;
            } catch (FileAlreadyExistsException | NoSuchFileException e) {
                return false;
            }
        });
    }

    /** Makes a sealed version in a folder. */
    void seal(
            Path bag,
            String slug,
            String version,
            VersionContents contents,
            Map<String, String> info,
            Progress progress)
            throws IOException {
        Path data = Files.createDirectories(bag.resolve("data"));
        contents.write(data, slug, version);
        Map<String, String> labels = new LinkedHashMap<>();
        labels.put(
                "Bagging-Date",
                LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC).toString());
        labels.put(TIME_LABEL, clock.instant().toString());
        labels.put("Bag-Software-Agent", "Pantry");
        labels.put("Contact-Name", who);
        labels.put(Bag.SEALED_AS, slug + " " + version);
        labels.putAll(info);
        Bag.seal(bag, labels, progress);
    }

    /** The labels of a seal that say what a version is, not how it came about. */
    static Map<String, String> lastingLabels(Map<String, String> seal) {
        Map<String, String> labels = new LinkedHashMap<>();
        for (String label : List.of("External-Identifier", "External-Description", "Source-File")) {
            if (seal.containsKey(label)) {
                labels.put(label, seal.get(label));
            }
        }
        return labels;
    }
}
