package pantry.catalogue;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.statement.PreparedBatch;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.UserFolders;
import pantry.library.JournalEntry;
import pantry.library.Library;

/**
 * The index over libraries: what their folders hold, in a database, and in memory for answering. Safe for use by several
 * threads and processes. Whatever happens to the database, it is made anew from the folders.
 *
 * <p>Searching is done in memory (see {@link Finder}), so that a database far away answers while typing just as well,
 * and one set of plain queries does for all databases. The full-text search of SQLite was tried first: over 100,000
 * assets its slowest twentieth of answers took four times as long (see {@code docs/benchmarks.md}).
 */
public final class Catalogue implements AutoCloseable {
    private static final int BATCH = 500;

    private final IndexDatabase database;
    private final Map<String, Known> known = new HashMap<>();
    private final SameFiles sameFiles = new SameFiles();
    private int generation;
    private @Nullable Snapshot snapshot;

    /** What memory holds of a library. */
    private static final class Known {
        private final Map<String, String> stamps = new HashMap<>();
        private final TreeMap<String, IndexedAsset> items = new TreeMap<>();
        private List<IndexedAsset> listed = List.of();

        void take(Records.Row row) {
            stamps.put(row.folder(), row.stamp());
            items.put(row.folder(), row.item());
        }

        void list() {
            listed = List.copyOf(items.values());
        }
    }

    private record Snapshot(List<String> libraries, List<List<IndexedAsset>> items, Finder finder) {}

    private Catalogue(IndexDatabase database) {
        this.database = database;
    }

    /**
     * Opens an index, made or brought up to date where needed; one that is damaged is made anew.
     *
     * @param file the database's file
     */
    public static Catalogue open(Path file) {
        return new Catalogue(IndexDatabase.open(file));
    }

    /**
     * Opens an index in a database that a team shares.
     *
     * @param url see {@link IndexDatabase#open(String)}
     * @throws PantryException where it cannot be reached
     */
    public static Catalogue open(String url) {
        return new Catalogue(IndexDatabase.open(url));
    }

    /** Where the index is kept unless told otherwise: {@code PANTRY_CACHE}, or the user's cache folder. */
    public static Path usualFile() {
        return UserFolders.cache().resolve("index.sqlite");
    }

    /** The database, for what else is indexed. */
    public IndexDatabase database() {
        return database;
    }

    private synchronized <T> T transaction(IndexDatabase.Work<T> work) {
        return database.transaction(handle -> {
            if (database.generation() != generation) {
                generation = database.generation();
                known.clear();
                snapshot = null;
            }
            return work.with(handle);
        });
    }

    /** Finds assets by the files that they were made of. */
    public SameFiles sameFiles() {
        return sameFiles;
    }

    /** Brings the index in line with all of a library; only assets that changed are read. */
    public void refresh(Library library, Progress progress) {
        refresh(library, library::assetFolders, null, progress);
    }

    /** Brings the index in line with what a library's journal says was changed. */
    public void refresh(Library library, List<JournalEntry> entries, Progress progress) {
        Set<String> shelves = new HashSet<>();
        for (JournalEntry entry : entries) {
            if (entry.asset().isEmpty()) {
                if (entry.what().equals("moved a shelf") || entry.what().equals("repaired")) {
                    refresh(library, progress);
                    return;
                }
                continue;
            }
            shelves.add(entry.shelf());
            if (entry.what().equals("moved")) {
                shelves.add(entry.from());
            }
        }
        refresh(library, shelves);
    }

    /** Brings the index in line with what stands directly on some shelves. */
    public void refresh(Library library, Set<String> shelves) {
        if (!shelves.isEmpty()) {
            refresh(library, () -> library.assetFolders(shelves), shelves, Progress.NONE);
        }
    }

    /** @param listed tells the folders there are; asked within the transaction, so that no other's news count as gone */
    private void refresh(
            Library library, Supplier<List<Path>> listed, @Nullable Set<String> shelves, Progress progress) {
        transaction(handle -> {
            Map<String, String> stored = stamps(handle, library, shelves);
            Map<String, String> present = new HashMap<>();
            Map<String, Path> changed = new HashMap<>();
            for (Path folder : listed.get()) {
                String relative = relative(library, folder);
                String stamp = Records.stamp(folder);
                present.put(relative, stamp);
                if (!stamp.equals(stored.get(relative))) {
                    changed.put(relative, folder);
                }
            }
            Set<String> gone = new HashSet<>(stored.keySet());
            gone.removeAll(present.keySet());
            Set<String> outdated = new HashSet<>(gone);
            outdated.addAll(changed.keySet());
            outdated.retainAll(stored.keySet());
            delete(handle, library, outdated);
            insert(handle, library, changed, present, progress);
            remember(handle, library, shelves);
            return true;
        });
    }

    private static String relative(Library library, Path folder) {
        return library.root().relativize(folder).toString().replace('\\', '/');
    }

    private static Map<String, String> stamps(Handle handle, Library library, @Nullable Set<String> shelves) {
        Map<String, String> stamps = new HashMap<>();
        var query = handle.createQuery("SELECT folder, stamp FROM asset WHERE library = :library"
                        + (shelves == null ? "" : " AND shelf IN (<shelves>)"))
                .bind("library", library.info().id());
        if (shelves != null) {
            query.bindList("shelves", List.copyOf(shelves));
        }
        query.map((row, context) -> Map.entry(row.getString(1), row.getString(2)))
                .forEach(entry -> stamps.put(entry.getKey(), entry.getValue()));
        return stamps;
    }

    private static void delete(Handle handle, Library library, Set<String> folders) {
        if (folders.isEmpty()) {
            return;
        }
        PreparedBatch batch = handle.prepareBatch("DELETE FROM asset WHERE library = :library AND folder = :folder");
        folders.forEach(folder -> batch.bind("library", library.info().id())
                .bind("folder", folder)
                .add());
        batch.execute();
    }

    /** Reads what changed, on all cores, and writes it. */
    private static void insert(
            Handle handle, Library library, Map<String, Path> changed, Map<String, String> stamps, Progress progress) {
        List<String> folders = List.copyOf(changed.keySet());
        AtomicInteger read = new AtomicInteger();
        for (int from = 0; from < folders.size(); from += BATCH) {
            List<String> some = folders.subList(from, Math.min(folders.size(), from + BATCH));
            List<Optional<IndexedAsset>> items = some.parallelStream()
                    .map(folder -> {
                        progress.step("indexing " + folder, (double) read.incrementAndGet() / folders.size());
                        return Records.read(library, changed.get(folder));
                    })
                    .toList();
            PreparedBatch batch = handle.prepareBatch(Records.INSERT);
            for (int i = 0; i < some.size(); i++) {
                if (items.get(i).isPresent()) {
                    Records.bind(
                            batch,
                            library,
                            some.get(i),
                            stamps.get(some.get(i)),
                            items.get(i).get());
                }
            }
            if (batch.size() > 0) {
                batch.execute();
            }
        }
    }

    /** Takes over into memory what the database knows otherwise, also from other processes. */
    private void remember(Handle handle, Library library, @Nullable Set<String> shelves) {
        Known memory = known.computeIfAbsent(library.root().toString(), root -> new Known());
        if (memory.stamps.isEmpty()) {
            Records.rows(handle, library, List.of()).forEach(memory::take);
            memory.list();
            return;
        }
        Map<String, String> stored = stamps(handle, library, shelves);
        List<String> fresh = new ArrayList<>();
        stored.forEach((folder, stamp) -> {
            if (!stamp.equals(memory.stamps.get(folder))) {
                fresh.add(folder);
            }
        });
        boolean removed = memory.stamps
                .keySet()
                .removeIf(folder -> !stored.containsKey(folder)
                        && (shelves == null
                                || shelves.contains(memory.items.get(folder).shelf())));
        if (!removed && fresh.isEmpty()) {
            return;
        }
        memory.items.keySet().retainAll(memory.stamps.keySet());
        for (int from = 0; from < fresh.size(); from += BATCH) {
            Records.rows(handle, library, fresh.subList(from, Math.min(fresh.size(), from + BATCH)))
                    .forEach(memory::take);
        }
        memory.list();
    }

    /** Reads a library once more from its folders, whatever the index says. */
    public void rebuild(Library library, Progress progress) {
        transaction(handle -> {
            handle.createUpdate("DELETE FROM asset WHERE library = :library")
                    .bind("library", library.info().id())
                    .execute();
            return true;
        });
        refresh(library, progress);
    }

    /** Answers about libraries as the index knows them now; brings in those it has not read yet. */
    public synchronized Finder finder(List<Library> libraries) {
        List<String> roots =
                libraries.stream().map(library -> library.root().toString()).toList();
        for (Library library : libraries) {
            if (!known.containsKey(library.root().toString())) {
                transaction(handle -> {
                    remember(handle, library, null);
                    return true;
                });
            }
        }
        List<List<IndexedAsset>> items =
                roots.stream().map(root -> known.get(root).listed).toList();
        Snapshot now = snapshot;
        if (now != null && now.libraries.equals(roots) && same(now.items, items)) {
            return now.finder;
        }
        List<IndexedAsset> all = new ArrayList<>();
        items.forEach(all::addAll);
        Finder finder = new Finder(all);
        snapshot = new Snapshot(roots, items, finder);
        return finder;
    }

    private static boolean same(List<List<IndexedAsset>> some, List<List<IndexedAsset>> others) {
        for (int i = 0; i < some.size(); i++) {
            if (some.get(i) != others.get(i)) {
                return false;
            }
        }
        return some.size() == others.size();
    }

    @Override
    public synchronized void close() {
        database.close();
    }
}
