package pantry.catalogue;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.JdbiException;
import org.jdbi.v3.core.statement.PreparedBatch;
import org.jspecify.annotations.Nullable;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;
import org.sqlite.SQLiteErrorCode;
import pantry.base.IoProblems;
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

    /** Stands for the index among PostgreSQL's advisory locks; any number that others are unlikely to use. */
    private static final long TURN = 0x50414e545259L;

    /** The newest migration. */
    private static final String SCHEMA = "1";

    /** Of SQLite's extended result codes, the part that says what happened. */
    private static final int PRIMARY = 0xff;

    private static final Pattern ADDRESS =
            Pattern.compile("(jdbc:postgresql:(//[A-Za-z0-9.:,\\[\\]_-]*/)?[A-Za-z0-9_-]*)(\\?.*)?", Pattern.DOTALL);

    private final @Nullable Path file;
    private final @Nullable String url;
    private final Map<String, Known> known = new HashMap<>();
    private Jdbi database;
    private @Nullable HikariDataSource pool;
    private @Nullable Snapshot snapshot;

    /** What memory holds of a library. */
    private static final class Known {
        private final Map<String, String> stamps = new HashMap<>();
        private final TreeMap<String, IndexedAsset> items = new TreeMap<>();
        private List<IndexedAsset> listed = List.of();
    }

    private record Snapshot(List<String> libraries, List<List<IndexedAsset>> items, Finder finder) {}

    private Catalogue(@Nullable Path file, @Nullable String url) {
        this.file = file;
        this.url = url;
        this.database = connect();
    }

    /**
     * Opens an index, made or brought up to date where needed; one that is damaged is made anew.
     *
     * @param file the database's file
     */
    public static Catalogue open(Path file) {
        return new Catalogue(file, null);
    }

    /**
     * Opens an index in a database that a team shares.
     *
     * @param url of a PostgreSQL 15 or newer, with user and password, such as
     *     {@code jdbc:postgresql://host/pantry?user=pantry&password=…}
     * @throws PantryException where it cannot be reached
     */
    public static Catalogue open(String url) {
        if (!ADDRESS.matcher(url).matches()) {
            // What is there instead may be a password as well: it is not shown.
            throw new PantryException(
                    "the team's index needs an address such as jdbc:postgresql://host/pantry?user=pantry&password=…;"
                            + " PANTRY_INDEX holds something else");
        }
        return new Catalogue(null, url);
    }

    private Jdbi connect() {
        try {
            return tryConnect();
        } catch (RuntimeException failed) {
            if (file == null || !isDamaged(failed)) {
                throw unusable(failed);
            }
            // It is only an index: a new one is as good.
            try {
                for (String part : List.of("", "-wal", "-shm", "-journal")) {
                    Files.deleteIfExists(file.resolveSibling(file.getFileName() + part));
                }
            } catch (IOException e) {
                throw new PantryException(file, "the index cannot be made anew: " + IoProblems.describe(e), e);
            }
            return tryConnect();
        }
    }

    /** Whether what a database file holds is wrong, rather than that somebody else is using it. */
    private static boolean isDamaged(Throwable failed) {
        return code(failed)
                        .filter(code -> code == SQLiteErrorCode.SQLITE_NOTADB
                                || code == SQLiteErrorCode.SQLITE_CORRUPT
                                || code == SQLiteErrorCode.SQLITE_ERROR
                                || code == SQLiteErrorCode.SQLITE_FORMAT)
                        .isPresent()
                || failed instanceof FlywayException && code(failed).isEmpty();
    }

    private static boolean isBusy(Throwable failed) {
        return code(failed)
                .filter(code -> code == SQLiteErrorCode.SQLITE_BUSY || code == SQLiteErrorCode.SQLITE_LOCKED)
                .isPresent();
    }

    /** SQLite's primary result code behind a failure. */
    private static Optional<SQLiteErrorCode> code(Throwable failed) {
        for (Throwable at = failed; at != null; at = at.getCause()) {
            if (at instanceof SQLException sql && sql.getErrorCode() != 0) {
                return Optional.of(SQLiteErrorCode.getErrorCode(sql.getErrorCode() & PRIMARY));
            }
        }
        return Optional.empty();
    }

    /** One line without statements, addresses and passwords. */
    private PantryException unusable(RuntimeException failed) {
        if (isBusy(failed)) {
            return new PantryException(
                    String.valueOf(file), null, "the index is held by another program; try again in a moment", null);
        }
        Throwable deepest = failed;
        while (deepest.getCause() != null) {
            deepest = deepest.getCause();
        }
        // The drivers' own messages hold the address as it was given: they are told only where they come from SQL.
        String why = deepest instanceof SQLException sql && url == null
                ? String.valueOf(sql.getMessage())
                : deepest instanceof SQLException sql && sql.getSQLState() != null
                        ? "the database answers with state " + sql.getSQLState()
                        : "it cannot be reached";
        return new PantryException(
                file == null ? "the index at " + shown(String.valueOf(url)) : file.toString(),
                null,
                "cannot be used: " + why,
                null);
    }

    /** A database's address: where it is, without who uses it and by which password. */
    private static String shown(String url) {
        Matcher address = ADDRESS.matcher(url);
        return address.matches() ? address.group(1) : "the address in PANTRY_INDEX";
    }

    private Jdbi tryConnect() {
        DataSource source = file != null ? sqlite(file) : postgres();
        Jdbi jdbi = Jdbi.create(source);
        if (!isCurrent(jdbi)) {
            Flyway.configure()
                    .dataSource(source)
                    .locations("classpath:pantry/catalogue/schema")
                    .load()
                    .migrate();
        }
        return jdbi;
    }

    /** Whether the schema is the newest already: asking for that is much quicker than starting the migration tool. */
    private static boolean isCurrent(Jdbi jdbi) {
        try {
            return jdbi.withHandle(handle -> handle.createQuery(
                                    "SELECT count(*) FROM flyway_schema_history WHERE version = :version AND success")
                            .bind("version", SCHEMA)
                            .mapTo(Integer.class)
                            .one()
                    > 0);
        } catch (JdbiException none) {
            return false;
        }
    }

    private static DataSource sqlite(Path file) {
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
        } catch (IOException e) {
            throw new PantryException(file, "the index cannot be opened: " + IoProblems.describe(e), e);
        }
        SQLiteConfig config = new SQLiteConfig();
        config.setJournalMode(SQLiteConfig.JournalMode.WAL);
        config.setSynchronous(SQLiteConfig.SynchronousMode.NORMAL);
        config.setBusyTimeout(10_000);
        // Else two that read first and write then refuse each other at once, however long they would wait.
        config.setTransactionMode(SQLiteConfig.TransactionMode.IMMEDIATE);
        SQLiteDataSource source = new SQLiteDataSource(config);
        source.setUrl("jdbc:sqlite:" + file);
        return source;
    }

    private DataSource postgres() {
        if (pool != null) {
            pool.close();
        }
        HikariConfig config = new HikariConfig();
        config.setJdbcUrl(url);
        config.setMaximumPoolSize(4);
        pool = new HikariDataSource(config);
        return pool;
    }

    /** Where the index is kept unless told otherwise: {@code PANTRY_CACHE}, or the user's cache folder. */
    public static Path usualFile() {
        return UserFolders.cache().resolve("index.sqlite");
    }

    private interface Work<T> {
        T with(Handle handle);
    }

    /** Works on the database; where it was deleted or damaged meanwhile, on a new one. */
    private synchronized <T> T transaction(Work<T> work) {
        try {
            return database.inTransaction(handle -> exclusively(handle, work));
        } catch (JdbiException lost) {
            if (isBusy(lost)) {
                throw unusable(lost);
            }
            known.clear();
            snapshot = null;
            database = connect();
            try {
                return database.inTransaction(handle -> exclusively(handle, work));
            } catch (JdbiException again) {
                throw unusable(again);
            }
        }
    }

    /** SQLite has one writer at a time anyhow; of PostgreSQL's, those who bring the index up to date wait for each other. */
    private <T> T exclusively(Handle handle, Work<T> work) {
        if (url != null) {
            handle.createQuery("SELECT 1 FROM pg_advisory_xact_lock(:key)")
                    .bind("key", TURN)
                    .mapTo(Integer.class)
                    .list();
        }
        return work.with(handle);
    }

    /** Brings the index in line with all of a library; only assets that changed are read. */
    public void refresh(Library library, Progress progress) {
        refresh(library, library.assetFolders(), null, progress);
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
            refresh(library, library.assetFolders(shelves), shelves, Progress.NONE);
        }
    }

    private void refresh(Library library, List<Path> folders, @Nullable Set<String> shelves, Progress progress) {
        transaction(handle -> {
            Map<String, String> stored = stamps(handle, library, shelves);
            Map<String, String> present = new HashMap<>();
            Map<String, Path> changed = new HashMap<>();
            for (Path folder : folders) {
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
        Map<String, String> stored = stamps(handle, library, memory.stamps.isEmpty() ? null : shelves);
        List<String> fresh = new ArrayList<>();
        stored.forEach((folder, stamp) -> {
            if (!stamp.equals(memory.stamps.get(folder))) {
                fresh.add(folder);
            }
        });
        boolean partly = shelves != null && !memory.stamps.isEmpty();
        boolean removed = memory.stamps
                .keySet()
                .removeIf(folder -> !stored.containsKey(folder)
                        && (!partly || shelves.contains(memory.items.get(folder).shelf())));
        if (!removed && fresh.isEmpty() && !memory.listed.isEmpty()) {
            return;
        }
        memory.items.keySet().retainAll(memory.stamps.keySet());
        load(handle, library, fresh, stored.size()).forEach((folder, item) -> {
            memory.stamps.put(folder, stored.get(folder));
            memory.items.put(folder, item);
        });
        memory.listed = List.copyOf(memory.items.values());
    }

    private static Map<String, IndexedAsset> load(Handle handle, Library library, List<String> folders, int all) {
        Map<String, IndexedAsset> items = new HashMap<>();
        boolean most = folders.size() > all / 2;
        for (int from = 0; from < folders.size(); from += BATCH) {
            List<String> some = folders.subList(from, Math.min(folders.size(), from + BATCH));
            var query = handle.createQuery(
                            "SELECT * FROM asset WHERE library = :library" + (most ? "" : " AND folder IN (<folders>)"))
                    .bind("library", library.info().id());
            if (!most) {
                query.bindList("folders", some);
            }
            query.map((row, context) -> Map.entry(row.getString("folder"), Records.item(library, row)))
                    .forEach(entry -> items.put(entry.getKey(), entry.getValue()));
            if (most) {
                break;
            }
        }
        return items;
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
        if (pool != null) {
            pool.close();
        }
    }
}
