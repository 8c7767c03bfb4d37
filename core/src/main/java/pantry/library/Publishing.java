package pantry.library;

import java.io.IOException;
import java.net.InetAddress;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
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
        Path scratch = newIncoming();
        AtomicFiles.publishFolder(folder, scratch.resolve("removed"));
        AtomicFiles.deleteTree(scratch);
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
        Path note = newIncoming();
        AtomicFiles.write(note.resolve(INTENT), Json.write(intent));
        action.run();
        AtomicFiles.deleteTree(note);
    }

    /**
     * Removes what processes that no longer run, or that nobody knows for a day, were building, and finishes what they
     * intended.
     */
    void clearIncoming() {
        try (Stream<Path> rubbish = Files.list(incoming)) {
            for (Path folder : rubbish.toList()) {
                if (abandoned(folder)) {
                    try {
                        finish(folder.resolve(INTENT));
                    } catch (PantryException e) {
                        // What cannot be finished is found, and said, by the library's check.
                    }
                    AtomicFiles.deleteTree(folder);
                }
            }
        } catch (IOException e) {
            // A library that cannot be written keeps its rubbish; it can be read all the same.
        }
    }

    private void finish(Path note) throws IOException {
        if (!Files.exists(note)) {
            return;
        }
        Intent intent = Json.read(note, Intent.class);
        Path to = library.root().resolve(intent.to()).normalize();
        if (!to.startsWith(library.root())) {
            return;
        }
        library.changing(to, "what was interrupted cannot be finished", () -> {
            if (!intent.from().isEmpty()) {
                library.places().settle(library.root().resolve(intent.from()).normalize(), to, Progress.NONE);
            } else if (Files.exists(to.resolve(Library.CARD))) {
                library.writeReadyLayer(library.asset(to));
            }
            return to;
        });
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

    private Path newIncoming() throws IOException {
        Path folder = incoming.resolve(host() + "~" + ProcessHandle.current().pid() + "~" + UUID.randomUUID());
        return Files.createDirectories(folder);
    }

    /** See {@link Library#shelve}. */
    Published shelve(Card card, String shelfPath, Contents contents, Map<String, String> info, Progress progress) {
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
            Path scratch = newIncoming();
            try {
                while (true) {
                    String slug =
                            Names.free(Names.slug(named.name()), "-", taken -> Files.exists(shelf.resolve(taken)));
                    Path building = scratch.resolve(slug);
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
            } finally {
                AtomicFiles.deleteTree(scratch);
            }
        } catch (IOException e) {
            throw new LibraryException(library.root(), "the asset could not be shelved: " + IoProblems.describe(e), e);
        }
    }

    /** See {@link Library#publish}. */
    Published publish(
            Asset asset, VersionStatus status, Contents contents, Map<String, String> info, Progress progress) {
        library.reservations().requireFree(asset);
        try {
            Path scratch = newIncoming();
            try {
                while (true) {
                    Asset now = library.current(asset);
                    int next;
                    try {
                        next = Library.versions(now.folder()).stream()
                                        .mapToInt(VersionName::number)
                                        .max()
                                        .orElse(0)
                                + 1;
                    } catch (LibraryException e) {
                        if (Files.exists(now.folder())) {
                            throw e;
                        }
                        // It was moved meanwhile.
                        continue;
                    }
                    String version = VersionName.of(next);
                    Path building = scratch.resolve(version);
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
            } finally {
                AtomicFiles.deleteTree(scratch);
            }
        } catch (IOException e) {
            throw new LibraryException(
                    asset.folder(), "the version could not be published: " + IoProblems.describe(e), e);
        }
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
    void seal(Path bag, String slug, String version, Contents contents, Map<String, String> info, Progress progress)
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
        labels.put("Internal-Sender-Identifier", slug + " " + version);
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
