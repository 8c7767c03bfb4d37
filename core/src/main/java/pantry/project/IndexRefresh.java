package pantry.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.statement.PreparedBatch;
import org.jspecify.annotations.Nullable;
import pantry.base.FileStamp;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.catalogue.IndexDatabase;
import pantry.library.Library;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.file.LayerFiles;

/**
 * Brings the index of uses in line with the files of some projects and libraries: what was changed is read again, and the
 * uses are counted anew in all that stands on it.
 */
final class IndexRefresh {
    private static final int BATCH = 2_000;

    /** Between the places that are kept in one text. */
    static final String SEPARATOR = "\u001f";

    /** Of files of no project, such as those of libraries. */
    private static final String NO_PROJECT = "";

    private static final String MISSING = "";

    private record Row(int id, String project, String stamp, String content, String shape) {}

    /**
     * A project, or a library.
     *
     * @param files those in which uses are counted
     */
    record Source(Path folder, List<Path> files, Layers layers) {}

    /**
     * A file as it was read just now.
     *
     * @param content its bytes and their checksum; empty where it is not there, or of a library
     * @param shape of what it shows by meshes of its own, see {@link LayerShape}; empty where there are none
     */
    private record Read(String stamp, String content, String shape, LayerRecord record, String problem) {}

    private final IndexDatabase database;
    private final List<Source> sources;
    private final Progress progress;
    private final Map<Path, Source> files = new LinkedHashMap<>();
    private final Map<Path, Row> rows = new HashMap<>();
    private final Map<Path, Read> read = new HashMap<>();

    /** Why the uses in a file cannot be counted. */
    private final Map<Path, String> uncounted = new ConcurrentHashMap<>();

    IndexRefresh(IndexDatabase database, List<Source> sources, Progress progress) {
        this.database = database;
        this.sources = sources;
        this.progress = progress;
        sources.forEach(source -> source.files().forEach(file -> files.putIfAbsent(file, source)));
    }

    Refreshed run() {
        progress.step("looking through the files", 0);
        Set<Path> gone = new HashSet<>();
        Set<Path> changed = changed(gone);
        read(changed);
        Set<Path> affected = affected(changed, gone);
        Map<Path, Map<Use, Long>> counts = count(affected);
        if (!read.isEmpty() || !gone.isEmpty() || !counts.isEmpty()) {
            progress.step("writing the index", 0.95);
            database.transaction(handle -> {
                write(handle, gone, counts);
                return true;
            });
        }
        return new Refreshed(files.size(), read.size(), counts.size());
    }

    /** Files that are new or other than the index knows them; those of the sources that went are put aside. */
    private Set<Path> changed(Set<Path> gone) {
        Set<String> own = new HashSet<>();
        sources.forEach(source -> own.add(source.folder().toString()));
        database.transaction(handle -> {
            handle.createQuery("SELECT id, path, project, stamp, content, shape FROM layer")
                    .map((row, context) -> Map.entry(
                            Path.of(row.getString(2)),
                            new Row(
                                    row.getInt(1),
                                    row.getString(3),
                                    row.getString(4),
                                    row.getString(5),
                                    row.getString(6))))
                    .forEach(entry -> rows.put(entry.getKey(), entry.getValue()));
            return true;
        });
        Set<Path> changed = new HashSet<>();
        files.forEach((file, source) -> {
            Row row = rows.get(file);
            if (row == null
                    || !row.project().equals(source.folder().toString())
                    || !row.stamp().equals(stamp(file))) {
                changed.add(file);
            }
        });
        // What others of the team have indexed may stand on another machine: it is none of this one's business.
        Set<Integer> named = named(own);
        rows.forEach((file, row) -> {
            if (!files.containsKey(file)) {
                if (own.contains(row.project())) {
                    gone.add(file);
                } else if ((named.contains(row.id()) || isWithinSource(file))
                        && !row.stamp().equals(stamp(file))) {
                    // Of no project, or of one that is not looked at now: that will find it changed all the same.
                    changed.add(file);
                }
            }
        });
        return changed;
    }

    private boolean isWithinSource(Path file) {
        return sources.stream().anyMatch(source -> file.startsWith(source.folder()));
    }

    /** The files that those of the sources name. */
    private Set<Integer> named(Set<String> own) {
        return database.transaction(
                handle -> new HashSet<>(handle.createQuery("SELECT DISTINCT a.target FROM layer_arc a"
                                + " JOIN layer l ON l.id = a.layer WHERE l.project IN (<own>)")
                        .bindList("own", List.copyOf(own))
                        .mapTo(Integer.class)
                        .list()));
    }

    /** Reads what was changed, and what that leads to and was never read. */
    private void read(Set<Path> changed) {
        AtomicInteger done = new AtomicInteger();
        List<Path> next = List.copyOf(changed);
        while (!next.isEmpty()) {
            List<Path> some = next;
            List<Read> found = Parallel.map(some, file -> {
                progress.step("reading " + file, 0.4 * done.incrementAndGet() / (files.size() + some.size()));
                return readFile(file);
            });
            Set<Path> further = new HashSet<>();
            for (int i = 0; i < some.size(); i++) {
                read.put(some.get(i), found.get(i));
                for (LayerRecord.Arc arc : found.get(i).record().arcs()) {
                    if (!rows.containsKey(arc.target())) {
                        further.add(arc.target());
                    }
                }
            }
            further.removeAll(read.keySet());
            next = List.copyOf(further);
        }
    }

    private Read readFile(Path file) {
        String stamp = stamp(file);
        String content = stamp.equals(MISSING) || !mayBeRead(file) ? "" : content(file);
        if (stamp.equals(MISSING) || !LayerFiles.isLayer(file.getFileName().toString())) {
            return new Read(stamp, content, "", new LayerRecord(List.of()), "");
        }
        try {
            Layer layer = open(file);
            boolean shaped = !content.isEmpty() && LayerShape.isSmall(file);
            String shape = shaped ? LayerShape.of(layer).map(LayerShape::code).orElse("") : "";
            return new Read(stamp, content, shape, LayerRecord.of(layer, layersOf(file)), "");
        } catch (PantryException e) {
            return new Read(stamp, content, "", new LayerRecord(List.of()), e.line());
        }
    }

    /** What a file names elsewhere on the machine is not opened, whatever it is. */
    private boolean mayBeRead(Path file) {
        return sources.stream()
                .filter(source -> file.startsWith(source.folder()))
                .anyMatch(source -> source.layers()
                        .gate()
                        .admit(file, file.toString(), file)
                        .isPresent());
    }

    /** What others use is kept for those; a scene that is read once is not. */
    private Layer open(Path file) {
        return files.containsKey(file) ? LayerFiles.read(file) : layersOf(file).open(AssetLocation.of(file));
    }

    private Layers layersOf(Path file) {
        return files.getOrDefault(file, sources.getFirst()).layers();
    }

    /** Files of the projects that stand on what was changed or went, through however many others. */
    private Set<Path> affected(Set<Path> changed, Set<Path> gone) {
        Map<Path, List<Path>> users = new HashMap<>();
        read.forEach((file, now) -> now.record().arcs().forEach(arc -> users.computeIfAbsent(
                        arc.target(), target -> new ArrayList<>())
                .add(file)));
        Deque<Path> next = new ArrayDeque<>(changed);
        next.addAll(gone);
        Set<Path> reached = new HashSet<>(next);
        database.transaction(handle -> {
            Map<Integer, Path> paths = new HashMap<>();
            rows.forEach((path, row) -> paths.put(row.id(), path));
            while (!next.isEmpty()) {
                List<Integer> ids = new ArrayList<>();
                List<Path> found = new ArrayList<>();
                while (!next.isEmpty() && ids.size() < BATCH / 4) {
                    Path path = next.remove();
                    found.addAll(users.getOrDefault(path, List.of()));
                    Optional.ofNullable(rows.get(path)).ifPresent(row -> ids.add(row.id()));
                }
                if (!ids.isEmpty()) {
                    handle.createQuery("SELECT DISTINCT layer FROM layer_arc WHERE target IN (<ids>)")
                            .bindList("ids", ids)
                            .mapTo(Integer.class)
                            .forEach(id -> Optional.ofNullable(paths.get(id)).ifPresent(found::add));
                }
                for (Path user : found) {
                    if (reached.add(user)) {
                        next.add(user);
                    }
                }
            }
            return true;
        });
        reached.retainAll(files.keySet());
        return reached;
    }

    private Map<Path, Map<Use, Long>> count(Set<Path> affected) {
        Map<Source, UseCounter> counters = new IdentityHashMap<>();
        sources.forEach(source -> counters.put(source, new UseCounter(source.layers())));
        AtomicInteger done = new AtomicInteger();
        List<Path> some = List.copyOf(affected);
        List<Map<Use, Long>> counts = Parallel.map(some, file -> {
            progress.step("counting in " + file, 0.4 + 0.5 * done.incrementAndGet() / some.size());
            try {
                return Objects.requireNonNull(counters.get(files.get(file))).count(open(file));
            } catch (PantryException e) {
                // Such as one that brings in more than can be composed.
                uncounted.put(file, e.line());
                return Map.of();
            }
        });
        Map<Path, Map<Use, Long>> byFile = new HashMap<>();
        for (int i = 0; i < some.size(); i++) {
            byFile.put(some.get(i), counts.get(i));
        }
        return byFile;
    }

    private void write(Handle handle, Set<Path> gone, Map<Path, Map<Use, Long>> counts) {
        Map<Path, Integer> ids = new HashMap<>();
        handle.createQuery("SELECT id, path FROM layer")
                .map((row, context) -> Map.entry(Path.of(row.getString(2)), row.getInt(1)))
                .forEach(entry -> ids.put(entry.getKey(), entry.getValue()));
        // What went may still be named by others: it stays, as missing, and of no project.
        Map<Path, Read> written = new HashMap<>(read);
        gone.forEach(file -> written.put(file, new Read(stamp(file), "", "", new LayerRecord(List.of()), "")));
        delete(handle, "layer_arc", "layer", known(ids, written.keySet()));
        // Most of what is counted again is as it was, and reading is quicker than writing.
        Map<Integer, Map<Use, Long>> before = uses(handle, known(ids, counts.keySet()));
        Map<Path, Map<Use, Long>> changed = new HashMap<>();
        counts.forEach((file, uses) -> {
            if (!uses.equals(before.getOrDefault(ids.getOrDefault(file, 0), Map.of()))) {
                changed.put(file, uses);
            }
        });
        Set<Path> counted = new HashSet<>(written.keySet());
        counted.removeAll(counts.keySet());
        counted.addAll(changed.keySet());
        delete(handle, "layer_use", "layer", known(ids, counted));
        delete(handle, "layer", "id", known(ids, written.keySet()));
        int last = ids.values().stream().mapToInt(Integer::intValue).max().orElse(0);
        Batch layerRows = new Batch(
                handle,
                "INSERT INTO layer (id, path, project, stamp, content, shape, problem) VALUES (?, ?, ?, ?, ?, ?, ?)");
        for (Map.Entry<Path, Read> each : written.entrySet()) {
            Path file = each.getKey();
            Integer id = ids.get(file);
            if (id == null) {
                id = ++last;
                ids.put(file, id);
            }
            Source source = files.get(file);
            layerRows.add(
                    id,
                    file.toString(),
                    source == null ? NO_PROJECT : source.folder().toString(),
                    each.getValue().stamp(),
                    lastKnown(file, each.getValue(), Row::content, Read::content),
                    lastKnown(file, each.getValue(), Row::shape, Read::shape),
                    each.getValue().problem().isEmpty()
                            ? uncounted.getOrDefault(file, "")
                            : each.getValue().problem());
        }
        layerRows.end();
        Batch problems = new Batch(handle, "UPDATE layer SET problem = ? WHERE id = ?");
        counts.keySet().stream()
                .filter(file -> !written.containsKey(file))
                .forEach(file -> problems.add(uncounted.getOrDefault(file, ""), ids.get(file)));
        problems.end();
        Batch arcRows = new Batch(handle, "INSERT INTO layer_arc (layer, kind, target, places) VALUES (?, ?, ?, ?)");
        written.forEach((file, now) -> now.record()
                .arcs()
                .forEach(arc -> arcRows.add(
                        ids.get(file),
                        arc.kind().name(),
                        ids.get(arc.target()),
                        String.join(SEPARATOR, arc.places()))));
        arcRows.end();
        Batch useRows = new Batch(
                handle, "INSERT INTO layer_use (layer, target, version, following, uses) VALUES (?, ?, ?, ?, ?)");
        changed.forEach((file, uses) -> uses.forEach((use, count) ->
                useRows.add(ids.get(file), use.target().toString(), use.version(), use.following() ? 1 : 0, count)));
        useRows.end();
    }

    /** Of a file that went, what was known of it before. */
    private String lastKnown(Path file, Read now, Function<Row, String> before, Function<Read, String> is) {
        Row row = rows.get(file);
        return now.content().isEmpty() && row != null ? before.apply(row) : is.apply(now);
    }

    private static Map<Integer, Map<Use, Long>> uses(Handle handle, List<Integer> ids) {
        Map<Integer, Map<Use, Long>> uses = new HashMap<>();
        for (int from = 0; from < ids.size(); from += BATCH / 4) {
            handle.createQuery("SELECT layer, target, version, following, uses FROM layer_use WHERE layer IN (<ids>)")
                    .bindList("ids", ids.subList(from, Math.min(ids.size(), from + BATCH / 4)))
                    .map((row, context) -> {
                        uses.computeIfAbsent(row.getInt(1), layer -> new HashMap<>())
                                .put(
                                        new Use(Path.of(row.getString(2)), row.getString(3), row.getInt(4) != 0),
                                        row.getLong(5));
                        return row.getInt(1);
                    })
                    .list();
        }
        return uses;
    }

    private static List<Integer> known(Map<Path, Integer> ids, Collection<Path> files) {
        return files.stream().map(ids::get).filter(Objects::nonNull).toList();
    }

    private static void delete(Handle handle, String table, String column, List<Integer> ids) {
        for (int from = 0; from < ids.size(); from += BATCH / 4) {
            handle.createUpdate("DELETE FROM " + table + " WHERE " + column + " IN (<ids>)")
                    .bindList("ids", ids.subList(from, Math.min(ids.size(), from + BATCH / 4)))
                    .execute();
        }
    }

    /** Rows that are written some thousand at a time. */
    private static final class Batch {
        private final PreparedBatch batch;

        Batch(Handle handle, String sql) {
            batch = handle.prepareBatch(sql);
        }

        void add(@Nullable Object... values) {
            batch.add(values);
            if (batch.size() >= BATCH) {
                batch.execute();
            }
        }

        void end() {
            if (batch.size() > 0) {
                batch.execute();
            }
        }
    }

    /**
     * A file's bytes and their checksum, by which it is known again; empty for those of libraries, which are known by their
     * assets.
     */
    static String content(Path file) {
        if (Library.isWithin(file)) {
            return "";
        }
        try {
            return Files.size(file) + " " + Sha256.of(file);
        } catch (IOException e) {
            return "";
        }
    }

    private static String stamp(Path file) {
        try {
            if (!Files.isRegularFile(file)) {
                return MISSING;
            }
            FileStamp stamp = FileStamp.of(file);
            return stamp.written().toMillis() + " " + stamp.size();
        } catch (IOException e) {
            return MISSING;
        }
    }
}
