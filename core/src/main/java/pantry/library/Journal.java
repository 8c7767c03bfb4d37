package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.PantryException;

/**
 * Every change of a library, one small file each, named so that it sorts by time. Nobody ever changes an entry; so who
 * knows the names of those that were read knows which are new, whatever the clocks of the machines say.
 */
public final class Journal {
    static final DateTimeFormatter SORTABLE =
            DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmssSSS").withZone(ZoneOffset.UTC);

    /** What the journal says of a version that was put into the trash. */
    static final String SET_ASIDE = "set aside";

    /** What the journal says of what is gone, and known to be. */
    static final String LOST = "lost";

    /** What the journal says of an asset that went into an archive. */
    static final String ARCHIVED = "archived";

    /** What the journal says of an asset that went back from there. */
    static final String CALLED_BACK = "called back";

    /** What the journal says of a version that came from another library. */
    static final String RETURNED = "came back";

    private final Path folder;
    private final Author author;
    private final Set<String> read = new HashSet<>();
    private final Map<String, Set<String>> versions = new HashMap<>();

    Journal(Path root, Author author) {
        this.folder = root.resolve("journal");
        this.author = author;
    }

    Path folder() {
        return folder;
    }

    /** Begins an entry about an asset. */
    Line about(String what, Asset asset) {
        return new Line(what, asset.card().id(), asset.card().name(), asset.shelf());
    }

    /** Begins an entry about an asset that is no longer there. */
    Line about(String what, String id, String name) {
        return new Line(what, id, name, "");
    }

    /** Begins an entry about a shelf. */
    Line about(String what, String shelf) {
        return new Line(what, "", "", shelf);
    }

    /** An entry that is being put together. */
    final class Line {
        private final String what;
        private final String asset;
        private final String name;
        private final String shelf;
        private String version = "";
        private String from = "";
        private String note = "";
        private Map<String, CardChanges.Change> changes = Map.of();

        private Line(String what, String asset, String name, String shelf) {
            this.what = what;
            this.asset = asset;
            this.name = name;
            this.shelf = shelf;
        }

        Line version(String named) {
            version = named;
            return this;
        }

        Line from(String before) {
            from = before;
            return this;
        }

        Line note(String said) {
            note = said;
            return this;
        }

        Line changes(CardChanges made) {
            changes = made.fields();
            return this;
        }

        void write() throws IOException {
            Instant now = author.now();
            Files.createDirectories(folder);
            AtomicFiles.write(
                    folder.resolve(SORTABLE.format(now) + "-" + UUID.randomUUID() + ".json"),
                    Json.write(new JournalEntry(
                            now, author.who(), what, asset, version, name, shelf, from, note, changes)));
        }
    }

    /**
     * The names of all entries there are, as a set of the caller's own.
     *
     * @throws LibraryException where the journal cannot be read
     */
    public Set<String> names() {
        try (Stream<Path> files = Files.list(folder)) {
            Set<String> names = new HashSet<>();
            files.map(file -> file.getFileName().toString())
                    .filter(name -> name.endsWith(".json") && !name.startsWith("."))
                    .forEach(names::add);
            return names;
        } catch (java.nio.file.NoSuchFileException e) {
            return new HashSet<>();
        } catch (IOException e) {
            throw new LibraryException(folder, "the journal cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /** Entries by their names, in the order of their times; those that cannot be understood are left out. */
    public List<JournalEntry> entries(Set<String> names) {
        List<JournalEntry> entries = new ArrayList<>();
        names.stream().sorted().forEach(name -> {
            try {
                entries.add(Json.read(folder.resolve(name), JournalEntry.class));
            } catch (PantryException e) {
                // A journal tells what happened; a library does not depend on it.
            }
        });
        return entries;
    }

    /**
     * The versions that an asset ever had, as far as the journal knows. What was read once is kept: entries are never
     * changed.
     */
    synchronized Set<String> versions(String asset) {
        Set<String> fresh = names();
        fresh.removeAll(read);
        read.addAll(fresh);
        for (JournalEntry entry : entries(fresh)) {
            if (!entry.asset().isEmpty() && !entry.version().isEmpty()) {
                versions.computeIfAbsent(entry.asset(), id -> new HashSet<>()).add(entry.version());
            }
        }
        return versions.getOrDefault(asset, Set.of());
    }

    /** All that happened, the oldest first. */
    public List<JournalEntry> entries() {
        return entries(names());
    }

    /** All that happened to an asset, the oldest first. */
    public List<JournalEntry> entries(Asset asset) {
        return entries().stream()
                .filter(entry -> entry.asset().equals(asset.card().id()))
                .toList();
    }
}
