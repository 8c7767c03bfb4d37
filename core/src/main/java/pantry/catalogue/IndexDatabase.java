package pantry.catalogue;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.JdbiException;
import org.jspecify.annotations.Nullable;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;
import org.sqlite.SQLiteErrorCode;
import pantry.base.IoProblems;
import pantry.base.PantryException;

/**
 * The database of the index: SQLite in a file, or PostgreSQL that a team shares. It holds nothing that cannot be made
 * anew: one that is damaged is replaced. Safe for use by several threads and processes.
 */
public final class IndexDatabase implements AutoCloseable {
    /** Stands for the index among PostgreSQL's advisory locks; any number that others are unlikely to use. */
    private static final long TURN = 0x50414e545259L;

    /** The newest migration. */
    static final String SCHEMA = "8";

    /** Of SQLite's extended result codes, the part that says what happened. */
    private static final int PRIMARY = 0xff;

    private static final Pattern ADDRESS =
            Pattern.compile("(jdbc:postgresql:(//[A-Za-z0-9.:,\\[\\]_-]*/)?[A-Za-z0-9_-]*)(\\?.*)?", Pattern.DOTALL);

    private final @Nullable Path file;
    private final @Nullable String url;
    private int generation;
    private Jdbi database;
    private @Nullable HikariDataSource pool;

    /** What is done in one transaction. */
    public interface Work<T> {
        T with(Handle handle);
    }

    private IndexDatabase(@Nullable Path file, @Nullable String url) {
        this.file = file;
        this.url = url;
        this.database = connect();
    }

    /**
     * Opens an index, made or brought up to date where needed; one that is damaged is made anew.
     *
     * @param file the database's file
     */
    public static IndexDatabase open(Path file) {
        return new IndexDatabase(file, null);
    }

    /**
     * Opens an index in a database that a team shares.
     *
     * @param url of a PostgreSQL 15 or newer, with user and password, such as
     *     {@code jdbc:postgresql://host/pantry?user=pantry&password=…}
     * @throws PantryException where it cannot be reached
     */
    public static IndexDatabase open(String url) {
        if (!ADDRESS.matcher(url).matches()) {
            // What is there instead may be a password as well: it is not shown.
            throw new PantryException(
                    "the team's index needs an address such as jdbc:postgresql://host/pantry?user=pantry&password=…;"
                            + " PANTRY_INDEX holds something else");
        }
        return new IndexDatabase(null, url);
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
        if (!isCurrent(source)) {
            Flyway.configure()
                    .dataSource(source)
                    .locations("classpath:pantry/catalogue/schema")
                    .load()
                    .migrate();
        }
        return Jdbi.create(source);
    }

    /** Whether the schema is the newest already: asking for that is much quicker than starting the migration tool. */
    private static boolean isCurrent(DataSource source) {
        try (Connection connection = source.getConnection();
                PreparedStatement query = connection.prepareStatement(
                        "SELECT 1 FROM flyway_schema_history WHERE version = ? AND success")) {
            query.setString(1, SCHEMA);
            try (ResultSet found = query.executeQuery()) {
                return found.next();
            }
        } catch (SQLException none) {
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

    /** How often the database had to be made anew: what was known of an earlier one is not true of this. */
    public synchronized int generation() {
        return generation;
    }

    /** Works on the database; where it was deleted or damaged meanwhile, on a new one. */
    public synchronized <T> T transaction(Work<T> work) {
        try {
            return database.inTransaction(handle -> exclusively(handle, work));
        } catch (JdbiException failed) {
            if (isBusy(failed)) {
                throw unusable(failed);
            }
            generation++;
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

    @Override
    public synchronized void close() {
        if (pool != null) {
            pool.close();
        }
    }
}
