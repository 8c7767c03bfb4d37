package pantry.library;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.HeldFolder;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.Progress;

/** Builds assets and versions in {@code incoming/} and puts them into their places in one step. */
final class Publishing {
    /** The label of a seal that tells day and time; the day alone stands in {@code Bagging-Date} (RFC 8493). */
    static final String TIME_LABEL = "Pantry-Published";

    /** The label of a seal that tells what was said of the version (RFC 8493, section 2.2.2). */
    static final String NOTE_LABEL = "Internal-Sender-Description";

    /** What the journal says of an asset that came into the library. */
    static final String SHELVED = "shelved";

    private final AssetStore store;
    private final Incoming incoming;
    private final Journal journal;
    private final Reservations reservations;
    private final Author author;

    Publishing(AssetStore store, Incoming incoming, Journal journal, Reservations reservations, Author author) {
        this.store = store;
        this.incoming = incoming;
        this.journal = journal;
        this.reservations = reservations;
        this.author = author;
    }

    /** See {@link Library#shelve}. */
    Published shelve(
            Card card, String shelfPath, VersionContents contents, Map<String, String> info, Progress progress) {
        return place(card, shelfPath, (building, slug) -> {
            String version = VersionName.of(1);
            seal(building.resolve(version), slug, contents, info, progress);
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
            Path shelf = store.tree().folder(shelfPath);
            store.tree().prepare(shelf);
            try (HeldFolder scratch = incoming.newFolder()) {
                while (true) {
                    String slug =
                            Names.free(Names.slug(named.name()), "-", taken -> Files.exists(shelf.resolve(taken)));
                    Path building = scratch.path().resolve(slug);
                    AtomicFiles.deleteTree(building);
                    Files.createDirectories(building);
                    Card card = AtomicFiles.draft(building, () -> {
                        Card made = store.placed(filling.fill(building, slug), shelfPath);
                        AtomicFiles.write(building.resolve(LibraryLayout.CARD), Json.write(made));
                        store.writeReadyLayer(new Asset(building, shelfPath, made, LibraryLayout.versions(building)));
                        return made;
                    });
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
                    Asset asset = new Asset(
                            shelf.resolve(slug), shelfPath, card, LibraryLayout.versions(shelf.resolve(slug)));
                    String version = asset.newest().orElse("");
                    journal.about(SHELVED, asset).version(version).write();
                    return new Published(asset, version, Optional.empty());
                }
            }
        } catch (IOException e) {
            throw new LibraryException(store.root(), "the asset could not be shelved: " + IoProblems.describe(e), e);
        }
    }

    /** See {@link Library#publish}. */
    Published publish(
            Asset asset, VersionStatus status, VersionContents contents, Map<String, String> info, Progress progress) {
        reservations.requireFree(asset);
        try {
            try (HeldFolder scratch = incoming.newFolder()) {
                while (true) {
                    Asset now = store.current(asset);
                    int next;
                    try {
                        next = highest(now) + 1;
                    } catch (LibraryException e) {
                        if (!AssetStore.isGone(e)) {
                            throw e;
                        }
                        continue;
                    }
                    String version = VersionName.of(next);
                    Path building = scratch.path().resolve(version);
                    AtomicFiles.deleteTree(building);
                    AtomicFiles.draft(
                            Files.createDirectory(building), bag -> seal(bag, now.slug(), contents, info, progress));
                    if (!stand(building, now, version)) {
                        continue;
                    }
                    Asset changed = store.changeCard(now, card -> card.with(version, status));
                    journal.about("published", changed)
                            .version(version)
                            .note(info.getOrDefault(NOTE_LABEL, ""))
                            .write();
                    return new Published(changed, version, now.ready());
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
                        LibraryLayout.versions(asset.folder()),
                        asset.card().versions().keySet(),
                        journal.versions(asset.card().id()))
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
        return store.changing(asset.folder(), "the version could not be published", () -> {
            // Where an asset stood before, there is still a folder, in which nobody would find the version.
            Asset now = store.current(asset);
            if (!now.folder().equals(asset.folder())) {
                return false;
            }
            reservations.requireFree(now);
            try {
                AtomicFiles.publishFolder(building, now.folder().resolve(version));
                return true;
            } catch (FileAlreadyExistsException | NoSuchFileException e) {
                return false;
            }
        });
    }

    /**
     * Makes a sealed version.
     *
     * @param bag its folder, which has the version's name
     */
    void seal(Path bag, String slug, VersionContents contents, Map<String, String> info, Progress progress)
            throws IOException {
        String version = bag.getFileName().toString();
        Path data = Files.createDirectories(bag.resolve("data"));
        contents.write(data, slug, version);
        Map<String, String> labels = new LinkedHashMap<>();
        labels.put(
                "Bagging-Date",
                LocalDate.ofInstant(author.now(), ZoneOffset.UTC).toString());
        labels.put(TIME_LABEL, author.now().toString());
        labels.put("Bag-Software-Agent", "Pantry");
        labels.put("Contact-Name", author.who());
        labels.put(Bag.SEALED_AS, slug + " " + version);
        labels.putAll(info);
        Bag.seal(bag, labels, progress);
    }

    /** The labels of a seal that say what a version is, not how it came about. */
    static Map<String, String> lastingLabels(Map<String, String> seal) {
        Map<String, String> labels = new LinkedHashMap<>();
        for (String label : List.of("External-Identifier", "External-Description", Identity.SOURCE)) {
            if (seal.containsKey(label)) {
                labels.put(label, seal.get(label));
            }
        }
        return labels;
    }
}
