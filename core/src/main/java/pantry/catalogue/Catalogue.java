package pantry.catalogue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.flywaydb.core.Flyway;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;
import pantry.base.IoProblems;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.Facts;
import pantry.exchange.ShapeDescriptor;
import pantry.library.Asset;
import pantry.library.Library;

/** The index. Safe for use by several threads and processes. */
public final class Catalogue {
    private static final String SEPARATOR = "\u001f";

    private final Jdbi database;

    private Catalogue(Jdbi database) {
        this.database = database;
    }

    /**
     * Opens an index, made or brought up to date where needed; one that is damaged is made anew.
     *
     * @param file the database's file
     */
    public static Catalogue open(Path file) {
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            try {
                return new Catalogue(connect(file));
            } catch (RuntimeException damaged) {
                // It is only an index: whatever is wrong with it, a new one is as good.
                Files.deleteIfExists(file);
                return new Catalogue(connect(file));
            }
        } catch (IOException e) {
            throw new PantryException(file, "the index cannot be opened: " + IoProblems.describe(e), e);
        }
    }

    private static Jdbi connect(Path file) {
        SQLiteConfig config = new SQLiteConfig();
        config.setJournalMode(SQLiteConfig.JournalMode.WAL);
        config.setSynchronous(SQLiteConfig.SynchronousMode.NORMAL);
        config.setBusyTimeout(10_000);
        SQLiteDataSource source = new SQLiteDataSource(config);
        source.setUrl("jdbc:sqlite:" + file);
        Flyway.configure()
                .dataSource(source)
                .locations("classpath:pantry/catalogue/migrations")
                .load()
                .migrate();
        return Jdbi.create(source);
    }

    /** Where the index is kept unless told otherwise: {@code PANTRY_CACHE}, or the user's cache folder. */
    public static Path usualFile() {
        String told = System.getenv("PANTRY_CACHE");
        String cache = System.getenv("XDG_CACHE_HOME");
        Path folder = told != null && !told.isBlank()
                ? Path.of(told)
                : cache != null && !cache.isBlank()
                        ? Path.of(cache, "pantry")
                        : Path.of(System.getProperty("user.home"), ".cache", "pantry");
        return folder.resolve("index.sqlite");
    }

    /** Brings the index in line with a library's folders; only cards that changed are read. */
    public void refresh(Library library, Progress progress) {
        String root = library.root().toString();
        database.useTransaction(handle -> {
            Map<String, String> known = new HashMap<>();
            handle.createQuery("SELECT folder, stamp FROM asset WHERE library = :library")
                    .bind("library", root)
                    .map((row, context) -> Map.entry(row.getString(1), row.getString(2)))
                    .forEach(entry -> known.put(entry.getKey(), entry.getValue()));
            List<Path> folders = library.assetFolders();
            Set<String> present = new HashSet<>();
            for (int i = 0; i < folders.size(); i++) {
                Path folder = folders.get(i);
                progress.step("indexing " + folder.getFileName(), (double) i / folders.size());
                present.add(folder.toString());
                String stamp = stamp(folder);
                if (!stamp.equals(known.get(folder.toString()))) {
                    remove(handle, root, folder.toString());
                    index(handle, library, folder, stamp);
                }
            }
            known.keySet().stream()
                    .filter(folder -> !present.contains(folder))
                    .forEach(folder -> remove(handle, root, folder));
        });
    }

    /** Changes with the card and with every version that is published. */
    private static String stamp(Path folder) {
        try {
            Path card = folder.resolve("card.json");
            return Files.getLastModifiedTime(card).toMillis() + " " + Files.size(card) + " "
                    + Files.getLastModifiedTime(folder).toMillis();
        } catch (IOException e) {
            return "unreadable";
        }
    }

    private static void remove(Handle handle, String library, String folder) {
        handle.createUpdate("DELETE FROM asset_text WHERE rowid IN"
                        + " (SELECT number FROM asset WHERE library = :library AND folder = :folder)")
                .bind("library", library)
                .bind("folder", folder)
                .execute();
        handle.createUpdate("DELETE FROM asset WHERE library = :library AND folder = :folder")
                .bind("library", library)
                .bind("folder", folder)
                .execute();
    }

    private static void index(Handle handle, Library library, Path folder, String stamp) {
        Asset asset;
        Facts facts;
        String version;
        try {
            asset = library.asset(folder);
            version = asset.shown().orElse("");
            if (version.isEmpty()) {
                return;
            }
            facts = asset.facts(version);
        } catch (PantryException e) {
            // Said by the library's own check; what cannot be understood is not found.
            return;
        }
        long number = handle.createUpdate("INSERT INTO asset (library, folder, stamp, id, name, kind, shelf, version,"
                        + " status, tags, licence, triangles, width, height, depth, shape) VALUES (:library, :folder, :stamp,"
                        + " :id, :name, :kind, :shelf, :version, :status, :tags, :licence, :triangles, :width, :height,"
                        + " :depth, :shape)")
                .bind("library", library.root().toString())
                .bind("folder", folder.toString())
                .bind("stamp", stamp)
                .bind("id", asset.card().id())
                .bind("name", asset.card().name())
                .bind("kind", asset.card().kind().word())
                .bind("shelf", asset.shelf())
                .bind("version", version)
                .bind("status", asset.status(version).word())
                .bind("tags", SEPARATOR + String.join(SEPARATOR, asset.card().tags()) + SEPARATOR)
                .bind("licence", asset.card().licence())
                .bind("triangles", facts.triangles())
                .bind("width", facts.bounds().size().x())
                .bind("height", facts.bounds().size().y())
                .bind("depth", facts.bounds().size().z())
                .bind("shape", facts.shape())
                .executeAndReturnGeneratedKeys("number")
                .mapTo(Long.class)
                .one();
        handle.createUpdate("INSERT INTO asset_text (rowid, name, tags, notes, materials, shelf)"
                        + " VALUES (:number, :name, :tags, :notes, :materials, :shelf)")
                .bind("number", number)
                .bind("name", asset.card().name())
                .bind("tags", String.join(" ", asset.card().tags()))
                .bind("notes", asset.card().notes())
                .bind(
                        "materials",
                        facts.materials().stream().map(Facts.MaterialFact::name).collect(Collectors.joining(" ")))
                .bind("shelf", asset.shelf())
                .execute();
    }

    /** Searches; hits in names come first, and without words all is sorted by shelf and name. */
    public Hits find(Query query) {
        StringBuilder where = new StringBuilder(" WHERE asset.library IN (<libraries>)");
        Map<String, Object> values = new HashMap<>();
        query.kind().ifPresent(kind -> {
            where.append(" AND asset.kind = :kind");
            values.put("kind", kind.word());
        });
        if (!query.shelf().isEmpty()) {
            where.append(
                    " AND (asset.shelf = :shelf" + " OR substr(asset.shelf, 1, length(:shelf) + 1) = :shelf || '/')");
            values.put("shelf", query.shelf());
        }
        for (int i = 0; i < query.tags().size(); i++) {
            where.append(" AND instr(lower(asset.tags), :tag").append(i).append(") > 0");
            values.put("tag" + i, SEPARATOR + query.tags().get(i).toLowerCase(Locale.ROOT) + SEPARATOR);
        }
        String match = match(query.words());
        String from = " FROM asset";
        String order = " ORDER BY asset.shelf COLLATE NOCASE, asset.name COLLATE NOCASE";
        if (!match.isEmpty()) {
            from = " FROM asset_text JOIN asset ON asset.number = asset_text.rowid";
            where.append(" AND asset_text MATCH :match");
            values.put("match", match);
            order = " ORDER BY bm25(asset_text, 10, 4, 1, 2, 3), asset.name COLLATE NOCASE";
        }
        List<String> libraries = query.libraries().stream()
                .map(path -> path.toAbsolutePath().normalize().toString())
                .toList();
        if (libraries.isEmpty()) {
            return new Hits(0, List.of());
        }
        String counting = "SELECT count(*)" + from + where;
        String listing = "SELECT asset.*" + from + where + order + " LIMIT :limit";
        return database.withHandle(handle -> {
            int count = handle.createQuery(counting)
                    .bindList("libraries", libraries)
                    .bindMap(values)
                    .mapTo(Integer.class)
                    .one();
            List<Item> items = handle.createQuery(listing)
                    .bindList("libraries", libraries)
                    .bindMap(values)
                    .bind("limit", query.limit())
                    .map((row, context) -> item(row))
                    .list();
            return new Hits(count, items);
        });
    }

    /**
     * The assets whose shape is nearly a given one, whatever their size and turn, the likest first.
     *
     * @param least likeness, 0 to 1
     */
    public List<Alike> alike(List<Path> libraries, ShapeDescriptor shape, double least, int limit) {
        List<String> roots = libraries.stream()
                .map(path -> path.toAbsolutePath().normalize().toString())
                .toList();
        if (roots.isEmpty()) {
            return List.of();
        }
        return database.withHandle(handle -> handle
                .createQuery("SELECT * FROM asset WHERE shape <> '' AND library IN (<libraries>)")
                .bindList("libraries", roots)
                .map((row, context) -> new Alike(
                        item(row),
                        ShapeDescriptor.ofCode(row.getString("shape"))
                                .map(shape::likeness)
                                .orElse(0.0)))
                .stream()
                .filter(alike -> alike.likeness() >= least)
                .sorted(java.util.Comparator.comparingDouble(Alike::likeness).reversed())
                .limit(limit)
                .toList());
    }

    private static Item item(ResultSet row) throws SQLException {
        List<String> tags = new ArrayList<>();
        for (String tag : row.getString("tags").split(SEPARATOR)) {
            if (!tag.isEmpty()) {
                tags.add(tag);
            }
        }
        return new Item(
                row.getString("id"),
                row.getString("name"),
                row.getString("kind"),
                row.getString("shelf"),
                row.getString("version"),
                row.getString("status"),
                row.getLong("triangles"),
                tags,
                row.getString("licence"),
                new double[] {row.getDouble("width"), row.getDouble("height"), row.getDouble("depth")},
                row.getString("library"),
                row.getString("folder"));
    }

    /** Words as the full-text index takes them: each the beginning of a word, all of them required. */
    private static String match(String words) {
        return java.util.Arrays.stream(words.split("[^\\p{L}\\p{N}]+"))
                .filter(word -> !word.isEmpty())
                .map(word -> "\"" + word + "\"*")
                .collect(Collectors.joining(" "));
    }
}
