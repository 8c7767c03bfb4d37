package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.base.FileGate;
import pantry.base.Progress;
import pantry.catalogue.IndexDatabase;
import pantry.library.Library;
import pantry.library.Uses;
import pantry.usd.Layers;
import pantry.usd.compose.LayerCache;

/**
 * Keeps what the files of projects name and what is used in them as composed, in the database of the catalogue. Only what
 * was changed is read again; what stands on that is counted again. Everything in it can be made anew from the files.
 *
 * <p>Safe for use by several threads and processes.
 */
public final class UseIndex {

    private final IndexDatabase database;

    /**
     * What is used in a file.
     *
     * @param file of a project
     * @param count how often, as composed
     */
    public record FileUse(Path file, Use use, long count) {}

    /**
     * A file that another one names.
     *
     * @param places the prims or properties that name it
     * @param missing whether nothing is there
     */
    public record Named(
            Path file, boolean sublayer, boolean image, Path target, List<String> places, boolean missing) {}

    /**
     * How much something is used.
     *
     * @param files how many files use it
     */
    public record Total(int files, long placements) {
        public static final Total NONE = new Total(0, 0);
    }

    /**
     * A file that uses several versions of one asset.
     *
     * @param asset its folder
     */
    public record Mixed(Path file, Path asset) {}

    /** What was wrong with a file. */
    public record Unreadable(Path file, String problem) {}

    public UseIndex(IndexDatabase database) {
        this.database = database;
    }

    /**
     * Brings the index in line with some projects, and with the assets of some libraries that are made of others.
     *
     * @return what was done in the projects and libraries together
     */
    public Refreshed refresh(List<Project> projects, List<Library> libraries, Progress progress) {
        List<IndexRefresh.Source> sources = new ArrayList<>();
        LayerCache cache = new LayerCache();
        for (Project project : projects) {
            FileGate gate = FileGate.to(List.of(project.folder())).orWhere(Library::isWithin);
            Layers layers = project.info().searchPaths().isEmpty()
                    ? cache.through(gate)
                    : new LayerCache(project.assetPaths(), gate);
            sources.add(new IndexRefresh.Source(project.folder(), project.files(), layers));
        }
        for (Library library : libraries) {
            FileGate gate = FileGate.to(List.of(library.root()));
            sources.add(new IndexRefresh.Source(library.root(), composites(library), cache.through(gate)));
        }
        return sources.isEmpty() ? new Refreshed(0, 0, 0) : new IndexRefresh(database, sources, progress).run();
    }

    /** The entry layers of all versions of assets that are made of others; only the cards of these are read. */
    private static List<Path> composites(Library library) {
        return library.assets(Uses::any).stream()
                .flatMap(asset -> asset.versions().stream().map(asset::entryLayer))
                .toList();
    }

    /** What files that are missing held when they were last there, in the form of {@link IndexRefresh#content}. */
    Map<Path, String> lostContents(Collection<Path> folders) {
        return ofLost(folders, "content");
    }

    /** The shapes of what files that are missing showed when they were last there. */
    Map<Path, LayerShape> lostShapes(Collection<Path> folders) {
        Map<Path, LayerShape> shapes = new HashMap<>();
        ofLost(folders, "shape")
                .forEach((file, code) -> LayerShape.ofCode(code).ifPresent(shape -> shapes.put(file, shape)));
        return shapes;
    }

    private Map<Path, String> ofLost(Collection<Path> folders, String column) {
        if (folders.isEmpty()) {
            return Map.of();
        }
        return database.transaction(handle -> {
            Map<Path, String> known = new HashMap<>();
            handle.createQuery(
                            "SELECT DISTINCT t.path, t." + column + " FROM layer_arc a JOIN layer l ON l.id = a.layer"
                                    + " JOIN layer t ON t.id = a.target"
                                    + " WHERE l.project IN (<projects>) AND t.stamp = '' AND t." + column + " <> ''")
                    .bindList("projects", texts(folders))
                    .map((row, context) -> Map.entry(Path.of(row.getString(1)), row.getString(2)))
                    .forEach(entry -> known.put(entry.getKey(), entry.getValue()));
            return known;
        });
    }

    private static List<String> texts(Collection<Path> paths) {
        return paths.stream().map(Path::toString).toList();
    }

    /**
     * What is used in the files of projects.
     *
     * @param folders the projects', or libraries' for what their assets are made of
     */
    public List<FileUse> uses(Collection<Path> folders) {
        return query(folders, "", List.of());
    }

    /** Where in the files of projects any of some things is used: assets by their folders, or files. */
    public List<FileUse> usesOf(Collection<Path> folders, Collection<Path> targets) {
        return targets.isEmpty() ? List.of() : query(folders, " AND u.target IN (<targets>)", texts(targets));
    }

    private List<FileUse> query(Collection<Path> folders, String condition, List<String> targets) {
        if (folders.isEmpty()) {
            return List.of();
        }
        return database.transaction(handle -> {
            var query = handle.createQuery("SELECT l.path, u.target, u.version, u.following, u.uses FROM layer_use u"
                            + " JOIN layer l ON l.id = u.layer WHERE l.project IN (<projects>)"
                            + condition + " ORDER BY l.path, u.target, u.version, u.following")
                    .bindList("projects", texts(folders));
            if (!targets.isEmpty()) {
                query.bindList("targets", targets);
            }
            return query.map((row, context) -> new FileUse(
                            Path.of(row.getString(1)),
                            new Use(Path.of(row.getString(2)), row.getString(3), row.getInt(4) != 0),
                            row.getLong(5)))
                    .list();
        });
    }

    /** All that is used in any file of projects, each once. */
    public Set<Use> used(Collection<Path> folders) {
        if (folders.isEmpty()) {
            return Set.of();
        }
        return database.transaction(
                handle -> new HashSet<>(handle.createQuery("SELECT DISTINCT u.target, u.version, u.following"
                                + " FROM layer_use u JOIN layer l ON l.id = u.layer WHERE l.project IN (<projects>)")
                        .bindList("projects", texts(folders))
                        .map((row, context) -> new Use(Path.of(row.getString(1)), row.getString(2), row.getInt(3) != 0))
                        .list()));
    }

    /** How often each thing is used, and in how many files, whatever its version. */
    public Map<Path, Total> totals(Collection<Path> folders) {
        if (folders.isEmpty()) {
            return Map.of();
        }
        Map<Path, Total> totals = new HashMap<>();
        database.transaction(handle -> handle.createQuery("SELECT u.target, count(DISTINCT u.layer), sum(u.uses)"
                        + " FROM layer_use u JOIN layer l ON l.id = u.layer WHERE l.project IN (<projects>)"
                        + " GROUP BY u.target")
                .bindList("projects", texts(folders))
                .map((row, context) -> totals.put(Path.of(row.getString(1)), new Total(row.getInt(2), (long)
                        Math.min(Long.MAX_VALUE, row.getDouble(3)))))
                .list());
        return totals;
    }

    /** The assets of which a file uses several versions, by file: each as often as there are such assets. */
    public List<Mixed> mixed(Collection<Path> folders) {
        if (folders.isEmpty()) {
            return List.of();
        }
        return database.transaction(handle -> handle.createQuery("SELECT l.path, u.target FROM layer_use u"
                        + " JOIN layer l ON l.id = u.layer WHERE l.project IN (<projects>) AND u.version <> ''"
                        + " GROUP BY l.path, u.target HAVING count(DISTINCT u.version) > 1 ORDER BY l.path, u.target")
                .bindList("projects", texts(folders))
                .map((row, context) -> new Mixed(Path.of(row.getString(1)), Path.of(row.getString(2))))
                .list());
    }

    /** Every file that the files of projects name, in the order of the files. */
    public List<Named> named(Collection<Path> folders) {
        return named(folders, "");
    }

    /** The files that are named and not there. */
    public List<Named> missing(Collection<Path> folders) {
        return named(folders, " AND t.stamp = ''");
    }

    private List<Named> named(Collection<Path> folders, String condition) {
        if (folders.isEmpty()) {
            return List.of();
        }
        return database.transaction(
                handle -> handle.createQuery("SELECT l.path, a.kind, t.path, a.places, t.stamp FROM layer_arc a"
                                + " JOIN layer l ON l.id = a.layer JOIN layer t ON t.id = a.target"
                                + " WHERE l.project IN (<projects>)" + condition + " ORDER BY l.path, t.path, a.kind")
                        .bindList("projects", texts(folders))
                        .map((row, context) -> new Named(
                                Path.of(row.getString(1)),
                                row.getString(2).equals(LayerRecord.Kind.SUBLAYER.name()),
                                row.getString(2).equals(LayerRecord.Kind.ASSET.name()),
                                Path.of(row.getString(3)),
                                row.getString(4).isEmpty()
                                        ? List.of()
                                        : List.of(row.getString(4).split(IndexRefresh.SEPARATOR)),
                                row.getString(5).isEmpty()))
                        .list());
    }

    /** The files of projects. */
    public List<Path> files(Collection<Path> folders) {
        if (folders.isEmpty()) {
            return List.of();
        }
        return database.transaction(
                handle -> handle.createQuery("SELECT path FROM layer WHERE project IN (<projects>) ORDER BY path")
                        .bindList("projects", texts(folders))
                        .map((row, context) -> Path.of(row.getString(1)))
                        .list());
    }

    /** Files of projects that cannot be read, and why. */
    public List<Unreadable> unreadable(Collection<Path> folders) {
        if (folders.isEmpty()) {
            return List.of();
        }
        return database.transaction(handle -> handle.createQuery("SELECT path, problem FROM layer"
                        + " WHERE project IN (<projects>) AND problem <> '' ORDER BY path")
                .bindList("projects", texts(folders))
                .map((row, context) -> new Unreadable(Path.of(row.getString(1)), row.getString(2)))
                .list());
    }
}
